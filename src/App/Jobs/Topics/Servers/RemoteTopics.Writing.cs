using System.Net.Http.Headers;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

// What is sent.
internal sealed partial class RemoteTopics
{
    /// <summary>Makes a topic there.</summary>
    /// <returns>Its GUID there.</returns>
    public async Task<string> CreateAsync(Topic topic, CancellationToken cancel) =>
        (
            await client.SendAsync<BcfTopic>(
                HttpMethod.Post,
                Root,
                BcfTopic.Sent(topic) with
                {
                    Guid = topic.Guid,
                },
                cancel
            )
        )?.Guid
        ?? topic.Guid;

    /// <summary>Sends what the server lacks.</summary>
    /// <param name="theirGuid">The topic's GUID there.</param>
    /// <param name="changes">What it lacks.</param>
    /// <param name="views">The views that it lacks, with their pictures, in the server's frame.</param>
    /// <param name="documents">Contents of attached files, by the GUID of their reference.</param>
    /// <param name="snippet">The content of the snippet; null where there is none.</param>
    /// <param name="names">Gets the GUIDs that the server gives.</param>
    /// <param name="related">Our GUIDs of related topics to theirs; null for one that the server does not have.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>What it did not take: its name (<c>fields</c>, a GUID, <c>related</c>, <c>files</c>) and why.</returns>
    public async Task<IReadOnlyDictionary<string, string>> WriteAsync(
        string theirGuid,
        TopicChanges changes,
        IReadOnlyList<BcfViewpoint> views,
        IReadOnlyDictionary<string, (string Name, byte[] Content)> documents,
        byte[]? snippet,
        SharedNames names,
        Func<string, string?> related,
        CancellationToken cancel
    )
    {
        string root = $"{Root}/{theirGuid}";
        var refused = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
        async Task Try(string name, Func<Task> send)
        {
            try
            {
                await send();
            }
            catch (TopicServerException e) when (e.Fault == TopicServerFault.Refused)
            {
                // It has it by that name already: from an exchange that was broken off.
                if (e.Status != 409)
                    refused[name] = e.Message;
            }
        }

        Task Put(string path, object body) => client.SendAsync<object>(HttpMethod.Put, path, body, cancel);
        if (changes.Fields is { } fields)
            await Try("fields", () => Put(root, BcfTopic.Sent(fields)));
        if (snippet is not null)
            await Try("snippet", async () =>
            {
                using var content = new ByteArrayContent(snippet);
                await client.SendAsync<object>(HttpMethod.Put, $"{root}/snippet", content, cancel);
            });
        foreach (var view in views)
            await Try(view.Guid!, async () =>
            {
                var made = await client.SendAsync<BcfViewpoint>(HttpMethod.Post, $"{root}/viewpoints", view, cancel);
                names.Add(view.Guid!, made?.Guid ?? view.Guid!);
            });
        foreach (var comment in changes.Comments)
            await Try(comment.Guid, async () =>
            {
                var made = await client.SendAsync<BcfComment>(
                    HttpMethod.Post,
                    $"{root}/comments",
                    new BcfComment
                    {
                        Guid = comment.Guid,
                        Comment = Said(comment),
                        ViewpointGuid = comment.Viewpoint is { Length: > 0 } v ? names.Theirs(v) : null,
                    },
                    cancel
                );
                names.Add(comment.Guid, made?.Guid ?? comment.Guid);
            });
        foreach (var comment in changes.Edited)
            await Try(comment.Guid, () =>
                Put(
                    $"{root}/comments/{names.Theirs(comment.Guid)}",
                    new BcfComment
                    {
                        Comment = Said(comment),
                        ViewpointGuid = comment.Viewpoint is { Length: > 0 } v ? names.Theirs(v) : null,
                    }
                )
            );
        foreach (string guid in changes.Withdrawn)
            await Try(guid, () =>
                client.SendAsync<object>(HttpMethod.Delete, $"{root}/comments/{names.Theirs(guid)}", null, cancel)
            );
        foreach (var reference in changes.Documents)
            await Try(reference.Guid ?? "", async () =>
            {
                string? document = documents.TryGetValue(reference.Guid ?? "", out var file)
                    ? await UploadAsync(reference.Guid!, file.Name, file.Content, cancel)
                    : null;
                await client.SendAsync<DocumentLink>(
                    HttpMethod.Post,
                    $"{root}/document_references",
                    new DocumentLink(
                        reference.Guid,
                        document,
                        document is null ? reference.Url ?? reference.Path ?? reference.Document : null,
                        reference.Description
                    ),
                    cancel
                );
            });
        if (changes.Related is { } others)
            await Try("related", () =>
                Put(
                    $"{root}/related_topics",
                    others.Select(related).OfType<string>().Select(g => new RelatedTopic(g)).ToList()
                )
            );
        if (changes.Files is { } models)
            await Try("files", () =>
                Put(
                    $"{root}/files",
                    models
                        .Select(f => new FileLink(f.IfcProject, f.SpatialElement, f.Filename, f.Date, f.Reference))
                        .ToList()
                )
            );
        return refused;
    }

    private async Task<string?> UploadAsync(string guid, string name, byte[] content, CancellationToken cancel)
    {
        using var body = new ByteArrayContent(content);
        body.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
        body.Headers.ContentDisposition = new ContentDispositionHeaderValue("attachment") { FileName = name };
        var made = await client.SendAsync<UploadedDocument>(
            HttpMethod.Post,
            $"projects/{project}/documents?guid={guid}",
            body,
            cancel
        );
        return made?.Guid;
    }
}
