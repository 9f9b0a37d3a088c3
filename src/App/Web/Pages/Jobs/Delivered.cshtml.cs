using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>A file that was handed over to a party.</summary>
public sealed record DeliveredRow(Guid Transmittal, string Title, int Number, DateTime RanAt, string Name, long Length, string Sha256);

/// <summary>What was handed over to the party that a recipient belongs to; nothing else of the job.</summary>
public sealed class DeliveredModel(LintelDb db, JobAccess access) : JobPage(db, access)
{
    /// <summary>The party.</summary>
    public Party? Party { get; private set; }

    /// <summary>The files by transmittal, newest first.</summary>
    public IReadOnlyList<IGrouping<Guid, DeliveredRow>> Transmittals { get; private set; } = [];

    /// <inheritdoc/>
    protected override bool IsForRecipients => true;

    /// <summary>Lists what there is.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (!Find()) return NotFound();
        Transmittals = [.. (await RowsAsync(null)).GroupBy(r => r.Transmittal)];
        return Page();
    }

    /// <summary>A file, byte for byte.</summary>
    public async Task<IActionResult> OnGetFileAsync(Guid id, string name)
    {
        if (!Find() || (await RowsAsync(id)).FirstOrDefault(r => r.Name == name) is not { } row) return NotFound();
        var blob = await Db.TransmittalFiles.Where(f => f.TransmittalId == id && f.Name == name).Select(f => f.BlobId)
            .FirstAsync(HttpContext.RequestAborted);
        Db.Note(Actor, Job.Id, "fetched", $"{row.Name} of transmittal {row.Number}, {row.Title}");
        await Db.SaveChangesAsync(HttpContext.RequestAborted);
        Response.ContentType = "application/octet-stream";
        Response.ContentLength = row.Length;
        Response.Headers.ContentDisposition = new System.Net.Http.Headers.ContentDispositionHeaderValue(
            "attachment")
        { FileNameStar = row.Name }.ToString();
        await new Blobs(Db).CopyToAsync(blob, Response.Body, HttpContext.RequestAborted);
        return new EmptyResult();
    }

    private bool Find() => (Party = Job.Parties.FirstOrDefault(p => p.Id == Member.PartyId)) is not null;

    // An order says in words to whom it goes: a party is meant by its code or its name.
    private async Task<List<DeliveredRow>> RowsAsync(Guid? only)
    {
        var done = await Db.Transmittals.AsNoTracking()
            .Where(t => t.Order.JobId == Job.Id && t.State == TransmittalState.Done && (only == null || t.Id == only))
            .OrderByDescending(t => t.RanAt).Select(t => new { t.Id, t.Order.Title, t.Number, t.RanAt, t.Spec, t.Files })
            .ToListAsync(HttpContext.RequestAborted);
        return [.. done.Where(t => IsMeant(OrderDocument.Read(t.Spec).To))
            .SelectMany(t => t.Files.OrderBy(f => f.Name, StringComparer.Ordinal)
            .Select(f => new DeliveredRow(t.Id, t.Title, t.Number, t.RanAt, f.Name, f.Length, f.Sha256)))];
    }

    private bool IsMeant(string to) => to.Trim().Equals(Party!.Code, StringComparison.OrdinalIgnoreCase)
        || (Party.Name.Length > 0 && to.Trim().Equals(Party.Name, StringComparison.OrdinalIgnoreCase));
}
