using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging;
using SteadyLintel.Exchange;
using SteadyLintel.Files;
using SteadyLintel.Ifc;
using SteadyLintel.Step;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Runs an order: opens the originals, writes, reads again, balances, stores the files.</summary>
public sealed class RunOrder(IDbContextFactory<LintelDb> contexts, WorkOptions options, ILogger<RunOrder> log)
    : BackgroundWork<Transmittal>(contexts, options, log)
{
    /// <summary>The sentence of a run that was cancelled.</summary>
    public const string WasCalledOff = "Cancelled; nothing was handed over.";

    /// <inheritdoc/>
    protected override WorkTable Table => WorkTable.Transmittals;

    /// <inheritdoc/>
    protected override string CalledOff => WasCalledOff;

    /// <inheritdoc/>
    protected override string Subject => "The run";

    /// <inheritdoc/>
    protected override bool IsForPeople(Exception e) =>
        e is OrderException or DeliveryException or StepFormatException or Cad.CadFormatException;

    /// <inheritdoc/>
    protected override (int State, string? Sentence) StateOf(string step) => ((int)TransmittalState.Running, step);

    /// <inheritdoc/>
    protected override WorkOutcome Outcome(Transmittal work) =>
        new(work.State.ToString(), work.State == TransmittalState.Failed, 0);

    /// <inheritdoc/>
    protected override Task<Transmittal> LoadAsync(LintelDb db, Guid id, CancellationToken cancel) =>
        db.Transmittals.AsNoTracking().Include(t => t.Order).FirstAsync(t => t.Id == id, cancel);

    /// <inheritdoc/>
    protected override async Task DoAsync(
        LintelDb db,
        Transmittal work,
        Guid worker,
        string folder,
        WorkProgress progress
    )
    {
        var opened = new List<DeliveredFile>();
        try
        {
            var document = OrderDocument.Read(work.Spec);
            if (await RepeatAsync(db, work, worker, progress.Token))
                return;
            var job = await db.Jobs.AsNoTracking().FirstAsync(j => j.Id == work.Order.JobId, progress.Token);
            await CheckInUseAsync(db, work, progress.Token);
            var models = await db
                .Revisions.Where(r => work.Revisions.Contains(r.Id) && r.Kind == RevisionKind.Model)
                .Select(r => r.Id)
                .ToListAsync(progress.Token);
            var order = document.ToOrder(await new JobLibrary(db).LoadAsync(job.Id, document, progress.Token));
            var sources = await OpenAsync(
                db,
                work,
                order.Fineness,
                [.. work.Revisions.Where(models.Contains)],
                folder,
                opened,
                progress
            );
            var drawings = await DrawingsAsync(db, work, models, progress.Token);
            var levels = await JobLevels.LoadAsync(db, job.Id, work.Revisions, progress.Token);
            string target = Directory.CreateDirectory(Path.Combine(folder, "out")).FullName;
            using var files = new FolderFileSet(target);
            // The time of what the files rest on, not of the run: the same again has the same bytes.
            string time = (OrderBasis.Read(work.Basis)?.Newest ?? work.RanAt).ToString(
                "s",
                System.Globalization.CultureInfo.InvariantCulture
            );
            if (order.Frame.Kind == FrameKind.Party)
                order = order with
                {
                    Frame = order.Frame with
                    {
                        Receiver = await ReceiverAsync(db, job.Id, document.To, progress.Token),
                    },
                };
            if (order.Frame.Kind == FrameKind.Map)
                order = order with { Frame = order.Frame with { Map = await MapAsync(db, job.Id, progress.Token) } };
            var result = HandoverRunner.Run(
                new HandoverRun(order, sources, files)
                {
                    Job = job.Code,
                    TimeStamp = time,
                    Levels = levels,
                    Progress = progress.At,
                    Drawings = drawings,
                    Amendments = order.Amendments
                        ? await AmendmentsAsync(db, [.. work.Revisions.Where(models.Contains)], sources, progress.Token)
                        : new Dictionary<int, IReadOnlyList<Amendment>>(),
                    Date = work.RanAt.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture),
                    Transmittal = FormattableString.Invariant($"{work.Order.Number}/{work.Number}"),
                },
                progress.Token
            );
            files.Commit();
            await SaveAsync(db, work.Id, worker, target, result, progress.Token);
            log.LogInformation(
                "Transmittal {Transmittal} wrote {Files} files, unaccounted for {Unaccounted}",
                work.Id,
                result.Files.Count,
                result.Unaccounted
            );
        }
        finally
        {
            opened.ForEach(f => f.Dispose());
        }
    }

    // A revision that was withdrawn since the run was asked for is not handed over.
    private static async Task CheckInUseAsync(LintelDb db, Transmittal work, CancellationToken cancel)
    {
        var gone = await db
            .Revisions.IgnoreQueryFilters()
            .Where(r => work.Revisions.Contains(r.Id) && !r.InUse)
            .Select(r => new
            {
                r.Number,
                r.Delivery.Source.Name,
                r.Delivery.Source.Party.Code,
            })
            .FirstOrDefaultAsync(cancel);
        if (gone is not null)
            throw new OrderException(
                $"{gone.Code} {gone.Name} r{gone.Number} was withdrawn after this run was asked for; run the order again."
            );
    }

    // Nothing that the order rests on has changed since its last run: its files are in this transmittal too, and nothing is written again.
    private async Task<bool> RepeatAsync(LintelDb db, Transmittal work, Guid worker, CancellationToken cancel)
    {
        if (await BeforeAsync(db, work.Id, cancel) is not { } before || before.Basis is null || work.Basis is null)
            return false;
        if (
            OrderDocument.Read(before.Spec).Write() != OrderDocument.Read(work.Spec).Write()
            || !before.Balanced
            || OrderBasis.Read(before.Basis)!.ChangesTo(OrderBasis.Read(work.Basis)!).Count > 0
            || work.Spec.Contains("{date}", StringComparison.Ordinal)
        )
            return false;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await Table.HoldAsync(db, work.Id, worker, cancel);
        db.TransmittalFiles.AddRange(
            before.Files.Select(f => new TransmittalFile
            {
                TransmittalId = work.Id,
                Name = f.Name,
                BlobId = f.BlobId,
                Length = f.Length,
                Sha256 = f.Sha256,
                SameAs = f.SameAs ?? before.Number,
            })
        );
        await db.SaveChangesAsync(cancel);
        await SamePicturesAsync(db, before.Id, work.Id, [.. before.Files.Select(f => f.Name)], cancel);
        await ReferAsync(db, work, OrderBasis.Read(before.Basis)!.Referred, cancel);
        await EndAsync(db, work.Id, before.Result!, before.Balanced, cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    // What its drawings refer to is known once they were read.
    private static async Task ReferAsync(
        LintelDb db,
        Transmittal work,
        IEnumerable<string> names,
        CancellationToken cancel
    )
    {
        if (OrderBasis.Read(work.Basis) is not { Sheets.Count: > 0 } basis)
            return;
        string with = (basis with { Referred = [.. names] }).Write();
        await db
            .Transmittals.Where(t => t.Id == work.Id)
            .ExecuteUpdateAsync(u => u.SetProperty(t => t.Basis, with), cancel);
    }

    // The last run of the order that gave files, with them.
    private static Task<Transmittal?> BeforeAsync(LintelDb db, Guid id, CancellationToken cancel) =>
        db
            .Transmittals.AsNoTracking()
            .Include(t => t.Files)
            .Where(t =>
                t.State == TransmittalState.Done
                && db.Transmittals.Any(n => n.Id == id && n.OrderId == t.OrderId && n.Number > t.Number)
            )
            .OrderByDescending(t => t.Number)
            .FirstOrDefaultAsync(cancel);

    private static async Task EndAsync(LintelDb db, Guid id, string result, bool balanced, CancellationToken cancel)
    {
        await db
            .Transmittals.Where(t => t.Id == id)
            .ExecuteUpdateAsync(
                u =>
                    u.SetProperty(t => t.Result, result)
                        .SetProperty(t => t.Balanced, balanced)
                        .SetProperty(t => t.State, TransmittalState.Done)
                        .SetProperty(t => t.Progress, 1)
                        .SetProperty(t => t.Sentence, ""),
                cancel
            );
        await new TopicCauses(db).LookAfterAsync(id, CancellationToken.None); // The run has ended: nothing stops this.
        if (balanced)
            await TransmittalIssue.AnnounceAsync(db, id, CancellationToken.None);
        await db.SaveChangesAsync(CancellationToken.None);
    }

    // The frame of the party that the order is for: that of its newest model, or of the first of its sources that is set out.
    private static async Task<Geometry.Frame?> ReceiverAsync(LintelDb db, Guid job, string to, CancellationToken cancel)
    {
        var frames = await SourceFrames.LoadAsync(db, job, cancel);
        string code = to.Split(' ', ',', ';')[0];
        var sources = await db
            .Sources.AsNoTracking()
            .Where(s => s.JobId == job && s.Party.Code == code && s.RetiredAt == null)
            .OrderBy(s => s.Name)
            .Select(s => new { s.Id, Newest = s.Revisions.Max(r => (int?)r.Number) ?? 1 })
            .ToListAsync(cancel);
        return sources.Select(s => frames.Of(s.Id, s.Newest)?.Document.Frame).FirstOrDefault(f => f is not null);
    }

    // Where the job lies on the map: by the first of its sources that has a map conversion and is set out.
    private static async Task<MapPlace?> MapAsync(LintelDb db, Guid job, CancellationToken cancel)
    {
        var frames = await SourceFrames.LoadAsync(db, job, cancel);
        var facts = await db
            .Revisions.AsNoTracking()
            .Where(r =>
                r.Delivery.Source.JobId == job
                && r.Frame != null
                && !db.Revisions.Any(o => o.SourceId == r.SourceId && o.Kind == r.Kind && o.Number > r.Number)
            )
            .OrderBy(r => r.Delivery.Source.Party.Code)
            .Select(r => new
            {
                r.SourceId,
                r.Number,
                r.Frame,
            })
            .ToListAsync(cancel);
        return facts
            .Select(f =>
                frames.Of(f.SourceId, f.Number) is { } set
                    ? MapPlace.Of(
                        JsonSerializer.Deserialize<FrameFacts>(f.Frame!, IntakeStore.Json)!.Place,
                        set.Document.Frame
                    )
                    : null
            )
            .FirstOrDefault(m => m is not null);
    }

    private static async Task<List<HandoverSource>> OpenAsync(
        LintelDb db,
        Transmittal transmittal,
        Geometry.Tolerance tolerance,
        IReadOnlyList<Guid> models,
        string folder,
        List<DeliveredFile> opened,
        WorkProgress progress
    )
    {
        var sources = new List<HandoverSource>();
        var frames = await SourceFrames.LoadAsync(db, transmittal.Order.JobId, progress.Token);
        foreach (var id in models)
        {
            progress.At("opening", (double)sources.Count / models.Count);
            var delivery = await db
                .Deliveries.AsNoTracking()
                .Include(d => d.Revision)
                .Include(d => d.Source)
                    .ThenInclude(s => s.Party)
                .FirstAsync(d => d.Id == id, progress.Token);
            string path = Path.Combine(folder, $"{sources.Count}");
            await using (var file = File.Create(path))
                await db.Blobs.CopyToAsync(delivery.BlobId, file, progress.Token);
            opened.Add(DeliveredFile.Open(path, UploadLimits.MaxBytes, progress.Token));
            sources.Add(
                new HandoverSource(
                    delivery.Source.Party.Code,
                    delivery.Source.Name,
                    ModelSnapshot.Open(IfcModel.Open(opened[^1].Bytes, progress.Token), progress.Token, tolerance),
                    frames.Of(delivery.SourceId, delivery.Revision!.Number)?.Document.Frame
                )
                {
                    Revision = delivery.Revision.Number,
                    Bodiless = (
                        await db
                            .Elements.Where(e => e.RevisionId == id && e.Box == null)
                            .Select(e => e.Number)
                            .ToListAsync(progress.Token)
                    ).ToHashSet(),
                }
            );
        }

        return sources;
    }

    // What is said beside the files and holds for them, by the source's place.
    private static async Task<Dictionary<int, IReadOnlyList<Amendment>>> AmendmentsAsync(
        LintelDb db,
        IReadOnlyList<Guid> revisions,
        IReadOnlyList<HandoverSource> sources,
        CancellationToken cancel
    )
    {
        var amendments = new Dictionary<int, IReadOnlyList<Amendment>>();
        for (int n = 0; n < revisions.Count; n++)
        {
            var id = revisions[n];
            var source = await db
                .Revisions.IgnoreQueryFilters()
                .Where(r => r.Id == id)
                .Select(r => r.SourceId)
                .FirstAsync(cancel);
            if (await SourceAmendments.HoldingAsync(db, source, sources[n].Snapshot, cancel) is { Count: > 0 } holding)
                amendments[n] = holding;
        }

        return amendments;
    }

    // Drawings with where they lie and at which storey, as the job is now.
    private static async Task<List<HandoverDrawing>> DrawingsAsync(
        LintelDb db,
        Transmittal transmittal,
        IReadOnlyCollection<Guid> models,
        CancellationToken cancel
    )
    {
        var drawings = new List<HandoverDrawing>();
        if (transmittal.Revisions.Count == models.Count)
            return drawings;
        var state = await JobState.LoadAsync(db, transmittal.Order.JobId, cancel);
        var frames = await SourceFrames.LoadAsync(db, transmittal.Order.JobId, cancel);
        var references = await JobReferences.LoadAsync(db, transmittal.Order.JobId, null, cancel);
        foreach (var id in transmittal.Revisions.Where(r => !models.Contains(r)))
        {
            var delivery = await db
                .Deliveries.AsNoTracking()
                .Include(d => d.Revision)
                .Include(d => d.Source)
                    .ThenInclude(s => s.Party)
                .FirstAsync(d => d.Id == id, cancel);
            using var bytes = new MemoryStream();
            await db.Blobs.CopyToAsync(delivery.BlobId, bytes, cancel);
            var read = await Task.Run(() => Cad.CadFile.Read(bytes.ToArray(), cancel).Drawing, cancel);
            var place = frames.Of(delivery.SourceId, delivery.Revision!.Number);
            var document = place?.Document;
            drawings.Add(
                new HandoverDrawing(
                    delivery.Source.Party.Code,
                    delivery.Source.Name,
                    Path.GetExtension(delivery.FileName),
                    bytes.ToArray(),
                    document
                )
                {
                    Revision = delivery.Revision.Number,
                    Frame = document is null ? null : JobModel.FrameOf(document, state.Schedule),
                    References = await references.FilesAsync(read, delivery.Source.PartyId, cancel),
                    Preparation = await new Details(db).WithAsync(
                        transmittal.Order.JobId,
                        place?.Preparation ?? PreparationDocument.Empty,
                        cancel
                    ),
                    Storey = JobModel.LevelOf(document, state.Schedule)?.Name ?? "",
                }
            );
        }

        await ReferAsync(db, transmittal, references.Asked, cancel);
        return drawings;
    }

    private async Task SaveAsync(
        LintelDb db,
        Guid id,
        Guid worker,
        string folder,
        HandoverResult result,
        CancellationToken cancel
    )
    {
        if (
            await db
                .Transmittals.AsNoTracking()
                .Where(t =>
                    t.State == TransmittalState.Done
                    && (t.Balanced || t.SignedBy != null)
                    && db.Transmittals.Any(n => n.Id == id && n.OrderId == t.OrderId && n.Number > t.Number)
                )
                .OrderByDescending(t => t.Number)
                .FirstOrDefaultAsync(cancel)
                is { } released
            && TransmittalResult.Of(released) is { } last
        )
            result = result with { Less = LessThanBefore.Of(last, result) };
        var before = await BeforeAsync(db, id, cancel);
        var same = result
            .Files.Select(f => before?.Files.FirstOrDefault(b => b.Name == f.Name && b.Sha256 == f.Sha256))
            .OfType<TransmittalFile>()
            .ToDictionary(f => f.Name);
        var pictures = PicturesOf(result, folder, same, cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await Table.HoldAsync(db, id, worker, cancel);
        await db.TransmittalFiles.Where(f => f.TransmittalId == id).ExecuteDeleteAsync(cancel);
        var blobs = db.Blobs;
        foreach (var file in result.Files)
        {
            // The same bytes under the same name are kept once.
            var known = same.GetValueOrDefault(file.Name);
            var blob = known?.BlobId ?? Guid.NewGuid();
            if (known is null)
            {
                await using var stream = File.OpenRead(Path.Combine(folder, file.Name));
                await blobs.PutAllAsync(blob, stream, cancel);
            }

            db.TransmittalFiles.Add(
                new TransmittalFile
                {
                    TransmittalId = id,
                    Name = file.Name,
                    BlobId = blob,
                    Length = file.Bytes,
                    Sha256 = file.Sha256,
                    SameAs = known is null ? null : known.SameAs ?? before!.Number,
                }
            );
        }

        db.FilePictures.AddRange(
            pictures.Select(p => new FilePicture
            {
                TransmittalId = id,
                Name = p.Key,
                Bytes = p.Value,
            })
        );
        await db.SaveChangesAsync(cancel);
        if (before is not null)
            await SamePicturesAsync(db, before.Id, id, [.. same.Keys], cancel);
        await EndAsync(db, id, JsonSerializer.Serialize(result, IntakeStore.Json), result.Balanced, cancel);
        await transaction.CommitAsync(cancel);
    }

    // A file that cannot be drawn is handed over without a picture.
    private Dictionary<string, byte[]> PicturesOf(
        HandoverResult result,
        string folder,
        Dictionary<string, TransmittalFile> same,
        CancellationToken cancel
    )
    {
        var pictures = new Dictionary<string, byte[]>();
        foreach (
            string name in result.Files.Take(FilePictures.Most).Select(f => f.Name).Where(n => !same.ContainsKey(n))
        )
        {
            try
            {
                if (FilePictures.Of(Path.Combine(folder, name), cancel) is { } picture)
                    pictures[name] = picture;
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                log.LogWarning(e, "No picture was made of {File}", name);
            }
        }

        return pictures;
    }

    private static Task SamePicturesAsync(LintelDb db, Guid from, Guid to, string[] names, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            INSERT INTO file_pictures (transmittal_id, name, bytes)
            SELECT {to}, name, bytes FROM file_pictures WHERE transmittal_id = {from} AND name = ANY({names})
            """,
            cancel
        );
}
