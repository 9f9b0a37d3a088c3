using SteadyLintel.Exchange;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>What importing a topic file would do.</summary>
/// <param name="Import">The file.</param>
/// <param name="Version">Its version.</param>
/// <param name="Result">The job's topics and the file's as one.</param>
/// <param name="Findings">What was found on reading it.</param>
public sealed record TopicImportPreview(
    TopicImport Import,
    TopicVersion Version,
    TopicMergeResult Result,
    IReadOnlyList<Finding> Findings
)
{
    /// <summary>Names a conflict.</summary>
    public static string KeyOf(TopicConflict conflict) => $"{conflict.Guid} {conflict.What}".ToLowerInvariant();
}
