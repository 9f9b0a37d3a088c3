using System.Globalization;
using System.Net;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Routing;
using Microsoft.Net.Http.Headers;

namespace SteadyLintel.StandIn;

/// <summary>A small server of topics for the demo and the tests (BCF API 3.0 and 2.1; from memory): everything is in memory, and it answers
/// only on this machine. It shares no code with the application.</summary>
public sealed partial class TopicStandIn
{
    /// <summary>The path that it lies under.</summary>
    public const string Path = "/stand-in/topics";

    /// <summary>A token that is always good.</summary>
    public const string Token = "stand-in-token";

    /// <summary>The secret of every program.</summary>
    public const string Secret = "stand-in-secret";

    /// <summary>Who a program or that token is.</summary>
    public const string Account = "exchange@ferry.example";

    /// <summary>Who can sign in.</summary>
    public static readonly IReadOnlyList<string> People = ["mara@ferry.example", "olek@ferry.example", Account];

    private readonly string _path;
    private readonly StandInSignIn _signIn;

    /// <summary>A server without projects.</summary>
    /// <param name="path">The path that it lies under.</param>
    public TopicStandIn(string path = Path) => (_path, _signIn) = (path, new StandInSignIn(path));

    /// <summary>Its projects.</summary>
    public List<StandInProject> Projects { get; } = [];

    /// <summary>Whether it understands <c>$filter</c> and knows events; some servers do not.</summary>
    public bool KnowsChanges { get; set; } = true;

    /// <summary>Ends every sign-in but that by the token everybody knows.</summary>
    public void EndSignIns() => _signIn.EndAll();

    /// <summary>Adds its addresses.</summary>
    public void Map(IEndpointRouteBuilder app)
    {
        var group = app.MapGroup(_path)
            .AddEndpointFilter(
                async (context, next) =>
                    context.HttpContext.Connection.RemoteIpAddress is { } from && IPAddress.IsLoopback(from)
                        ? await next(context)
                        : Results.NotFound()
            );
        group.MapGet("/foundation/versions", (HttpRequest r) => Json(Versions(r)));
        group.MapGet("/bcf/{v}/auth", (HttpRequest r) => Json(Auth(r)));
        _signIn.Map(group);
        var api = group
            .MapGroup("/bcf/{v}")
            .AddEndpointFilter(
                async (context, next) =>
                    _signIn.Account(context.HttpContext.Request) is null
                        ? Results.Json(new { message = "Sign in." }, statusCode: 401)
                        : await next(context)
            );
        api.MapGet("/current-user", (HttpRequest r) => Json(new JsonObject { ["id"] = Me(r), ["name"] = Me(r) }));
        api.MapGet("/projects", () => Json(Array(Projects.Select(Shown))));
        var project = api.MapGroup("/projects/{project}");
        project.MapGet("", (string project) => With(project, (p, _) => Json(Shown(p))));
        project.MapGet("/documents", (string project) =>
            With(project, (p, _) =>
                Json(Array(p.Documents.Select(d => new JsonObject { ["guid"] = d.Key, ["filename"] = d.Value.Name })))
            )
        );
        project.MapGet("/documents/{guid}", (string project, string guid) =>
            With(project, (p, _) => p.Documents.TryGetValue(guid, out var d) ? Results.Bytes(d.Content) : Missing())
        );
        project.MapPost("/documents", PostDocumentAsync);
        MapTopics(project.MapGroup("/topics"));
    }

    private void MapTopics(RouteGroupBuilder topics)
    {
        topics.MapGet("", (HttpRequest r, string project) => With(project, (p, _) => List(r, p)));
        topics.MapPost("", (HttpRequest r, string project) =>
            PostAsync(r, project, null, (p, _, sent, me) => p.Ask(sent, me)?.Fields)
        );
        topics.MapGet("/comments/events", (HttpRequest r, string project) =>
            With(project, (p, _) => KnowsChanges ? Json(Array(p.Events(Since(r) ?? DateTime.MinValue))) : Missing())
        );
        var one = topics.MapGroup("/{topic}");
        one.MapGet("", (string project, string topic) => With(project, topic, (_, t) => Json(t.Fields)));
        one.MapPut("", (HttpRequest r, string project, string topic) => PutAsync(r, project, topic, (p, t, sent, me) =>
            {
                p.Change(t, sent.AsObject(), me);
                return t.Fields;
            }));
        one.MapGet("/comments", (string project, string topic) =>
            With(project, topic, (_, t) => Json(Array(t.Comments)))
        );
        one.MapPost("/comments", (HttpRequest r, string project, string topic) =>
            PostAsync(r, project, topic, (p, t, sent, me) => p.Comment(t!, sent, me))
        );
        one.MapPut("/comments/{guid}", (HttpRequest r, string project, string topic, string guid) =>
            PutAsync(r, project, topic, (p, t, sent, me) =>
            {
                if (t.Comments.FirstOrDefault(c => StandInProject.Is(c, guid)) is not { } comment)
                    return null;
                p.Edit(t, comment, (string?)sent["comment"], me);
                return comment;
            })
        );
        one.MapDelete("/comments/{guid}", (HttpRequest r, string project, string topic, string guid) =>
            With(project, topic, (p, t) =>
            {
                if (t.Comments.FirstOrDefault(c => StandInProject.Is(c, guid)) is not { } comment)
                    return Missing();
                p.Remove(t, comment, Me(r));
                return Results.NoContent();
            })
        );
        one.MapGet("/viewpoints", (string project, string topic) =>
            With(project, topic, (_, t) => Json(Array(t.Views.Select(StandInProject.Shown))))
        );
        one.MapPost("/viewpoints", (HttpRequest r, string project, string topic) =>
            PostAsync(r, project, topic, (p, t, sent, _) => p.View(t!, sent))
        );
        one.MapGet("/viewpoints/{guid}/{part}", ViewPart);
        one.MapGet("/snippet", (string project, string topic) =>
            With(project, topic, (_, t) => t.Snippet is { } content ? Results.Bytes(content) : Missing())
        );
        one.MapPut("/snippet", PutSnippetAsync);
        one.MapGet("/related_topics", (string project, string topic) =>
            With(project, topic, (_, t) =>
                Json(Array(t.Related.Select(g => new JsonObject { ["related_topic_guid"] = g })))
            )
        );
        one.MapPut("/related_topics", (HttpRequest r, string project, string topic) =>
            PutAsync(r, project, topic, (p, t, sent, me) =>
            {
                t.Related = [.. sent.AsArray().Select(x => (string)x!["related_topic_guid"]!)];
                p.Touch(t, me);
                return sent.DeepClone();
            })
        );
        one.MapGet("/files", (string project, string topic) => With(project, topic, (_, t) => Json(t.Files)));
        one.MapPut("/files", (HttpRequest r, string project, string topic) =>
            PutAsync(r, project, topic, (p, t, sent, me) =>
            {
                t.Files = (JsonArray)sent.DeepClone();
                p.Touch(t, me);
                return t.Files;
            })
        );
        one.MapGet("/document_references", (string project, string topic) =>
            With(project, topic, (_, t) => Json(Array(t.Documents)))
        );
        one.MapPost("/document_references", (HttpRequest r, string project, string topic) =>
            PostAsync(r, project, topic, (p, t, sent, _) => p.Refer(t!, sent))
        );
    }

    private IResult ViewPart(string project, string topic, string guid, string part) => With(project, topic, (_, t) =>
        {
            var view = t.Views.FirstOrDefault(v => StandInProject.Is(v, guid));
            if (part == "snapshot")
                return (string?)view?["snapshot"]?["snapshot_data"] is { } data
                    ? Results.Bytes(Convert.FromBase64String(data))
                    : Missing();
            return part is "selection" or "coloring" or "visibility" && view is not null
                ? Json(new JsonObject { [part] = view["components"]?[part]?.DeepClone() })
                : Missing();
        });

    private IResult List(HttpRequest request, StandInProject project)
    {
        var topics = project.Topics.AsEnumerable();
        if (request.Query.ContainsKey("$filter"))
        {
            if (!KnowsChanges || Since(request) is not { } since)
                return Results.Json(new { message = "$filter is not known here." }, statusCode: 400);
            topics = topics.Where(t =>
                DateTime.Parse(
                    (string)t.Fields["modified_date"]!,
                    CultureInfo.InvariantCulture,
                    DateTimeStyles.AdjustToUniversal
                ) >= since
            );
        }

        int skip = int.TryParse(request.Query["$skip"], out int s) ? s : 0,
            top = int.TryParse(request.Query["$top"], out int n) ? n : 100;
        return Json(Array(topics.Skip(skip).Take(top).Select(t => t.Fields)));
    }

    private static DateTime? Since(HttpRequest request) =>
        Changed().Match(request.Query["$filter"].ToString()) is { Success: true } m
        && DateTime.TryParse(
            m.Groups[1].Value,
            CultureInfo.InvariantCulture,
            DateTimeStyles.AdjustToUniversal | DateTimeStyles.AssumeUniversal,
            out var since
        )
            ? since
            : null;

    private async Task<IResult> PostDocumentAsync(HttpRequest request, string project)
    {
        using var content = new MemoryStream();
        await request.Body.CopyToAsync(content);
        string name = ContentDispositionHeaderValue.TryParse(
            request.Headers.ContentDisposition.ToString(),
            out var disposition
        )
            ? disposition.FileName.Value?.Trim('"') ?? "document"
            : "document";
        string? guid = request.Query["guid"].ToString() is { Length: > 0 } given ? given : null;
        return With(project, (p, _) => Json(p.Document(guid, name, content.ToArray()), 201));
    }

    private async Task<IResult> PutSnippetAsync(HttpRequest request, string project, string topic)
    {
        using var content = new MemoryStream();
        await request.Body.CopyToAsync(content);
        return With(project, topic, (_, t) =>
        {
            t.Snippet = content.ToArray();
            return Results.NoContent();
        });
    }

    private async Task<IResult> PostAsync(
        HttpRequest request,
        string project,
        string? topic,
        Func<StandInProject, StandInTopic?, JsonObject, string, JsonObject?> make
    )
    {
        if (await BodyAsync(request) is not JsonObject sent)
            return Results.Json(new { message = "An object is asked for." }, statusCode: 400);
        return With(project, (p, _) =>
        {
            var t = topic is null ? null : p.Find(topic);
            if (topic is not null && t is null)
                return Missing();
            return make(p, t, sent, Me(request)) is { } made
                ? Json(made, 201)
                : Results.Json(new { message = "There is one of that GUID." }, statusCode: 409);
        });
    }

    private async Task<IResult> PutAsync(
        HttpRequest request,
        string project,
        string topic,
        Func<StandInProject, StandInTopic, JsonNode, string, JsonNode?> change
    )
    {
        if (await BodyAsync(request) is not { } sent)
            return Results.Json(new { message = "A body is asked for." }, statusCode: 400);
        return With(project, topic, (p, t) => change(p, t, sent, Me(request)) is { } now ? Json(now) : Missing());
    }

    private static async Task<JsonNode?> BodyAsync(HttpRequest request)
    {
        try
        {
            return await JsonNode.ParseAsync(request.Body);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    private string Me(HttpRequest request) => _signIn.Account(request) ?? "";

    private IResult With(string project, Func<StandInProject, object?, IResult> answer)
    {
        if (Projects.FirstOrDefault(p => p.Id == project) is not { } found)
            return Missing();
        lock (found.Gate)
            return answer(found, null);
    }

    private IResult With(string project, string topic, Func<StandInProject, StandInTopic, IResult> answer) =>
        With(project, (p, _) => p.Find(topic) is { } t ? answer(p, t) : Missing());

    private static IResult Missing() =>
        Results.Json(new { message = "There is nothing of that name." }, statusCode: 404);

    // Written while the gate is held: later somebody else may change it.
    private static IResult Json(JsonNode node, int status = 200) =>
        Results.Content(node.ToJsonString(), "application/json", null, status);

    private static JsonArray Array(IEnumerable<JsonObject> items) =>
        new([.. items.Select(JsonNode (i) => StandInProject.Copy(i))]);

    private static JsonObject Shown(StandInProject project) =>
        new() { ["project_id"] = project.Id, ["name"] = project.Name };

    private string Root(HttpRequest request) => $"{request.Scheme}://{request.Host}{_path}";

    private JsonObject Versions(HttpRequest request) =>
        new()
        {
            ["versions"] = new JsonArray([
                .. ((string[])["3.0", "2.1"]).Select(v => new JsonObject
                {
                    ["api_id"] = "bcf",
                    ["version_id"] = v,
                    ["api_base_url"] = $"{Root(request)}/bcf/{v}",
                }),
            ]),
        };

    private JsonObject Auth(HttpRequest request) =>
        new()
        {
            ["oauth2_auth_url"] = $"{Root(request)}/authorize",
            ["oauth2_token_url"] = $"{Root(request)}/token",
            ["http_basic_supported"] = false,
            ["supported_oauth2_flows"] = new JsonArray("authorization_code_grant", "client_credentials_grant"),
        };

    [GeneratedRegex(@"^(?:modified_date|date) ge ([-\d:.TZ]+)$")]
    private static partial Regex Changed();
}
