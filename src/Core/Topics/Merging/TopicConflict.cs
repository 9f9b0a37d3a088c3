namespace SteadyLintel.Topics;

/// <summary>Something that two files say differently, and neither is known to be the newer.</summary>
/// <param name="Guid">Of the topic; empty for the project.</param>
/// <param name="Title">Of the topic.</param>
/// <param name="What">What it is: <c>status</c>, <c>comment GUID</c>, <c>viewpoint GUID</c>.</param>
/// <param name="Ours">As the first file has it.</param>
/// <param name="Theirs">As the second file has it.</param>
public sealed record TopicConflict(string Guid, string Title, string What, string? Ours, string? Theirs)
{
    /// <summary>What it is, without the GUID of a comment or a view.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string Kind => What.Split(' ') is [var kind and ("comment" or "viewpoint"), _] ? kind : What;
}
