using System.Linq.Expressions;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Jobs;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Web.Api;

// Topics, their related topics, files, documents and snippets, and what happened to them.
public static partial class BcfApi
{
    private const int MostTopics = 1000,
        MostEvents = 1000;

    // What $filter and $orderby can name: the columns of a topic.
    private static readonly Dictionary<string, LambdaExpression> Fields = new()
    {
        ["guid"] = Field(t => t.Guid),
        ["title"] = Field(t => t.Title),
        ["topic_type"] = Field(t => t.Type),
        ["topic_status"] = Field(t => t.Status),
        ["priority"] = Field(t => t.Priority),
        ["assigned_to"] = Field(t => t.Assigned),
        ["creation_author"] = Field(t => t.Author),
        ["creation_date"] = Field(t => t.CreatedAt),
        ["modified_date"] = Field(t => t.ModifiedAt),
        ["due_date"] = Field(t => t.Due),
        ["labels"] = Field(t => t.Labels),
        ["index"] = Field(t => t.Number),
    };

    private static Expression<Func<TopicRow, T>> Field<T>(Expression<Func<TopicRow, T>> field) => field;

    private static void MapTopics(RouteGroupBuilder project)
    {
        project.MapGet("/topics", ListAsync);
        project.MapPost("/topics", CreateAsync);
        project.MapGet("/topics/events", (HttpContext h, Guid project) => EventsAsync(h, project, null, false));
        project.MapGet("/topics/comments/events", (HttpContext h, Guid project) => EventsAsync(h, project, null, true));
        var topic = project.MapGroup("/topics/{topic:guid}");
        topic.MapGet("", GetAsync);
        topic.MapPut("", PutAsync);
        topic.MapGet("/events", (HttpContext h, Guid project, Guid topic) => EventsAsync(h, project, topic, false));
        topic.MapGet("/comments/events", (HttpContext h, Guid project, Guid topic) =>
            EventsAsync(h, project, topic, true)
        );
        topic.MapGet("/comments/{comment:guid}/events", (HttpContext h, Guid project, Guid topic, Guid comment) =>
            EventsAsync(h, project, topic, true, comment)
        );
        topic.MapGet("/related_topics", RelatedAsync);
        topic.MapPut("/related_topics", PutRelatedAsync);
        topic.MapGet("/files", FilesAsync);
        topic.MapPut("/files", PutFilesAsync);
    }

    private static async Task<IResult> ListAsync(HttpContext http, Guid project, TopicQuery query)
    {
        var seen = await SeeAsync(http, project);
        var rows = query.Rows(project, seen.Who);
        var odata = new ODataFilter<TopicRow>(Fields);
        if (http.Request.Query["$filter"].ToString() is { Length: > 0 } filter)
            rows = rows.Where(odata.Where(filter));
        rows = http.Request.Query["$orderby"].ToString() is { Length: > 0 } order
            ? odata.OrderBy(rows, order).ThenBy(t => t.Number)
            : rows.OrderBy(t => t.Number);
        if (Count(http, "$skip") is { } skip)
            rows = rows.Skip(skip);
        var board = await query.BoardAsync(project, http.RequestAborted);
        var found = await rows.Take(Math.Min(Count(http, "$top") ?? MostTopics, MostTopics))
            .Select(t => new { t.Number, t.Document })
            .ToListAsync(http.RequestAborted);
        return Results.Json(
            found.Select(f => BcfTopic.Of(TopicJson.Read(f.Document), f.Number, board, seen.Who)),
            Json
        );
    }

    private static int? Count(HttpContext http, string name) =>
        http.Request.Query[name].ToString() is not { Length: > 0 } text ? null
        : int.TryParse(text, null, out int n) && n >= 0 ? n
        : throw new RefusedException(RefusalKind.Wrong, $"{name} is a number from 0.");

    private static async Task<IResult> CreateAsync(HttpContext http, Guid project, TopicEditing editing)
    {
        var seen = await SeeAsync(http, project);
        var sent = await BodyAsync<BcfTopic>(http);
        var guid =
            sent.Guid is null ? Guid.NewGuid()
            : Guid.TryParse(sent.Guid, out var own) ? own
            : throw new RefusedException(RefusalKind.Wrong, $"'{sent.Guid}' is no GUID.");
        await editing.AskAsync(
            seen.State,
            seen.Who,
            new TopicWish
            {
                Guid = guid,
                Title = sent.Title,
                Description = sent.Description,
                Type = sent.TopicType,
                Priority = sent.Priority,
                Stage = sent.Stage,
                Labels = sent.Labels ?? [],
                Assigned = sent.AssignedTo,
                More = sent.Into,
            },
            seen.By,
            http.RequestAborted
        );
        var page = await PageAsync(http, seen, guid);
        return Sent(http, page, seen, 201);
    }

    private static async Task<IResult> GetAsync(HttpContext http, Guid project, Guid topic)
    {
        var seen = await SeeAsync(http, project);
        return Sent(http, await PageAsync(http, seen, topic), seen, 200);
    }

    private static IResult Sent(HttpContext http, TopicPage page, Seen seen, int status)
    {
        http.Response.Headers.ETag = $"\"{page.Row.Version}\"";
        return Results.Json(BcfTopic.Of(page, seen.Who), Json, statusCode: status);
    }

    private static async Task<IResult> PutAsync(HttpContext http, Guid project, Guid topic)
    {
        var seen = await SeeAsync(http, project);
        var sent = await BodyAsync<BcfTopic>(http);
        return await ChangeAsync(http, seen, topic, t => sent.Into(t), page => BcfTopic.Of(page, seen.Who));
    }

    private static async Task<IResult> ChangeAsync(
        HttpContext http,
        Seen seen,
        Guid topic,
        Func<Topic, Topic> change,
        Func<TopicPage, object> answer
    )
    {
        await http
            .RequestServices.GetRequiredService<TopicEditing>()
            .ApplyAsync(
                seen.State,
                seen.Who,
                topic.ToString(),
                IfMatch(http),
                false,
                (t, _) => new TopicChange(change(t)),
                seen.By,
                http.RequestAborted
            );
        var page = await PageAsync(http, seen, topic);
        http.Response.Headers.ETag = $"\"{page.Row.Version}\"";
        return Results.Json(answer(page), Json);
    }

    private static async Task<IResult> EventsAsync(
        HttpContext http,
        Guid project,
        Guid? topic,
        bool comments,
        Guid? comment = null
    )
    {
        var seen = await SeeAsync(http, project);
        if (topic is { } one)
            await PageAsync(http, seen, one);
        var events = await http
            .RequestServices.GetRequiredService<TopicQuery>()
            .EventsAsync(project, seen.Who, topic?.ToString(), comments, MostEvents, http.RequestAborted);
        return Results.Json(
            events
                .Where(e => comment is not { } one || Is(e.Event.Comment ?? "", one))
                .Skip(Count(http, "$skip") ?? 0)
                .Take(Count(http, "$top") ?? MostEvents)
                .Select(e => new BcfEvent
                {
                    TopicGuid = e.Topic,
                    CommentGuid = e.Event.Comment,
                    Date = e.Event.At.ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", null),
                    Author = e.Event.Author,
                    Actions = [new BcfAction(e.Event.Did, e.Event.Value)],
                }),
            Json
        );
    }

    private sealed record Related(string? RelatedTopicGuid);

    private static async Task<IResult> RelatedAsync(HttpContext http, Guid project, Guid topic) =>
        Results.Json(RelatedOf(await PageAsync(http, await SeeAsync(http, project), topic)), Json);

    private static IEnumerable<Related> RelatedOf(TopicPage page) =>
        page.Topic.RelatedTopics.Select(g => new Related(g));

    private static async Task<IResult> PutRelatedAsync(HttpContext http, Guid project, Guid topic)
    {
        var seen = await SeeAsync(http, project);
        var sent = await BodyAsync<List<Related>>(http);
        string[] guids =
        [
            .. BcfViewpoint
                .Whole(sent)
                .Select(r =>
                    Guid.TryParse(r.RelatedTopicGuid, out var guid)
                        ? guid.ToString()
                        : throw new RefusedException(RefusalKind.Wrong, $"'{r.RelatedTopicGuid}' is no GUID.")
                ),
        ];
        return await ChangeAsync(http, seen, topic, t => t with { RelatedTopics = guids }, RelatedOf);
    }

    private sealed record ModelFile(
        string? IfcProject,
        string? IfcSpatialStructureElement,
        string? FileName,
        string? Date,
        string? Reference
    );

    private static async Task<IResult> FilesAsync(HttpContext http, Guid project, Guid topic) =>
        Results.Json(FilesOf(await PageAsync(http, await SeeAsync(http, project), topic)), Json);

    private static IEnumerable<ModelFile> FilesOf(TopicPage page) =>
        page.Topic.Files.Select(f => new ModelFile(f.IfcProject, f.SpatialElement, f.Filename, f.Date, f.Reference));

    private static async Task<IResult> PutFilesAsync(HttpContext http, Guid project, Guid topic)
    {
        var seen = await SeeAsync(http, project);
        var sent = await BodyAsync<List<ModelFile>>(http);
        return await ChangeAsync(
            http,
            seen,
            topic,
            t =>
                t with
                {
                    Files =
                    [
                        .. BcfViewpoint
                            .Whole(sent)
                            .Select(f => new HeaderFile
                            {
                                IfcProject = f.IfcProject,
                                SpatialElement = f.IfcSpatialStructureElement,
                                Filename = f.FileName,
                                Date = f.Date,
                                Reference = f.Reference,
                            }),
                    ],
                },
            FilesOf
        );
    }
}
