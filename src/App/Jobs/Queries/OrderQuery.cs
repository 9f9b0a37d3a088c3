using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>An order with its last run.</summary>
public sealed record ListedOrder(OrderRow Order, Transmittal? Last, IReadOnlyList<string> Stale);

/// <summary>The runs of an order.</summary>
/// <param name="Full">The newest in full, newest first.</param>
/// <param name="Older">Those before, without their files and what came of them.</param>
/// <param name="People">Names of who ran, released and received them.</param>
public sealed record OrderRuns(
    IReadOnlyList<Transmittal> Full,
    IReadOnlyList<Transmittal> Older,
    IReadOnlyDictionary<Guid, string> People
);

/// <summary>What the pages of the last stop ask of a job.</summary>
/// <param name="db">The database.</param>
public sealed class OrderQuery(LintelDb db)
{
    private const int InFull = 8;

    /// <summary>The orders of a job, the newest first.</summary>
    public async Task<IReadOnlyList<ListedOrder>> ListAsync(JobState state, CancellationToken cancel)
    {
        var rows = await db
            .Orders.AsNoTracking()
            .Where(o => o.JobId == state.Job)
            .OrderByDescending(o => o.Number)
            .Select(o => new
            {
                Order = o,
                Last = o
                    .Transmittals.OrderByDescending(t => t.Number)
                    .Select(t => new Transmittal
                    {
                        Number = t.Number,
                        RanAt = t.RanAt,
                        State = t.State,
                        Balanced = t.Balanced,
                        SignedBy = t.SignedBy,
                        Revisions = t.Revisions,
                    })
                    .FirstOrDefault(),
            })
            .ToListAsync(cancel);
        var stale = await Staleness.OfAsync(db, state, cancel);
        return [.. rows.Select(r => new ListedOrder(r.Order, r.Last, stale.GetValueOrDefault(r.Order.Id, [])))];
    }

    /// <summary>The orders of a job by number, with whether each carries what is said beside the files.</summary>
    public async Task<IReadOnlyList<(int Number, string Title, bool Carries)>> CarryingAsync(
        Guid job,
        CancellationToken cancel
    ) =>
        [
            .. (
                await db
                    .Orders.AsNoTracking()
                    .Where(o => o.JobId == job)
                    .OrderBy(o => o.Number)
                    .Select(o => new
                    {
                        o.Number,
                        o.Title,
                        o.Spec,
                    })
                    .ToListAsync(cancel)
            ).Select(o => (o.Number, o.Title, StoredOrder.Read(o.Spec).Document.Amendments != false)),
        ];

    /// <summary>An order by its number, to be changed; null where the job has none.</summary>
    public Task<OrderRow?> FindAsync(Guid job, int number, CancellationToken cancel) =>
        db.Orders.FirstOrDefaultAsync(o => o.JobId == job && o.Number == number, cancel);

    /// <summary>An order as it is saved now.</summary>
    public Task<OrderRow> SavedAsync(Guid order, CancellationToken cancel) =>
        db.Orders.AsNoTracking().FirstAsync(o => o.Id == order, cancel);

    /// <summary>What an order would give.</summary>
    public Task<OrderPreview> PreviewAsync(JobState state, OrderDocument document, CancellationToken cancel) =>
        OrderPreview.OfAsync(db, state, document, cancel);

    /// <summary>What an order does with an element.</summary>
    /// <exception cref="OrderException">The order says nothing that could be run.</exception>
    public Task<IReadOnlyList<ElementVerdict>> WhyAsync(
        JobState state,
        OrderDocument document,
        string element,
        CancellationToken cancel
    ) => OrderPreview.WhyAsync(db, state, document, element, cancel);

    /// <summary>The values that elements of the newest revisions have in a field of rules.</summary>
    public Task<IReadOnlyList<NamedCount>> ValuesAsync(JobState state, string? what, CancellationToken cancel) =>
        ElementValues.OfAsync(db, state, what, cancel);

    /// <summary>Lines of elevations around what the job holds, and of sections through its middle.</summary>
    public Task<IReadOnlyList<OrderLine>> SectionLinesAsync(JobState state, CancellationToken cancel) =>
        SectionLines.AroundAsync(db, state, cancel);

    /// <summary>What has changed since an order's last run, a few words each.</summary>
    public async Task<IReadOnlyList<string>> StaleAsync(JobState state, Guid order, CancellationToken cancel) =>
        (await Staleness.OfAsync(db, state, cancel, order)).GetValueOrDefault(order, []);

    /// <summary>The runs of an order.</summary>
    public async Task<OrderRuns> RunsAsync(Guid order, CancellationToken cancel)
    {
        var runs = db.Transmittals.AsNoTracking().Where(t => t.OrderId == order).OrderByDescending(t => t.Number);
        var full = await runs.Include(t => t.Files)
            .Include(t => t.Receipts)
            .AsSplitQuery()
            .Take(InFull)
            .ToListAsync(cancel);
        var older = await runs.Skip(InFull)
            .Select(t => new Transmittal
            {
                Id = t.Id,
                Number = t.Number,
                RanAt = t.RanAt,
                RanBy = t.RanBy,
                State = t.State,
                Sentence = t.Sentence,
                Balanced = t.Balanced,
                SignedBy = t.SignedBy,
            })
            .ToListAsync(cancel);
        var who = full.SelectMany(t => t.Receipts.Select(r => (Guid?)r.UserId).Append(t.SignedBy))
            .Concat(full.Concat(older).Select(t => (Guid?)t.RanBy))
            .OfType<Guid>();
        return new OrderRuns(full, older, await NamesAsync(who, cancel));
    }

    /// <summary>A finished run of an order with its files; null where there is none.</summary>
    public Task<Transmittal?> RunAsync(Guid order, Guid run, CancellationToken cancel) =>
        Finished(order).FirstOrDefaultAsync(t => t.Id == run, cancel);

    /// <summary>The finished run before one, or that of a number; null where there is none.</summary>
    public Task<Transmittal?> BeforeAsync(Transmittal run, int? number, CancellationToken cancel) =>
        Finished(run.OrderId)
            .Where(t => number == null ? t.Number < run.Number : t.Number == number)
            .OrderByDescending(t => t.Number)
            .FirstOrDefaultAsync(cancel);

    /// <summary>The names of some people; those who are gone are missing.</summary>
    public async Task<IReadOnlyDictionary<Guid, string>> NamesAsync(IEnumerable<Guid> people, CancellationToken cancel)
    {
        var who = people.Distinct().ToList();
        return await db
            .Users.AsNoTracking()
            .Where(u => who.Contains(u.Id))
            .ToDictionaryAsync(u => u.Id, u => u.DisplayName, cancel);
    }

    private IQueryable<Transmittal> Finished(Guid order) =>
        db
            .Transmittals.AsNoTracking()
            .Include(t => t.Files)
            .Include(t => t.Receipts)
            .Where(t => t.OrderId == order && t.State == TransmittalState.Done);
}
