using Microsoft.AspNetCore.Mvc;
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
        var receipt = TransmittalSheet.Of(
            Job,
            Order,
            run,
            TransmittalResult.Of(run)!,
            await query.NamesAsync(new[] { (Guid?)run.RanBy, run.SignedBy }.OfType<Guid>(), HttpContext.RequestAborted)
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
        var other = await query.BeforeAsync(run, with, HttpContext.RequestAborted);
        if (other is null)
            return NotFound();
        return Partial("_TransmittalChanges", TransmittalComparison.Of(other, run));
    }

    private Task<Transmittal?> RunOfAsync(Guid id) => query.RunAsync(Order.Id, id, HttpContext.RequestAborted);

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
        await archive.FetchAllAsync(
            Job.Id,
            $"transmittal {run.Number}, {Order.Title}",
            Actor,
            HttpContext.RequestAborted
        );
        Response.ContentType = "application/zip";
        Response.Headers.ContentDisposition =
            $"attachment; filename=\"{TransmittalArchive.Name(Job.Code, Order.Number, run.Number)}\"";
        await archive.WriteAsync(
            run.Id,
            TransmittalArchive.Manifest(Job.Code, Order, run),
            Response.BodyWriter.AsStream(),
            HttpContext.RequestAborted
        );
        return new EmptyResult();
    }
}
