using System.Globalization;
using System.Runtime.InteropServices;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>The drawing desk: a drawing is scaled with evidence, prepared by steps, and placed at a level.</summary>
[EnableRateLimiting(Security.ComputingLimit)]
public sealed partial class DeskModel(
    JobAccess access,
    SettingOuts settings,
    ConvertDrawing converter,
    Details library,
    DrawingDesk desk,
    SettingOutQuery query
) : JobPage(access)
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
    public bool MayKeep => Permissions.MaySaveDetails;

    /// <summary>What was accepted, the newest first.</summary>
    public IReadOnlyList<AcceptedSettingOut> History { get; private set; } = [];

    /// <summary>The models it can be placed on.</summary>
    public IReadOnlyList<SourceState> Models => [.. State.Sources.Where(s => s.Latest is not null)];

    /// <summary>What can be laid over it: models, and other drawings that are placed.</summary>
    public IEnumerable<SourceState> Overlays =>
        Models.Concat(State.Drawings.Where(d => d.SetOut is not null && d.Source.Id != Source.Source.Id));

    /// <summary>Whether the person may accept.</summary>
    public bool MayAccept => Permissions.MaySetOut;

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
            Form = DeskForm.Of(held, Source.Preparation);
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
        var lines = await desk.OverlayAsync(State, over, Form.Level, MostOverlaid, HttpContext.RequestAborted);
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
        if (!await FindAsync(source) || !DrawingFiles.All.TryGetValue(into ?? "", out var form))
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
                $"{DisplayText.Number(result.Unaccounted)} entities are unaccounted for, so nothing was written: {result.Differences.FirstOrDefault()}";
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
                        ScaleEvidence = Scale
                            .Candidates.FirstOrDefault(c => Math.Abs((c.MetresPerUnit / Metres!.Value) - 1) < 1e-9)
                            ?.Evidence
                            ?? "typed",
                    },
                    TrySteps(),
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
}
