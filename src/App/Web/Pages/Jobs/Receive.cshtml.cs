using Hangfire;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Receiving: files arrive in pieces, so that a lost connection or a restarted server costs one piece.</summary>
public sealed class ReceiveModel(LintelDb db, JobAccess access, IBackgroundJobClient queue) : JobPage(db, access)
{
    /// <summary>The steps of a delivery that are shown.</summary>
    public static readonly DeliveryState[] Steps = [DeliveryState.Received, DeliveryState.Indexing, DeliveryState.Reading, DeliveryState.Shaping, DeliveryState.Storing];

    /// <summary>The job's deliveries, newest first.</summary>
    public IReadOnlyList<Delivery> Deliveries { get; private set; } = [];

    /// <summary>The job's sources.</summary>
    public IReadOnlyList<Source> Sources { get; private set; } = [];

    /// <summary>Parties the member may deliver for.</summary>
    public IReadOnlyList<Party> DeliverFor => [.. Job.Parties.Where(p => MayDeliver(p.Id)).OrderBy(p => p.Code)];

    /// <summary>The name to suggest.</summary>
    public string FirstSource => Sources.FirstOrDefault(s => s.PartyId == DeliverFor[0].Id)?.Name ?? "";

    /// <summary>Shows the page.</summary>
    public async Task OnGetAsync()
    {
        Sources = await Db.Sources.AsNoTracking().Where(s => s.JobId == Job.Id).OrderBy(s => s.Name).ToListAsync(HttpContext.RequestAborted);
        await LoadAsync();
    }

    /// <summary>Shows the list alone.</summary>
    public async Task<IActionResult> OnGetListAsync()
    {
        await LoadAsync();
        return Partial("_Deliveries", this);
    }

    /// <summary>Begins a delivery.</summary>
    /// <returns>Its identity.</returns>
    public async Task<IActionResult> OnPostBeginAsync(Guid party, string? source, string? fileName, long length)
    {
        if (Job.Parties.FirstOrDefault(p => p.Id == party) is not { } found || !MayDeliver(party)) return Refuse(403, "You may not deliver for this party.");
        if (length > UploadLimits.MaxBytes) return Refuse(400, $"The file is longer than {UploadLimits.MaxBytes >> 20} MB; ask for it in parts.");
        if (length <= 0) return Refuse(400, "The file is empty (0 bytes); ask for it to be sent again.");
        string file = Path.GetFileName((fileName ?? "").Replace('\\', '/'));
        var target = await SourceAsync(party, string.IsNullOrWhiteSpace(source) ? found.Discipline : source.Trim(), file);
        var delivery = new Delivery { Id = Guid.NewGuid(), SourceId = target.Id, FileName = file.Length == 0 ? "model.ifc" : file[..Math.Min(200, file.Length)], Length = length, BlobId = Guid.NewGuid(), ReceivedAt = DateTime.UtcNow, ReceivedBy = JobAccess.UserId(User) };
        Db.Deliveries.Add(delivery);
        await Db.SaveChangesAsync();
        return new JsonResult(new { id = delivery.Id });
    }

    // Models and drawings do not follow one another in one source: what is sent to a source of the other kind is one of its own, named like the file.
    private async Task<Source> SourceAsync(Guid party, string name, string file)
    {
        bool drawing = DrawingEndings.Contains(Path.GetExtension(file), StringComparer.OrdinalIgnoreCase);
        string stem = Path.GetFileNameWithoutExtension(file);
        foreach (string title in new[] { name, stem, $"{stem} ({(drawing ? "drawing" : "model")})" }.Where(t => t.Length > 0).Select(t => t[..Math.Min(LongestName, t.Length)]))
        {
            if (await Db.Sources.FirstOrDefaultAsync(s => s.PartyId == party && s.Name == title) is not { } known) return Add(title);
            if (!await Db.Deliveries.AnyAsync(d => d.SourceId == known.Id && d.Revision != null && (d.Drawing != null) != drawing)) return known;
        }

        return Add($"{Guid.NewGuid():N}");

        Source Add(string title)
        {
            var made = new Source { Id = Guid.NewGuid(), JobId = Job.Id, PartyId = party, Name = title };
            Db.Sources.Add(made);
            return made;
        }
    }

    private const int LongestName = 80;

    private static readonly string[] DrawingEndings = [".dwg", ".dxf"];

    /// <summary>Takes one piece; its body is the bytes.</summary>
    public async Task<IActionResult> OnPostPieceAsync(Guid id, int number)
    {
        if (await ArrivingAsync(id) is not { } delivery) return Refuse(404, "This delivery is not waiting for bytes.");
        if (delivery.CancelRequested) return Refuse(409, "This delivery was called off.");
        long from = (long)number * Blobs.PieceLength;
        if (number < 0 || from >= delivery.Length) return Refuse(400, "A piece lies outside the file.");
        var bytes = new byte[Math.Min(Blobs.PieceLength, delivery.Length - from)];
        if (Request.ContentLength != bytes.Length) return Refuse(400, "A piece has the wrong length.");
        // Whoever posts a form has its body read before it comes here.
        if (await Request.Body.ReadAtLeastAsync(bytes, bytes.Length, false, HttpContext.RequestAborted) < bytes.Length)
            return Refuse(400, "A piece must be sent as bytes (application/octet-stream), not as a form.");
        await new Blobs(Db).PutAsync(delivery.BlobId, number, bytes, HttpContext.RequestAborted);
        return new OkResult();
    }

    /// <summary>Ends a delivery and queues it for reading.</summary>
    public async Task<IActionResult> OnPostCompleteAsync(Guid id)
    {
        if (await ArrivingAsync(id) is not { } delivery) return Refuse(404, "This delivery is not waiting for bytes.");
        var (held, _) = await new Blobs(Db).HeldAsync(delivery.BlobId);
        if (held != delivery.Length) return Refuse(409, $"{held} of {delivery.Length} bytes have arrived.");
        // Only one caller may move it on.
        int moved = await Db.Deliveries.Where(d => d.Id == id && d.State == DeliveryState.Receiving).ExecuteUpdateAsync(u => u.SetProperty(d => d.State, DeliveryState.Received));
        if (moved == 1) queue.Enqueue<IntakeWork>(w => w.RunAsync(id, CancellationToken.None));
        return new OkResult();
    }

    /// <summary>Calls a delivery off.</summary>
    public async Task<IActionResult> OnPostCancelAsync(Guid id)
    {
        if (await DeliveryAsync(id) is not { } delivery) return NotFound();
        if (!MayDeliver(delivery.Source.PartyId)) return Refuse(403, "You may not call this off.");
        delivery.CancelRequested = true;
        if (delivery.State == DeliveryState.Receiving)
        {
            (delivery.State, delivery.Sentence) = (DeliveryState.Cancelled, "Called off; nothing of it was kept.");
            await new Blobs(Db).DeleteAsync(delivery.BlobId);
        }

        await Db.SaveChangesAsync();
        return await OnGetListAsync();
    }

    private async Task<Delivery?> ArrivingAsync(Guid id) =>
        await DeliveryAsync(id) is { State: DeliveryState.Receiving } delivery && MayDeliver(delivery.Source.PartyId) ? delivery : null;

    private static ContentResult Refuse(int status, string sentence) => new() { StatusCode = status, Content = sentence, ContentType = "text/plain" };

    private async Task LoadAsync() =>
        Deliveries = await Db.Deliveries.AsNoTracking().Where(d => d.Source.JobId == Job.Id).OrderByDescending(d => d.ReceivedAt).Take(60)
            .Select(d => new Delivery { Id = d.Id, FileName = d.FileName, Length = d.Length, State = d.State, Progress = d.Progress, Sentence = d.Sentence, Revision = d.Revision, Elements = d.Elements, Findings = d.Findings, ReceivedAt = d.ReceivedAt, Source = new Source { Name = d.Source.Name, PartyId = d.Source.PartyId, Party = d.Source.Party } })
            .ToListAsync(HttpContext.RequestAborted);
}
