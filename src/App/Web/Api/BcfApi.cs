using System.Text.Json;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Api;

/// <summary>BCF API 3.0 and 2.1, and the part of the Foundation API that it needs (buildingSMART; from memory): topics for programs, by the
/// same rules as on pages.</summary>
public static partial class BcfApi
{
    private static readonly JsonSerializerOptions Json = BcfJson.Options;

    /// <summary>Adds its addresses.</summary>
    public static void Map(IEndpointRouteBuilder app)
    {
        var open = app.MapGroup("").AddEndpointFilter(AnswerAsync);
        open.MapGet("/foundation/versions", (HttpContext http) => Results.Json(Versions(http), Json));
        open.MapGet("/bcf/versions", (HttpContext http) => Results.Json(Versions(http), Json));
        open.MapGet("/foundation/{v}/auth", (HttpContext http) => Results.Json(BcfAuth.At(Root(http)), Json));
        open.MapGet("/bcf/{v:regex(^(2\\.1|3\\.0)$)}/auth", (HttpContext http) =>
            Results.Json(BcfAuth.At(Root(http)), Json)
        );
        var signedIn = app.MapGroup("").AddEndpointFilter(SignedInAsync).AddEndpointFilter(AnswerAsync);
        signedIn.MapGet("/foundation/{v}/current-user", PersonAsync);
        var api = signedIn.MapGroup("/bcf/{v:regex(^(2\\.1|3\\.0)$)}");
        api.MapGet("/current-user", PersonAsync);
        api.MapGet("/projects", ProjectsAsync);
        var project = api.MapGroup("/projects/{project:guid}");
        project.MapGet("", ProjectAsync);
        project.MapGet("/extensions", ExtensionsAsync);
        MapTopics(project);
        MapDocuments(project);
        MapComments(project);
        MapViews(project);
        // The standard has these; a job neither forgets what was asked nor is renamed by a program.
        foreach (string path in (string[])["/topics/{topic:guid}", "/topics/{topic:guid}/viewpoints/{view:guid}"])
            project.MapDelete(path, Kept);
        project.MapDelete("/topics/{topic:guid}/document_references/{reference:guid}", Kept);
        project.MapPut("", Kept);
        // What is not there is said as the standard says it.
        app.Map("/bcf/{**rest}", () => Problem(404, "There is nothing at this address."));
    }

    // Whoever is not in the project learns nothing, as everywhere.
    private static async Task<IResult> Kept(HttpContext http, Guid project)
    {
        await SeeAsync(http, project);
        return Problem(
            403,
            "Topics are closed and not removed, with their views and references; a project has its name on its own page."
        );
    }

    private static IResult Problem(int status, string message) =>
        Results.Json(new { message }, Json, statusCode: status);

    private static string Root(HttpContext http) => http.RequestServices.GetRequiredService<SiteAddress>().Value;

    private static object Versions(HttpContext http) =>
        new
        {
            versions = new[]
            {
                new
                {
                    api_id = "bcf",
                    version_id = "3.0",
                    detailed_version = "https://github.com/buildingSMART/BCF-API/tree/release_3_0",
                    api_base_url = $"{Root(http)}/bcf/3.0",
                },
                new
                {
                    api_id = "bcf",
                    version_id = "2.1",
                    detailed_version = "https://github.com/buildingSMART/BCF-API/tree/release_2_1",
                    api_base_url = $"{Root(http)}/bcf/2.1",
                },
                new
                {
                    api_id = "foundation",
                    version_id = "1.0",
                    detailed_version = "https://github.com/buildingSMART/foundation-API/tree/release_1_0",
                    api_base_url = $"{Root(http)}/foundation/1.0",
                },
            },
        };

    // A program is not led to the page where people sign in.
    private static async ValueTask<object?> SignedInAsync(
        EndpointFilterInvocationContext context,
        EndpointFilterDelegate next
    )
    {
        if (context.HttpContext.User.Identity?.IsAuthenticated == true)
            return await next(context);
        context.HttpContext.Response.Headers.WWWAuthenticate = "Bearer";
        return Problem(401, "Sign in with a bearer token.");
    }

    // Refusals as the standard has them: a message.
    private static async ValueTask<object?> AnswerAsync(
        EndpointFilterInvocationContext context,
        EndpointFilterDelegate next
    )
    {
        var http = context.HttpContext;
        bool reads = HttpMethods.IsGet(http.Request.Method) || HttpMethods.IsHead(http.Request.Method);
        if (
            http.User.Identity?.IsAuthenticated == true
            && !TokenAuthentication.Allows(http.User, "topics")
            && !(reads && TokenAuthentication.Allows(http.User, "read"))
        )
            return Problem(403, TokenAuthentication.NotAllowed);
        // A page of others can send a form, and no bearer token.
        if (!reads && !TokenAuthentication.Has(http.Request))
            return Problem(401, "Programs sign in with a bearer token.");
        try
        {
            return await next(context);
        }
        catch (RefusedException e)
        {
            // RFC 9110, 13.1.1: what somebody else changed meanwhile.
            bool precondition = e.Kind == RefusalKind.Conflict && http.Request.Headers.IfMatch.Count > 0;
            return Problem(precondition ? StatusCodes.Status412PreconditionFailed : JobPage.Status(e.Kind), e.Message);
        }
        catch (OrderException e)
        {
            return Problem(400, e.Message);
        }
        catch (BadHttpRequestException e)
        {
            return Problem(e.StatusCode, e.Message);
        }
        catch (JsonException e)
        {
            return Problem(400, $"The body is not what is asked for: {e.Message}");
        }
    }

    private static async Task<T> BodyAsync<T>(HttpContext http) =>
        await JsonSerializer.DeserializeAsync<T>(http.Request.Body, Json, http.RequestAborted)
        ?? throw new RefusedException(RefusalKind.Wrong, "The body is empty.");

    private static async Task<IResult> PersonAsync(HttpContext http, PeopleQuery people)
    {
        var user = await people.UserAsync(Caller.Id(http.User), http.RequestAborted);
        return user is null
            ? Problem(401, "Nobody is signed in.")
            : Results.Json(new { id = user.Email, name = user.DisplayName }, Json);
    }

    private static async Task<IResult> ProjectsAsync(HttpContext http, JobAccess access) =>
        Results.Json(
            (await access.JobsOfAsync(Caller.Id(http.User), http.RequestAborted)).Select(m => Project(m)),
            Json
        );

    private static async Task<IResult> ProjectAsync(HttpContext http, Guid project, JobAccess access) =>
        await access.MemberAsync(project, Caller.Id(http.User), http.RequestAborted) is { } member
            ? Results.Json(Project(member), Json)
            : Problem(404, "There is no such project.");

    private static object Project(Membership member) =>
        new
        {
            project_id = member.JobId,
            name = $"{member.Job.Code} {member.Job.Name}",
            authorization = new
            {
                project_actions = member.Permissions().MayWriteTopics ? new[] { "createTopic" } : [],
            },
        };

    private static async Task<IResult> ExtensionsAsync(
        HttpContext http,
        Guid project,
        JobAccess access,
        TopicQuery query
    )
    {
        if (await access.MemberAsync(project, Caller.Id(http.User), http.RequestAborted) is not { } member)
            return Problem(404, "There is no such project.");
        var board = await query.BoardAsync(project, http.RequestAborted);
        var may = BcfAuthorization.Of(board, member.Permissions());
        return Results.Json(
            new
            {
                topic_type = board.Words.Types,
                topic_status = board.Words.Statuses,
                topic_label = board.Words.Labels,
                snippet_type = board.Words.SnippetTypes,
                priority = board.Words.Priorities,
                users = member.Permissions().MaySeeJob ? board.Answerers.Select(a => a.Word) : [],
                stage = board.Words.Stages,
                project_actions = may.TopicActions.Contains("update") ? new[] { "createTopic" } : [],
                topic_actions = may.TopicActions,
                comment_actions = may.TopicActions.Count > 0 ? new[] { "update", "delete" } : [],
            },
            Json
        );
    }

    // The asking person as a member of the project, or a refusal.
    private sealed record Seen(Membership Member, JobPermissions Who, JobState State, Actor By);

    private static async Task<Seen> SeeAsync(HttpContext http, Guid project)
    {
        var access = http.RequestServices.GetRequiredService<JobAccess>();
        var member = await access.MemberAsync(project, Caller.Id(http.User), http.RequestAborted)
            ?? throw new RefusedException(RefusalKind.Unknown, "There is no such project.");
        return new Seen(
            member,
            member.Permissions(),
            await access.StateAsync(project, http.RequestAborted),
            Caller.Actor(http)
        );
    }

    private static async Task<TopicPage> PageAsync(HttpContext http, Seen seen, Guid topic)
    {
        var query = http.RequestServices.GetRequiredService<TopicQuery>();
        int number = await query.NumberAsync(seen.State.Job, seen.Who, topic.ToString(), http.RequestAborted);
        return await query.OneAsync(seen.State.Job, seen.Who, number, http.RequestAborted)
            ?? throw new RefusedException(RefusalKind.Unknown, "There is no such topic.");
    }

    // The version that a program saw; RFC 9110, 13.1.1.
    private static int? IfMatch(HttpContext http) =>
        http.Request.Headers.IfMatch.ToString() is not { Length: > 0 } tag || tag == "*" ? null
        : int.TryParse(tag.Trim('"'), null, out int version) ? version
        : -1;
}
