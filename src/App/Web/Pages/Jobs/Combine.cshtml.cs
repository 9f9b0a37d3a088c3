using System.Buffers.Binary;
using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>A value that elements can be shown or hidden by.</summary>
public sealed record ChipValue(int Index, string Name, int Count);

/// <summary>All sources in one picture.</summary>
[EnableRateLimiting(Security.ComputingLimit)]
public sealed partial class CombineModel(LintelDb db, JobAccess access, Details details, JobLibrary library)
    : JobPage(db, access)
{
    /// <summary>What the job holds.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>Chips with their values: storey, class, layer.</summary>
    public IReadOnlyList<(string Name, string Kind, IReadOnlyList<ChipValue> Values)> Chips { get; private set; } = [];

    /// <summary>Sources that nobody has set out and that lie so far away that they and the others cannot be seen in one picture.</summary>
    public IReadOnlyList<(SourceState Source, double Metres)> Far { get; private set; } = [];

    /// <summary>The source whose changes are drawn; null for none.</summary>
    public SourceState? Changed { get; private set; }

    /// <summary>The older revision that they are drawn against.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Old { get; set; }

    /// <summary>The figure of a balance whose elements are shown, in words; null for none.</summary>
    public string? Figure { get; private set; }

    /// <summary>Shows the page.</summary>
    /// <param name="changes">The source whose changes are drawn.</param>
    /// <param name="kept">The kept view that is shown.</param>
    /// <param name="run">The transmittal of whose balance a figure is shown.</param>
    /// <param name="storey">The figure's storey.</param>
    /// <param name="type">The figure's class.</param>
    /// <param name="account">What the figure counts.</param>
    public async Task OnGetAsync(Guid? changes, string? kept, Guid? run, string? storey, string? type, string? account)
    {
        Views =
        [
            .. (await library.ListAsync(Job.Id, HttpContext.RequestAborted))
                .Where(i => i.Kind == LibraryKind.View)
                .Select(i => i.Name),
        ];
        if (
            kept is not null
            && await library.ContentAsync(Job.Id, LibraryKind.View, kept, HttpContext.RequestAborted) is { } content
        )
            KeptAddress = await KeptView.AddressAsync(
                Db,
                Job.Id,
                ViewDocument.Read(System.Text.Encoding.UTF8.GetString(content)),
                HttpContext.RequestAborted
            );
        State = await StateAsync();
        // An empty storey is a storey: that of elements in none.
        if (run is { } id)
            await ShowFigureAsync(
                id,
                new BalanceFigure(Request.Query.ContainsKey("storey") ? storey ?? "" : null, type, account ?? "in")
            );
        if (Old is not null)
            Changed = State.Sources.FirstOrDefault(s => s.Source.Id == changes && s.Latest is not null);
        Far = await FarAsync(State);
        var index = new ViewIndex(State);
        Chips =
        [
            ("Storey", "storey", Counted(f => [index.Rung(f.Source, f.Facet.Storey)], index.RungNames, reversed: true)),
            ("Class", "class", Counted(f => [index.Class(f.Facet.Class)], [.. index.Classes.Select(Say.Class)])),
            ("Layer", "layer", Counted(f => [index.Layer(f.Facet.Layer)], index.Layers)),
        ];
    }

    private async Task ShowFigureAsync(Guid id, BalanceFigure figure)
    {
        var transmittal = await Db
            .Transmittals.AsNoTracking()
            .Include(t => t.Order)
            .FirstOrDefaultAsync(
                t => t.Id == id && t.Order.JobId == Job.Id && t.Result != null,
                HttpContext.RequestAborted
            );
        if (transmittal is null)
            return;
        try
        {
            var balance = TransmittalResult.Of(transmittal)!.Reconciliation;
            var (ids, more) = await figure.ElementsAsync(Db, State, transmittal, balance, HttpContext.RequestAborted);
            KeptAddress = await KeptView.AddressAsync(
                Db,
                Job.Id,
                new ViewDocument
                {
                    Only = ids,
                    Off = new ViewOff { Class = [""] },
                },
                HttpContext.RequestAborted
            );
            Figure =
                $"Order {transmittal.Order.Number}, transmittal {transmittal.Number}: {FigureWords(figure)}, {Say.Count(ids.Count, "element", "elements")} of the newest revisions"
                + (
                    more
                        ? $"; not all, since of a source no more than {Say.Number(BalanceFigure.MostElements)} are looked at"
                        : ""
                );
        }
        catch (OrderException e)
        {
            Figure = e.Message;
        }
    }

    private static string FigureWords(BalanceFigure figure) =>
        (figure.Class is null ? "" : Say.Classes(figure.Class) + " ")
        + (
            figure.Account switch
            {
                "left" => "left out",
                "written" => "that went",
                "unaccounted" => "unaccounted",
                _ => "in all",
            }
        )
        + (
            figure.Storey is null ? ""
            : figure.Storey.Length == 0 ? " in no storey"
            : $" of {figure.Storey}"
        );

    /// <summary>The names of the views that are kept.</summary>
    public IReadOnlyList<string> Views { get; private set; } = [];

    /// <summary>The kept view that is asked for, as the address of what it shows; null for none.</summary>
    public string? KeptAddress { get; private set; }

    /// <summary>Keeps what the browser shows, as a view; or its shown elements, as a set.</summary>
    /// <param name="name">What it is called.</param>
    /// <param name="what"><c>view</c>, or <c>set</c> for the elements that are hidden, isolated or picked one by one.</param>
    /// <param name="view">The view as the browser has it; its elements as <c>revision.number</c>.</param>
    public async Task<IActionResult> OnPostKeepAsync(string? name, string? what, [FromForm] string? view)
    {
        if (!MayHandOver)
            return StatusCode(403);
        try
        {
            var kept = await KeptView.ReadAsync(Db, Job.Id, view ?? "", HttpContext.RequestAborted);
            if (what == "set" && kept.Elements.Count == 0)
                throw new RefusedException(RefusalKind.Wrong, "Isolate or pick the elements of the set first.");
            int version =
                what == "set"
                    ? await library.KeepAsync(
                        Job.Id,
                        LibraryKind.Set,
                        name,
                        Bytes(SetDocument.Of(kept.Elements).Write()),
                        Actor,
                        HttpContext.RequestAborted
                    )
                    : await library.KeepAsync(
                        Job.Id,
                        LibraryKind.View,
                        name,
                        Bytes(kept.Document.Write()),
                        Actor,
                        HttpContext.RequestAborted
                    );
            return Content($"{name!.Trim()} is saved as version {version}.");
        }
        catch (RefusedException e)
        {
            return new ContentResult { StatusCode = Status(e.Kind), Content = e.Message };
        }
        catch (OrderException e)
        {
            return new ContentResult { StatusCode = 400, Content = e.Message };
        }
    }

    private static byte[] Bytes(string text) => System.Text.Encoding.UTF8.GetBytes(text);

    /// <summary>What there is to draw: sources, storeys, chunks.</summary>
    public async Task<IActionResult> OnGetSceneAsync()
    {
        var state = await JobState.LoadAsync(Db, Job.Id, HttpContext.RequestAborted);
        var index = new ViewIndex(state);
        var far = (await FarAsync(state)).Select(f => f.Source.Source.Id).ToHashSet();
        var ids = state
            .Sources.Select(s => far.Contains(s.Source.Id) ? Guid.Empty : s.Latest?.Id ?? Guid.Empty)
            .ToList();
        var chunks = await Db
            .Chunks.AsNoTracking()
            .Where(c => ids.Contains(c.RevisionId))
            .OrderBy(c => c.RevisionId)
            .ThenBy(c => c.Number)
            .ToListAsync(HttpContext.RequestAborted);
        return new JsonResult(
            new
            {
                sources = state.Sources.Select(s => new
                {
                    id = s.Latest?.Id,
                    label = s.Label,
                    colour = s.Source.Party.Colour,
                    elements = s.Latest?.Elements ?? 0,
                    frame = Numbers(s.Frame),
                }),
                rungs = state.Schedule.Rungs.Select(r => new { r.Name, r.Elevation }),
                chunks = chunks.Select(c => new
                {
                    source = ids.IndexOf(c.RevisionId),
                    hash = c.Hash,
                    triangles = c.Triangles,
                    storey = index.Rung(ids.IndexOf(c.RevisionId), c.Storey),
                    @class = index.Class(c.Class),
                }),
                names = new
                {
                    source = index.Sources,
                    storey = index.RungNames,
                    @class = index.Classes,
                    layer = index.Layers,
                    sheet = Placed(state).Select(d => ViewIndex.NameOf(d)),
                },
                notation = ReaderUnit.Word,
                sheets = Sheets(state, index),
                spaces = index.Class("IfcSpace"),
            }
        );
    }

    /// <summary>Changes in a source since an older revision: numbers of elements of its newest, and the older revision itself for what
    /// was removed.</summary>
    public async Task<IActionResult> OnGetChangesAsync(Guid changes, int old)
    {
        var cancel = HttpContext.RequestAborted;
        var state = await JobState.LoadAsync(Db, Job.Id, cancel);
        int source = state.Sources.ToList().FindIndex(s => s.Source.Id == changes);
        if (source < 0 || state.Sources[source].Latest is not { } latest)
            return NotFound();
        var older = await Db
            .Revisions.AsNoTracking()
            .Where(r => r.SourceId == changes && r.Number == old && r.Kind == RevisionKind.Model)
            .Select(r => new { r.Id, r.Elements })
            .FirstOrDefaultAsync(cancel);
        if (older is null)
            return NotFound();
        if (await StoredFingerprints.LoadAsync(Db, older.Id, latest.Id, cancel) is not ({ } before, { } after))
            return NotFound();
        var picture = await Task.Run(
            () => ChangePicture.Of(RevisionComparer.Compare(before, after), before, after),
            cancel
        );
        var index = new ViewIndex(state);
        var rows = await Db
            .Elements.AsNoTracking()
            .Where(e => e.RevisionId == older.Id && picture.Removed.Contains(e.Number))
            .Select(e => new
            {
                e.Number,
                e.Storey,
                e.Class,
                e.Layer,
            })
            .ToListAsync(cancel);
        var storeys = await StoreysAsync(older.Id, latest.Id, cancel);
        var cells = rows.Select(r => (r.Storey, r.Class)).ToHashSet();
        var chunks = await Db.Chunks.AsNoTracking().Where(c => c.RevisionId == older.Id).ToListAsync(cancel);
        var frames = await SourceFrames.LoadAsync(Db, Job.Id, cancel);
        return new JsonResult(
            new
            {
                source,
                picture.Added,
                picture.Changed,
                removed = rows.ConvertAll(r =>
                    new[]
                    {
                        r.Number,
                        index.Rung(source, storeys.GetValueOrDefault(r.Storey, -1)),
                        index.ClassOrFirst(r.Class),
                        index.LayerOrFirst(r.Layer),
                    }
                ),
                old = new
                {
                    id = older.Id,
                    label = $"{state.Sources[source].Title} r{old}",
                    colour = "#b3261e",
                    elements = older.Elements,
                    frame = Numbers(frames.FrameOf(changes, old)),
                },
                chunks = chunks
                    .Where(c => cells.Contains((c.Storey, c.Class)))
                    .Select(c => new
                    {
                        source = state.Sources.Count,
                        hash = c.Hash,
                        triangles = c.Triangles,
                        storey = 0,
                        @class = index.ClassOrFirst(c.Class),
                    }),
            }
        );
    }

    /// <summary>For every element of a source, three numbers of two bytes: its storey, class and layer in the chips.</summary>
    public async Task<IActionResult> OnGetElementsAsync(int source)
    {
        var state = await JobState.LoadAsync(Db, Job.Id, HttpContext.RequestAborted);
        if (source < 0 || source >= state.Sources.Count || state.Sources[source].Latest is not { } latest)
            return NotFound();
        var index = new ViewIndex(state);
        var bytes = new byte[latest.Elements * 6];
        await foreach (
            var e in Db
                .Elements.AsNoTracking()
                .Where(e => e.RevisionId == latest.Id)
                .Select(e => new
                {
                    e.Number,
                    e.Storey,
                    e.Class,
                    e.Layer,
                })
                .AsAsyncEnumerable()
                .WithCancellation(HttpContext.RequestAborted)
        )
        {
            BinaryPrimitives.WriteUInt16LittleEndian(bytes.AsSpan(e.Number * 6), (ushort)index.Rung(source, e.Storey));
            BinaryPrimitives.WriteUInt16LittleEndian(bytes.AsSpan((e.Number * 6) + 2), (ushort)index.Class(e.Class));
            BinaryPrimitives.WriteUInt16LittleEndian(bytes.AsSpan((e.Number * 6) + 4), (ushort)index.Layer(e.Layer));
        }

        return File(bytes, "application/octet-stream");
    }

    // The number that each storey of an older revision has in the newest, by GlobalId, else by name; those that are gone are left out.
    private async Task<Dictionary<int, int>> StoreysAsync(Guid older, Guid newest, CancellationToken cancel)
    {
        var levels = await Db
            .Levels.AsNoTracking()
            .Where(l => l.RevisionId == older || l.RevisionId == newest)
            .ToListAsync(cancel);
        var now = levels.Where(l => l.RevisionId == newest).ToList();
        LevelRow? Now(LevelRow l) =>
            now.Find(n => n.GlobalId.Length > 0 && n.GlobalId == l.GlobalId) ?? now.Find(n => n.Name == l.Name);
        return levels
            .Where(l => l.RevisionId == older)
            .Select(l => (l.Number, Now: Now(l)))
            .Where(p => p.Now is not null)
            .ToDictionary(p => p.Number, p => p.Now!.Number);
    }

    /// <summary>A chunk's content; its address never changes meaning, so it may be kept for ever.</summary>
    public async Task<IActionResult> OnGetChunkAsync(string hash)
    {
        var bytes = await Db
            .ChunkContents.AsNoTracking()
            .Where(c =>
                c.Hash == hash
                && Db.Chunks.Any(r =>
                    r.Hash == hash && Db.Revisions.Any(v => v.Id == r.RevisionId && v.Delivery.Source.JobId == Job.Id)
                )
            )
            .Select(c => c.Bytes)
            .FirstOrDefaultAsync(HttpContext.RequestAborted);
        if (bytes is null)
            return NotFound();
        Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        Response.Headers.ContentEncoding = "br";
        return File(bytes, "model/vnd.steady-lintel.chunk");
    }

    /// <summary>The slip of a picked element.</summary>
    public async Task<IActionResult> OnGetFactsAsync(Guid id, int number)
    {
        if (await DeliveryAsync(id) is not { } delivery)
            return NotFound();
        var row = await Db
            .Elements.AsNoTracking()
            .FirstOrDefaultAsync(e => e.RevisionId == id && e.Number == number, HttpContext.RequestAborted);
        if (row is null)
            return NotFound();
        var level = await Db
            .Levels.AsNoTracking()
            .FirstOrDefaultAsync(l => l.RevisionId == id && l.Number == row.Storey, HttpContext.RequestAborted);
        double? above = row.Box is { } box && level is not null ? box[2] - (level.PlacementZ ?? level.Elevation) : null;
        var frames = await SourceFrames.LoadAsync(Db, Job.Id, HttpContext.RequestAborted);
        var frame = frames.FrameOf(delivery.SourceId, delivery.Revision!.Number);
        return Partial("_Slip", new SlipModel(delivery, row, IntakeStore.Unpack(row.Facts), above, frame));
    }

    private static IEnumerable<SourceState> Placed(JobState state) => state.Drawings.Where(d => d.SetOut is not null);

    // The drawings that are placed, with the storeys that each is shown with.
    private static List<object> Sheets(JobState state, ViewIndex index) =>
        [
            .. Placed(state)
                .Select(d =>
                    (object)
                        new
                        {
                            id = d.SetOutId,
                            revision = d.Latest!.Id,
                            label = ViewIndex.NameOf(d),
                            colour = d.Source.Party.Colour,
                            upright = d.SetOut!.Upright == true,
                            storeys = (int[])
                                [
                                    .. (d.SetOut!.ShownWith ?? [])
                                        .Select(l => (int?)l)
                                        .Append(d.SetOut.Level)
                                        .Select(l => index.RungOf(l))
                                        .Distinct(),
                                ],
                        }
                ),
        ];

    private async Task<List<(SourceState Source, double Metres)>> FarAsync(JobState state)
    {
        if (state.Sources.All(s => s.Latest is null || s.SetOut is not null))
            return [];
        var facts = await SetOutModel.LoadFactsAsync(Db, state, HttpContext.RequestAborted);
        return
        [
            .. state
                .Sources.Where(s =>
                    s is { Latest: not null, SetOut: null }
                    && facts.TryGetValue(s.Source.Id, out var f)
                    && f.FromZero > Geometry.SinglePrecision.Far
                )
                .Select(s => (s, facts[s.Source.Id].FromZero)),
        ];
    }

    // The axes as columns, then the origin; doubles, so that the large part is taken off before the graphics card sees it.
    private static double[] Numbers(Geometry.Frame f) =>
        [f.X.X, f.X.Y, f.X.Z, f.Y.X, f.Y.Y, f.Y.Z, f.Z.X, f.Z.Y, f.Z.Z, f.Origin.X, f.Origin.Y, f.Origin.Z];

    private List<ChipValue> Counted(
        Func<(int Source, FacetRow Facet), IEnumerable<int>> indexes,
        IReadOnlyList<string> names,
        bool reversed = false
    )
    {
        var counts = new int[names.Count];
        foreach (var group in State.Facets)
        foreach (var facet in group)
        foreach (int i in indexes((group.Key, facet)))
            counts[i] += facet.Count;
        var values = names.Select((n, i) => new ChipValue(i, n, counts[i])).Where(v => v.Count > 0);
        return
        [
            .. reversed
                ? values.OrderByDescending(v => v.Index == names.Count - 1 ? -1 : v.Index)
                : values.OrderByDescending(v => v.Count),
        ];
    }
}
