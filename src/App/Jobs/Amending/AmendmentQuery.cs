using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>An amendment as lists show it.</summary>
/// <param name="Id">Its identity.</param>
/// <param name="Source">Its source, with the party.</param>
/// <param name="Amendment">What it says.</param>
/// <param name="Step">Where it is.</param>
/// <param name="File">What the newest revision says; null until it was looked at.</param>
/// <param name="Sentence">Why it cannot be applied; empty where it can.</param>
/// <param name="By">Who made it.</param>
/// <param name="At">When.</param>
/// <param name="EndedAt">When it ended; null while it is in force.</param>
public sealed record ShownAmendment(
    Guid Id,
    Source Source,
    Amendment Amendment,
    AmendmentStep Step,
    FileStatement? File,
    string Sentence,
    string By,
    DateTime At,
    DateTime? EndedAt
)
{
    /// <summary>The element's name in the newest revision, its class where it has none; empty where the revision does not have
    /// it.</summary>
    public string Called { get; init; } = "";

    /// <summary>The newest revision and the number of the element in it; null where it does not have it.</summary>
    public (Guid Revision, int Number)? At3D { get; init; }
}

/// <summary>What is said beside the files of a job, for pages.</summary>
/// <param name="db">The database.</param>
public sealed class AmendmentQuery(LintelDb db)
{
    /// <summary>The most that a list shows.</summary>
    public const int Most = 500;

    private static readonly AmendmentStep[] Waiting =
    [
        AmendmentStep.Requested,
        AmendmentStep.Contradicts,
        AmendmentStep.Gone,
        AmendmentStep.Refused,
    ];

    /// <summary>How many wait for a decision or an answer.</summary>
    public static Task<int> WaitingAsync(LintelDb db, Guid job, CancellationToken cancel) =>
        db.Amendments.CountAsync(a => a.Source.JobId == job && Waiting.Contains(a.Step), cancel);

    /// <summary>Those that wait for a decision or an answer.</summary>
    public Task<IReadOnlyList<ShownAmendment>> WaitingAsync(Guid job, CancellationToken cancel) =>
        ListAsync(db.Amendments.Where(a => a.Source.JobId == job && Waiting.Contains(a.Step)), cancel);

    /// <summary>Those that hold, newest first.</summary>
    /// <param name="job">The job.</param>
    /// <param name="source">One source; null for all.</param>
    /// <param name="cancel">Stops it.</param>
    public Task<IReadOnlyList<ShownAmendment>> HoldingAsync(Guid job, Guid? source, CancellationToken cancel) =>
        ListAsync(
            db.Amendments.Where(a =>
                a.Source.JobId == job && a.Step == AmendmentStep.Holds && (source == null || a.SourceId == source)
            ),
            cancel
        );

    /// <summary>All that was ever said of an element, newest first.</summary>
    public Task<IReadOnlyList<ShownAmendment>> OfElementAsync(Guid job, string globalId, CancellationToken cancel) =>
        ListAsync(db.Amendments.Where(a => a.Source.JobId == job && a.Element == globalId), cancel);

    /// <summary>All that was ever said of some elements of a source, newest first.</summary>
    public async Task<ILookup<string, ShownAmendment>> OfElementsAsync(
        Guid source,
        IReadOnlyCollection<string> globalIds,
        CancellationToken cancel
    ) =>
        (
            await ListAsync(
                db.Amendments.Where(a =>
                    a.SourceId == source
                    && globalIds.Contains(a.Element)
                    && a.Step >= AmendmentStep.Holds
                    && a.Step <= AmendmentStep.Refused
                ),
                cancel,
                int.MaxValue
            )
        ).ToLookup(a => a.Amendment.Element);

    /// <summary>How many hold, by source.</summary>
    public Task<Dictionary<Guid, int>> CountsAsync(Guid job, CancellationToken cancel) =>
        db
            .Amendments.Where(a => a.Source.JobId == job && a.Step == AmendmentStep.Holds)
            .GroupBy(a => a.SourceId)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);

    /// <summary>The elements about which something is said, by GlobalId.</summary>
    public Task<List<string>> ElementsAsync(Guid job, CancellationToken cancel) =>
        db
            .Amendments.Where(a => a.Source.JobId == job && a.Step == AmendmentStep.Holds)
            .Select(a => a.Element)
            .Distinct()
            .OrderBy(e => e)
            .Take(20_000)
            .ToListAsync(cancel);

    /// <summary>The amendments of a source as a document, those that hold.</summary>
    public async Task<AmendmentDocument> DocumentAsync(Guid job, Guid source, CancellationToken cancel) =>
        new()
        {
            Amendments =
            [
                .. (
                    await db
                        .Amendments.AsNoTracking()
                        .Where(a => a.SourceId == source && a.Source.JobId == job && a.Step == AmendmentStep.Holds)
                        .OrderBy(a => a.MadeAt)
                        .ThenBy(a => a.Id)
                        .ToListAsync(cancel)
                ).Select(SourceAmendments.Read),
            ],
        };

    /// <summary>The amendments of a source that are in force, by what they are about.</summary>
    public Task<Dictionary<string, Guid>> InForceAsync(Guid source, CancellationToken cancel) =>
        db
            .Amendments.Where(a =>
                a.SourceId == source && a.Step >= AmendmentStep.Holds && a.Step <= AmendmentStep.Refused
            )
            .ToDictionaryAsync(a => a.Subject, a => a.Id, cancel);

    private async Task<IReadOnlyList<ShownAmendment>> ListAsync(
        IQueryable<AmendmentRow> chosen,
        CancellationToken cancel,
        int most = Most
    )
    {
        var rows = await chosen
            .AsNoTracking()
            .Include(a => a.Source)
                .ThenInclude(s => s.Party)
            .OrderByDescending(a => a.MadeAt)
            .ThenBy(a => a.Id)
            .Take(most)
            .ToListAsync(cancel);
        var people = rows.Select(r => r.MadeBy).Distinct().ToList();
        var names = await db
            .Users.Where(u => people.Contains(u.Id))
            .ToDictionaryAsync(u => u.Id, u => u.DisplayName, cancel);
        var places = await PlacesAsync(rows, cancel);
        return
        [
            .. rows.Select(r =>
            {
                places.TryGetValue((r.SourceId, r.Element), out var at);
                return new ShownAmendment(
                    r.Id,
                    r.Source,
                    SourceAmendments.Read(r),
                    r.Step,
                    SourceAmendments.FileOf(r),
                    r.Sentence,
                    names.GetValueOrDefault(r.MadeBy, ""),
                    r.MadeAt,
                    r.EndedAt
                )
                {
                    Called = at.Called ?? "",
                    At3D = at.Called is null ? null : (at.Revision, at.Number),
                };
            }),
        ];
    }

    private async Task<
        Dictionary<(Guid Source, string Element), (Guid Revision, int Number, string? Called)>
    > PlacesAsync(List<AmendmentRow> rows, CancellationToken cancel)
    {
        var sources = rows.Select(r => r.SourceId).Distinct().ToList();
        var elements = rows.Select(r => r.Element).Distinct().ToList();
        var found = await (
            from r in db.Revisions
            where
                sources.Contains(r.SourceId)
                && r.Kind == RevisionKind.Model
                && !db.Revisions.Any(o => o.SourceId == r.SourceId && o.Kind == r.Kind && o.Number > r.Number)
            join e in db.Elements on r.Id equals e.RevisionId
            where elements.Contains(e.GlobalId)
            select new
            {
                r.SourceId,
                e.RevisionId,
                e.GlobalId,
                e.Number,
                e.Name,
                e.Class,
            }
        ).ToListAsync(cancel);
        var places = new Dictionary<(Guid, string), (Guid, int, string?)>();
        foreach (var f in found)
            places.TryAdd((f.SourceId, f.GlobalId), (f.RevisionId, f.Number, f.Name.Length > 0 ? f.Name : f.Class));
        return places;
    }
}
