using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Beams, columns and braces: where their axes lie, how high they reach, and where two parties differs.</summary>
[EnableRateLimiting(Security.ComputingLimit)]
public sealed class MembersModel(JobAccess access, SettingOutQuery query) : JobPage(access)
{
    /// <summary>How many lines the page shows.</summary>
    public const int Most = 100;

    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>The members that are chosen, by storey from above, source and name.</summary>
    public IReadOnlyList<JobMember> Chosen { get; private set; } = [];

    /// <summary>What two sources differs of one member; one of the two is chosen.</summary>
    public IReadOnlyList<JobDisagreement> Disagreements { get; private set; } = [];

    /// <summary>The storeys that have members, from above.</summary>
    public IReadOnlyList<int> Rungs { get; private set; } = [];

    /// <summary>The sources that have members.</summary>
    public IReadOnlyList<int> Sources { get; private set; } = [];

    /// <summary>The storey that is chosen, -1 for members in none; null for all.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Level { get; set; }

    /// <summary>The source that is chosen; null for all.</summary>
    [BindProperty(SupportsGet = true)]
    public Guid? Source { get; set; }

    /// <summary>Shows the page.</summary>
    public async Task OnGetAsync()
    {
        var all = await LoadAsync();
        Disagreements = await Task.Run(() => JobStructuralMembers.Disagreements(all), HttpContext.RequestAborted);
        Disagreements =
        [
            .. Disagreements
                .Where(d => IsChosen(d.First) || IsChosen(d.Second))
                .OrderBy(d => d.What.Code, StringComparer.Ordinal)
                .ThenByDescending(d => Math.Abs(d.What.Amount)),
        ];
    }

    /// <summary>The schedule as CSV.</summary>
    public async Task<IActionResult> OnGetCsvAsync()
    {
        await LoadAsync();
        return File(CsvTable.Write(Chosen.Select(m => MemberLine.Of(m, State))), "text/csv", $"{Job.Code}-members.csv");
    }

    private async Task<IReadOnlyList<JobMember>> LoadAsync()
    {
        State = await StateAsync();
        var all = await query.MembersAsync(State, HttpContext.RequestAborted);
        Rungs = [.. all.Select(m => m.Rung).Distinct().OrderDescending()];
        Sources = [.. all.Select(m => m.Source).Distinct().Order()];
        Chosen =
        [
            .. all.Where(IsChosen)
                .OrderByDescending(m => m.Rung)
                .ThenBy(m => m.Source)
                .ThenBy(m => m.Member.Class)
                .ThenBy(m => m.Member.Name, StringComparer.Ordinal)
                .ThenBy(m => m.Number),
        ];
        return all;
    }

    private bool IsChosen(JobMember m) =>
        (Level is null || m.Rung == Level) && (Source is null || State.Sources[m.Source].Source.Id == Source);
}
