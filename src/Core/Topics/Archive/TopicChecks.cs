using SteadyLintel.Exchange;

namespace SteadyLintel.Topics;

/// <summary>What is wrong with the topics of a file that can be read.</summary>
internal static class TopicChecks
{
    /// <summary>Adds what is found.</summary>
    public static void Add(TopicArchive archive, FindingList findings)
    {
        var documents = archive.Documents.Select(d => d.Guid).ToHashSet(StringComparer.OrdinalIgnoreCase);
        foreach (var topic in archive.Topics)
        {
            Missing(topic, findings);
            Views(topic, findings);
            if (archive.Extensions is { } words)
                Words(topic, words, findings);
            foreach (var d in topic.Documents)
                if (d.Document is { } guid && !documents.Contains(guid))
                    findings.Add(
                        "BCF-DOCUMENT-MISSING",
                        Severity.Warning,
                        n => $"{n} references name documents that are not in the archive.",
                        Place(topic, guid)
                    );
        }
    }

    private static void Missing(Topic topic, FindingList findings)
    {
        foreach (
            var (what, value) in new[]
            {
                ("Title", topic.Title),
                ("CreationDate", topic.CreationDate),
                ("CreationAuthor", topic.CreationAuthor),
            }
        )
            if (string.IsNullOrEmpty(value))
                findings.Add(
                    "BCF-VALUE-MISSING",
                    Severity.Warning,
                    n => $"{n} values that BCF asks for are missing.",
                    Place(topic, what)
                );
        foreach (string? date in Dates(topic))
            if (date is { Length: > 0 } && !TopicDates.TryRead(date, out _))
                findings.Add(
                    "BCF-DATE-WRONG",
                    Severity.Warning,
                    n => $"{n} dates cannot be read; they are carried unchanged and count as unknown.",
                    Place(topic, date)
                );
    }

    private static IEnumerable<string?> Dates(Topic topic) =>
        [topic.CreationDate, topic.ModifiedDate, topic.DueDate, .. topic.Comments.Select(c => c.Date)];

    private static void Views(Topic topic, FindingList findings)
    {
        var parts = topic
            .Parts.DistinctBy(p => p.Name, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(p => p.Name, StringComparer.OrdinalIgnoreCase);
        foreach (var v in topic.Viewpoints)
        {
            if (v.Info is null && v.File is { Length: > 0 } file && !parts.ContainsKey(file))
                findings.Add(
                    "BCF-VIEWPOINT-MISSING",
                    Severity.Warning,
                    n => $"{n} viewpoints name files that are not in the archive.",
                    Place(topic, file)
                );
            if (v.Snapshot is { Length: > 0 } snapshot)
                Snapshot(topic, snapshot, parts, findings);
        }

        var guids = topic.Viewpoints.Select(v => v.Guid).ToHashSet(StringComparer.OrdinalIgnoreCase);
        foreach (var c in topic.Comments)
            if (c.Viewpoint is { } guid && !guids.Contains(guid))
                findings.Add(
                    "BCF-COMMENT-VIEWPOINT",
                    Severity.Warning,
                    n => $"{n} comments name viewpoints that their topics do not have.",
                    Place(topic, guid)
                );
    }

    private static void Snapshot(Topic topic, string name, Dictionary<string, TopicPart> parts, FindingList findings)
    {
        if (!parts.TryGetValue(name.Replace('\\', '/'), out var part))
            findings.Add(
                "BCF-PICTURE-MISSING",
                Severity.Warning,
                n => $"{n} pictures are not in the archive.",
                Place(topic, name)
            );
        else if (!part.IsPicture)
            findings.Add(
                "BCF-PICTURE-WRONG",
                Severity.Warning,
                n => $"{n} pictures are neither PNG nor JPEG; they are carried and not shown.",
                Place(topic, name)
            );
    }

    private static void Words(Topic topic, TopicExtensions words, FindingList findings)
    {
        void Check(string what, string? word, IReadOnlyList<string> allowed)
        {
            if (word is { Length: > 0 } && allowed.Count > 0 && !allowed.Contains(word))
                findings.Add(
                    "BCF-WORD-UNKNOWN",
                    Severity.Note,
                    n => $"{n} words are not in the lists of the project.",
                    Place(topic, $"{what} '{word}'")
                );
        }

        Check("type", topic.Type, words.Types);
        Check("status", topic.Status, words.Statuses);
        Check("priority", topic.Priority, words.Priorities);
        Check("stage", topic.Stage, words.Stages);
        Check("person", topic.AssignedTo, words.Users);
        foreach (string label in topic.Labels)
            Check("label", label, words.Labels);
    }

    private static FindingElement Place(Topic topic, string detail) => new("", 0, "", topic.Title ?? "", detail);
}
