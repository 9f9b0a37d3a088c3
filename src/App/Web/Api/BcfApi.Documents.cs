using Microsoft.Net.Http.Headers;
using SteadyLintel.Jobs;
using SteadyLintel.Topics;

namespace SteadyLintel.Web.Api;

// Documents of a project, references of topics to them, snippets, and which models there are.
public static partial class BcfApi
{
    private const int LargestSnippet = 16 << 20;

    private static void MapDocuments(RouteGroupBuilder project)
    {
        project.MapGet("/files_information", ModelsAsync);
        project.MapGet("/documents", ListDocumentsAsync);
        project.MapPost("/documents", PostDocumentAsync);
        project.MapGet("/documents/{document:guid}", DocumentAsync);
        var topic = project.MapGroup("/topics/{topic:guid}");
        topic.MapGet("/document_references", ReferencesAsync);
        topic.MapPost("/document_references", PostReferenceAsync);
        topic.MapPut("/document_references/{reference:guid}", PutReferenceAsync);
        topic.MapGet("/snippet", SnippetAsync);
        topic.MapPut("/snippet", PutSnippetAsync);
    }

    // The newest models: what a program may name as the files of a topic.
    private static async Task<IResult> ModelsAsync(HttpContext http, Guid project)
    {
        var seen = await SeeAsync(http, project);
        return Results.Json(
            seen.State.Sources.Where(s => s.Latest is not null && seen.Who.MaySeeFiles(s.Source.PartyId))
                .Select(s => new
                {
                    display_information = new[]
                    {
                        new { field_display_name = "Party", field_value = s.Source.Party.Code },
                        new { field_display_name = "Source", field_value = s.Source.Name },
                        new { field_display_name = "Revision", field_value = $"r{s.Latest!.Number}" },
                    },
                    file = new ModelFile(
                        null,
                        null,
                        s.Latest.Delivery.FileName,
                        s.Latest.Delivery.ReceivedAt.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", null),
                        null
                    ),
                }),
            Json
        );
    }

    private static async Task<IResult> ListDocumentsAsync(HttpContext http, Guid project, TopicQuery query)
    {
        var seen = await SeeAsync(http, project);
        return Results.Json(
            (await query.DocumentsAsync(project, seen.Who, http.RequestAborted)).Select(d => new
            {
                guid = d.Guid,
                filename = d.Filename,
            }),
            Json
        );
    }

    private static async Task<IResult> DocumentAsync(HttpContext http, Guid project, Guid document, TopicQuery query)
    {
        var seen = await SeeAsync(http, project);
        return
            await query.DocumentAsync(project, seen.Who, document.ToString(), http.RequestAborted) is var (name, part)
            ? Results.Bytes(part.Bytes(http.RequestAborted), "application/octet-stream", name)
            : Problem(404, "There is no such document.");
    }

    // The body is the file; its name is in Content-Disposition.
    private static async Task<IResult> PostDocumentAsync(HttpContext http, Guid project, TopicExchange exchange)
    {
        var seen = await SeeAsync(http, project);
        string? name = ContentDispositionHeaderValue.TryParse(
            http.Request.Headers.ContentDisposition.ToString(),
            out var sent
        )
            ? (sent.FileNameStar.HasValue ? sent.FileNameStar : sent.FileName).Value?.Trim('"')
            : null;
        Guid? guid =
            http.Request.Query["guid"].ToString() is not { Length: > 0 } given ? null
            : Guid.TryParse(given, out var own) ? own
            : throw new RefusedException(RefusalKind.Wrong, $"'{given}' is no GUID.");
        var kept = await exchange.AddDocumentAsync(
            project,
            seen.Who,
            guid,
            name,
            http.Request.Body,
            seen.By,
            http.RequestAborted
        );
        return Results.Json(new { guid = kept.Guid, filename = kept.Filename }, Json, statusCode: 201);
    }

    private sealed record Reference(string? Guid, string? DocumentGuid, string? Url, string? Description)
    {
        public DocumentReference Read(string guid) =>
            DocumentGuid is null && string.IsNullOrEmpty(Url)
                ? throw new RefusedException(RefusalKind.Wrong, "A reference names a document or an address.")
                : new DocumentReference
                {
                    Guid = guid,
                    Document = DocumentGuid,
                    Url = DocumentGuid is null ? Url : null,
                    Description = Description,
                };

        public static Reference Of(DocumentReference d) => new(d.Guid, d.Document, d.Url ?? d.Path, d.Description);
    }

    private static async Task<IResult> ReferencesAsync(HttpContext http, Guid project, Guid topic) =>
        Results.Json(ReferencesOf(await PageAsync(http, await SeeAsync(http, project), topic)), Json);

    private static IEnumerable<Reference> ReferencesOf(TopicPage page) => page.Topic.Documents.Select(Reference.Of);

    private static async Task<IResult> PostReferenceAsync(HttpContext http, Guid project, Guid topic)
    {
        var seen = await SeeAsync(http, project);
        var sent = await BodyAsync<Reference>(http);
        var reference = sent.Read(Guid.TryParse(sent.Guid, out var own) ? own.ToString() : Guid.NewGuid().ToString());
        await ChangeAsync(http, seen, topic, t => t with { Documents = [.. t.Documents, reference] }, ReferencesOf);
        return Results.Json(Reference.Of(reference), Json, statusCode: 201);
    }

    private static async Task<IResult> PutReferenceAsync(HttpContext http, Guid project, Guid topic, Guid reference)
    {
        var seen = await SeeAsync(http, project);
        var sent = await BodyAsync<Reference>(http);
        return await ChangeAsync(
            http,
            seen,
            topic,
            t =>
            {
                int at = t.Documents.ToList().FindIndex(d => Is(d.Guid ?? "", reference));
                if (at < 0)
                    throw new RefusedException(RefusalKind.Unknown, "There is no such reference.");
                var documents = t.Documents.ToList();
                documents[at] = sent.Read(documents[at].Guid!) with { Extras = documents[at].Extras };
                return t with { Documents = documents };
            },
            page => Reference.Of(page.Topic.Documents.First(d => Is(d.Guid ?? "", reference)))
        );
    }

    private static async Task<IResult> SnippetAsync(HttpContext http, Guid project, Guid topic)
    {
        var page = await PageAsync(http, await SeeAsync(http, project), topic);
        return
            page.Topic.Snippet?.Reference is { } name
            && page.Topic.Parts.FirstOrDefault(p => p.Name == name) is { } part
            ? Results.Bytes(part.Bytes(http.RequestAborted), "application/octet-stream", Path.GetFileName(name))
            : Problem(404, "The topic has no snippet.");
    }

    // The body is the content; what it is was said with the topic.
    private static async Task<IResult> PutSnippetAsync(HttpContext http, Guid project, Guid topic)
    {
        var seen = await SeeAsync(http, project);
        byte[] content = await ContentAsync(http);
        await ChangeAsync(
            http,
            seen,
            topic,
            t =>
            {
                if (t.Snippet is not { } snippet)
                    throw new RefusedException(
                        RefusalKind.Wrong,
                        "First say with the topic what the snippet is (bim_snippet)."
                    );
                string name = snippet.Reference is { } own && t.Parts.Any(p => p.Name == own) ? own : "snippet";
                return t with
                {
                    Snippet = snippet with { IsExternal = false, Reference = name },
                    Parts = [.. t.Parts.Where(p => p.Name != name), TopicPart.Of(name, content)],
                };
            },
            page => page
        );
        return Results.NoContent();
    }

    private static async Task<byte[]> ContentAsync(HttpContext http)
    {
        using var content = new MemoryStream();
        var piece = new byte[1 << 16];
        int read;
        while ((read = await http.Request.Body.ReadAsync(piece, http.RequestAborted)) > 0)
        {
            if (content.Length + read > LargestSnippet)
                throw new RefusedException(RefusalKind.Wrong, $"A snippet has at most {LargestSnippet >> 20} MB.");
            content.Write(piece, 0, read);
        }

        return content.ToArray();
    }
}
