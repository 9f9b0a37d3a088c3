namespace SteadyLintel.Topics;

/// <summary>A document of the archive.</summary>
/// <param name="Guid">Its GUID, the name of its part.</param>
/// <param name="Filename">The name it had.</param>
/// <param name="Description">What it is.</param>
public sealed record TopicDocument(string Guid, string? Filename, string? Description);
