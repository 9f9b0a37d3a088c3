using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Files;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;
using SteadyLintel.Step;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Reads a received delivery: hash, index, facts, shapes, store.</summary>
public sealed class ReadDelivery(IDbContextFactory<LintelDb> contexts, WorkOptions options, ILogger<ReadDelivery> log)
    : BackgroundWork<Delivery>(contexts, options, log)
{
    /// <summary>The sentence of a delivery that was cancelled.</summary>
    public const string WasCalledOff = "Cancelled; nothing of it was stored.";

    /// <inheritdoc/>
    protected override WorkTable Table => WorkTable.Deliveries;

    /// <inheritdoc/>
    protected override string CalledOff => WasCalledOff;

    /// <inheritdoc/>
    protected override string Subject => "The reading";

    /// <inheritdoc/>
    protected override bool IsForPeople(Exception e) =>
        e is DeliveryException or StepFormatException or CadFormatException;

    /// <inheritdoc/>
    protected override (int State, string? Sentence) StateOf(string step) =>
        ((int)Enum.Parse<DeliveryState>(step), null);

    /// <inheritdoc/>
    protected override WorkOutcome Outcome(Delivery work) =>
        new(work.State.ToString(), work.State == DeliveryState.Refused, work.Length);

    /// <inheritdoc/>
    protected override Task<Delivery> LoadAsync(LintelDb db, Guid id, CancellationToken cancel) =>
        db.Deliveries.AsNoTracking().FirstAsync(d => d.Id == id, cancel);

    /// <inheritdoc/>
    protected override async Task LetGoAsync(LintelDb db, Guid id, CancellationToken cancel)
    {
        // The original of a revision that was being read again stays.
        if (await IsRevisionAsync(db, id, cancel))
            return;
        var blob = await db.Deliveries.Where(d => d.Id == id).Select(d => d.BlobId).FirstAsync(cancel);
        await db.Blobs.DeleteAsync(blob, cancel);
    }

    /// <inheritdoc/>
    protected override Task DoAsync(LintelDb db, Delivery work, Guid worker, string folder, WorkProgress progress) =>
        ReadAsync(db, work, worker, Path.Combine(folder, "original"), progress);

    private async Task ReadAsync(LintelDb db, Delivery delivery, Guid worker, string path, WorkProgress progress)
    {
        progress.At(nameof(DeliveryState.Received), 1);
        string sha;
        await using (var file = File.Create(path))
            sha = await db.Blobs.CopyToAsync(delivery.BlobId, file, progress.Token);
        await db
            .Deliveries.Where(d => d.Id == delivery.Id)
            .ExecuteUpdateAsync(u => u.SetProperty(d => d.Sha256, sha), progress.Token);
        bool again = await IsRevisionAsync(db, delivery.Id, progress.Token);
        if (!again && await SameAsync(db, delivery, sha, progress.Token))
            return;
        if (
            !again
            && await new UnpackDrawings(db, Table).RunAsync(delivery, worker, path, progress)
            && await SameAsync(db, delivery, delivery.Sha256!, progress.Token)
        )
            return;
        if (await DrawingAsync(db, delivery, again, worker, path, progress))
            return;
        progress.At(nameof(DeliveryState.Indexing), 0);
        using var delivered = DeliveredFile.Open(path, UploadLimits.MaxBytes, progress.Token);
        var model = IfcModel.Open(delivered.Bytes, progress.Token);
        if (!model.Types().Any(t => t.Entity?.Is("IfcRoot") == true))
            throw new DeliveryException(
                "The file has a header but no building in it, not even a project; ask for it to be exported again."
            );
        progress.At(nameof(DeliveryState.Reading), 0);
        var received = ModelSnapshot.Open(model, progress.Token);
        var reading = await AmendedReading.PrepareAsync(db, delivery, received, progress.Token);
        // What is shown and given is the model as amended; what was found in it is reported as it came.
        var snapshot = reading.Model.Snapshot;
        var came = reading.Model.IsChanged ? IntakeReader.Read(received, null, progress.Token) : null;
        int elements = 0;
        IReadOnlyList<Finding> findings = [];
        int revision = await new IntakeStore(db).SaveAsync(
            delivery.Id,
            snapshot,
            add =>
            {
                var chunks = new ChunkBuilder();
                var sets = new PropertySetStore(delivery.Id);
                var members = new MemberReader(snapshot);
                var relations = new ElementRelations(snapshot);
                var report = IntakeReader.Read(
                    snapshot,
                    (element, shape, seen) =>
                    {
                        var (row, own) = Row(delivery.Id, snapshot, element, shape, seen);
                        row.LeftOut = reading.LeavesOut(row.GlobalId);
                        row.Relations = relations.Of(element.Index);
                        row.Member = JobStructuralMembers.Pack(members.Read(element, shape));
                        return (Packed: PackedElement.Of(row), Sets: own);
                    },
                    (element, shape, made) =>
                    {
                        progress.At(nameof(DeliveryState.Shaping), (double)elements++ / snapshot.Elements.Count);
                        add(made.Packed, sets.Add(made.Sets));
                        chunks.Add(element, shape);
                    },
                    progress.Token
                );
                progress.At(nameof(DeliveryState.Storing), 0.2);
                report = came ?? report;
                findings = report.Findings;
                return new IntakeContents(report, sets.Rows, chunks.Build(progress.Token));
            },
            async job =>
            {
                await Table.HoldAsync(db, delivery.Id, worker, progress.Token);
                bool held =
                    !again && await HeldDeliveries.ReviewAsync(db, job, delivery.Id, findings, null, progress.Token);
                await reading.StoreAsync(delivery.Id, !held, progress.Token);
                if (again || held)
                    return;
                await HeldDeliveries.BeginUseAsync(db, job, delivery.Id, progress.Token);
            },
            progress.Token
        );
        await CausesAsync(db, delivery.Id, revision);
        log.LogInformation(
            "Delivery {Delivery} became revision {Revision} with {Elements} elements",
            delivery.Id,
            revision,
            elements
        );
    }

    // Topics that ask about what this revision no longer has say so. The delivery has ended: nothing stops this any more.
    private static async Task CausesAsync(LintelDb db, Guid delivery, int revision)
    {
        var cancel = CancellationToken.None;
        var source = await db
            .Deliveries.Where(d => d.Id == delivery)
            .Select(d => new
            {
                d.Source.JobId,
                d.Source.Party.Code,
                d.Source.Name,
            })
            .FirstAsync(cancel);
        db.ChangeTracker.Clear();
        await new TopicCauses(db).LookAsync(source.JobId, $"r{revision} of {source.Code} {source.Name}", cancel);
    }

    // A drawing has a report of its own, and no elements to combine.
    private async Task<bool> DrawingAsync(
        LintelDb db,
        Delivery delivery,
        bool again,
        Guid worker,
        string path,
        WorkProgress progress
    )
    {
        byte[] head = new byte[FileRecognition.HeadLength];
        await using (var file = File.OpenRead(path))
            head = head[..await file.ReadAtLeastAsync(head, head.Length, false, progress.Token)];
        if (FileRecognition.Recognise(head).Kind != DeliveredKind.Drawing)
            return false;
        progress.At(nameof(DeliveryState.Reading), 0);
        var (drawing, form) = CadFile.Read(await File.ReadAllBytesAsync(path, progress.Token), progress.Token);
        var report = DrawingIntake.Read(drawing, form);
        // A sheet that nobody drew on has the window to itself (DXF reference, VIEWPORT 69 = 1).
        if (report.Entities.All(e => e.Name == "VIEWPORT"))
            throw new DeliveryException(
                "The drawing has no entity in it, neither in model space nor on a sheet; ask for it to be saved again."
            );
        report = report with
        {
            Findings = [.. report.Findings, .. await StepsAsync(db, delivery, drawing, progress.Token)],
        };
        progress.At(nameof(DeliveryState.Storing), 0.5);
        int revision = await new IntakeStore(db).SaveAsync(
            delivery.Id,
            report,
            async job =>
            {
                await Table.HoldAsync(db, delivery.Id, worker, progress.Token);
                if (!again)
                    await HeldDeliveries.ReviewAsync(
                        db,
                        job,
                        delivery.Id,
                        report.Findings,
                        DeliveryCounts.Of(report),
                        progress.Token
                    );
            },
            progress.Token
        );
        await CausesAsync(db, delivery.Id, revision);
        log.LogInformation(
            "Delivery {Delivery} became revision {Revision}, a drawing with {Findings} findings",
            delivery.Id,
            revision,
            report.Findings.Count
        );
        return true;
    }

    // The steps that the source's drawings are prepared by, run over what came now: one that finds nothing any more is asked about.
    private static async Task<IReadOnlyList<Finding>> StepsAsync(
        LintelDb db,
        Delivery delivery,
        Drawing drawing,
        CancellationToken cancel
    )
    {
        var source = await db.Sources.AsNoTracking().FirstAsync(s => s.Id == delivery.SourceId, cancel);
        var frames = await SourceFrames.LoadAsync(db, source.JobId, cancel);
        if (frames.Of(source.Id, int.MaxValue)?.Preparation is not { Steps.Count: > 0 } steps)
            return [];
        await (await JobReferences.LoadAsync(db, source.JobId, null, cancel)).BindAsync(
            drawing,
            source.PartyId,
            cancel
        );
        var document = await new Details(db).WithAsync(source.JobId, steps, cancel);
        return DrawingPreparation.Run(drawing, document, cancel).Warnings();
    }

    private static (ElementRow Row, IReadOnlyList<PropertySet> Sets) Row(
        Guid delivery,
        ModelSnapshot snapshot,
        ModelElement element,
        Shape? shape,
        ShapeFacts? seen
    )
    {
        var facts = ElementFacts.Read(snapshot, element);
        var (place, measure) = ElementFingerprint.Measure(snapshot, element, shape);
        var row = new ElementRow
        {
            RevisionId = delivery,
            Number = element.Number,
            GlobalId = element.GlobalId,
            Class = element.Class,
            Name = element.Name,
            Storey = element.Storey,
            Layer = string.Join('\n', facts.Layers),
            Layers = [.. facts.Layers],
            TypeName = facts.TypeName,
            Materials = [.. facts.Materials.Select(m => m.Name).Distinct()],
            Predefined = facts.PredefinedType,
            Classifications = [.. snapshot.ClassificationNames(element)],
            Groups = [.. snapshot.GroupNames(element)],
            Wholes = [.. snapshot.Wholes(element).Select(w => w.Number)],
            Bearing = seen?.Bearing,
            Size = seen?.Local.Longest,
            Volume = measure?.Volume ?? 0,
            Area = measure?.Area ?? 0,
            Facts = IntakeStore.Pack(facts),
            Drawn = measure is null && !snapshot.Shapes.ForPlan(element.Index).IsEmpty,
            Place = place?.ToArray(),
            Shape = measure is { } m ? [m.Volume, m.Area, m.Spread, m.Bulk] : null,
            Box = seen is { Box: var b } ? [b.Min.X, b.Min.Y, b.Min.Z, b.Max.X, b.Max.Y, b.Max.Z] : null,
        };
        return (row, facts.Sets);
    }

    private static Task<bool> IsRevisionAsync(LintelDb db, Guid id, CancellationToken cancel) =>
        db.Revisions.IgnoreQueryFilters().AnyAsync(r => r.Id == id && r.Number > 0, cancel);

    // The same bytes for the same source are kept once.
    private async Task<bool> SameAsync(LintelDb db, Delivery delivery, string sha, CancellationToken cancel)
    {
        var same = await db
            .Deliveries.AsNoTracking()
            .Include(d => d.Source)
                .ThenInclude(s => s.Party)
            .Include(d => d.Revision)
            .Where(d => d.Id != delivery.Id && d.Sha256 == sha && d.Revision != null && d.SourceId == delivery.SourceId)
            .FirstOrDefaultAsync(cancel);
        if (same is null)
            return false;
        await Table.EndAsync(
            db,
            delivery.Id,
            (int)DeliveryState.Same,
            $"The same bytes as {same.Source.Party.Code} r{same.Revision!.Number}, received {same.ReceivedAt:d MMM yyyy}; nothing new was stored.",
            cancel
        );
        await db.Blobs.DeleteAsync(delivery.BlobId, cancel);
        return true;
    }
}
