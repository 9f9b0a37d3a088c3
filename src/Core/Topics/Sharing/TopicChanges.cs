namespace SteadyLintel.Topics;

/// <summary>What a server has to be sent so that it has what this side has.</summary>
public sealed record TopicChanges
{
    /// <summary>The topic with its fields as the server is to have them; null where they are the same.</summary>
    public Topic? Fields { get; init; }

    /// <summary>Views that it lacks.</summary>
    public IReadOnlyList<Viewpoint> Views { get; init; } = [];

    /// <summary>Comments that it lacks, in their order.</summary>
    public IReadOnlyList<TopicComment> Comments { get; init; } = [];

    /// <summary>Comments whose text is another.</summary>
    public IReadOnlyList<TopicComment> Edited { get; init; } = [];

    /// <summary>GUIDs of comments that were withdrawn here.</summary>
    public IReadOnlyList<string> Withdrawn { get; init; } = [];

    /// <summary>References to documents that it lacks.</summary>
    public IReadOnlyList<DocumentReference> Documents { get; init; } = [];

    /// <summary>Related topics as the server is to have them; null where they are the same.</summary>
    public IReadOnlyList<string>? Related { get; init; }

    /// <summary>Models as the server is to have them; null where they are the same.</summary>
    public IReadOnlyList<HeaderFile>? Files { get; init; }

    /// <summary>The piece of data that it lacks; null for none.</summary>
    public BimSnippet? Snippet { get; init; }

    /// <summary>Whether there is nothing to send.</summary>
    public bool None =>
        Fields is null
        && Snippet is null
        && Related is null
        && Files is null
        && Views.Count + Comments.Count + Edited.Count + Withdrawn.Count + Documents.Count == 0;

    /// <summary>Compares.</summary>
    /// <param name="ours">As this side has it.</param>
    /// <param name="theirs">What the server says, in this side's terms (<see cref="SharedTopic.InOurTerms"/>).</param>
    /// <param name="asTheySay">The same as the server says it: what this side did not change is sent back as it came.</param>
    public static TopicChanges Of(Topic ours, Topic theirs, Topic asTheySay)
    {
        var there = SharedTopic.ByGuid(theirs.Comments);
        var here = SharedTopic.ByGuid(ours.Comments);
        var views = theirs.Viewpoints.Select(v => v.Guid).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var documents = theirs.Documents.Select(d => d.Guid).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var snippet = theirs.Snippet is null ? ours.Snippet : null;
        var fields = FieldsOf(ours, theirs, asTheySay);
        return new TopicChanges
        {
            // What a snippet is, is a field of its topic.
            Fields = snippet is null ? fields : (fields ?? asTheySay) with { Snippet = snippet },
            Snippet = snippet,
            Views = [.. ours.Viewpoints.Where(v => !views.Contains(v.Guid))],
            Comments = [.. ours.Comments.Where(c => !there.ContainsKey(c.Guid))],
            Edited = [.. ours.Comments.Where(c => there.TryGetValue(c.Guid, out var t) && t.Text != c.Text)],
            Withdrawn = [.. theirs.Comments.Where(c => !here.ContainsKey(c.Guid)).Select(c => c.Guid)],
            Documents = [.. ours.Documents.Where(d => !documents.Contains(d.Guid))],
            Related = ours.RelatedTopics.ToHashSet(StringComparer.OrdinalIgnoreCase).SetEquals(theirs.RelatedTopics)
                ? null
                : [.. Union(asTheySay.RelatedTopics, theirs.RelatedTopics, ours.RelatedTopics)],
            Files = ours.Files.Count == theirs.Files.Count ? null : ours.Files,
        };
    }

    private static Topic? FieldsOf(Topic ours, Topic theirs, Topic asTheySay)
    {
        bool differ = false;
        string? Field(Func<Topic, string?> of)
        {
            if ((of(ours) ?? "") == (of(theirs) ?? ""))
                return of(asTheySay);
            differ = true;
            return of(ours);
        }

        IReadOnlyList<string> Words(Func<Topic, IReadOnlyList<string>> of)
        {
            if (of(ours).ToHashSet().SetEquals(of(theirs)))
                return of(asTheySay);
            differ = true;
            return [.. Union(of(asTheySay), of(theirs), of(ours))];
        }

        var fields = SharedTopic.Fields(asTheySay, Field) with
        {
            Labels = Words(t => t.Labels),
            ReferenceLinks = Words(t => t.ReferenceLinks),
        };
        return differ ? fields : null;
    }

    // The server's own list with what this side added, without what it removed.
    private static IEnumerable<string> Union(
        IReadOnlyList<string> asTheySay,
        IReadOnlyList<string> theirs,
        IReadOnlyList<string> ours
    ) => asTheySay.Except(theirs.Except(ours)).Union(ours);
}
