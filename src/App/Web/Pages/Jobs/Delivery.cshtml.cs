using System.Globalization;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>How a received drawing is wanted.</summary>
/// <param name="Form">One of <see cref="DrawingFiles.All"/>.</param>
/// <param name="Apart">Whether inserts are exploded.</param>
/// <param name="OnlyShown">Whether only the layers that are shown go.</param>
/// <param name="Layer">The layers that are shown.</param>
public sealed record DrawingWish(string Form = "", bool Apart = false, bool OnlyShown = false, string[]? Layer = null);

/// <summary>A delivery's intake report.</summary>
[EnableRateLimiting(Security.ComputingLimit)]
public sealed class DeliveryModel(
    JobAccess access,
    ConvertDrawing converter,
    HeldDeliveries held,
    DeliveryQuery deliveries,
    DrawingDesk desk,
    TopicsOnDrawing topics
) : JobPage(access)
{
    /// <summary>The delivery.</summary>
    public Delivery Delivery { get; private set; } = null!;

    /// <summary>Its report, null until it is read.</summary>
    public IntakeReport? Report { get; private set; }

    /// <summary>The report of a drawing, null for models and until it is read.</summary>
    public DrawingReport? Drawing { get; private set; }

    /// <summary>Elements named in findings, by GlobalId.</summary>
    public IReadOnlyDictionary<string, int> Numbers { get; private set; } = new Dictionary<string, int>();

    /// <summary>The files a drawing refers to that the job has, by path, with what they are.</summary>
    public IReadOnlyDictionary<string, string> Resolved { get; private set; } = new Dictionary<string, string>();

    /// <summary>Open topics on the drawing, as the script of the plan reads them; null where there are none.</summary>
    public string? Pins { get; private set; }

    /// <summary>Who decided about it, where somebody had to.</summary>
    public string Decider { get; private set; } = "";

    /// <summary>Uses a delivery that was held, turned down or withdrawn.</summary>
    public Task<IActionResult> OnPostUseAsync(Guid id) =>
        DecideAsync(
            id,
            () => held.UseAsync(Job.Id, id, Actor, HttpContext.RequestAborted),
            "The revision is in use. Orders that give it show as stale."
        );

    /// <summary>Turns a held delivery down.</summary>
    public Task<IActionResult> OnPostTurnDownAsync(Guid id, string? word) =>
        DecideAsync(
            id,
            () => held.TurnDownAsync(Job.Id, id, word, Actor, HttpContext.RequestAborted),
            "The delivery is rejected, and its sender gets your words by mail."
        );

    /// <summary>Withdraws a delivery that is in use.</summary>
    public Task<IActionResult> OnPostWithdrawAsync(Guid id, string? why) =>
        DecideAsync(
            id,
            () => held.WithdrawAsync(Job.Id, id, why, Actor, HttpContext.RequestAborted),
            "The delivery is withdrawn. Orders that gave it show as stale."
        );

    private async Task<IActionResult> DecideAsync(Guid id, Func<Task> decide, string done)
    {
        if (!Permissions.MayDecide)
            return StatusCode(403);
        if (!await LoadAsync(id))
            return NotFound();
        return await TryAsync(decide, done, async () => await LoadAsync(id));
    }

    /// <summary>Shows the report.</summary>
    public async Task<IActionResult> OnGetAsync(Guid id)
    {
        if (!await LoadAsync(id))
            return Delivery is null ? NotFound() : StatusCode(403);
        if (Drawing is { ExternalReferences.Count: > 0 } drawing)
        {
            var references = await desk.ReferencesAsync(Job.Id, MaySeeFiles, HttpContext.RequestAborted);
            Resolved = drawing
                .ExternalReferences.Where(x => x.IsDrawing)
                .Select(x => x.Path)
                .Distinct()
                .Select(p => (Path: p, Label: references.LabelOf(p, Delivery.Source.PartyId)))
                .Where(x => x.Label is not null)
                .ToDictionary(x => x.Path, x => x.Label!);
        }

        if (Drawing is { } sheet)
            Pins = await PinsAsync(sheet);
        Decider = await deliveries.DeciderAsync(Delivery, HttpContext.RequestAborted);
        var named = (Report?.Findings ?? [])
            .SelectMany(f => f.Elements.Take(200))
            .Select(e => e.GlobalId)
            .Where(g => g.Length > 0)
            .Distinct()
            .ToList();
        Numbers = await deliveries.NumbersAsync(id, named, HttpContext.RequestAborted);
        return Page();
    }

    // Of the newest drawing alone: an older one may have lain elsewhere.
    private async Task<string?> PinsAsync(DrawingReport sheet)
    {
        var state = await StateAsync();
        if (state.Drawings.FirstOrDefault(d => d.Latest?.Id == Delivery.Revision?.Id) is not { } newest)
            return null;
        var found = await topics.FindAsync(state, Permissions, newest, sheet.Extents, HttpContext.RequestAborted);
        return found.Count == 0
            ? null
            : JsonSerializer.Serialize(
                found.Select(f => new
                {
                    number = f.Topic.Number,
                    title = f.Topic.Title,
                    at = new[] { f.At.X, f.At.Y },
                    late = DisplayText.IsLate(f.Topic.Due),
                    address = $"/jobs/{Job.Code}/topics/{f.Topic.Number}",
                })
            );
    }

    /// <summary>A picture of the drawing from above: model space, or the layout of a name.</summary>
    public async Task<IActionResult> OnGetPlanAsync(Guid id, string? layout)
    {
        if (!await LoadAsync(id) || Drawing is null)
            return NotFound();
        var drawing = CadFile
            .Read(await converter.BytesAsync(Delivery, HttpContext.RequestAborted), HttpContext.RequestAborted)
            .Drawing;
        // The original never changes, so neither does its picture, unless it draws on others.
        Response.Headers.CacheControl = drawing.Blocks.Any(b => b.IsXref)
            ? "private, no-cache"
            : "private, max-age=86400, immutable";
        await (await desk.ReferencesAsync(Job.Id, MaySeeFiles, HttpContext.RequestAborted)).BindAsync(
            drawing,
            Delivery.Source.PartyId,
            HttpContext.RequestAborted
        );
        return PlanPicture.Of(drawing, string.IsNullOrEmpty(layout) ? null : layout) is { } svg
            ? Content(svg, "image/svg+xml")
            : NotFound();
    }

    /// <summary>What a drawing becomes in another form: the balance, with a way to fetch the file.</summary>
    public async Task<IActionResult> OnPostConvertAsync(Guid id, DrawingWish wish) =>
        await ConvertAsync(id, wish) is { } done
            ? Partial("_Converted", (done, Name: ConvertedName(wish)))
            : NotFound();

    /// <summary>The file in another form.</summary>
    public async Task<IActionResult> OnPostConvertedAsync(Guid id, DrawingWish wish) =>
        await ConvertAsync(id, wish) is { } done
            ? File(done.Bytes, "application/octet-stream", ConvertedName(wish))
            : NotFound();

    private async Task<ConversionResult?> ConvertAsync(Guid id, DrawingWish wish)
    {
        if (!DrawingFiles.All.TryGetValue(wish.Form, out var to) || !await LoadAsync(id) || Drawing is null)
            return null;
        var shown = new SelectionRule(SelectionVerb.Only, RuleField.Layer, wish.Layer ?? []);
        return await converter.RunAsync(
            Delivery,
            to.Form,
            wish.OnlyShown ? new Selection([shown]) : null,
            wish.Apart,
            HttpContext.RequestAborted
        );
    }

    private string ConvertedName(DrawingWish wish) => $"{Stem}-{wish.Form}.{wish.Form[..3]}";

    /// <summary>The report as JSON.</summary>
    public async Task<IActionResult> OnGetJsonAsync(Guid id) =>
        await LoadAsync(id) && Delivery.Revision is { } revision
            ? File(
                Encoding.UTF8.GetBytes(
                    JsonSerializer.Serialize(
                        JsonDocument.Parse(revision.Report),
                        new JsonSerializerOptions { WriteIndented = true }
                    )
                ),
                "application/json",
                $"{Stem}-intake.json"
            )
            : NotFound();

    /// <summary>The findings as CSV, one line an element.</summary>
    public async Task<IActionResult> OnGetCsvAsync(Guid id)
    {
        if (!await LoadAsync(id) || Report is null)
            return NotFound();
        var lines = Report.Findings.SelectMany(
            f => f.Elements.DefaultIfEmpty(new FindingElement("", 0, "", "", "")),
            (f, e) =>
                new
                {
                    f.Code,
                    Severity = f.Severity.ToString(),
                    f.Message,
                    e.GlobalId,
                    Instance = e.StepId,
                    e.Class,
                    e.Name,
                    e.Detail,
                }
        );
        return File(CsvTable.Write(lines), "text/csv", $"{Stem}-findings.csv");
    }

    /// <summary>The original, byte for byte.</summary>
    public async Task<IActionResult> OnGetOriginalAsync(Guid id)
    {
        if (
            !await LoadAsync(id) || await deliveries.OriginalAsync(Delivery, HttpContext.RequestAborted) is not { } blob
        )
            return NotFound();
        Response.ContentType = "application/octet-stream";
        Response.ContentLength = Delivery.Length;
        Response.Headers.ContentDisposition = new System.Net.Http.Headers.ContentDispositionHeaderValue("attachment")
        {
            FileNameStar = Delivery.FileName,
        }.ToString();
        await deliveries.CopyToAsync(blob, Response.Body, HttpContext.RequestAborted);
        return new EmptyResult();
    }

    /// <summary>The worst finding among codes with these beginnings, as a verdict.</summary>
    public (string Css, string Text) Verdict(params string[] codes)
    {
        var found = (Report?.Findings ?? [])
            .Where(f => codes.Any(c => f.Code.StartsWith(c, StringComparison.Ordinal)))
            .ToList();
        if (found.Count == 0)
            return ("ok", "no problems");
        var worst = found.Max(f => f.Severity);
        return (
            worst.ToString().ToLowerInvariant(),
            DisplayText.Count(
                found.Count,
                worst == Severity.Note ? "note" : "finding",
                worst == Severity.Note ? "notes" : "findings"
            )
        );
    }

    private string Stem => Path.GetFileNameWithoutExtension(Delivery.FileName);

    private async Task<bool> LoadAsync(Guid id)
    {
        if (await DeliveryAsync(id) is not { } delivery)
            return false;
        Delivery = delivery;
        if (!MaySeeFiles(delivery.Source.PartyId))
            return false;
        if (delivery.Revision is { Kind: RevisionKind.Model, Report: var model })
            Report = JsonSerializer.Deserialize<IntakeReport>(model, IntakeStore.Json);
        else if (delivery.Revision is { Kind: RevisionKind.Drawing, Report: var drawing })
            Drawing = JsonSerializer.Deserialize<DrawingReport>(drawing, IntakeStore.Json);
        return true;
    }
}
