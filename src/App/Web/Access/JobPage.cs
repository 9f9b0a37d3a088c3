using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>A page inside a job: found only by members, with the route along the top.</summary>
[Authorize]
public abstract class JobPage(JobAccess access) : PageModel
{
    /// <summary>The member who is looking.</summary>
    public Membership Member { get; private set; } = null!;

    /// <summary>The job.</summary>
    public Job Job => Member.Job;

    /// <summary>The stops with what waits there; null on fragments.</summary>
    public RouteBar? Route { get; private set; }

    /// <summary>What the member may do.</summary>
    public JobPermissions Permissions => Member.Permissions();

    /// <summary>Whether the member may change the job itself.</summary>
    public bool IsCoordinator => Permissions.IsCoordinator;

    /// <summary>Whether the member may deliver for a party.</summary>
    public bool MayDeliver(Guid party) => Permissions.MayDeliver(party);

    /// <summary>Whether the member may download the originals and read the reports of a party.</summary>
    public bool MaySeeFiles(Guid party) => Permissions.MaySeeFiles(party);

    /// <summary>Whether the member may hand over.</summary>
    public bool MayHandOver => Permissions.MayHandOver;

    /// <summary>Who does something, and from where.</summary>
    protected Actor Actor => Caller.Actor(HttpContext);

    /// <summary>What is wrong with what was sent; shown on top of the page.</summary>
    public string? Problem { get; protected set; }

    /// <summary>What was done; shown once on top of the page.</summary>
    [TempData]
    public string? Done { get; set; }

    /// <summary>Whether the page is for recipients too, who otherwise see nothing of the job.</summary>
    protected virtual bool IsForRecipients => false;

    /// <summary>Whether the page is for coordinators alone.</summary>
    protected virtual bool IsForCoordinators => false;

    /// <summary>Whether the page changes a job that was archived.</summary>
    protected virtual bool ChangesArchived => false;

    /// <summary>What a program's token must allow to change something here.</summary>
    protected virtual string? ChangeScope => null;

    /// <summary>Finds the job before any handler runs; a stranger gets 404.</summary>
    public override async Task OnPageHandlerExecutionAsync(
        PageHandlerExecutingContext context,
        PageHandlerExecutionDelegate next
    )
    {
        string code = (string?)RouteData.Values["code"] ?? "";
        if (await access.FindAsync(code, Caller.Id(User), HttpContext.RequestAborted) is not { } member)
        {
            context.Result = new NotFoundResult();
            return;
        }

        Member = member;
        ReaderUnit.Set(JobSettings.Read(Job.Settings));
        context.Result = Refusal();
        if (context.Result is not null)
            return;
        bool looks = HttpMethods.IsGet(Request.Method) || HttpMethods.IsHead(Request.Method);
        if (looks && context.HandlerMethod?.Name is null && Permissions.MaySeeJob)
            Route = await access.RouteAsync(Job.Id, Permissions, HttpContext.RequestAborted);
        var done = await next();
        // A script that sends a form goes where a browser would have gone; the page there says what was done.
        if (Request.Headers["X-Requested-With"] == "fetch" && done.Result is RedirectResult to)
            done.Result = new JsonResult(new { address = to.Url });
    }

    /// <summary>What the job holds.</summary>
    protected Task<JobState> StateAsync() => access.StateAsync(Job.Id, HttpContext.RequestAborted);

    /// <summary>A delivery of this job, with its source and party; null when it is none of this job's.</summary>
    protected Task<Delivery?> DeliveryAsync(Guid id) => access.DeliveryAsync(Job.Id, id, HttpContext.RequestAborted);

    /// <summary>Does something that may be refused, and comes back to the page with a sentence.</summary>
    /// <param name="what">Does it.</param>
    /// <param name="done">The sentence when it is done.</param>
    /// <param name="load">Loads the page again when it is refused.</param>
    /// <param name="to">Where to go when it is done; null for this page.</param>
    /// <param name="says">The sentence, where it is known only once it is done.</param>
    protected async Task<IActionResult> TryAsync(
        Func<Task> what,
        string done,
        Func<Task> load,
        string? to = null,
        Func<string>? says = null
    )
    {
        try
        {
            await what();
        }
        catch (RefusedException e)
        {
            Problem = e.Message;
            Response.StatusCode = Status(e.Kind);
            // What was begun is not to be saved with what comes next.
            access.Forget();
            Route = await access.RouteAsync(Job.Id, Permissions, HttpContext.RequestAborted);
            await load();
            return Page();
        }

        Done = says?.Invoke() ?? done;
        return Redirect(to ?? Request.Path);
    }

    /// <summary>The status of a refusal (RFC 9110; 507: RFC 4918, 11.5).</summary>
    public static int Status(RefusalKind kind) =>
        kind switch
        {
            RefusalKind.Wrong => 400,
            RefusalKind.Forbidden => 403,
            RefusalKind.Unknown => 404,
            RefusalKind.Full => 507,
            _ => 409,
        };

    private IActionResult? Refusal()
    {
        bool changes = !HttpMethods.IsGet(Request.Method) && !HttpMethods.IsHead(Request.Method);
        if (!Permissions.MaySeeJob && !IsForRecipients)
            return RouteData.Values["page"] as string == "/Jobs/Sheet"
                ? Redirect($"/jobs/{Job.Code}/delivered")
                : NotFound();
        if (IsForCoordinators && !IsCoordinator)
            return NotFound();
        if (changes && Job.ArchivedAt is not null && !ChangesArchived)
            return new ContentResult
            {
                StatusCode = 409,
                ContentType = "text/plain",
                Content = $"{Job.Name} is archived and cannot be changed; a coordinator can restore it under Settings.",
            };
        if (!TokenAuthentication.Allows(User, changes ? ChangeScope ?? "page" : "read"))
            return new ContentResult
            {
                StatusCode = 403,
                ContentType = "text/plain",
                Content = TokenAuthentication.NotAllowed,
            };
        return null;
    }
}
