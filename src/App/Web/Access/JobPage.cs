using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>A page inside a job: found only by members, with the route along the top.</summary>
[Authorize]
public abstract class JobPage(LintelDb db, JobAccess access) : PageModel
{
    /// <summary>The database.</summary>
    protected LintelDb Db { get; } = db;

    /// <summary>The member who is looking.</summary>
    public Membership Member { get; private set; } = null!;

    /// <summary>The job.</summary>
    public Job Job => Member.Job;

    /// <summary>The stops with what waits there; null on fragments.</summary>
    public RouteBar? Route { get; private set; }

    /// <summary>Whether the member may deliver for a party.</summary>
    public bool MayDeliver(Guid party) => Member.Role == MemberRole.Coordinator
        || (Member.Role == MemberRole.Contributor && Member.PartyId == party);

    /// <summary>Whether the member may hand over.</summary>
    public bool MayHandOver => Member.Role == MemberRole.Coordinator;

    /// <summary>Finds the job before any handler runs; a stranger gets 404.</summary>
    public override async Task OnPageHandlerExecutionAsync(PageHandlerExecutingContext context, PageHandlerExecutionDelegate next)
    {
        string code = (string?)RouteData.Values["code"] ?? "";
        if (await access.FindAsync(code, JobAccess.UserId(User), HttpContext.RequestAborted) is not { } member)
        {
            context.Result = new NotFoundResult();
            return;
        }

        Member = member;
        if (context.HandlerMethod?.Name is null && Request.Method == "GET")
            Route = await RouteBar.LoadAsync(Db, Job.Id, HttpContext.RequestAborted);
        await next();
    }

    /// <summary>A delivery of this job, with its source and party; null when it is none of this job's.</summary>
    protected Task<Delivery?> DeliveryAsync(Guid id) =>
        Db.Deliveries.Include(d => d.Revision).Include(d => d.Source).ThenInclude(s => s.Party)
            .FirstOrDefaultAsync(d => d.Id == id && d.Source.JobId == Job.Id, HttpContext.RequestAborted);
}
