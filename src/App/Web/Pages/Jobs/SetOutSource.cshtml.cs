using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>What somebody asks for in the form; the same words in the address, the preview and the acceptance.</summary>
public sealed record SettingOutForm
{
    /// <summary>The way; empty for the one that fits best.</summary>
    public string? Way { get; init; }

    /// <summary>The source it is set out on.</summary>
    public Guid? On { get; init; }

    /// <summary>Typed shift.</summary>
    public string? X { get; init; }

    /// <summary>See <see cref="X"/>.</summary>
    public string? Y { get; init; }

    /// <summary>See <see cref="X"/>.</summary>
    public string? Z { get; init; }

    /// <summary>Degrees.</summary>
    public string? Turn { get; init; }

    /// <summary>The scale; empty for 1.</summary>
    public string? Scale { get; init; }

    /// <summary>Control points as a table.</summary>
    public string? Points { get; init; }

    /// <summary>Points whose switch is on.</summary>
    public List<string> Used { get; init; } = [];

    /// <summary>Points that are shown with a switch, so that those not switched on are off.</summary>
    public List<string> Shown { get; init; } = [];

    /// <summary>Whether the scale is released.</summary>
    public bool FreeScale { get; init; }

    /// <summary>Why.</summary>
    public string? Why { get; init; }
}

/// <summary>Sets one source out: each way previewed before anything is accepted.</summary>
public sealed class SetOutSourceModel(JobAccess access, SettingOuts settings, SettingOutQuery query) : JobPage(access)
{
    /// <summary>The ways, with what they are called.</summary>
    public static readonly IReadOnlyList<(string Word, string Name)> Ways =
    [
        ("grids", "Grid tags"),
        ("points", "Control points"),
        ("typed", "Typed values"),
        ("levels", "Levels only"),
        ("declared", "Map conversions"),
        ("same", "Same as another source"),
    ];

    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>The source.</summary>
    public SourceState Source { get; private set; } = null!;

    /// <summary>What it is set out on; null where the job has no other model.</summary>
    public SourceState? Reference { get; private set; }

    /// <summary>What may be asked for.</summary>
    public SettingOutForm Form { get; private set; } = new();

    /// <summary>What comes of it.</summary>
    public Proposal Proposal { get; private set; } = null!;

    /// <summary>What the source declares; null where it was read by an older version.</summary>
    public FrameFacts? Facts { get; private set; }

    /// <summary>The pictures.</summary>
    public SettingOutPicture Picture { get; private set; } = null!;

    /// <summary>Settings-out that were accepted, newest first, with who did.</summary>
    public IReadOnlyList<AcceptedSettingOut> History { get; private set; } = [];

    /// <summary>The other sources with a model.</summary>
    public IReadOnlyList<SourceState> Others =>
        [.. State.Sources.Where(s => s.Latest is not null && s.Source.Id != Source.Source.Id)];

    /// <summary>The reference's frame for the browser: three axes and an origin.</summary>
    public string FrameNumbers =>
        JsonSerializer.Serialize(
            (Reference?.Frame ?? Frame.Identity) is var f
                ? new[]
                {
                    f.X.X,
                    f.X.Y,
                    f.X.Z,
                    f.Y.X,
                    f.Y.Y,
                    f.Y.Z,
                    f.Z.X,
                    f.Z.Y,
                    f.Z.Z,
                    f.Origin.X,
                    f.Origin.Y,
                    f.Origin.Z,
                }
                : []
        );

    /// <summary>Whether the person may accept.</summary>
    public bool MayAccept => Permissions.MaySetOut;

    /// <summary>Shows the page.</summary>
    public async Task<IActionResult> OnGetAsync(Guid source, [FromQuery] SettingOutForm form) =>
        await LoadAsync(source, form) ? Page() : NotFound();

    /// <summary>The proposal alone.</summary>
    public async Task<IActionResult> OnPostPreviewAsync(Guid source, [FromForm] SettingOutForm form) =>
        await LoadAsync(source, form) ? Partial("_SettingOut", this) : NotFound();

    /// <summary>Accepts the proposal.</summary>
    public async Task<IActionResult> OnPostAcceptAsync(Guid source, [FromForm] SettingOutForm form)
    {
        if (!MayAccept)
            return StatusCode(403);
        if (!await LoadAsync(source, form))
            return NotFound();
        if (Proposal.Document is not { } document)
            return Page();
        // What holds for the newest revision now is replaced for the same revisions; a jump of the frame before them stays behind.
        int from = History
            .Where(h => h.Row.TakenBackAt is null && h.Row.FromRevision <= Source.Latest!.Number)
            .Select(h => h.Row.FromRevision)
            .FirstOrDefault(1);
        return await TryAsync(
            () => settings.AcceptAsync(Source.Source, Job.Id, document, null, from, Actor, HttpContext.RequestAborted),
            $"{Source.Label} is set out. From now on, everything that shows it or hands it over uses this.",
            () => LoadAsync(source, form),
            $"/jobs/{Job.Code}/setout"
        );
    }

    /// <summary>Takes an accepted setting-out back.</summary>
    public async Task<IActionResult> OnPostTakeBackAsync(Guid source, Guid id)
    {
        if (!MayAccept)
            return StatusCode(403);
        if (!await LoadAsync(source, new()))
            return NotFound();
        return await TryAsync(
            () => settings.TakeBackAsync(Source.Source, Job.Id, id, Actor, HttpContext.RequestAborted),
            "Undone; the setting-out before it applies again.",
            () => LoadAsync(source, new())
        );
    }

    /// <summary>The control points of the proposal as a table.</summary>
    public async Task<IActionResult> OnPostPointsAsync(Guid source, [FromForm] SettingOutForm form) =>
        await LoadAsync(source, form)
            ? File(
                Encoding.UTF8.GetBytes(PointTable.Write(Proposal.Points)),
                "text/csv",
                $"{Job.Code}-{Source.Source.Party.Code}-points.csv"
            )
            : NotFound();

    /// <summary>The accepted setting-out as a file, for <c>lintel handover --setting</c>.</summary>
    public async Task<IActionResult> OnGetFileAsync(Guid source) =>
        await LoadAsync(source, new()) && Source.SetOut is { } set
            ? File(
                Encoding.UTF8.GetBytes(set.Write()),
                "application/json",
                $"{Job.Code}-{Source.Source.Party.Code}-setting-out.json"
            )
            : NotFound();

    /// <summary>What a picked point of the source or the reference may be caught by, in its own frame and in the job's, metres: corners of
    /// elements in plan.</summary>
    public async Task<IActionResult> OnGetCornersAsync(Guid source, Guid of)
    {
        var state = await StateAsync();
        if (state.Sources.FirstOrDefault(s => s.Source.Id == of && s.Latest is not null) is not { } wanted)
            return NotFound();
        var corners = await query.CornersAsync(wanted.Latest!.Id, HttpContext.RequestAborted);
        return new JsonResult(
            corners.SelectMany(c => new[] { Math.Round(c.X, 4), Math.Round(c.Y, 4), Math.Round(c.Z, 4) })
        );
    }

    private async Task<bool> LoadAsync(Guid id, SettingOutForm form)
    {
        var cancel = HttpContext.RequestAborted;
        State = await StateAsync();
        if (State.Sources.FirstOrDefault(s => s.Source.Id == id && s.Latest is not null) is not { } source)
            return false;
        Source = source;
        Reference = Others.FirstOrDefault(o => o.Source.Id == form.On)
            ?? Others.FirstOrDefault(o => o.SetOut?.Evidence == EvidenceKind.Reference)
            ?? Others.FirstOrDefault(o => o.SetOut is not null)
            ?? Others.FirstOrDefault();
        var facts = await query.FactsAsync(State, cancel);
        Facts = facts.GetValueOrDefault(id);
        // What was fitted to points is shown with them, to look at and to go on from.
        if (form is { Way: null, Points: null } && source.SetOut is { Evidence: EvidenceKind.Points } set)
            form = form with { Way = "points", Points = PointTable.Write(set.Points.Select(p => p.Point)) };
        if (Facts is not null && Reference is not null)
            Offers =
            [
                .. Ways.Where(w => Offered.Contains(w.Word)).Select(w => (w.Word, w.Name, Propose(facts, w.Word))),
            ];
        Form = form with { Way = Way(form.Way), On = Reference?.Source.Id };
        Proposal = Facts is null
            ? new Proposal(
                null,
                [],
                null,
                [],
                [],
                "This model was read by an older version of the program and is being read again. Load the page again in some minutes."
            )
            : Propose(facts, Form.Way!);
        Picture = new SettingOutPicture(
            State,
            Source,
            Reference,
            facts,
            Proposal,
            await query.OutlinesAsync(Source.Latest!.Id, cancel),
            Reference is null ? [] : await query.OutlinesAsync(Reference.Latest!.Id, cancel)
        );
        History = await query.HistoryAsync(id, cancel);
        return true;
    }

    /// <summary>What the ways that need nothing typed would give, each with its residuals or why it gives nothing.</summary>
    public IReadOnlyList<(string Way, string Name, Proposal Proposal)> Offers { get; private set; } = [];

    private Proposal Propose(IReadOnlyDictionary<Guid, FrameFacts> facts, string way)
    {
        var wish = new ProposalWish
        {
            Way = way,
            X = Form.X,
            Y = Form.Y,
            Z = Form.Z,
            Turn = Form.Turn,
            Scale = Form.Scale,
            Points = Form.Points,
            Off = [.. Form.Shown.Except(Form.Used)],
            FreeScale = Form.FreeScale,
            Why = Form.Why,
        };
        var own = new ProposalSource(Source.Label, Facts!, Source.SetOut);
        var reference =
            Reference is { } r && facts.TryGetValue(r.Source.Id, out var f)
                ? new ProposalSource(r.Label, f, r.SetOut)
                : null;
        // Levels that only this source is on say nothing about where it ought to be.
        int number = State.Sources.ToList().IndexOf(Source);
        var levels = State
            .Schedule.Rungs.Where(l => l.Storeys.Count == 0 || l.Storeys.Any(s => s.Source != number))
            .Select(l => (l.Name, l.Elevation))
            .ToList();
        return Proposal.Of(wish, own, reference, levels, ReaderUnit.Notation);
    }

    private static readonly string[] Offered = ["grids", "declared", "levels"];

    // The first that gives something: grids have residuals, a map conversion is what the sender stated, levels give the height alone.
    private string Way(string? asked) =>
        Ways.Any(w => w.Word == asked) ? asked!
        : Facts is null || Reference is null ? "typed"
        : Offers.Where(o => o.Proposal.Document is not null).Select(o => o.Way).FirstOrDefault("points");
}
