using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>A line of a comparison: one change of one element.</summary>
/// <param name="Change">What changed, in a word.</param>
/// <param name="GlobalId">The element.</param>
/// <param name="Class">Its class; that of the older revision where it was removed.</param>
/// <param name="Name">Its name.</param>
/// <param name="Storey">Its storey.</param>
/// <param name="Detail">From what to what.</param>
/// <param name="Number">Its number in the newer revision; -1 where it was removed.</param>
public sealed record ChangeLine(
    string Change,
    string GlobalId,
    string Class,
    string Name,
    string Storey,
    string Detail,
    int Number
);

/// <summary>What became of a source's elements between two of its revisions.</summary>
[EnableRateLimiting(Security.ComputingLimit)]
public sealed class CompareModel(JobAccess access, SettingOuts settings, RevisionHistory history) : JobPage(access)
{
    private const int Most = 300;

    /// <summary>The source.</summary>
    public Source Source { get; private set; } = null!;

    /// <summary>Its models, newest first.</summary>
    public IReadOnlyList<(Guid Id, int Number, string File)> Revisions { get; private set; } = [];

    /// <summary>The older and the newer.</summary>
    public (Guid Id, int Number) Old { get; private set; }

    /// <summary>See <see cref="Old"/>.</summary>
    public (Guid Id, int Number) New { get; private set; }

    /// <summary>What changed; null where there is nothing to compare.</summary>
    public RevisionChanges? Changes { get; private set; }

    /// <summary>Why there is nothing to compare.</summary>
    public string? Missing { get; private set; }

    /// <summary>Every change, a line each.</summary>
    public IReadOnlyList<ChangeLine> Lines { get; private set; } = [];

    /// <summary>The lines that are shown, of one kind of change where somebody chose one.</summary>
    public IReadOnlyList<ChangeLine> Shown => [.. Lines.Where(l => Kind is null || l.Change == Kind).Take(Most)];

    /// <summary>The address of the form that asks about a change.</summary>
    public string AskAbout(ChangeLine line) =>
        AskLink.To(
            Job.Code,
            TopicCause.Change(Source.Id, New.Number, line.GlobalId),
            $"{line.Name} of {Source.Name} {line.Change} in r{New.Number}",
            $"{line.Change}: {line.Detail}",
            Source.Party.Code,
            [line.GlobalId]
        );

    /// <summary>The kind of change that is shown; null for all.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Kind { get; set; }

    /// <summary>The elements of the lines that are chosen, as an address of the combined view names them.</summary>
    public string Picked =>
        string.Join(
            '_',
            Lines
                .Where(l => l.Number >= 0 && (Kind is null || l.Change == Kind))
                .Select(l => l.Number)
                .Distinct()
                .Take(200)
                .Select(n => $"{New.Id}.{n}")
        );

    /// <summary>Whether the jump of the frame is taken back already.</summary>
    public bool JumpIsTaken { get; private set; }

    /// <summary>Counts by storey and class: storeys down, kinds of change across.</summary>
    public IReadOnlyList<(string Storey, string Class, IReadOnlyDictionary<string, int> Counts)> Matrix =>
        [
            .. Lines
                .GroupBy(l => (l.Storey, l.Class))
                .Select(g =>
                    (
                        g.Key.Storey,
                        g.Key.Class,
                        (IReadOnlyDictionary<string, int>)g.CountBy(l => l.Change).ToDictionary()
                    )
                )
                .OrderBy(r => r.Storey)
                .ThenBy(r => r.Class),
        ];

    /// <summary>Shows the page.</summary>
    public async Task<IActionResult> OnGetAsync(Guid source, int? old, int? now) =>
        await LoadAsync(source, old, now) ? Page() : NotFound();

    /// <summary>The changes as a table.</summary>
    public async Task<IActionResult> OnGetCsvAsync(Guid source, int? old, int? now)
    {
        if (!await LoadAsync(source, old, now) || Changes is null)
            return NotFound();
        return File(CsvTable.Write(Lines), "text/csv", $"{Stem}.csv");
    }

    /// <summary>The changes as JSON, as <c>lintel compare --json</c> writes them.</summary>
    public async Task<IActionResult> OnGetJsonAsync(Guid source, int? old, int? now) =>
        await LoadAsync(source, old, now) && Changes is not null
            ? File(
                JsonSerializer.SerializeToUtf8Bytes(Changes.Machine(), IntakeStore.Json),
                "application/json",
                $"{Stem}.json"
            )
            : NotFound();

    /// <summary>Sets the newer revision out so that nothing moved.</summary>
    public async Task<IActionResult> OnPostJumpAsync(Guid source, [FromQuery(Name = "old")] int? older, int? now)
    {
        if (!Permissions.MaySetOut)
            return StatusCode(403);
        if (!await LoadAsync(source, older, now) || Changes?.FrameJump is not { } jump)
            return NotFound();
        // What lay at p lies at jump(p) now: the way into the job takes the jump back first.
        var old = await history.FrameAsync(Job.Id, source, Old.Number, HttpContext.RequestAborted);
        var frame = old.Compose(jump.Frame.Inverse());
        var document = SettingOutDocument.Of(
            frame,
            EvidenceKind.Jump,
            $"The frame jumped between r{Old.Number} and r{New.Number}; {jump.Elements} elements share it."
        );
        return await TryAsync(
            () => settings.AcceptAsync(Source, Job.Id, document, null, New.Number, Actor, HttpContext.RequestAborted),
            $"From r{New.Number} on the source is set out so that nothing moved.",
            () => LoadAsync(source, older, now),
            $"/jobs/{Job.Code}/compare/{source}?old={Old.Number}&now={New.Number}"
        );
    }

    private string Stem => $"{Job.Code}-{Source.Party.Code}-r{Old.Number}-r{New.Number}";

    private async Task<bool> LoadAsync(Guid id, int? old, int? now)
    {
        var cancel = HttpContext.RequestAborted;
        if (await history.SourceAsync(Job.Id, id, cancel) is not { } source)
            return false;
        Source = source;
        var rows = await history.RevisionsAsync(id, RevisionKind.Model, cancel);
        Revisions = [.. rows.Select(r => (r.Id, r.Number, r.File))];
        if (rows.Count < 2)
        {
            Missing = "There is one revision. Changes are shown when the next revision arrives.";
            return true;
        }

        var newer = rows.Find(r => r.Number == now) ?? rows[0];
        var older = rows.Find(r => r.Number == old && r.Id != newer.Id)
            ?? rows.Find(r => r.Number < newer.Number)
            ?? rows[^1];
        (Old, New) = ((older.Id, older.Number), (newer.Id, newer.Number));
        var (a, b) = await history.FingerprintsAsync(older.Id, newer.Id, cancel);
        if (a is null || b is null)
        {
            Missing = "One of them was read by an older version of the program; send it again.";
            return true;
        }

        Changes = await Task.Run(() => RevisionComparer.Compare(a, b), cancel);
        Lines = ChangeLines.Of(Changes, a, b, await history.StoreyNamesAsync(older.Id, newer.Id, cancel));
        JumpIsTaken = Changes.FrameJump is { } && await history.IsSetOutFromAsync(id, newer.Number, cancel);
        return true;
    }
}
