namespace SteadyLintel.Topics;

/// <summary>Two files as one.</summary>
/// <param name="Archive">All of both.</param>
/// <param name="Added">Topics that only the second has.</param>
/// <param name="Changed">Topics of both that are not what the first had.</param>
/// <param name="Same">Topics of both that are what the first had.</param>
/// <param name="OnlyOurs">Topics that only the first has.</param>
/// <param name="Conflicts">What was decided by choice.</param>
public sealed record TopicMergeResult(
    TopicArchive Archive,
    IReadOnlyList<Topic> Added,
    IReadOnlyList<Topic> Changed,
    IReadOnlyList<Topic> Same,
    IReadOnlyList<Topic> OnlyOurs,
    IReadOnlyList<TopicConflict> Conflicts
);
