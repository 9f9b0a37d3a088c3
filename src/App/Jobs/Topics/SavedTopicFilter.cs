namespace SteadyLintel.Jobs;

/// <summary>A filter of the topic list under a name.</summary>
/// <param name="Name">The name.</param>
/// <param name="Query">The filter as the list's address has it: <c>type=Question&amp;due=week</c>.</param>
public sealed record SavedTopicFilter(string Name, string Query);
