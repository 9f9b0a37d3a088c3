using SteadyLintel.Exchange;

namespace SteadyLintel.Topics;

/// <summary>Merges topics by GUID: nothing that either file has is lost.</summary>
/// <remarks>With a common ancestor, what only one side changed is taken from that side. Without one, of two values the one of the
/// topic that
/// was modified later is taken. Where neither decides, it is a conflict.</remarks>
public static class TopicMerge
{
    /// <summary>Merges.</summary>
    /// <param name="ours">The first file.</param>
    /// <param name="theirs">The second file.</param>
    /// <param name="common">What both were made from; null where it is not known.</param>
    /// <param name="takeTheirs">Decides conflicts; null keeps the first file's word.</param>
    /// <returns>In the newer of the two versions.</returns>
    public static TopicMergeResult Merge(
        TopicArchive ours,
        TopicArchive theirs,
        TopicArchive? common = null,
        Func<TopicConflict, bool>? takeTheirs = null
    )
    {
        var version = (TopicVersion)Math.Max((int)TopicVersion.V21, Math.Max((int)ours.Version, (int)theirs.Version));
        var a = TopicConversion.To(ours, version);
        var b = TopicConversion.To(theirs, version);
        var before = ByGuid(common is null ? [] : TopicConversion.To(common, version).Topics);
        var other = ByGuid(b.Topics);
        var decisions = new MergeDecisions(takeTheirs ?? (_ => false));
        var topics = new List<Topic>();
        List<Topic> added = [],
            changed = [],
            same = [],
            onlyOurs = [];
        foreach (var topic in a.Topics)
        {
            if (!other.Remove(topic.Guid, out var their))
            {
                onlyOurs.Add(topic);
                topics.Add(topic);
                continue;
            }

            var merged = new TopicPairMerge(topic, their, before.GetValueOrDefault(topic.Guid), decisions).Run();
            (TopicText.Of(merged) == TopicText.Of(topic) ? same : changed).Add(merged);
            topics.Add(merged);
        }

        added.AddRange(b.Topics.Where(t => other.ContainsKey(t.Guid)));
        topics.AddRange(added);
        var archive = Project(a, b, decisions) with
        {
            Version = version,
            Topics = topics,
            Parts = new PartMerge(a.Parts, []).Add(b.Parts, []),
            Findings = [.. a.Findings, .. b.Findings],
        };
        return new TopicMergeResult(archive, added, changed, same, onlyOurs, decisions.Conflicts);
    }

    /// <summary>Merges one topic of two sides that both have all of it: what one removed is gone, unless the other changed it.</summary>
    /// <param name="ours">Ours.</param>
    /// <param name="theirs">Theirs, with the same GUID.</param>
    /// <param name="common">What both had before; null where it is not known: then nothing is gone.</param>
    /// <param name="takeTheirs">Decides conflicts.</param>
    /// <returns>Both as one, and the conflicts that were decided.</returns>
    public static (Topic Merged, IReadOnlyList<TopicConflict> Conflicts) Whole(
        Topic ours,
        Topic theirs,
        Topic? common,
        Func<TopicConflict, bool> takeTheirs
    )
    {
        var decisions = new MergeDecisions(takeTheirs);
        var merged = new TopicPairMerge(ours, theirs, common, decisions).Run();
        return (
            common is null ? merged : merged with { Comments = [.. merged.Comments.Where(c => !IsGone(c.Guid))] },
            decisions.Conflicts
        );

        bool IsGone(string guid)
        {
            var (a, b) = (Find(ours, guid), Find(theirs, guid));
            return Find(common, guid) is { } before && (a is null || b is null) && (a ?? b)!.Text == before.Text;
        }

        static TopicComment? Find(Topic topic, string guid) =>
            topic.Comments.FirstOrDefault(c => c.Guid.Equals(guid, StringComparison.OrdinalIgnoreCase));
    }

    /// <summary>Whether two topics say the same; what their parts contain is not looked at.</summary>
    public static bool AreSame(Topic a, Topic b) => TopicText.Of(a) == TopicText.Of(b);

    private static TopicArchive Project(TopicArchive a, TopicArchive b, MergeDecisions decisions) =>
        a with
        {
            ProjectId = a.ProjectId ?? b.ProjectId,
            ProjectName =
                a.ProjectName is null || b.ProjectName is null
                    ? a.ProjectName ?? b.ProjectName
                    : decisions.Pick(null, "project name", null, a.ProjectName, b.ProjectName, 0),
            ProjectExtras = MergeLists.Extras(a.ProjectExtras, b.ProjectExtras),
            Extensions = Words(a.Extensions, b.Extensions),
            Documents = [.. a.Documents.Concat(b.Documents).DistinctBy(d => d.Guid, StringComparer.OrdinalIgnoreCase)],
        };

    private static TopicExtensions? Words(TopicExtensions? a, TopicExtensions? b)
    {
        if (a is null || b is null)
            return a ?? b;
        var merged = a with { Extras = MergeLists.Extras(a.Extras, b.Extras) };
        foreach (var list in TopicExtensions.Lists)
            merged = list.With(merged, MergeLists.Union(list.Of(a), list.Of(b)));
        return merged;
    }

    private static Dictionary<string, Topic> ByGuid(IEnumerable<Topic> topics) =>
        topics
            .DistinctBy(t => t.Guid, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(t => t.Guid, StringComparer.OrdinalIgnoreCase);
}
