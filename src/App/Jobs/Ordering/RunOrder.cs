using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging;
using SteadyLintel.Exchange;
using SteadyLintel.Files;
using SteadyLintel.Ifc;
using SteadyLintel.Step;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Runs an order: opens the originals, writes, reads again, balances, stores the files. Running it again after a crash starts
/// over.</summary>
public sealed class RunOrder(IDbContextFactory<LintelDb> contexts, ILogger<RunOrder> log)
{
    /// <summary>Runs a transmittal, on any process.</summary>
    public async Task RunAsync(Guid id, CancellationToken stopping)
    {
        await using var db = await contexts.CreateDbContextAsync(stopping);
        var transmittal = await db.Transmittals.AsNoTracking().Include(t => t.Order).FirstOrDefaultAsync(t => t.Id == id, stopping);
        if (transmittal is null || transmittal.State >= TransmittalState.Done) return;
        using var progress = new WorkProgress((step, share) => Report(id, step, share), stopping);
        string folder = Directory.CreateTempSubdirectory("lintel-").FullName;
        var opened = new List<DeliveredFile>();
        try
        {
            var document = OrderDocument.Read(transmittal.Spec);
            var job = await db.Jobs.AsNoTracking().FirstAsync(j => j.Id == transmittal.Order.JobId, progress.Token);
            var sources = await OpenAsync(db, transmittal, folder, opened, progress);
            var levels = await JobLevels.LoadAsync(db, job.Id, transmittal.Revisions, progress.Token);
            string target = Directory.CreateDirectory(Path.Combine(folder, "out")).FullName;
            using var files = new FolderFileSet(target);
            var result = HandoverRunner.Run(document.ToOrder(), sources, job.Code, transmittal.RanAt
                .ToString("s", System.Globalization.CultureInfo.InvariantCulture), files, levels, progress.At, progress.Token);
            await SaveAsync(db, id, target, result, progress.Token);
            log.LogInformation("Transmittal {Transmittal} wrote {Files} files, unaccounted {Unaccounted}", id, result.Files.Count,
                result.Reconciliation.Unaccounted);
        }
        catch (Exception e) when (e is OrderException or DeliveryException or StepFormatException)
        {
            await EndAsync(id, TransmittalState.Failed, e.Message);
        }
        catch (OperationCanceledException) when (progress.Asked)
        {
            await EndAsync(id, TransmittalState.Cancelled, "Called off; nothing was handed over.");
        }
        finally
        {
            opened.ForEach(f => f.Dispose());
            Directory.Delete(folder, true);
        }
    }

    private static async Task<List<HandoverSource>> OpenAsync(
        LintelDb db, Transmittal transmittal, string folder, List<DeliveredFile> opened, WorkProgress progress)
    {
        var sources = new List<HandoverSource>();
        foreach (var id in transmittal.Revisions)
        {
            progress.At("opening", (double)sources.Count / transmittal.Revisions.Count);
            var delivery = await db.Deliveries.AsNoTracking().Include(d => d.Source).ThenInclude(s => s.Party)
                .FirstAsync(d => d.Id == id, progress.Token);
            string path = Path.Combine(folder, $"{sources.Count}");
            await using (var file = File.Create(path)) await new Blobs(db).CopyToAsync(delivery.BlobId, file, progress.Token);
            opened.Add(DeliveredFile.Open(path, UploadLimits.MaxBytes, progress.Token));
            sources.Add(new HandoverSource(delivery.Source.Party.Code, delivery.Source.Name,
                ModelSnapshot.Open(IfcModel.Open(opened[^1].Bytes, progress.Token), progress.Token)));
        }

        return sources;
    }

    private static async Task SaveAsync(LintelDb db, Guid id, string folder, HandoverResult result, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.TransmittalFiles.Where(f => f.TransmittalId == id).ExecuteDeleteAsync(cancel);
        var blobs = new Blobs(db);
        foreach (var file in result.Files)
        {
            var blob = Guid.NewGuid();
            await using (var stream = File.OpenRead(Path.Combine(folder, file.Name))) await blobs.PutAllAsync(blob, stream, cancel);
            db.TransmittalFiles.Add(new TransmittalFile
            {
                TransmittalId = id,
                Name = file.Name,
                BlobId = blob,
                Length = file.Bytes,
                Sha256 = file.Sha256
            });
        }

        await db.SaveChangesAsync(cancel);
        string json = JsonSerializer.Serialize(result, IntakeStore.Json);
        await db.Transmittals.Where(t => t.Id == id)
            .ExecuteUpdateAsync(u => u.SetProperty(t => t.Result, json).SetProperty(t => t.Balanced, result.Reconciliation.Balanced)
            .SetProperty(t => t.State, TransmittalState.Done).SetProperty(t => t.Progress, 1).SetProperty(t => t.Sentence, ""), cancel);
        await transaction.CommitAsync(cancel);
    }

    private bool Report(Guid id, string step, double share)
    {
        using var db = contexts.CreateDbContext();
        db.Transmittals.Where(t => t.Id == id).ExecuteUpdate(u => u.SetProperty(t => t.State, TransmittalState.Running)
            .SetProperty(t => t.Sentence, step).SetProperty(t => t.Progress, share));
        return db.Transmittals.Where(t => t.Id == id).Select(t => t.CancelRequested).FirstOrDefault();
    }

    private async Task EndAsync(Guid id, TransmittalState state, string sentence)
    {
        await using var db = await contexts.CreateDbContextAsync();
        await db.Transmittals.Where(t => t.Id == id)
            .ExecuteUpdateAsync(u => u.SetProperty(t => t.State, state).SetProperty(t => t.Sentence, sentence));
    }
}
