using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>A revision that is read with what is said beside its source's files: its elements are stored as amended, its report as it
/// came.</summary>
internal sealed class AmendedReading
{
    private readonly LintelDb _db;
    private readonly Guid _source;
    private readonly IReadOnlyList<AmendmentRow> _rows;
    private readonly IReadOnlyList<CarriedAmendment> _carried;

    private AmendedReading(
        LintelDb db,
        Guid source,
        int count,
        IReadOnlyList<AmendmentRow> rows,
        IReadOnlyList<CarriedAmendment> carried,
        AmendedModel model
    ) => (_db, _source, Count, _rows, _carried, Model) = (db, source, count, rows, carried, model);

    /// <summary>The count of the source's amendments that it is read with.</summary>
    public int Count { get; }

    /// <summary>The model as it came and as amended.</summary>
    public AmendedModel Model { get; }

    /// <summary>Whether the element is left out of orders.</summary>
    public bool LeavesOut(string globalId) => Model.LeftOut.ContainsKey(globalId);

    /// <summary>Holds the amendments of a source against a revision and applies those that hold; a revision that is not the newest is read
    /// as it came.</summary>
    public static async Task<AmendedReading> PrepareAsync(
        LintelDb db,
        Delivery delivery,
        ModelSnapshot snapshot,
        CancellationToken cancel
    )
    {
        int count = await db.Sources.Where(s => s.Id == delivery.SourceId).Select(s => s.Amendments).FirstAsync(cancel);
        var newest = await db
            .Revisions.AsNoTracking()
            .Where(r =>
                r.SourceId == delivery.SourceId && r.Kind == RevisionKind.Model && r.Number > 0 && r.Id != delivery.Id
            )
            .OrderByDescending(r => r.Number)
            .Select(r => new { r.Id, r.Number })
            .FirstOrDefaultAsync(cancel);
        int own = await db
            .Revisions.IgnoreQueryFilters()
            .Where(r => r.Id == delivery.Id)
            .Select(r => r.Number)
            .FirstOrDefaultAsync(cancel);
        bool superseded = own > 0 && newest is not null && newest.Number > own;
        var rows = count == 0 || superseded ? [] : await SourceAmendments.OfAsync(db, delivery.SourceId, cancel);
        var amendments = rows.ConvertAll(SourceAmendments.Read);
        var carried = AmendmentCarry.To(
            snapshot,
            amendments,
            newest is null ? [] : await RenamedAsync(db, newest.Id, snapshot, amendments, cancel)
        );
        var holding = carried.Where(c => c.State == AmendmentState.Holds).Select(c => c.Amendment).ToList();
        var model = AmendedModel.Of(snapshot, holding, DateTime.UnixEpoch, cancel);
        return new AmendedReading(db, delivery.SourceId, count, rows, carried, model);
    }

    // Where GlobalIds are new, the elements that amendments are about are looked for as a comparison looks for them.
    private static async Task<Dictionary<string, string>> RenamedAsync(
        LintelDb db,
        Guid before,
        ModelSnapshot snapshot,
        IReadOnlyList<Amendment> amendments,
        CancellationToken cancel
    )
    {
        var reader = new AmendmentReader(snapshot);
        var lost = amendments
            .Select(a => a.Element)
            .Where(e => e != AmendmentReader.File && reader.IndexOf(e) < 0)
            .ToHashSet();
        if (lost.Count == 0 || await StoredFingerprints.LoadAsync(db, before, cancel) is not { } old)
            return [];
        return RevisionComparer
            .Renamed(AsTheyCame(old, amendments), RevisionFingerprint.Of(snapshot, cancel))
            .Where(r => lost.Contains(r.Key))
            .ToDictionary();
    }

    // Stored elements are as amended; they are looked for as their file had them.
    private static RevisionFingerprint AsTheyCame(RevisionFingerprint stored, IReadOnlyList<Amendment> amendments)
    {
        var was = amendments
            .Where(a => a.Was is { Is: FileStatement.Filled } && a.Kind is AmendmentKind.Name or AmendmentKind.Class)
            .ToLookup(a => a.Element);
        return stored with
        {
            Elements =
            [
                .. stored.Elements.Select(e =>
                    was[e.GlobalId]
                        .Aggregate(e, (print, a) =>
                            a.Kind == AmendmentKind.Name
                                ? print with
                                {
                                    Name = a.Was!.Text,
                                }
                                : print with
                                {
                                    Class = a.Was!.Text.Split('.')[0],
                                }
                        )
                ),
            ],
        };
    }

    /// <summary>Stores how each amendment meets the revision, in the caller's transaction.</summary>
    /// <param name="revision">The revision.</param>
    /// <param name="inUse">Whether it is in use: what is held moves nothing.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task StoreAsync(Guid revision, bool inUse, CancellationToken cancel)
    {
        int count = inUse ? Count : -1;
        await _db
            .Revisions.IgnoreQueryFilters()
            .Where(r => r.Id == revision)
            .ExecuteUpdateAsync(u => u.SetProperty(r => r.Amendments, count), cancel);
        if (!inUse)
            return;
        for (int n = 0; n < _rows.Count; n++)
            await StoreAsync(_rows[n], _carried[n], cancel);
    }

    private async Task StoreAsync(AmendmentRow row, CarriedAmendment carried, CancellationToken cancel)
    {
        var refused = Model.Results.FirstOrDefault(r =>
            ReferenceEquals(r.Amendment, carried.Amendment) && r.Outcome == AmendmentOutcome.Refused
        );
        var step = refused is not null ? AmendmentStep.Refused : StepOf(carried.State);
        // Settled for good, unless the sender goes back to what the file said before.
        if (row.Step == AmendmentStep.Settled && step != AmendmentStep.Holds)
            return;
        var amendment = carried.Amendment with { Was = carried.Amendment.Was ?? carried.File };
        string file = JsonSerializer.Serialize(carried.File, SourceAmendments.Json),
            spec = SourceAmendments.Write(amendment),
            sentence = refused?.Sentence ?? carried.Sentence,
            subject = amendment.Subject;
        DateTime? ended = step == AmendmentStep.Settled ? row.EndedAt ?? DateTime.UtcNow : null;
        await _db
            .Amendments.Where(a => a.Id == row.Id && a.Step == row.Step)
            .ExecuteUpdateAsync(
                u =>
                    u.SetProperty(a => a.Step, step)
                        .SetProperty(a => a.File, file)
                        .SetProperty(a => a.Spec, spec)
                        .SetProperty(a => a.Element, amendment.Element)
                        .SetProperty(a => a.Subject, subject)
                        .SetProperty(a => a.Sentence, sentence)
                        .SetProperty(a => a.EndedAt, ended),
                cancel
            );
    }

    private static AmendmentStep StepOf(AmendmentState state) =>
        state switch
        {
            AmendmentState.Settled => AmendmentStep.Settled,
            AmendmentState.Contradicts => AmendmentStep.Contradicts,
            AmendmentState.Gone => AmendmentStep.Gone,
            AmendmentState.Refused => AmendmentStep.Refused,
            _ => AmendmentStep.Holds,
        };
}
