using System.Globalization;
using System.Runtime.InteropServices;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>The drawing desk: a drawing is scaled with evidence, prepared by steps, and placed at a level.</summary>
[EnableRateLimiting(Security.ComputingLimit)]
public sealed class DeskModel(
    LintelDb db,
    JobAccess access,
    SettingOuts settings,
    ConvertDrawing converter,
    Details library
) : JobPage(db, access)
{
    private const int MostSnaps = 100_000,
        MostOverlaid = 60_000;

    /// <summary>How it is placed.</summary>
    public static readonly IReadOnlyList<(string Word, string Name)> Ways =
    [
        ("origin", "origin to origin"),
        ("grids", "grid tags"),
        ("points", "pairs of points"),
        ("typed", "typed"),
        ("upright", "upright along a line"),
    ];

    /// <summary>The source.</summary>
    public SourceState Source { get; private set; } = null!;

    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>What the form says.</summary>
    [BindProperty]
    public DeskForm Form { get; set; } = new();

    /// <summary>The evidence for the scale.</summary>
    public ScaleFindings Scale { get; private set; } = new("", [], []);

    /// <summary>What each step does on the newest revision.</summary>
    public IReadOnlyList<StepResult> Results { get; private set; } = [];

    /// <summary>Entities of model space: as they came, and what is left.</summary>
    public (int Came, int Left) Count { get; private set; }

    /// <summary>Where it would lie.</summary>
    public SheetPlacing? Placing { get; private set; }

    /// <summary>The layers of what is left, with how many entities are on each.</summary>
    public IReadOnlyList<(string Name, int Count)> Layers { get; private set; } = [];

    /// <summary>The entity that is picked, in words; null for none.</summary>
    public string? PickedEntity { get; private set; }

    /// <summary>Its text where it is one.</summary>
    public string? PickedText { get; private set; }

    /// <summary>Whether it is a hatch.</summary>
    public bool PickedHatch { get; private set; }

    /// <summary>The library of details.</summary>
    public IReadOnlyList<KeptDetail> Details { get; private set; } = [];

    /// <summary>Whether the person may keep details.</summary>
    public bool MayKeep => Job.ArchivedAt is null && Member.Role is MemberRole.Coordinator or MemberRole.Contributor;

    /// <summary>What was accepted, the newest first.</summary>
    public IReadOnlyList<(SettingOutRow Row, SettingOutDocument Document, string By)> History { get; private set; } =
    [];

    /// <summary>The models it can be placed on.</summary>
    public IReadOnlyList<SourceState> Models => [.. State.Sources.Where(s => s.Latest is not null)];

    /// <summary>What can be laid over it: models, and other drawings that are placed.</summary>
    public IEnumerable<SourceState> Overlays =>
        Models.Concat(State.Drawings.Where(d => d.SetOut is not null && d.Source.Id != Source.Source.Id));

    /// <summary>Whether the person may accept.</summary>
    public bool MayAccept => IsCoordinator && Job.ArchivedAt is null;

    /// <summary>Metres in a unit as chosen; null where nothing says so.</summary>
    public double? Metres =>
        double.TryParse(Form.Scale, NumberStyles.Float, CultureInfo.InvariantCulture, out double m)
        && m is > 1e-6 and < 1e6
            ? m
            : Scale.Best?.MetresPerUnit;

    /// <summary>Shows the desk with what holds.</summary>
    public async Task<IActionResult> OnGetAsync(Guid source)
    {
        if (!await FindAsync(source))
            return NotFound();
        if (Source.SetOut is { } held)
            Form = DeskForm.Of(held);
        await WorkAsync();
        return Page();
    }

    /// <summary>Shows what the form would do.</summary>
    public async Task<IActionResult> OnPostPreviewAsync(Guid source)
    {
        if (!await FindAsync(source))
            return NotFound();
        await WorkAsync();
        ModelState.Clear();
        return Partial("_Desk", this);
    }

    /// <summary>The drawing as it would be prepared, from above.</summary>
    public async Task<IActionResult> OnPostPictureAsync(Guid source)
    {
        if (!await FindAsync(source))
            return NotFound();
        var drawing = await PreparedAsync();
        return await Task.Run(() => PlanPicture.Of(drawing)) is { } svg ? Content(svg, "image/svg+xml") : NotFound();
    }

    /// <summary>Points that a pick in that picture is caught by: x and y of ends, middles and centres, in the drawing's units as
    /// prepared.</summary>
    public async Task<IActionResult> OnPostSnapsAsync(Guid source)
    {
        if (!await FindAsync(source))
            return NotFound();
        double[] points = [.. SnapPoints.Of(await PreparedAsync(), MostSnaps).SelectMany(p => new[] { p.X, p.Y })];
        return File(MemoryMarshal.AsBytes<double>(points).ToArray(), "application/octet-stream");
    }

    /// <summary>What another source draws at the height of this drawing's level, in this drawing's units as prepared: x, y, x, y of each
    /// line. Of a model: its faces cut a metre above the level.</summary>
    /// <param name="source">The source.</param>
    /// <param name="over">The other one.</param>
    public async Task<IActionResult> OnPostOverlayAsync(Guid source, Guid over)
    {
        if (!await FindAsync(source))
            return NotFound();
        await WorkAsync();
        if (Placing is not { } placing || placing.Document.Upright == true)
            return Content("Give the drawing its scale and a place in plan first.", "text/plain");
        var lines = await OverlayLines.LoadAsync(Db, State, over, Form.Level, MostOverlaid, HttpContext.RequestAborted);
        if (lines is null)
            return NotFound();
        var back = placing.Document.Frame.Inverse();
        double[] ends =
        [
            .. lines
                .SelectMany(l => new[] { l.A, l.B })
                .Select(p => back.Point(new Vec3(p.X, p.Y, 0)))
                .SelectMany(p => new[] { p.X, p.Y }),
        ];
        return File(MemoryMarshal.AsBytes<double>(ends).ToArray(), "application/octet-stream");
    }

    /// <summary>Keeps what was picked as a detail of the library: two corners of a window and the insertion point.</summary>
    public async Task<IActionResult> OnPostKeepAsync(Guid source)
    {
        if (!await FindAsync(source))
            return NotFound();
        if (!MayKeep)
            return StatusCode(403);
        await WorkAsync();
        return await TryAsync(
            async () =>
            {
                if (Metres is not { } metres)
                    throw new RefusedException(
                        RefusalKind.Wrong,
                        "Nothing says how long a unit is: measure one known length first, so that the detail has a size wherever it is placed."
                    );
                if (Form.Cut() is not [var a, var b, var insertion])
                    throw new RefusedException(
                        RefusalKind.Wrong,
                        "Pick two corners of a window round the detail, then its insertion point."
                    );
                var drawing = await PreparedAsync();
                try
                {
                    byte[] content = await Task.Run(() =>
                        DetailCut.Of(drawing, [a, b], insertion, Form.Crossing, HttpContext.RequestAborted)
                    );
                    var size = drawing.Extents().Size * metres;
                    await library.KeepAsync(
                        Job.Id,
                        Form.KeepAs,
                        content,
                        new DetailFacts(metres, size.X, size.Y, Source.Label),
                        Actor,
                        HttpContext.RequestAborted
                    );
                }
                catch (OrderException e)
                {
                    throw new RefusedException(RefusalKind.Wrong, e.Message);
                }
            },
            $"{Form.KeepAs} is in the library of details; place it in any drawing from its drawing preparation.",
            () => Task.CompletedTask,
            $"/jobs/{Job.Code}/desk/{source}"
        );
    }

    /// <summary>The drawing as prepared, in a form of its own; never one that does not balance.</summary>
    /// <param name="source">The source.</param>
    /// <param name="into">The form's word.</param>
    public async Task<IActionResult> OnPostFileAsync(Guid source, string into)
    {
        if (!await FindAsync(source) || !DrawingForms.Files.TryGetValue(into ?? "", out var form))
            return NotFound();
        var delivery = await DeliveryAsync(Source.Latest!.Id);
        if (await TryStepsAsync() is { } steps)
        {
            var result = await converter.RunAsync(delivery!, form.Form, null, false, HttpContext.RequestAborted, steps);
            if (result.Balanced)
                return File(
                    result.Bytes,
                    "application/octet-stream",
                    $"{Path.GetFileNameWithoutExtension(delivery!.FileName)}-prepared{form.Form.Extension}"
                );
            Problem =
                $"{Say.Number(result.Unaccounted)} entities are unaccounted for, so nothing was written: {result.Differences.FirstOrDefault()}";
        }

        await WorkAsync();
        return Page();
    }

    /// <summary>The colour of what is picked.</summary>
    public string PickedColour { get; private set; } = "#000000";

    /// <summary>The kinds that are left, with how many there are.</summary>
    public IReadOnlyList<(string Name, int Count)> Kinds { get; private set; } = [];

    /// <summary>The colours that are left as they are seen, 0xRRGGBB, with how many there are.</summary>
    public IReadOnlyList<(int Rgb, int Count)> Colours { get; private set; } = [];

    /// <summary>References that stay open, a sentence each.</summary>
    public IReadOnlyList<CadFinding> OpenReferences { get; private set; } = [];

    /// <summary>Accepts scale, steps and place.</summary>
    public async Task<IActionResult> OnPostAcceptAsync(Guid source)
    {
        if (!await FindAsync(source))
            return NotFound();
        if (!MayAccept)
            return StatusCode(403);
        await WorkAsync();
        return await TryAsync(
            async () =>
            {
                if (Problem is not null)
                    throw new RefusedException(RefusalKind.Wrong, Problem);
                if (Placing is null)
                    throw new RefusedException(
                        RefusalKind.Wrong,
                        "The length of a unit is not known yet: measure one known length first."
                    );
                if (Scale.NoPlan is { } doubt && !Form.IsPlan && Placing.Document.Upright != true)
                    throw new RefusedException(
                        RefusalKind.Conflict,
                        $"{doubt} Nothing was placed. If it is one plan, select that beside the scale and accept again."
                    );
                await settings.AcceptAsync(
                    Source.Source,
                    Job.Id,
                    Placing.Document with
                    {
                        Level = Placing.Document.Upright == true ? null : Form.Level,
                        ShownWith = Form
                            .With.Where(l => l != Form.Level && State.Schedule.Rungs.Any(r => r.Level == l))
                            .ToList()
                            is { Count: > 0 } with
                            ? with
                            : null,
                        Why = Form.Why ?? "",
                        Steps = TrySteps()!.Steps is { Count: > 0 } steps ? steps : null,
                        ScaleEvidence = Scale
                            .Candidates.FirstOrDefault(c => Math.Abs((c.MetresPerUnit / Metres!.Value) - 1) < 1e-9)
                            ?.Evidence
                            ?? "typed",
                    },
                    Source.Latest!.Number,
                    Actor,
                    HttpContext.RequestAborted
                );
            },
            $"{Source.Label} is scaled, prepared and placed; its next revision runs through the same steps.",
            () => Task.CompletedTask,
            $"/jobs/{Job.Code}/desk/{source}"
        );
    }

    /// <summary>Takes an acceptance back.</summary>
    public async Task<IActionResult> OnPostTakeBackAsync(Guid source, Guid id)
    {
        if (!await FindAsync(source))
            return NotFound();
        if (!MayAccept)
            return StatusCode(403);
        return await TryAsync(
            () => settings.TakeBackAsync(Source.Source, Job.Id, id, Actor, HttpContext.RequestAborted),
            "Undone; the setting-out before it applies again.",
            WorkAsync,
            $"/jobs/{Job.Code}/desk/{source}"
        );
    }

    private async Task<bool> FindAsync(Guid id)
    {
        var cancel = HttpContext.RequestAborted;
        State = await JobState.LoadAsync(Db, Job.Id, cancel);
        if (
            State.Drawings.FirstOrDefault(s => s.Source.Id == id) is not { Latest: not null } source
            || !MaySeeFiles(source.Source.PartyId)
        )
            return false;
        Source = source;
        var rows = await Db
            .SettingOuts.AsNoTracking()
            .Where(s => s.SourceId == id)
            .OrderByDescending(s => s.AcceptedAt)
            .GroupJoin(Db.Users, s => s.AcceptedBy, u => u.Id, (s, u) => new { Row = s, Users = u })
            .SelectMany(x => x.Users.DefaultIfEmpty(), (x, u) => new { x.Row, By = u == null ? "" : u.DisplayName })
            .ToListAsync(cancel);
        History = [.. rows.Select(r => (r.Row, SettingOutDocument.Read(r.Row.Document), r.By))];
        return true;
    }

    private async Task<Drawing> PreparedAsync()
    {
        var drawing = await ReadAsync();
        if (await TryStepsAsync() is { } steps)
            await Task.Run(
                () => DrawingPreparation.Run(drawing, steps, HttpContext.RequestAborted),
                HttpContext.RequestAborted
            );
        return drawing;
    }

    private async Task<Drawing> ReadAsync()
    {
        var blob = await Db
            .Deliveries.Where(d => d.Id == Source.Latest!.Id)
            .Select(d => d.BlobId)
            .FirstAsync(HttpContext.RequestAborted);
        var references = await JobReferences.LoadAsync(Db, Job.Id, MaySeeFiles, HttpContext.RequestAborted);
        var (drawing, open) = await SheetDesk.ReadBoundAsync(
            Db,
            references,
            Source.Source,
            blob,
            HttpContext.RequestAborted
        );
        OpenReferences = open;
        return drawing;
    }

    // The steps with what the pressed button does to them; a step that makes no sense becomes a sentence, and the list stays.
    private PreparationDocument? TrySteps()
    {
        try
        {
            return PreparationDocument.Read(Form.Steps);
        }
        catch (OrderException e)
        {
            Problem = e.Message;
            return null;
        }
    }

    private async Task<PreparationDocument?> TryStepsAsync() =>
        TrySteps() is { } steps ? await library.WithAsync(Job.Id, steps, HttpContext.RequestAborted) : null;

    private async Task RunAsync(Drawing drawing)
    {
        if (await TryStepsAsync() is { } steps)
            Results = (
                await Task.Run(
                    () => DrawingPreparation.Run(drawing, steps, HttpContext.RequestAborted),
                    HttpContext.RequestAborted
                )
            ).Steps;
    }

    private async Task WorkAsync()
    {
        var cancel = HttpContext.RequestAborted;
        Details = await library.ListAsync(Job.Id, cancel);
        var drawing = await ReadAsync();
        var known = new List<KnownLength>();
        try
        {
            known.AddRange(
                (Form.Known ?? "")
                    .Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
                    .Select(KnownLength.Read)
            );
        }
        catch (OrderException e)
        {
            Problem = e.Message;
        }

        Scale = await Task.Run(() => ScaleReader.Read(drawing, known), cancel);
        string? before = Form.Steps;
        bool windowed = Form.Act == "window";
        Act();
        int came = drawing.Model.Entities.Count;
        await RunAsync(drawing);
        if (windowed && Problem is null && came > 0 && drawing.Model.Entities.Count == 0)
        {
            Problem = "The window holds nothing, so it was not added. Draw it around what you want to have.";
            Form = Form with { Steps = before };
            drawing = await ReadAsync();
            await RunAsync(drawing);
        }

        Count = (came, drawing.Model.Entities.Count);
        Layers =
        [
            .. drawing
                .Model.Entities.CountBy(e => drawing.LayerName(e.Layer))
                .OrderByDescending(l => l.Value)
                .Select(l => (l.Key, l.Value)),
        ];
        Kinds =
        [
            .. drawing
                .Model.Entities.CountBy(e => e.Type)
                .OrderByDescending(k => k.Value)
                .Select(k => (k.Key, k.Value)),
        ];
        Colours =
        [
            .. drawing
                .Model.Entities.CountBy(e => DrawingPreparation.ColourOf(drawing, e))
                .OrderByDescending(c => c.Value)
                .Select(c => (c.Key, c.Value)),
        ];
        Pick(drawing);
        if (Metres is { } metres)
            await PlaceAsync(drawing, metres, cancel);
    }

    // What the pressed button does to the steps.
    private void Act()
    {
        try
        {
            Form = Form.Acted(DetailScale);
        }
        catch (OrderException e)
        {
            Problem = e.Message;
            Form = Form with { Act = null };
        }
    }

    // Units of this drawing in a unit of a detail: both know how long theirs is.
    private double DetailScale(string name) =>
        Details.FirstOrDefault(d => d.Name == name) is not { } detail
            ? throw new OrderException("Choose a detail of the library first.")
            : detail.Facts.MetresPerUnit
                / (
                    Metres
                    ?? throw new OrderException(
                        "Nothing says how long a unit of this drawing is, so a detail has no size in it: measure one known length first."
                    )
                );

    private void Pick(Drawing drawing)
    {
        if (Form.At is [var x, var y] && Form.Act == "pick")
            Form = Form with
            {
                Picked = SnapPoints
                    .Nearest(drawing, new Vec2(x, y))
                    ?.Handle.Value.ToString("X", CultureInfo.InvariantCulture),
            };
        if (
            drawing.Model.Entities.FirstOrDefault(e =>
                e.Handle.Value.ToString("X", CultureInfo.InvariantCulture) == Form.Picked
            )
            is not { } entity
        )
            return;
        PickedEntity = $"{entity.Type} {Form.Picked} on {drawing.LayerName(entity.Layer)}";
        PickedColour = $"#{DrawingPreparation.ColourOf(drawing, entity):x6}";
        PickedHatch = entity is Hatch;
        PickedText = entity switch
        {
            TextEntity t => t.Value,
            MText t => t.Value,
            _ => null,
        };
    }

    private async Task PlaceAsync(Drawing drawing, double metres, CancellationToken cancel)
    {
        try
        {
            Placing = Form.Way switch
            {
                "grids" => SheetPlacing.ByGrids(metres, DrawingGrids.Of(drawing, metres), await AxesAsync(cancel)),
                "points" => SheetPlacing.ByPoints(metres, Form.Pairs()),
                "upright" => await UprightAsync(drawing, metres, cancel),
                "typed" => SheetPlacing.Typed(metres, new Vec2(Length(Form.X), Length(Form.Y)), Form.Degrees()),
                _ => SheetPlacing.Typed(metres, default, 0),
            };
        }
        catch (Exception e) when (e is FormatException or OrderException)
        {
            Problem = e.Message;
        }

        double Length(string? text) => string.IsNullOrWhiteSpace(text) ? 0 : LengthText.Read(text, ReaderUnit.Notation);
    }

    // Along a typed line, or along an axis of the chosen model.
    private async Task<SheetPlacing> UprightAsync(Drawing drawing, double metres, CancellationToken cancel)
    {
        var marks = await Task.Run(() => LevelMarks.Of(drawing), cancel);
        string line = (Form.Line ?? "").Trim();
        if (Form.LineEnds() is ({ } from, { } to))
            return SheetPlacing.Upright(metres, from, to, marks, State.Schedule);
        var axes = (await AxesAsync(cancel)).Where(a => a.Centre is null).ToList();
        var axis = axes.FirstOrDefault(a => a.Key == PlanAxis.KeyOf(line))
            ?? throw new OrderException(
                axes.Count == 0
                    ? "Write the line as x, y, x, y in the job, metres: where the drawing's zero is, then a point in the direction of its x."
                    : $"Write the line as x, y, x, y in the job, metres, or name an axis: {string.Join(", ", axes.Select(a => a.Tag).Take(20))}."
            );
        return SheetPlacing.Upright(metres, axis.Start, axis.End, marks, State.Schedule);
    }

    // The axes of the chosen model, else of the first that has some.
    private async Task<IReadOnlyList<PlanAxis>> AxesAsync(CancellationToken cancel)
    {
        var facts = await SetOutModel.LoadFactsAsync(Db, State, cancel);
        var on = Models
            .Where(m => facts.TryGetValue(m.Source.Id, out var f) && f.Axes.Count > 1)
            .OrderByDescending(m => m.Source.Id == Form.On)
            .ThenByDescending(m => m.SetOut is not null)
            .FirstOrDefault();
        return on is null ? [] : [.. facts[on.Source.Id].Axes.Select(a => a.In(on.Frame))];
    }
}
