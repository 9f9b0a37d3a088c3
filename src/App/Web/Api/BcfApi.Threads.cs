using SteadyLintel.Jobs;
using SteadyLintel.Topics;

namespace SteadyLintel.Web.Api;

// Comments and views.
public static partial class BcfApi
{
    private static void MapComments(RouteGroupBuilder project)
    {
        var comments = project.MapGroup("/topics/{topic:guid}/comments");
        comments.MapGet("", CommentsAsync);
        comments.MapPost("", PostCommentAsync);
        comments.MapGet("/{comment:guid}", CommentAsync);
        comments.MapPut("/{comment:guid}", PutCommentAsync);
        comments.MapDelete("/{comment:guid}", DeleteCommentAsync);
    }

    private static async Task<IResult> CommentsAsync(HttpContext http, Guid project, Guid topic)
    {
        var seen = await SeeAsync(http, project);
        var page = await PageAsync(http, seen, topic);
        return Results.Json(
            page.Topic.Comments.Skip(Count(http, "$skip") ?? 0)
                .Take(Count(http, "$top") ?? int.MaxValue)
                .Select(c => Comment(page, c, seen)),
            Json
        );
    }

    private static BcfComment Comment(TopicPage page, TopicComment c, Seen seen) =>
        BcfComment.Of(
            c,
            page.Topic.Guid,
            seen.Who.MayAnswerTopics && page.Board.PersonOf(c.Author ?? "").Id == seen.By.User
        );

    private static async Task<IResult> CommentAsync(HttpContext http, Guid project, Guid topic, Guid comment)
    {
        var seen = await SeeAsync(http, project);
        var page = await PageAsync(http, seen, topic);
        return page.Topic.Comments.FirstOrDefault(c => Is(c.Guid, comment)) is { } found
            ? Results.Json(Comment(page, found, seen), Json)
            : Problem(404, "There is no such comment.");
    }

    private static bool Is(string guid, Guid asked) => Guid.TryParse(guid, out var own) && own == asked;

    private static async Task<IResult> PostCommentAsync(
        HttpContext http,
        Guid project,
        Guid topic,
        TopicEditing editing
    )
    {
        var seen = await SeeAsync(http, project);
        var sent = await BodyAsync<BcfComment>(http);
        string guid = Guid.TryParse(sent.Guid, out var own) ? own.ToString() : Guid.NewGuid().ToString();
        string text = InputRules.Lines(
            sent.Comment,
            "The comment",
            TopicEditing.LongestText,
            sent.ViewpointGuid is null
        );
        await editing.ApplyAsync(
            seen.State,
            seen.Who,
            topic.ToString(),
            null,
            true,
            (t, author) =>
            {
                if (t.Comments.Any(c => Is(c.Guid, Guid.Parse(guid))))
                    throw new RefusedException(RefusalKind.Conflict, $"The topic has a comment {guid} already.");
                if (
                    sent.ViewpointGuid is { } view
                    && !t.Viewpoints.Any(v => v.Guid.Equals(view, StringComparison.OrdinalIgnoreCase))
                )
                    throw new RefusedException(RefusalKind.Wrong, $"The topic has no view {view}.");
                var comment = new TopicComment
                {
                    Guid = guid,
                    Date = DateTime.UtcNow.ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", null),
                    Author = author,
                    Text = text,
                    Viewpoint = sent.ViewpointGuid,
                };
                return new TopicChange(
                    t with
                    {
                        Comments = [.. t.Comments, comment],
                    },
                    [(TopicAction.CommentCreated, guid, text)]
                );
            },
            seen.By,
            http.RequestAborted
        );
        var page = await PageAsync(http, seen, topic);
        return Results.Json(Comment(page, page.Topic.Comments.First(c => c.Guid == guid), seen), Json, statusCode: 201);
    }

    private static async Task<IResult> PutCommentAsync(
        HttpContext http,
        Guid project,
        Guid topic,
        Guid comment,
        TopicEditing editing
    )
    {
        var seen = await SeeAsync(http, project);
        var sent = await BodyAsync<BcfComment>(http);
        var page = await PageAsync(http, seen, topic);
        string guid = page.Topic.Comments.FirstOrDefault(c => Is(c.Guid, comment))?.Guid
            ?? throw new RefusedException(RefusalKind.Unknown, "There is no such comment.");
        await editing.EditCommentAsync(
            seen.State,
            seen.Who,
            page.Row.Number,
            guid,
            sent.Comment ?? "",
            seen.By,
            http.RequestAborted
        );
        page = await PageAsync(http, seen, topic);
        return Results.Json(Comment(page, page.Topic.Comments.First(c => c.Guid == guid), seen), Json);
    }

    private static async Task<IResult> DeleteCommentAsync(
        HttpContext http,
        Guid project,
        Guid topic,
        Guid comment,
        TopicEditing editing
    )
    {
        var seen = await SeeAsync(http, project);
        var page = await PageAsync(http, seen, topic);
        string guid = page.Topic.Comments.FirstOrDefault(c => Is(c.Guid, comment))?.Guid
            ?? throw new RefusedException(RefusalKind.Unknown, "There is no such comment.");
        await editing.EditCommentAsync(seen.State, seen.Who, page.Row.Number, guid, null, seen.By, http.RequestAborted);
        return Results.NoContent();
    }

    private static void MapViews(RouteGroupBuilder project)
    {
        var views = project.MapGroup("/topics/{topic:guid}/viewpoints");
        views.MapGet("", async (HttpContext h, Guid project, Guid topic) =>
            Results.Json(
                (await PageAsync(h, await SeeAsync(h, project), topic)).Topic.Viewpoints.Select(BcfViewpoint.Of),
                Json
            )
        );
        views.MapPost("", PostViewAsync);
        var one = views.MapGroup("/{view:guid}");
        one.MapGet("", (HttpContext h, Guid project, Guid topic, Guid view) =>
            ViewAsync(h, project, topic, view, (v, _) => Results.Json(BcfViewpoint.Of(v), Json))
        );
        one.MapGet("/snapshot", (HttpContext h, Guid project, Guid topic, Guid view) =>
            ViewAsync(h, project, topic, view, (v, page) => Picture(h, page, v.Snapshot))
        );
        one.MapGet("/bitmaps/{bitmap}", (HttpContext h, Guid project, Guid topic, Guid view, string bitmap) =>
            ViewAsync(h, project, topic, view, (v, page) =>
                Picture(
                    h,
                    page,
                    v.Info?.Bitmaps.Where((_, n) => BcfViewpoint.BitmapId(v, n) == bitmap).FirstOrDefault()?.Reference
                )
            )
        );
        one.MapGet("/selection", (HttpContext h, Guid project, Guid topic, Guid view) =>
            ViewAsync(h, project, topic, view, (v, _) =>
                Results.Json(new { selection = (v.Info?.Selection ?? []).Select(BcfComponent.Of) }, Json)
            )
        );
        one.MapGet("/coloring", (HttpContext h, Guid project, Guid topic, Guid view) =>
            ViewAsync(h, project, topic, view, (v, _) =>
                Results.Json(
                    new
                    {
                        coloring = (v.Info?.Colouring ?? []).Select(c => new BcfColoring(
                            c.Colour ?? "",
                            [.. c.Components.Select(BcfComponent.Of)]
                        )),
                    },
                    Json
                )
            )
        );
        one.MapGet("/visibility", (HttpContext h, Guid project, Guid topic, Guid view) =>
            ViewAsync(h, project, topic, view, (v, _) =>
            {
                var shown = v.Info?.Visibility ?? new ViewVisibility(true, [], null);
                return Results.Json(
                    new
                    {
                        visibility = new BcfVisibility(
                            shown.Default ?? false,
                            [.. shown.Exceptions.Select(BcfComponent.Of)],
                            new BcfHints(
                                shown.Hints?.Spaces ?? false,
                                shown.Hints?.SpaceBoundaries ?? false,
                                shown.Hints?.Openings ?? false
                            )
                        ),
                    },
                    Json
                );
            })
        );
    }

    private static async Task<IResult> ViewAsync(
        HttpContext http,
        Guid project,
        Guid topic,
        Guid view,
        Func<Viewpoint, TopicPage, IResult> answer
    )
    {
        var page = await PageAsync(http, await SeeAsync(http, project), topic);
        return page.Topic.Viewpoints.FirstOrDefault(v => Is(v.Guid, view)) is { } found
            ? answer(found, page)
            : Problem(404, "There is no such view.");
    }

    private static IResult Picture(HttpContext http, TopicPage page, string? name) =>
        page.Topic.Parts.FirstOrDefault(p => p.Name == name) is { IsPicture: true } part
        && http.RequestServices.GetRequiredService<TopicPictures>().Of(part, false, http.RequestAborted)
            is var (bytes, type)
            ? Results.Bytes(bytes, type)
            : Problem(404, "There is no such picture.");

    private static async Task<IResult> PostViewAsync(HttpContext http, Guid project, Guid topic, TopicEditing editing)
    {
        var seen = await SeeAsync(http, project);
        var (view, parts) = (await BodyAsync<BcfViewpoint>(http)).Read();
        await editing.ApplyAsync(
            seen.State,
            seen.Who,
            topic.ToString(),
            null,
            true,
            (t, _) =>
                t.Viewpoints.Any(v => v.Guid.Equals(view.Guid, StringComparison.OrdinalIgnoreCase))
                    ? throw new RefusedException(RefusalKind.Conflict, $"The topic has a view {view.Guid} already.")
                    : new TopicChange(
                        t with
                        {
                            Viewpoints = [.. t.Viewpoints, view],
                            Parts = [.. t.Parts, .. parts],
                        },
                        [(TopicAction.Viewpoint, null, view.Guid)]
                    ),
            seen.By,
            http.RequestAborted
        );
        return Results.Json(BcfViewpoint.Of(view), Json, statusCode: 201);
    }
}
