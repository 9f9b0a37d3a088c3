using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Due dates of open topics for a member's calendar, which cannot sign in: the key in the address says whose it is.</summary>
public sealed class CalendarModel(CalendarKeys keys, JobAccess access, TopicQuery query, SiteAddress site) : PageModel
{
    /// <summary>The calendar; not there for a key that is wrong or of somebody who left the job.</summary>
    public async Task<IActionResult> OnGetAsync(string code, string key)
    {
        if (
            keys.Read(key) is not var (job, person)
            || await access.FindAsync(code, person, HttpContext.RequestAborted) is not { } member
            || member.JobId != job
        )
            return NotFound();
        var (topics, _) = await query.ListAsync(
            job,
            member.Permissions(),
            new TopicFilter { Sort = "due" },
            TopicQuery.Most,
            HttpContext.RequestAborted
        );
        string root = site.Value;
        return File(
            Encoding.UTF8.GetBytes(
                DueCalendar.Write($"{member.Job.Name}: due dates", n => $"{root}/jobs/{code}/topics/{n}", topics)
            ),
            "text/calendar; charset=utf-8"
        );
    }
}
