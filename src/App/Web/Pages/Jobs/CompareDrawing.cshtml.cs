using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>What became of a drawing's entities between two of its revisions, drawn in two colours over what stayed.</summary>
[EnableRateLimiting(Security.ComputingLimit)]
public sealed class CompareDrawingModel(JobAccess access, RevisionHistory history, DrawingDesk desk) : JobPage(access)
{
    /// <summary>How many changes the page lists.</summary>
    public const int Most = 300;

    // Common practice: what is gone red, what is new green, all else pale.
    private const int Gone = 0xB3261E,
        New = 0x1A7F37,
        Pale = 0xC9C4BA;

    /// <summary>The source.</summary>
    public Source Source { get; private set; } = null!;

    /// <summary>Its drawings, newest first.</summary>
    public IReadOnlyList<(Guid Id, Guid Blob, int Number)> Revisions { get; private set; } = [];

    /// <summary>The older and the newer revision.</summary>
    public (int Old, int Now) Pair { get; private set; }

    /// <summary>What changed; null where there is one revision alone.</summary>
    public DrawingChanges? Changes { get; private set; }

    /// <summary>Shows the page.</summary>
    public async Task<IActionResult> OnGetAsync(Guid source, int? old, int? now)
    {
        if (!await FindAsync(source))
            return NotFound();
        if (await ReadAsync(old, now) is var (before, after))
            Changes = await Task.Run(() => DrawingComparer.Compare(before, after));
        return Page();
    }

    /// <summary>A picture of what stayed, what is gone, or what is new.</summary>
    public async Task<IActionResult> OnGetPictureAsync(Guid source, int? old, int? now, string what)
    {
        if (!await FindAsync(source) || await ReadAsync(old, now) is not var (before, after))
            return NotFound();
        string? svg = await Task.Run(() =>
        {
            var changes = DrawingComparer.Compare(before, after);
            var (shown, colour) = what == "old" ? (before, Gone) : (after, what == "new" ? New : Pale);
            var told = (what == "old" ? changes.Removed : changes.Added)
                .Concat(changes.Changed)
                .Select(c => new Handle(ulong.Parse(c.Handle, NumberStyles.HexNumber, CultureInfo.InvariantCulture)))
                .ToHashSet();
            shown.Model.Entities.RemoveAll(e => told.Contains(e.Handle) != (what is "old" or "new"));
            return PlanPicture.Of(shown, one: colour);
        });
        return svg is null ? NotFound() : Content(svg, "image/svg+xml");
    }

    private async Task<bool> FindAsync(Guid id)
    {
        var cancel = HttpContext.RequestAborted;
        var source = await history.SourceAsync(Job.Id, id, cancel);
        if (source is null || !MaySeeFiles(source.PartyId))
            return false;
        Source = source;
        Revisions =
        [
            .. (await history.RevisionsAsync(id, RevisionKind.Drawing, cancel)).Select(r => (r.Id, r.Blob, r.Number)),
        ];
        return Revisions.Count > 0;
    }

    private async Task<(Drawing Old, Drawing Now)?> ReadAsync(int? old, int? now)
    {
        if (Revisions.Count < 2)
            return null;
        var newer = Revisions.FirstOrDefault(r => r.Number == now) is { Number: > 0 } n ? n : Revisions[0];
        var older =
            Revisions.FirstOrDefault(r => r.Number == old && r.Number != newer.Number) is { Number: > 0 } o ? o
            : Revisions.FirstOrDefault(r => r.Number < newer.Number) is { Number: > 0 } p ? p
            : Revisions[^1];
        if (older.Number == newer.Number)
            return null;
        Pair = (older.Number, newer.Number);
        return (
            await desk.OriginalAsync(older.Blob, HttpContext.RequestAborted),
            await desk.OriginalAsync(newer.Blob, HttpContext.RequestAborted)
        );
    }
}
