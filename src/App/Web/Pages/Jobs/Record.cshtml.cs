using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>A line of the record as it is shown.</summary>
public sealed record RecordRow(DateTime At, string Who, string Did, string Subject, string Address);

/// <summary>Who did what in a job, when, to what, from where.</summary>
public sealed class RecordModel(LintelDb db, JobAccess access) : JobPage(db, access)
{
    private const int Shown = 200,
        MaxExported = 100_000;

    /// <summary>The newest lines.</summary>
    public IReadOnlyList<RecordRow> Lines { get; private set; } = [];

    /// <summary>Only lines that hold this.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Find { get; set; }

    /// <inheritdoc/>
    protected override bool IsForCoordinators => true;

    /// <summary>Shows the newest lines.</summary>
    public async Task OnGetAsync() => Lines = await LoadAsync(Shown);

    /// <summary>The lines as CSV.</summary>
    public async Task<IActionResult> OnGetCsvAsync()
    {
        var lines = (await LoadAsync(MaxExported)).Select(r => new
        {
            At = r.At.ToString("O", CultureInfo.InvariantCulture),
            r.Who,
            r.Did,
            r.Subject,
            r.Address,
        });
        return File(CsvTable.Write(lines), "text/csv", $"{Job.Code}-record.csv");
    }

    private async Task<List<RecordRow>> LoadAsync(int most)
    {
        var lines = Db
            .Record.AsNoTracking()
            .Where(r => r.JobId == Job.Id)
            .GroupJoin(Db.Users, r => r.UserId, u => u.Id, (r, u) => new { Line = r, Users = u })
            .SelectMany(x => x.Users.DefaultIfEmpty(), (x, u) => new { x.Line, Who = u == null ? "" : u.DisplayName });
        if (Find?.Trim() is { Length: > 0 } find)
            lines = lines.Where(l =>
                EF.Functions.ILike(
                    l.Line.Did + " " + l.Line.Subject + " " + l.Who,
                    "%" + find.Replace("%", "", StringComparison.Ordinal) + "%"
                )
            );
        return await lines
            .OrderByDescending(l => l.Line.Id)
            .Take(most)
            .Select(l => new RecordRow(l.Line.At, l.Who, l.Line.Did, l.Line.Subject, l.Line.Address))
            .ToListAsync(HttpContext.RequestAborted);
    }
}
