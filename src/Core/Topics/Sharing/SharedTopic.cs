namespace SteadyLintel.Topics;

/// <summary>A topic that this side shares with a server which says some of it in its own way: with its authors and dates, without what
/// it has no place for.</summary>
public static class SharedTopic
{
    /// <summary>What the server says now in this side's terms: what it has not changed since the last exchange is as both knew
    /// it.</summary>
    /// <param name="now">As the server says it now.</param>
    /// <param name="before">As it said it at the last exchange.</param>
    /// <param name="common">As this side knew it then.</param>
    /// <returns>The parts are those of <paramref name="common"/> and of <paramref name="now"/>.</returns>
    public static Topic InOurTerms(Topic now, Topic before, Topic common)
    {
        string? Field(Func<Topic, string?> of) => of(now) == of(before) ? of(common) : of(now);
        return Fields(common, Field) with
        {
            ModifiedDate = Field(t => t.ModifiedDate),
            ModifiedAuthor = Field(t => t.ModifiedAuthor),
            // One that the server never took is none that it removed.
            Snippet = now.Snippet is null || before.Snippet is not null ? common.Snippet : now.Snippet,
            Labels = Words(now.Labels, before.Labels, common.Labels),
            ReferenceLinks = Words(now.ReferenceLinks, before.ReferenceLinks, common.ReferenceLinks),
            RelatedTopics = Words(now.RelatedTopics, before.RelatedTopics, common.RelatedTopics),
            Documents = Added(now.Documents, before.Documents, common.Documents, d => d.Guid ?? ""),
            Files = Added(now.Files, before.Files, common.Files, f => $"{f.IfcProject} {f.Filename} {f.Reference}"),
            Viewpoints = Added(now.Viewpoints, before.Viewpoints, common.Viewpoints, v => v.Guid),
            Comments = Comments(now.Comments, before.Comments, common.Comments),
            Parts = Added(now.Parts, [], common.Parts, p => p.Name),
        };
    }

    /// <summary>What is noted of a topic once changes were sent.</summary>
    /// <param name="common">What both know from now on, in this side's terms: without what the server did not take.</param>
    /// <param name="sent">As the server says it after it was sent something.</param>
    /// <param name="before">As it said it before.</param>
    /// <param name="changes">What was sent.</param>
    /// <returns>As the server says it, except for what somebody else changed there in between: that is still to come.</returns>
    public static Topic Noted(Topic common, Topic sent, Topic before, TopicChanges changes)
    {
        var touched = changes
            .Comments.Concat(changes.Edited)
            .Select(c => c.Guid)
            .ToHashSet(StringComparer.OrdinalIgnoreCase);
        var old = ByGuid(before.Comments);
        var fields = changes.Fields is null ? before : sent;
        return fields with
        {
            Guid = common.Guid,
            RelatedTopics = changes.Related is null ? before.RelatedTopics : sent.RelatedTopics,
            Files = changes.Files is null ? before.Files : sent.Files,
            Documents = sent.Documents,
            Viewpoints = sent.Viewpoints,
            Comments =
            [
                .. sent
                    .Comments.Where(c => touched.Contains(c.Guid) || old.ContainsKey(c.Guid))
                    .Select(c => touched.Contains(c.Guid) ? c : old[c.Guid]),
            ],
            Parts = [],
        };
    }

    /// <summary>What both know once changes were sent: ours, and of what the server did not take its own.</summary>
    /// <param name="ours">As this side has it.</param>
    /// <param name="theirs">What the server said before, in this side's terms.</param>
    /// <param name="refused">What it did not take: <c>fields</c>, <c>snippet</c>, <c>related</c>, <c>files</c>, or a
    /// GUID.</param>
    public static Topic Common(Topic ours, Topic theirs, IReadOnlyCollection<string> refused)
    {
        if (refused.Count == 0)
            return ours with { Parts = [] };
        var not = refused.ToHashSet(StringComparer.OrdinalIgnoreCase);
        var there = ByGuid(theirs.Comments);
        var fields = not.Contains("fields") ? theirs : ours;
        return fields with
        {
            Snippet = (not.Contains("snippet") ? theirs : ours).Snippet,
            RelatedTopics = (not.Contains("related") ? theirs : ours).RelatedTopics,
            Files = (not.Contains("files") ? theirs : ours).Files,
            Documents = [.. ours.Documents.Where(d => !not.Contains(d.Guid ?? ""))],
            Viewpoints = [.. ours.Viewpoints.Where(v => !not.Contains(v.Guid))],
            Comments =
            [
                .. ours
                    .Comments.Where(c => !not.Contains(c.Guid) || there.ContainsKey(c.Guid))
                    .Select(c => not.Contains(c.Guid) ? there[c.Guid] : c),
            ],
            Parts = [],
        };
    }

    /// <summary>A topic with each of its fields as somebody chooses: those that people change.</summary>
    internal static Topic Fields(Topic topic, Func<Func<Topic, string?>, string?> choose) =>
        topic with
        {
            Type = choose(t => t.Type),
            Status = choose(t => t.Status),
            Title = choose(t => t.Title),
            Priority = choose(t => t.Priority),
            Index = choose(t => t.Index),
            Stage = choose(t => t.Stage),
            DueDate = choose(t => t.DueDate),
            AssignedTo = choose(t => t.AssignedTo),
            Description = choose(t => t.Description),
        };

    // What the server added is added, what it removed is gone.
    private static IReadOnlyList<string> Words(
        IReadOnlyList<string> now,
        IReadOnlyList<string> before,
        IReadOnlyList<string> common
    ) => [.. common.Where(w => now.Contains(w) || !before.Contains(w)), .. now.Except(before).Except(common)];

    // Nobody removes these: what the server no longer has, or never took, stays.
    private static IReadOnlyList<T> Added<T>(
        IReadOnlyList<T> now,
        IReadOnlyList<T> before,
        IReadOnlyList<T> common,
        Func<T, string> name
    )
    {
        var known = common.Concat(before).Select(name).ToHashSet(StringComparer.OrdinalIgnoreCase);
        return [.. common, .. now.Where(x => !known.Contains(name(x)))];
    }

    private static List<TopicComment> Comments(
        IReadOnlyList<TopicComment> now,
        IReadOnlyList<TopicComment> before,
        IReadOnlyList<TopicComment> common
    )
    {
        var there = ByGuid(now);
        var was = ByGuid(before);
        var all = new List<TopicComment>();
        foreach (var comment in common)
        {
            bool hadIt = was.TryGetValue(comment.Guid, out var old);
            if (there.Remove(comment.Guid, out var current))
                all.Add(
                    old is not null && old.Text == current.Text
                        ? comment
                        : comment with
                        {
                            Text = current.Text,
                            ModifiedDate = current.ModifiedDate ?? current.Date,
                            ModifiedAuthor = current.ModifiedAuthor ?? current.Author,
                        }
                );
            // One that the server never took is none that it removed.
            else if (!hadIt)
                all.Add(comment);
        }

        all.AddRange(now.Where(c => there.ContainsKey(c.Guid)));
        return all;
    }

    internal static Dictionary<string, TopicComment> ByGuid(IReadOnlyList<TopicComment> comments) =>
        comments
            .DistinctBy(c => c.Guid, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(c => c.Guid, StringComparer.OrdinalIgnoreCase);
}
