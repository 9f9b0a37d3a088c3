using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>The job's library of details: kept on a drawing's desk, placed again from there, fetched one by one or side by side on a sheet.
/// </summary>
[EnableRateLimiting(Security.ComputingLimit)]
public sealed class DetailsModel(JobAccess access, Details library) : JobPage(access)
{
    /// <summary>Scales that detail sheets are drawn at (ISO 5455).</summary>
    public static readonly IReadOnlyList<int> Scales = [1, 2, 5, 10, 20, 50, 100];

    /// <summary>Papers by name, with their long side in millimetres (ISO 216).</summary>
    public static readonly IReadOnlyList<(string Name, int Width)> Papers =
    [
        ("A4", 297),
        ("A3", 420),
        ("A2", 594),
        ("A1", 841),
        ("A0", 1189),
    ];

    /// <summary>The details.</summary>
    public IReadOnlyList<KeptDetail> All { get; private set; } = [];

    /// <summary>Whether the person may remove some.</summary>
    public bool MayChange => Permissions.MayChangeLibrary;

    /// <summary>Shows the library.</summary>
    public Task OnGetAsync() => LoadAsync();

    /// <summary>A picture of a detail.</summary>
    public async Task<IActionResult> OnGetPictureAsync(Guid id)
    {
        if (await library.ContentAsync(Job.Id, id, HttpContext.RequestAborted) is not { } content)
            return NotFound();
        // A version never changes.
        Response.Headers.CacheControl = "private, max-age=86400, immutable";
        return
            await Task.Run(() => PlanPicture.Of(CadFile.Read(content, HttpContext.RequestAborted).Drawing)) is { } svg
            ? Content(svg, "image/svg+xml")
            : NotFound();
    }

    /// <summary>A detail by itself.</summary>
    /// <param name="id">Which.</param>
    /// <param name="into">The form's word.</param>
    public async Task<IActionResult> OnGetFileAsync(Guid id, string? into)
    {
        await LoadAsync();
        if (
            All.FirstOrDefault(d => d.Id == id) is not { } detail
            || !DrawingFiles.All.TryGetValue(into ?? "", out var form)
        )
            return NotFound();
        byte[] content = (await library.ContentAsync(Job.Id, id, HttpContext.RequestAborted))!;
        var result = await Task.Run(() =>
            DrawingConverter.Convert(content, form.Form, cancel: HttpContext.RequestAborted)
        );
        return File(result.Bytes, "application/octet-stream", LayerNames.Clean(detail.Name) + form.Form.Extension);
    }

    /// <summary>The ticked details side by side on a sheet.</summary>
    public async Task<IActionResult> OnPostSheetAsync(List<string>? name, int scale, int width, string? into)
    {
        await LoadAsync();
        if (!DrawingFiles.All.TryGetValue(into ?? "", out var form) || !Scales.Contains(scale))
            return NotFound();
        var chosen = All.Where(d => name?.Contains(d.Name) == true).ToList();
        if (chosen.Count == 0)
        {
            Problem = "Select the details for the sheet.";
            Response.StatusCode = 400;
            return Page();
        }

        var details = new List<SheetDetail>();
        foreach (var d in chosen)
            details.Add(
                new SheetDetail(
                    d.Name,
                    (await library.ContentAsync(Job.Id, d.Id, HttpContext.RequestAborted))!,
                    d.Facts.MetresPerUnit
                )
            );
        using var bytes = new MemoryStream();
        await Task.Run(() =>
            CadFile.Write(
                DetailSheet.Of(details, scale, width, HttpContext.RequestAborted),
                bytes,
                form.Form,
                HttpContext.RequestAborted
            )
        );
        return File(
            bytes.ToArray(),
            "application/octet-stream",
            string.Create(CultureInfo.InvariantCulture, $"{Job.Code}-details-1-{scale}{form.Form.Extension}")
        );
    }

    /// <summary>Removes a detail.</summary>
    public async Task<IActionResult> OnPostRemoveAsync(string? name) =>
        !MayChange
            ? StatusCode(403)
            : await TryAsync(
                () => library.RemoveAsync(Job.Id, name, Actor, HttpContext.RequestAborted),
                $"{name} is removed; drawings that place it say so.",
                LoadAsync
            );

    private async Task LoadAsync() => All = await library.ListAsync(Job.Id, HttpContext.RequestAborted);
}
