using System.IO.Compression;
using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>One order: the sentence, its preview, and its transmittals.</summary>
public sealed class OrderModel(LintelDb db, JobAccess access, Orders orders) : JobPage(db, access)
{
    /// <inheritdoc/>
    protected override string? ChangeScope => "handover";

    /// <summary>The forms an order can have.</summary>
    public static readonly string[] Forms = ["ifc", .. DrawingForms.All.Keys, DrawingForms.None];

    /// <summary>The units an order can have.</summary>
    public static readonly string[] Units = ["", "mm", "m", "ft"];

    /// <summary>The order.</summary>
    public OrderRow Order { get; private set; } = null!;

    /// <summary>The order's words.</summary>
    public OrderSentence Spec { get; private set; } = new();

    /// <summary>The order itself.</summary>
    public OrderDocument Document { get; private set; } = Orders.Everything;

    /// <summary>What the job holds.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>What the order would give.</summary>
    public OrderPreview Preview { get; private set; } = null!;

    /// <summary>Its runs, newest first.</summary>
    public IReadOnlyList<Transmittal> Transmittals { get; private set; } = [];

    /// <summary>Names of who ran them.</summary>
    public IReadOnlyDictionary<Guid, string> People { get; private set; } = new Dictionary<Guid, string>();

    /// <summary>Whether a source has a newer revision than the last run used.</summary>
    public bool Stale => Transmittals.Count > 0 && Transmittals[0].Revisions.Any(d => !State.Newest.Contains(d));

    /// <summary>Classes to choose from.</summary>
    public IReadOnlyList<NamedCount> Classes => Counted(f => [f.Class]);

    /// <summary>Layers to choose from.</summary>
    public IReadOnlyList<NamedCount> Layers => Counted(f => f.Layer.Length == 0 ? [] : f.Layer.Split('\n'));

    /// <summary>A form in words.</summary>
    public static string FormName(string form) => DrawingForms.All.TryGetValue(form, out var drawing)
        ? drawing.Name : form == DrawingForms.None ? "no model" : "IFC, the source's schema";

    /// <summary>The file of a form: <c>DWG 2010</c> of <c>DWG 2010, plans</c>.</summary>
    public static string FormFile(string form) => DrawingForms.All.TryGetValue(form, out var drawing) ? drawing.File
        : form == DrawingForms.None ? "No model, drawings alone" : "IFC";

    /// <summary>What a form carries, as a heading.</summary>
    public static string FormContent(string form) =>
        DrawingForms.All.TryGetValue(form, out var drawing) ? drawing.Content
            : form == DrawingForms.None ? "Drawings alone" : "The model, in the source's schema";

    /// <summary>A unit in words.</summary>
    public static string UnitName(string code) => LengthUnit.Find(code) is { } unit
        ? (unit.Code == "ft" ? "feet" : unit.Name + "s") : "the source's unit";

    /// <summary>A split in words.</summary>
    public static string SplitName(bool byStorey) => byStorey ? "for each storey" : "in all";

    private static string Words(IEnumerable<string> chosen, string every)
    {
        var list = chosen.ToList();
        return list.Count switch
        {
            0 => every,
            1 => list[0],
            < 5 => string.Join(", ", list.SkipLast(1)) + " and " + list[^1],
            _ => $"{list[0]}, {list[1]} and {list.Count - 2} more"
        };
    }

    /// <summary>The changeable words of the sentence, by field.</summary>
    public IReadOnlyDictionary<string, string> SentenceWords => new Dictionary<string, string>
    {
        ["To"] = Spec.To is { Length: > 0 } to ? to : "whoever needs it",
        ["Classes"] = Spec.Classes.Count == 0 ? "every class" : "the " + Words(Spec.Classes.Select(Say.Classes), ""),
        ["Storeys"] = Words(Spec.Storeys, "every storey"),
        ["Layers"] = Words(Spec.Layers, "every layer"),
        ["Sources"] = Words(State.Sources.Where(s => Spec.Sources.Contains(s.Source.Id)).Select(s => s.Label), "every source"),
        ["Form"] = FormName(Spec.Form ?? "ifc"),
        ["Unit"] = UnitName(Spec.Unit ?? ""),
        ["Frame"] = FrameName(Document.Frame),
        ["Drawings"] = DrawingWords,
        ["ByStorey"] = SplitName(Spec.ByStorey),
        ["Name"] = Spec.Name ?? "",
    };

    private string DrawingWords => string.IsNullOrEmpty(Spec.Drawings) ? "no drawings" : (Spec.DrawingSources.Count == 0 ? "every drawing"
        : Words(State.Drawings.Where(d => Spec.DrawingSources.Contains(d.Source.Id)).Select(d => d.Source.Name), "")) + " " + (
        Spec.Drawings == "received" ? "as received" : string.IsNullOrEmpty(Spec.DrawingFile) ? "prepared" : $"prepared, as {DrawingFile(Spec.DrawingFile)}");

    /// <summary>The forms prepared drawings can have; empty for the one that came.</summary>
    public static readonly string[] DrawingFiles = ["", .. DrawingForms.Files.Keys];

    /// <summary>A form of prepared drawings in words.</summary>
    public static string DrawingFile(string word) => DrawingForms.Files.TryGetValue(word, out var file) ? file.Name : "the form that came";

    /// <summary>The frames that can be chosen.</summary>
    public static readonly IReadOnlyList<string> Frames = ["source", "job", "party", "map", "local"];

    /// <summary>A frame in the sentence.</summary>
    public static string FrameName(string frame) => frame switch
    {
        "source" => "each source's own frame",
        "job" => "the job's frame",
        "party" => "the receiver's own frame",
        "map" => "the map's frame",
        "local" => "a frame near the origin",
        _ => frame,
    };

    /// <summary>What was left out, by rule.</summary>
    public static IEnumerable<NamedCount> Reasons(Reconciliation r) =>
        r.Rows.SelectMany(x => x.Reasons).GroupBy(x => x.Key).Select(g => new NamedCount(g.Key, g.Sum(x => x.Value)));

    /// <summary>A check in a sentence.</summary>
    public static string CheckWords(ReconciliationCheck c)
    {
        string size = c.Name.EndsWith("(mm)", StringComparison.Ordinal)
            ? $" within {c.Largest:0.###} mm" : c.Name.EndsWith("(%)", StringComparison.Ordinal) ? $" within {c.Largest:0.####} %" : "";
        string name = c.Name.Split(" (")[0];
        return c.Differ == 0 ? $"{char.ToUpperInvariant(name[0])}{name[1..]} of {Say.Number(c.Same)} elements the same{size}."
            : $"{c.Differ} {name} differ{size}.";
    }

    /// <summary>A run's outcome.</summary>
    public HandoverResult? ResultOf(Transmittal t) =>
        t.Result is null ? null : JsonSerializer.Deserialize<HandoverResult>(t.Result, IntakeStore.Json);

    /// <inheritdoc/>
    public override async Task OnPageHandlerExecutionAsync(PageHandlerExecutingContext context, PageHandlerExecutionDelegate next)
    {
        await base.OnPageHandlerExecutionAsync(context, async () =>
        {
            var order = await Db.Orders.FirstOrDefaultAsync(o => o.JobId == Job.Id
                && o.Number == Convert.ToInt32(RouteData.Values["number"], System.Globalization.CultureInfo.InvariantCulture));
            if (order is null)
            {
                context.Result = new NotFoundResult();
                return new PageHandlerExecutedContext(PageContext, context.Filters, context.HandlerMethod, context.HandlerInstance);
            }

            Order = order;
            Document = OrderDocument.Read(order.Spec);
            Spec = OrderSentence.Of(Document);
            return await next();
        });
    }

    /// <summary>Shows the order.</summary>
    public async Task OnGetAsync()
    {
        await LoadAsync();
        await PreviewAsync();
    }

    /// <summary>The transmittals alone.</summary>
    public async Task<IActionResult> OnGetRunsAsync()
    {
        await LoadAsync();
        return Partial("_Runs", this);
    }

    /// <summary>The preview of words not yet saved.</summary>
    public async Task<IActionResult> OnPostPreviewAsync([FromForm] OrderSentence sentence)
    {
        (Spec, Document) = (sentence, sentence.In(Document));
        State = await JobState.LoadAsync(Db, Job.Id, HttpContext.RequestAborted);
        await PreviewAsync();
        return Partial("_PreviewWithWords", this);
    }

    /// <summary>Saves the words.</summary>
    public async Task<IActionResult> OnPostSaveAsync([FromForm] OrderSentence sentence)
    {
        if (!MayHandOver) return StatusCode(403);
        await SaveAsync(sentence);
        return Redirect($"/jobs/{Job.Code}/handover/{Order.Number}");
    }

    /// <summary>Saves the words and runs them.</summary>
    public async Task<IActionResult> OnPostRunAsync([FromForm] OrderSentence sentence)
    {
        if (!MayHandOver) return StatusCode(403);
        await SaveAsync(sentence);
        try
        {
            await orders.RunAsync(Order, Actor, HttpContext.RequestAborted);
        }
        catch (RefusedException e)
        {
            Problem = e.Message;
            Response.StatusCode = Status(e.Kind);
            await OnGetAsync();
            return Page();
        }

        return Redirect($"/jobs/{Job.Code}/handover/{Order.Number}");
    }

    /// <summary>Calls a run off.</summary>
    public async Task<IActionResult> OnPostCancelAsync(Guid id)
    {
        if (!MayHandOver) return StatusCode(403);
        await orders.CancelAsync(Order, id, Actor, HttpContext.RequestAborted);
        return await OnGetRunsAsync();
    }

    /// <summary>All files of a run and its manifest, as they are read from the database: nothing is held in memory.</summary>
    public async Task<IActionResult> OnGetZipAsync(Guid id)
    {
        var run = await Db.Transmittals.AsNoTracking().Include(t => t.Files)
            .FirstOrDefaultAsync(t => t.Id == id && t.OrderId == Order.Id && t.State == TransmittalState.Done);
        if (run is null) return NotFound();
        Response.ContentType = "application/zip";
        Response.Headers.ContentDisposition = $"attachment; filename=\"{Job.Code}-order{Order.Number}-transmittal{run.Number}.zip\"";
        var blobs = new Blobs(Db);
        await using var zip = new ZipArchive(Response.BodyWriter.AsStream(), ZipArchiveMode.Create, leaveOpen: true);
        foreach (var file in run.Files.OrderBy(f => f.Name, StringComparer.Ordinal))
        {
            await using var entry = await zip.CreateEntry(file.Name, CompressionLevel.Fastest).OpenAsync(HttpContext.RequestAborted);
            await blobs.CopyToAsync(file.BlobId, entry, HttpContext.RequestAborted);
        }

        await using (var manifest = await zip.CreateEntry("manifest.json").OpenAsync(HttpContext.RequestAborted))
            await JsonSerializer.SerializeAsync(manifest, Manifest(run),
                new JsonSerializerOptions(JsonSerializerDefaults.Web) { WriteIndented = true }, HttpContext.RequestAborted);
        return new EmptyResult();
    }

    private object Manifest(Transmittal run)
    {
        var result = ResultOf(run)!;
        return new
        {
            Job = Job.Code,
            Number = Order.Number,
            Transmittal = run.Number,
            run.RanAt,
            Order = OrderDocument.Read(run.Spec),
            result.Files,
            Rows = result.Reconciliation.Rows.Select(
                r => new { r.Storey, r.Class, r.In, r.LeftOut, r.Written, r.Found, r.Unaccounted, r.Reasons }),
            result.Reconciliation.Checks,
            result.Reconciliation.NotCarried,
            result.Reconciliation.Ledger,
            result.Drawings,
            result.Unaccounted,
            result.Balanced,
        };
    }

    private async Task SaveAsync(OrderSentence sentence)
    {
        (Spec, Document) = (sentence, sentence.In(Document));
        await orders.SaveAsync(Order, sentence.Title ?? "", Document, Actor, HttpContext.RequestAborted);
    }

    private async Task LoadAsync()
    {
        State = await JobState.LoadAsync(Db, Job.Id, HttpContext.RequestAborted);
        Transmittals = await Db.Transmittals.AsNoTracking().Where(t => t.OrderId == Order.Id).OrderByDescending(t => t.Number).Take(30)
            .ToListAsync(HttpContext.RequestAborted);
        var who = Transmittals.Select(t => t.RanBy).Distinct().ToList();
        People = await Db.Users.AsNoTracking().Where(u => who.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.DisplayName);
    }

    private async Task PreviewAsync() => Preview = await OrderPreview.OfAsync(Db, State, Document, HttpContext.RequestAborted);

    private List<NamedCount> Counted(Func<FacetRow, IEnumerable<string>> names) =>
        [.. State.Facets.SelectMany(g => g.SelectMany(f => names(f).Select(n => (Name: n, f.Count)))).GroupBy(x => x.Name)
            .Select(g => new NamedCount(g.Key, g.Sum(x => x.Count))).OrderBy(c => Say.Class(c.Name), StringComparer.Ordinal)];
}
