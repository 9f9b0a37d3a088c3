using System.IO.Compression;
using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

// The transmittals of an order's page: signed, compared, downloaded, cancelled.
public sealed partial class OrderModel
{
    /// <summary>Releases a transmittal that is not balanced.</summary>
    public async Task<IActionResult> OnPostSignAsync(Guid id, string? why) =>
        !MayHandOver
            ? StatusCode(403)
            : await TryAsync(
                () => handing.SignAsync(Order, id, why, Actor, HttpContext.RequestAborted),
                "Released. The activity log has who released it and why.",
                OnGetAsync,
                $"/jobs/{Job.Code}/handover/{Order.Number}"
            );

    /// <summary>The receipt sheet of a run, to read or to print.</summary>
    /// <param name="id">The run.</param>
    /// <param name="into"><c>pdf</c>, else a page.</param>
    public async Task<IActionResult> OnGetReceiptAsync(Guid id, string? into)
    {
        if (await RunOfAsync(id) is not { } run)
            return NotFound();
        var receipt = await TransmittalSheet.OfAsync(
            Db,
            Job,
            Order,
            run,
            TransmittalResult.Of(run)!,
            HttpContext.RequestAborted
        );
        return into == "pdf"
            ? File(
                SheetPdf.Write(receipt),
                "application/pdf",
                $"{Job.Code}-order{Order.Number}-transmittal{run.Number}.pdf"
            )
            : Partial("_TransmittalSheet", receipt);
    }

    /// <summary>What differs between a run and the one before it, or another.</summary>
    public async Task<IActionResult> OnGetCompareAsync(Guid id, int? with)
    {
        if (await RunOfAsync(id) is not { } run)
            return NotFound();
        var other = await Db
            .Transmittals.AsNoTracking()
            .Include(t => t.Files)
            .Where(t =>
                t.OrderId == Order.Id
                && t.State == TransmittalState.Done
                && (with == null ? t.Number < run.Number : t.Number == with)
            )
            .OrderByDescending(t => t.Number)
            .FirstOrDefaultAsync(HttpContext.RequestAborted);
        if (other is null)
            return NotFound();
        return Partial("_TransmittalChanges", TransmittalComparison.Of(other, run));
    }

    private Task<Transmittal?> RunOfAsync(Guid id) =>
        Db
            .Transmittals.AsNoTracking()
            .Include(t => t.Files)
            .Include(t => t.Receipts)
            .FirstOrDefaultAsync(
                t => t.Id == id && t.OrderId == Order.Id && t.State == TransmittalState.Done,
                HttpContext.RequestAborted
            );

    /// <summary>Cancels a run.</summary>
    public async Task<IActionResult> OnPostCancelAsync(Guid id)
    {
        if (!MayHandOver)
            return StatusCode(403);
        await orders.CancelAsync(Order, id, Actor, HttpContext.RequestAborted);
        return await OnGetRunsAsync();
    }

    /// <summary>All files of a run and its manifest, as they are read from the database: nothing is held in memory.</summary>
    public async Task<IActionResult> OnGetZipAsync(Guid id)
    {
        if (await RunOfAsync(id) is not { } run)
            return NotFound();
        Response.ContentType = "application/zip";
        Response.Headers.ContentDisposition =
            $"attachment; filename=\"{Job.Code}-order{Order.Number}-transmittal{run.Number}.zip\"";
        var blobs = new Blobs(Db);
        await using var zip = new ZipArchive(Response.BodyWriter.AsStream(), ZipArchiveMode.Create, leaveOpen: true);
        foreach (var file in run.Files.OrderBy(f => f.Name, StringComparer.Ordinal))
        {
            await using var entry = await zip.CreateEntry(file.Name, CompressionLevel.Fastest)
                .OpenAsync(HttpContext.RequestAborted);
            await blobs.CopyToAsync(file.BlobId, entry, HttpContext.RequestAborted);
        }

        await using (var manifest = await zip.CreateEntry("manifest.json").OpenAsync(HttpContext.RequestAborted))
            await JsonSerializer.SerializeAsync(
                manifest,
                Manifest(run),
                new JsonSerializerOptions(JsonSerializerDefaults.Web) { WriteIndented = true },
                HttpContext.RequestAborted
            );
        return new EmptyResult();
    }

    private object Manifest(Transmittal run)
    {
        var result = TransmittalResult.Of(run)!;
        return new
        {
            Job = Job.Code,
            Number = Order.Number,
            Transmittal = run.Number,
            run.RanAt,
            Order = OrderDocument.Read(run.Spec),
            result.Files,
            Rows = result.Reconciliation.Rows.Select(r => new
            {
                r.Storey,
                r.Class,
                r.In,
                r.LeftOut,
                r.Written,
                r.Found,
                r.Unaccounted,
                r.Reasons,
            }),
            result.Reconciliation.Checks,
            result.Reconciliation.NotCarried,
            result.Reconciliation.Ledger,
            result.Drawings,
            result.Unaccounted,
            result.Balanced,
        };
    }
}
