namespace SteadyLintel.Topics;

/// <summary>Merges one topic that two files have.</summary>
internal sealed class TopicPairMerge(Topic ours, Topic theirs, Topic? common, MergeDecisions decisions)
{
    private readonly int _newer = Newer(
        ours.ModifiedDate ?? ours.CreationDate,
        theirs.ModifiedDate ?? theirs.CreationDate
    );
    private readonly Dictionary<string, string> _renamed = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>Both as one.</summary>
    public Topic Run()
    {
        var files = new PartMerge(ours.Parts, ours.Viewpoints.Select(v => v.File).OfType<string>());
        var parts = files.Add(theirs.Parts, _renamed);
        return ours with
        {
            ServerAssignedId = ours.ServerAssignedId ?? theirs.ServerAssignedId,
            Type = Pick("type", t => t.Type),
            Status = Pick("status", t => t.Status),
            Title = Pick("title", t => t.Title),
            Priority = Pick("priority", t => t.Priority),
            Index = Pick("index", t => t.Index),
            DueDate = Pick("due date", t => t.DueDate),
            AssignedTo = Pick("assignee", t => t.AssignedTo),
            Stage = Pick("stage", t => t.Stage),
            Description = Pick("description", t => t.Description),
            CreationDate = ours.CreationDate ?? theirs.CreationDate,
            CreationAuthor = ours.CreationAuthor ?? theirs.CreationAuthor,
            ModifiedDate = (_newer > 0 ? theirs : ours).ModifiedDate,
            ModifiedAuthor = (_newer > 0 ? theirs : ours).ModifiedAuthor,
            Labels = MergeLists.Merge(common?.Labels, ours.Labels, theirs.Labels),
            ReferenceLinks = MergeLists.Merge(common?.ReferenceLinks, ours.ReferenceLinks, theirs.ReferenceLinks),
            RelatedTopics = MergeLists.Merge(common?.RelatedTopics, ours.RelatedTopics, theirs.RelatedTopics),
            Snippet = Snippet(),
            Documents =
            [
                .. ours.Documents.Concat(theirs.Documents).DistinctBy(d => d.Guid ?? d.Document ?? d.Url ?? d.Path),
            ],
            Files =
            [
                .. ours
                    .Files.Concat(theirs.Files)
                    .DistinctBy(f => (f.IfcProject, f.SpatialElement, f.Filename, f.Date)),
            ],
            Comments = Comments(),
            Viewpoints = Viewpoints(files),
            Parts = parts,
            Extras = MergeLists.Extras(ours.Extras, theirs.Extras),
            MarkupExtras = MergeLists.Extras(ours.MarkupExtras, theirs.MarkupExtras),
            HeaderExtras = MergeLists.Extras(ours.HeaderExtras, theirs.HeaderExtras),
        };
    }

    private string? Pick(string what, Func<Topic, string?> of) =>
        decisions.Pick(
            ours,
            what,
            common is null ? null : new MergeDecisions.Known(of(common)),
            of(ours),
            of(theirs),
            _newer
        );

    private BimSnippet? Snippet()
    {
        if (theirs.Snippet is not { } their || ours.Snippet is not { } our)
            return ours.Snippet ?? Renamed(theirs.Snippet);
        string a = $"{our.Type} {our.Reference} {our.Schema}",
            b = $"{their.Type} {their.Reference} {their.Schema}";
        return decisions.Pick(ours, "snippet", null, a, b, _newer) == a ? our : Renamed(their);
    }

    private BimSnippet? Renamed(BimSnippet? snippet) =>
        snippet?.Reference is { } name && _renamed.TryGetValue(name, out string? now)
            ? snippet with
            {
                Reference = now,
            }
            : snippet;

    private List<TopicComment> Comments()
    {
        var their = theirs
            .Comments.DistinctBy(c => c.Guid, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(c => c.Guid, StringComparer.OrdinalIgnoreCase);
        var before = (common?.Comments ?? [])
            .DistinctBy(c => c.Guid, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(c => c.Guid, StringComparer.OrdinalIgnoreCase);
        var merged = ours
            .Comments.Select(c => their.Remove(c.Guid, out var t) ? Comment(c, t, before.GetValueOrDefault(c.Guid)) : c)
            .ToList();
        merged.AddRange(theirs.Comments.Where(c => their.ContainsKey(c.Guid)));
        // A file may have two comments of one GUID: the words of both are kept.
        foreach (var c in theirs.Comments)
            if (
                !merged.Any(m => m.Guid.Equals(c.Guid, StringComparison.OrdinalIgnoreCase) && m.Text == c.Text)
                && IsSecond(c)
            )
                merged.Add(c);
        return merged;

        bool IsSecond(TopicComment c) =>
            !ReferenceEquals(c, theirs.Comments.First(o => o.Guid.Equals(c.Guid, StringComparison.OrdinalIgnoreCase)));
    }

    private TopicComment Comment(TopicComment our, TopicComment their, TopicComment? before)
    {
        int newer = Newer(our.ModifiedDate ?? our.Date, their.ModifiedDate ?? their.Date);
        var later = newer > 0 ? their : our;
        return our with
        {
            Text = decisions.Pick(
                ours,
                $"comment {our.Guid}",
                before is null ? null : new MergeDecisions.Known(before.Text),
                our.Text,
                their.Text,
                newer
            ),
            Viewpoint = our.Viewpoint ?? their.Viewpoint,
            ModifiedDate = later.ModifiedDate ?? our.ModifiedDate,
            ModifiedAuthor = later.ModifiedAuthor ?? our.ModifiedAuthor,
            Extras = MergeLists.Extras(our.Extras, their.Extras),
        };
    }

    private List<Viewpoint> Viewpoints(PartMerge files)
    {
        var their = theirs
            .Viewpoints.DistinctBy(v => v.Guid, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(v => v.Guid, StringComparer.OrdinalIgnoreCase);
        var merged = ours.Viewpoints.Select(v => their.Remove(v.Guid, out var t) ? Viewpoint(v, t) : v).ToList();
        merged.AddRange(
            theirs
                .Viewpoints.Where(v => their.ContainsKey(v.Guid))
                .Select(v => Renamed(v) with { File = File(v, files) })
        );
        return merged;
    }

    private static string? File(Viewpoint v, PartMerge files) =>
        v.Info is null ? v.File : files.Free(v.File is { Length: > 0 } name ? name : $"{v.Guid}.bcfv");

    private Viewpoint Viewpoint(Viewpoint our, Viewpoint their)
    {
        var renamed = Renamed(their);
        (our, renamed) = (Filled(our, renamed), Filled(renamed, our));
        string? a = TopicText.Of(our),
            b = TopicText.Of(renamed);
        // The picture goes with the view: another picture of the same view is another view.
        bool differs = a != b || (their.Snapshot is { } s && _renamed.ContainsKey(s));
        if (!differs)
            return our with { Snapshot = our.Snapshot ?? their.Snapshot };
        if (a is null || (b is not null && decisions.Decide(ours, $"viewpoint {our.Guid}", a, b)))
            return renamed with { File = our.File ?? their.File, Snapshot = renamed.Snapshot ?? our.Snapshot };
        return our with { Snapshot = our.Snapshot ?? renamed.Snapshot };
    }

    // 2.1 has no place for the aspect ratio: a file that went through it has not changed the view.
    private static Viewpoint Filled(Viewpoint v, Viewpoint other) =>
        v.Info is { } info && other.Info is { } more
            ? v with
            {
                Info = info with
                {
                    Perspective = Filled(info.Perspective, more.Perspective),
                    Orthogonal = Filled(info.Orthogonal, more.Orthogonal),
                },
            }
            : v;

    private static ViewCamera? Filled(ViewCamera? camera, ViewCamera? other) =>
        camera is null ? null : camera with { AspectRatio = camera.AspectRatio ?? other?.AspectRatio };

    private Viewpoint Renamed(Viewpoint v) =>
        v with
        {
            Snapshot = v.Snapshot is { } s && _renamed.TryGetValue(s, out string? now) ? now : v.Snapshot,
            Info = v.Info is { Bitmaps.Count: > 0 } info
                ? info with
                {
                    Bitmaps =
                    [
                        .. info.Bitmaps.Select(b =>
                            b.Reference is { } r && _renamed.TryGetValue(r, out string? to)
                                ? b with
                                {
                                    Reference = to,
                                }
                                : b
                        ),
                    ],
                }
                : v.Info,
        };

    private static int Newer(string? ours, string? theirs) => TopicDates.Of(theirs).CompareTo(TopicDates.Of(ours));
}
