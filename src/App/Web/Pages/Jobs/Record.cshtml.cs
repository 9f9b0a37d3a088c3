using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Who did what in a job, when, to what, from where.</summary>
public sealed class RecordModel(JobAccess access, PeopleQuery people) : JobPage(access)
{
    private const int Shown = 200,
        MaxExported = 100_000;

    /// <summary>The newest lines.</summary>
    public IReadOnlyList<ActivityRow> Lines { get; private set; } = [];

    /// <summary>Only lines that hold this.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Find { get; set; }

    /// <inheritdoc/>
    protected override bool IsForCoordinators => true;

    /// <summary>Shows the newest lines.</summary>
    public async Task OnGetAsync() =>
        Lines = await people.ActivityAsync(Job.Id, Find, Shown, HttpContext.RequestAborted);

    /// <summary>The lines as CSV.</summary>
    public async Task<IActionResult> OnGetCsvAsync()
    {
        var lines = (await people.ActivityAsync(Job.Id, Find, MaxExported, HttpContext.RequestAborted)).Select(r => new
        {
            At = r.At.ToString("O", CultureInfo.InvariantCulture),
            r.Who,
            r.Did,
            r.Subject,
            r.Address,
        });
        return File(CsvTable.Write(lines), "text/csv", $"{Job.Code}-record.csv");
    }
}
