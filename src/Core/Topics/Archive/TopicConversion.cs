using SteadyLintel.Exchange;

namespace SteadyLintel.Topics;

/// <summary>Brings topics into another version of BCF, and says what has no place there.</summary>
public static class TopicConversion
{
    /// <summary>Converts an archive.</summary>
    /// <param name="archive">As it was read.</param>
    /// <param name="version">2.1 or 3.0.</param>
    /// <returns>The archive to write, whose findings are the ledger of the conversion: what is left out, and what is
    /// missing.</returns>
    public static TopicArchive To(TopicArchive archive, TopicVersion version)
    {
        if (archive.Version == version)
            return archive with { Findings = [] };
        var findings = new FindingList();
        Unknown(archive, findings);
        var converted = version == TopicVersion.V30 ? Up(archive, findings) : Down(archive, findings);
        return converted with { Version = version, Findings = findings.ToList() };
    }

    private static TopicArchive Up(TopicArchive archive, FindingList findings)
    {
        var documents = new DocumentMove(archive, findings);
        var topics = archive.Topics.Select(t => Asked(documents.Up(t), findings)).ToList();
        return archive with
        {
            Topics = topics,
            Documents = documents.Documents,
            Parts = documents.Parts,
            Extensions = archive.Extensions ?? new TopicExtensions(),
        };
    }

    // 3.0 asks for more than 2.1.
    private static Topic Asked(Topic topic, FindingList findings)
    {
        foreach (var (what, value) in new[] { ("TopicType", topic.Type), ("TopicStatus", topic.Status) })
            if (value is null)
                Add(findings, "BCF-TO-MISSING", topic, what, n =>
                    $"{n} values that 3.0 asks for are not known; they are written empty."
                );
        return topic with
        {
            Type = topic.Type ?? "",
            Status = topic.Status ?? "",
            Viewpoints = [.. topic.Viewpoints.Select(v => OneCamera(topic, v, findings))],
        };
    }

    private static Viewpoint OneCamera(Topic topic, Viewpoint v, FindingList findings)
    {
        if (v.Info is { Perspective: null, Orthogonal: null })
            Add(findings, "BCF-TO-CAMERA", topic, v.Guid, n => $"{n} viewpoints have no camera, which 3.0 asks for.");
        if (v.Info is not { Perspective: not null, Orthogonal: not null } both)
            return v;
        Add(findings, "BCF-TO-LEFT-OUT", topic, $"second camera of {v.Guid}", LeftOut);
        return v with { Info = both with { Orthogonal = null } };
    }

    private static TopicArchive Down(TopicArchive archive, FindingList findings)
    {
        if (archive.Version == TopicVersion.V20)
            return archive;
        var documents = new DocumentMove(archive, findings);
        var topics = archive.Topics.Select(t => documents.Down(Without(t, findings))).ToList();
        documents.Unused();
        return archive with { Topics = topics, Documents = [], Parts = documents.Parts };
    }

    private static Topic Without(Topic topic, FindingList findings)
    {
        if (topic.ServerAssignedId is { } id)
            Add(findings, "BCF-TO-LEFT-OUT", topic, $"ServerAssignedId {id}", LeftOut);
        foreach (var v in topic.Viewpoints)
        {
            if ((v.Info?.Perspective ?? v.Info?.Orthogonal)?.AspectRatio is not null)
                Add(findings, "BCF-TO-LEFT-OUT", topic, $"AspectRatio of {v.Guid}", LeftOut);
            if (v.Info?.Perspective is { Extent: < 45 or > 60 } p)
                Add(
                    findings,
                    "BCF-TO-FIELD-OF-VIEW",
                    topic,
                    FormattableString.Invariant($"{p.Extent}° in {v.Guid}"),
                    n => $"{n} fields of view are outside the 45° to 60° that 2.1 allows; they are written as they are."
                );
        }

        return topic with
        {
            ServerAssignedId = null,
        };
    }

    private static void Unknown(TopicArchive archive, FindingList findings)
    {
        foreach (var topic in archive.Topics)
        {
            int count =
                topic.Extras.Count
                + topic.MarkupExtras.Count
                + topic.HeaderExtras.Count
                + topic.Comments.Sum(c => c.Extras.Count)
                + topic.Viewpoints.Sum(v => v.Extras.Count + (v.Info?.Extras.Count ?? 0));
            if (count > 0)
                findings.Add(
                    "BCF-TO-UNKNOWN",
                    Severity.Note,
                    n => $"{n} elements and attributes are not of the standard; they are written as they are.",
                    new FindingElement("", 0, "", topic.Title ?? "", topic.Guid),
                    count
                );
        }
    }

    private static string LeftOut(int n) => $"{n} values have no place in that version and are left out.";

    private static void Add(FindingList findings, string code, Topic topic, string detail, Func<int, string> message) =>
        findings.Add(code, Severity.Warning, message, new FindingElement("", 0, "", topic.Title ?? "", detail));
}
