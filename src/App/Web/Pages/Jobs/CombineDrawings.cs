using System.Buffers.Binary;
using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

// The placed drawings of the combined view.
public sealed partial class CombineModel
{
    /// <summary>The lines of a placed drawing, prepared, in the job's frame (<see cref="SheetLines"/>).</summary>
    /// <param name="sheet">The acceptance that placed it.</param>
    /// <param name="revision">The revision that is drawn.</param>
    public async Task<IActionResult> OnGetSheetAsync(Guid sheet, Guid revision)
    {
        var cancel = HttpContext.RequestAborted;
        var state = await StateAsync();
        var drawing = state.Drawings.FirstOrDefault(d => d.Latest?.Id == revision);
        if (drawing?.SetOut is not { } document || drawing.SetOutId != sheet)
            return NotFound();
        var frame = JobModel.FrameOf(document, state.Schedule);
        // What was accepted and the height of its level are all that it depends on: asked again, nothing is read again.
        // So are the drawings it refers to and the details it places.
        string tag = string.Create(
            CultureInfo.InvariantCulture,
            $"\"{sheet:N}{revision:N}{frame.Origin.Z:R}{state.Model.HashOf(JobPart.Drawings)}\""
        );
        Response.Headers.ETag = tag;
        Response.Headers.CacheControl = "private, no-cache";
        if (Request.Headers.IfNoneMatch == tag)
            return StatusCode(304);
        var read = await desk.PreparedAsync(state, drawing, HttpContext.RequestAborted);
        return File(await Task.Run(() => SheetLines.Of(read, frame), cancel), "application/octet-stream");
    }

    /// <summary>What was picked in a placed drawing.</summary>
    /// <param name="sheet">The acceptance that placed it.</param>
    /// <param name="item">The item of the picked segment.</param>
    /// <param name="at">Where it was picked, metres in the job's frame: <c>x,y,z</c>.</param>
    public async Task<IActionResult> OnGetItemAsync(Guid sheet, int item, string? at)
    {
        var state = await StateAsync();
        if (state.Drawings.FirstOrDefault(d => d.SetOut is not null && d.SetOutId == sheet) is not { } drawing)
            return NotFound();
        var read = await desk.PreparedAsync(state, drawing, HttpContext.RequestAborted);
        return SheetLines.ItemOf(read, item) is { } found
            ? Partial("_SheetSlip", (drawing, found, AskLink.PlaceOf(at) is null ? null : at))
            : NotFound();
    }

    /// <summary>The drawings of the job, placed or not, with what is on their sheets.</summary>
    public async Task<IActionResult> OnGetDrawingsAsync()
    {
        var cancel = HttpContext.RequestAborted;
        var state = await StateAsync();
        return Partial(
            "_Drawings",
            new DrawingList(
                Job,
                state,
                await desk.SheetsAsync(state, cancel),
                await details.ListAsync(Job.Id, cancel),
                MaySeeFiles
            )
        );
    }
}
