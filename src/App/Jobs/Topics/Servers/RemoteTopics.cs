using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>The topics of a project at another server, read and written one by one.</summary>
/// <param name="client">The server.</param>
/// <param name="project">The project there.</param>
/// <param name="account">Who the job is there.</param>
/// <param name="board">Who the people of the job are.</param>
internal sealed partial class RemoteTopics(BcfClient client, string project, string account, TopicBoard board)
{
    private const int LargestPicture = 16 << 20,
        LargestTopic = 8 << 20,
        MostTopics = 200_000,
        MostViews = 1000;

    // Pictures and documents of one topic, which are in memory until they are stored.
    private const long LargestParts = 100L << 20;

    private string Root => $"projects/{project}/topics";

    /// <summary>The topics of the project that changed.</summary>
    /// <param name="since">Since when, the server's own time; null for all.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>What it says, without comments and views, of those with new comments the GUID alone; and whether the server was asked for
    /// changes alone.</returns>
    public async Task<(IReadOnlyList<BcfTopic> Topics, bool OnlyChanged)> ListAsync(
        DateTime? since,
        CancellationToken cancel
    )
    {
        if (since is { } at)
        {
            string day = at.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", null);
            try
            {
                var changed = await PagesAsync($"&$filter={Uri.EscapeDataString($"modified_date ge {day}")}", cancel);
                // A comment need not change the date of its topic.
                var events = await ManyAsync<BcfEvent>(
                    $"{Root}/comments/events?$filter={Uri.EscapeDataString($"date ge {day}")}",
                    cancel
                );
                if (events is not null)
                    return (
                        [
                            .. changed
                                .Concat(events.Select(e => new BcfTopic { Guid = e.TopicGuid }))
                                .Where(t => Guid.TryParse(t.Guid, out _))
                                .DistinctBy(t => t.Guid, StringComparer.OrdinalIgnoreCase),
                        ],
                        true
                    );
            }
            catch (TopicServerException e) when (e.Fault == TopicServerFault.Refused)
            {
                // A server that knows no filter: everything is listed.
            }
        }

        return (await PagesAsync("", cancel), false);
    }

    // An empty entry of a list is none.
    private async Task<IReadOnlyList<T>?> ManyAsync<T>(string path, CancellationToken cancel)
        where T : class =>
        await client.GetAsync<IReadOnlyList<T?>>(path, cancel) is { } many ? [.. many.OfType<T>()] : null;

    // A server that does not know pages sends the same again: then that was all.
    private async Task<IReadOnlyList<BcfTopic>> PagesAsync(string filter, CancellationToken cancel)
    {
        const int page = 500;
        var all = new Dictionary<string, BcfTopic>(StringComparer.OrdinalIgnoreCase);
        while (true)
        {
            var some = await ManyAsync<BcfTopic>($"{Root}?$top={page}&$skip={all.Count}{filter}", cancel)
                ?? throw new TopicServerException(
                    TopicServerFault.Away,
                    "The project is not there any more, or this account may no longer see it."
                );
            int before = all.Count;
            foreach (var topic in some.Where(t => Guid.TryParse(t.Guid, out _)))
                all.TryAdd(topic.Guid!, topic);
            if (some.Count < page || all.Count == before)
                return [.. all.Values];
            if (all.Count > MostTopics)
                throw new TopicServerException(
                    TopicServerFault.Away,
                    $"The project has more than {MostTopics} topics, more than can be shared."
                );
        }
    }

    /// <summary>A topic whole, with our GUIDs.</summary>
    /// <param name="theirGuid">Its GUID there.</param>
    /// <param name="ours">Our topic; null where we have none.</param>
    /// <param name="common">What both knew of it last; null for nothing.</param>
    /// <param name="names">Our GUIDs for theirs; those that are recognised are added.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Null where it is not there. Views that we have are named and not read again.</returns>
    public async Task<Topic?> ReadAsync(
        string theirGuid,
        Topic? ours,
        Topic? common,
        SharedNames names,
        CancellationToken cancel
    )
    {
        var topic = await WholeAsync(theirGuid, ours, common, names, cancel);
        return topic is null || TopicJson.Write(topic).Length <= LargestTopic
            ? topic
            : throw Refused($"it has more than {LargestTopic >> 20} MB of text");
    }

    private static TopicServerException Refused(string why) => new(TopicServerFault.Refused, why);

    private async Task<Topic?> WholeAsync(
        string theirGuid,
        Topic? ours,
        Topic? common,
        SharedNames names,
        CancellationToken cancel
    )
    {
        string root = $"{Root}/{theirGuid}";
        if (await client.GetAsync<BcfTopic>(root, cancel) is not { } sent)
            return null;
        var comments = await ManyAsync<BcfComment>($"{root}/comments", cancel) ?? [];
        var views = await ManyAsync<BcfViewpoint>($"{root}/viewpoints", cancel) ?? [];
        var related = await ManyAsync<RelatedTopic>($"{root}/related_topics", cancel) ?? [];
        var documents = await ManyAsync<DocumentLink>($"{root}/document_references", cancel) ?? [];
        var files = await ManyAsync<FileLink>($"{root}/files", cancel) ?? [];
        var parts = new List<TopicPart>();
        var known = (ours?.Viewpoints ?? []).ToDictionary(v => v.Guid, StringComparer.OrdinalIgnoreCase);
        var points = new List<Viewpoint>();
        if (views.Count > MostViews)
            throw Refused($"it has more than {MostViews} views");
        foreach (string guid in comments.Select(c => c.Guid).Concat(views.Select(v => v.Guid)).OfType<string>())
            names.Recognise(guid);
        foreach (var view in views.Where(v => Guid.TryParse(v.Guid, out _)))
        {
            Recognise(view, known.Values, views, names);
            string guid = names.Ours(view.Guid!);
            if (known.ContainsKey(guid))
                points.Add(new Viewpoint { Guid = guid });
            else if (await ViewAsync(root, view, cancel) is var (point, its))
            {
                points.Add(point);
                parts.AddRange(its);
                Measure(parts);
            }
        }

        string own = ours?.Guid ?? Guid.Parse(theirGuid).ToString();
        // One that was withdrawn here is known too.
        IReadOnlyList<TopicComment> written = [.. ours?.Comments ?? [], .. common?.Comments ?? []];
        return sent.Into(new Topic { Guid = own }) with
        {
            CreationDate = sent.CreationDate,
            CreationAuthor = sent.CreationAuthor,
            ModifiedDate = sent.ModifiedDate,
            ModifiedAuthor = sent.ModifiedAuthor,
            Comments =
            [
                .. comments.Where(c => Guid.TryParse(c.Guid, out _)).Select(c => Comment(c, written, comments, names)),
            ],
            Viewpoints = points,
            RelatedTopics = [.. related.Select(r => r.RelatedTopicGuid ?? "").Where(g => g.Length > 0)],
            Documents = await DocumentsAsync(documents, ours, parts, cancel),
            Files =
            [
                .. files.Select(f => new HeaderFile
                {
                    IfcProject = f.IfcProject,
                    SpatialElement = f.IfcSpatialStructureElement,
                    Filename = f.FileName,
                    Date = f.Date,
                    Reference = f.Reference,
                }),
            ],
            Snippet = await SnippetAsync(root, sent, ours, parts, cancel),
            Parts = parts,
        };
    }

    // The server knows one account: whose words they are is said with them.
    private string Said(TopicComment comment) =>
        NameOf(comment) is { } name && comment.Text?.StartsWith(name + ": ", StringComparison.Ordinal) != true
            ? $"{name}: {comment.Text}"
            : comment.Text ?? "";

    private string? NameOf(TopicComment comment) =>
        comment.Author is not { Length: > 0 } author || author.Equals(account, StringComparison.OrdinalIgnoreCase)
            ? null
            : board.PersonOf(author).Name;

    private TopicComment Comment(
        BcfComment sent,
        IReadOnlyList<TopicComment> ours,
        IReadOnlyList<BcfComment> all,
        SharedNames names
    )
    {
        string text = sent.Comment ?? "";
        if (!names.Knows(sent.Guid!) && !ours.Any(c => Same(c.Guid, sent.Guid!)))
        {
            // Sent, and broken off before its name was known.
            var lost = ours.FirstOrDefault(c =>
                IsOwn(sent.Author) && Said(c) == text && all.All(a => !Same(a.Guid!, names.Theirs(c.Guid)))
            );
            if (lost is not null)
                names.Add(lost.Guid, sent.Guid!);
        }

        string guid = names.Ours(sent.Guid!);
        if (
            ours.FirstOrDefault(c => Same(c.Guid, guid)) is { } known
            && NameOf(known) is { } name
            && text.StartsWith(name + ": ", StringComparison.Ordinal)
            && known.Text?.StartsWith(name + ": ", StringComparison.Ordinal) != true
        )
            text = text[(name.Length + 2)..];
        return new TopicComment
        {
            Guid = guid.ToLowerInvariant(),
            Date = sent.Date,
            Author = sent.Author,
            Text = text,
            Viewpoint = sent.ViewpointGuid is { Length: > 0 } v ? names.Ours(v) : null,
            ModifiedDate = sent.ModifiedDate,
            ModifiedAuthor = sent.ModifiedAuthor,
        };
    }

    // A view of ours that was sent, and broken off before its name was known: it looks from the same place.
    private static void Recognise(
        BcfViewpoint sent,
        IEnumerable<Viewpoint> ours,
        IReadOnlyList<BcfViewpoint> all,
        SharedNames names
    )
    {
        if (names.Knows(sent.Guid!) || ours.Any(v => Same(v.Guid, sent.Guid!)))
            return;
        var lost = ours.FirstOrDefault(v =>
            all.All(a => !Same(a.Guid!, names.Theirs(v.Guid)))
            && BcfViewpoint.Of(v) is var own
            && own.PerspectiveCamera == sent.PerspectiveCamera
            && own.OrthogonalCamera == sent.OrthogonalCamera
            && (own.PerspectiveCamera ?? own.OrthogonalCamera) is not null
        );
        if (lost is not null)
            names.Add(lost.Guid, sent.Guid!);
    }

    private static bool Same(string a, string b) => a.Equals(b, StringComparison.OrdinalIgnoreCase);

    private bool IsOwn(string? author) => account.Equals(author, StringComparison.OrdinalIgnoreCase);

    private async Task<(Viewpoint, IReadOnlyList<TopicPart>)?> ViewAsync(
        string topic,
        BcfViewpoint view,
        CancellationToken cancel
    )
    {
        string root = $"{topic}/viewpoints/{view.Guid}";
        var selection = await client.GetAsync<BcfComponents>($"{root}/selection", cancel);
        var colours = await client.GetAsync<BcfComponents>($"{root}/coloring", cancel);
        var visible = await client.GetAsync<BcfComponents>($"{root}/visibility", cancel);
        byte[]? picture = view.Snapshot is null ? null : await client.BytesAsync($"{root}/snapshot", cancel);
        if (picture?.Length > LargestPicture)
            picture = null;
        try
        {
            return (
                view with
                {
                    Components = new BcfComponents(selection?.Selection, colours?.Coloring, visible?.Visibility),
                    Snapshot = picture is null
                        ? null
                        : new BcfSnapshot(view.Snapshot!.SnapshotType, Convert.ToBase64String(picture)),
                    // A bitmap within the model is a picture of its own.
                    Bitmaps = await BitmapsAsync(root, view, cancel),
                }
            ).Read();
        }
        catch (RefusedException)
        {
            // A view without a camera, or with a picture that is none: there is nothing to see.
            return null;
        }
    }

    private async Task<IReadOnlyList<BcfBitmap>?> BitmapsAsync(string root, BcfViewpoint view, CancellationToken cancel)
    {
        var bitmaps = new List<BcfBitmap>();
        foreach (var b in (view.Bitmaps ?? []).OfType<BcfBitmap>())
            bitmaps.Add(
                b.Guid is { } guid && await client.BytesAsync($"{root}/bitmaps/{guid}", cancel) is { } bytes
                    ? b with
                    {
                        BitmapData = Convert.ToBase64String(bytes),
                    }
                    : b
            );
        return bitmaps;
    }

    // A document of theirs becomes a file of the topic.
    private async Task<IReadOnlyList<DocumentReference>> DocumentsAsync(
        IReadOnlyList<DocumentLink> sent,
        Topic? ours,
        List<TopicPart> parts,
        CancellationToken cancel
    )
    {
        var known = (ours?.Documents ?? []).Select(d => d.Guid).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var all = new List<DocumentReference>();
        IReadOnlyList<UploadedDocument>? list = null;
        foreach (var link in sent)
        {
            string guid = link.Guid ?? link.DocumentGuid ?? link.Url ?? "";
            var reference = new DocumentReference
            {
                Guid = guid,
                Url = link.DocumentGuid is null ? link.Url : null,
                Description = link.Description,
            };
            if (link.DocumentGuid is { } document && !known.Contains(guid))
            {
                list ??= await ManyAsync<UploadedDocument>($"projects/{project}/documents", cancel) ?? [];
                string name = FileNameOf(list.FirstOrDefault(d => Same(d.Guid ?? "", document))?.Filename ?? document);
                byte[]? content = await client.BytesAsync($"projects/{project}/documents/{document}", cancel);
                if (content is not null)
                    parts.Add(TopicPart.Of(name, content));
                Measure(parts);
                reference = reference with { Path = name, Description = link.Description ?? name };
            }

            all.Add(reference);
        }

        return all;
    }

    private async Task<BimSnippet?> SnippetAsync(
        string root,
        BcfTopic sent,
        Topic? ours,
        List<TopicPart> parts,
        CancellationToken cancel
    )
    {
        if (sent.BimSnippet is not { } s)
            return null;
        string? reference = s.Reference;
        if (!s.IsExternal && ours is null && await client.BytesAsync($"{root}/snippet", cancel) is { } content)
            parts.Add(TopicPart.Of(reference = "snippet", content));
        return new BimSnippet(s.SnippetType, s.IsExternal, reference, s.ReferenceSchema);
    }

    private static void Measure(List<TopicPart> parts)
    {
        if (parts.Sum(p => p.Length) > LargestParts)
            throw Refused($"it has more than {LargestParts >> 20} MB of pictures and documents");
    }

    private static string FileNameOf(string name) =>
        Cad.LayerNames.Clean(Path.GetFileName(name.Replace('\\', '/'))) is { Length: > 0 } clean ? clean : "document";

    private sealed record RelatedTopic(string? RelatedTopicGuid);

    private sealed record DocumentLink(string? Guid, string? DocumentGuid, string? Url, string? Description);

    private sealed record UploadedDocument(string? Guid, string? Filename);

    private sealed record FileLink(
        string? IfcProject,
        string? IfcSpatialStructureElement,
        string? FileName,
        string? Date,
        string? Reference
    );
}
