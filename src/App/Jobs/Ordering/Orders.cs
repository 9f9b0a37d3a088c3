using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Saves orders and has them run.</summary>
/// <param name="db">The database.</param>
/// <param name="queue">Takes the runs.</param>
/// <param name="options">How work is watched.</param>
/// <param name="space">Whether there is room.</param>
public sealed class Orders(LintelDb db, IWorkQueue queue, WorkOptions options, StorageQuota space)
{
    /// <summary>The longest title, characters.</summary>
    public const int LongestTitle = 120;

    /// <summary>An order for everything, as IFC by storey.</summary>
    public static OrderDocument Everything { get; } =
        new() { Split = "storey", Name = "{job}-{party}-{source}-{storey}" };

    /// <summary>Makes an order.</summary>
    /// <returns>Its number in the job.</returns>
    public Task<int> CreateAsync(Guid job, Actor by, CancellationToken cancel) =>
        AddAsync(job, number => ($"Order {number}", Everything.Write(), "made the order"), by, cancel);

    /// <summary>Makes another order with the words of one that is there.</summary>
    /// <returns>Its number in the job.</returns>
    public Task<int> CopyAsync(OrderRow order, Actor by, CancellationToken cancel)
    {
        string title = $"Copy of {order.Title}";
        return AddAsync(
            order.JobId,
            _ => (title[..Math.Min(LongestTitle, title.Length)], order.Spec, $"copied order {order.Number} to"),
            by,
            cancel
        );
    }

    /// <summary>Deletes an order, or brings a deleted one back. What it handed over stays with the recipients.</summary>
    /// <exception cref="RefusedException">There is no such order, or a run of it is under way.</exception>
    public async Task DeleteAsync(Guid job, int number, bool back, Actor by, CancellationToken cancel)
    {
        var order = await db
            .Orders.IgnoreQueryFilters()
            .FirstOrDefaultAsync(o => o.JobId == job && o.Number == number, cancel)
            ?? throw new RefusedException(RefusalKind.Unknown, "There is no such order.");
        if (
            await db
                .Transmittals.IgnoreQueryFilters()
                .AnyAsync(t => t.OrderId == order.Id && t.State < TransmittalState.Done, cancel)
        )
            throw new RefusedException(
                RefusalKind.Conflict,
                "The order is running. Wait until the run has ended or cancel it, then delete the order."
            );
        order.DeletedAt = back ? null : DateTime.UtcNow;
        order.Version++;
        db.Note(by, job, back ? "restored the order" : "deleted the order", $"{order.Number} {order.Title}");
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Saves an order's document.</summary>
    /// <param name="order">The order.</param>
    /// <param name="title">Its title.</param>
    /// <param name="document">Its words.</param>
    /// <param name="by">Who saves it.</param>
    /// <param name="cancel">Stops it.</param>
    /// <param name="seen">The version that was changed; null to save over whatever is there.</param>
    /// <exception cref="RefusedException">Somebody else has saved it since.</exception>
    public async Task SaveAsync(
        OrderRow order,
        string title,
        OrderDocument document,
        Actor by,
        CancellationToken cancel,
        int? seen = null
    )
    {
        if (seen is { } version && version != order.Version)
            throw await SomebodyElseAsync(order.Id, cancel);
        order.Title = InputRules.Of(title, "The title", LongestTitle, false) is { Length: > 0 } word
            ? word
            : $"Order {order.Number}";
        string spec = document.Write();
        if (spec != order.Spec)
            db.Note(by, order.JobId, "changed the order", $"{order.Number} {order.Title}");
        order.Spec = spec;
        (order.SavedAt, order.SavedBy, order.Version) = (DateTime.UtcNow, by.User, order.Version + 1);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateConcurrencyException)
        {
            db.ChangeTracker.Clear();
            throw await SomebodyElseAsync(order.Id, cancel);
        }
    }

    private async Task<int> AddAsync(
        Guid job,
        Func<int, (string Title, string Spec, string Did)> what,
        Actor by,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        // Numbers of one job are given one at a time, and none twice.
        await db.Database.ExecuteSqlAsync($"SELECT 1 FROM jobs WHERE id = {job} FOR UPDATE", cancel);
        int number =
            1
            + (
                await db.Orders.IgnoreQueryFilters().Where(o => o.JobId == job).MaxAsync(o => (int?)o.Number, cancel)
                ?? 0
            );
        var (title, spec, did) = what(number);
        db.Orders.Add(
            new OrderRow
            {
                Id = Guid.NewGuid(),
                JobId = job,
                Number = number,
                Title = title,
                Spec = spec,
                SavedAt = DateTime.UtcNow,
                SavedBy = by.User,
            }
        );
        db.Note(by, job, did, $"{number} {title}");
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return number;
    }

    private async Task<RefusedException> SomebodyElseAsync(Guid order, CancellationToken cancel)
    {
        var last = await db
            .Orders.AsNoTracking()
            .Where(o => o.Id == order)
            .Select(o => new
            {
                o.SavedAt,
                By = db.Users.Where(u => u.Id == o.SavedBy).Select(u => u.DisplayName).FirstOrDefault(),
            })
            .FirstOrDefaultAsync(cancel);
        return new RefusedException(
            RefusalKind.Conflict,
            $"{last?.By ?? "Somebody"} has saved this order after you opened it"
                + (last is null ? "" : $" ({last.SavedAt:d MMM, HH:mm} UTC)")
                + ". Your changes are below and not saved. Save again to replace the other version, or load the page again to see it."
        );
    }

    /// <summary>Cancels a run; one that is under way ends when its worker notices.</summary>
    public async Task CancelAsync(OrderRow order, Guid run, Actor by, CancellationToken cancel)
    {
        db.Note(by, order.JobId, "cancelled a run", $"{order.Number} {order.Title}");
        await db.SaveChangesAsync(cancel);
        if (await db.Transmittals.AnyAsync(t => t.Id == run && t.OrderId == order.Id, cancel))
            await WorkTable.Transmittals.AskCancelAsync(db, run, RunOrder.WasCalledOff, options.Lease, cancel);
    }

    /// <summary>Has an order run over the newest revisions; a second call while a run is under way starts no second run.</summary>
    /// <returns>Whether a run was started.</returns>
    /// <exception cref="RefusedException">There is no room for its files, or the order cannot be run as it is.</exception>
    public async Task<bool> RunAsync(OrderRow order, Actor by, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        // Of several who ask at the same time one starts the run.
        await db.Database.ExecuteSqlAsync($"SELECT 1 FROM orders WHERE id = {order.Id} FOR UPDATE", cancel);
        var (document, unreadable) = StoredOrder.Read(order.Spec);
        if (unreadable is not null)
            throw new RefusedException(RefusalKind.Conflict, $"The order was not run. {unreadable}");
        var state = await JobState.LoadAsync(db, order.JobId, cancel);
        // Models first: their places in the list are their numbers in the level schedule.
        var revisions = OrderPreview
            .ModelsOf(state, document)
            .Concat(OrderPreview.DrawingsOf(state, document))
            .Select(s => s.Latest!.Id)
            .ToList();
        var preview = await OrderPreview.OfAsync(db, state, document, cancel);
        var last = await db
            .Transmittals.AsNoTracking()
            .Where(t => t.OrderId == order.Id)
            .OrderByDescending(t => t.Number)
            .Select(t => new { t.State, t.Number })
            .FirstOrDefaultAsync(cancel);
        if (preview.Problem is not null)
            throw new RefusedException(RefusalKind.Conflict, $"The order was not run. {preview.Problem}");
        if (revisions.Count == 0 || last is { State: < TransmittalState.Done })
            return false;
        await space.CheckAsync(order.JobId, by.User, 0, cancel);
        var run = new Transmittal
        {
            Id = Guid.NewGuid(),
            OrderId = order.Id,
            Number = 1 + (last?.Number ?? 0),
            Spec = order.Spec,
            Revisions = revisions,
            Basis = OrderBasis.Of(state.Model, StoredOrder.Read(order.Spec).Document, order.SavedAt).Write(),
            RanAt = DateTime.UtcNow,
            RanBy = by.User,
        };
        db.Transmittals.Add(run);
        db.Note(by, order.JobId, "ran the order", $"{order.Number} {order.Title}, transmittal {run.Number}");
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        queue.Run(run.Id);
        return true;
    }

    /// <summary>Runs all orders of a job that are stale.</summary>
    /// <returns>How many runs were started, and why others were not.</returns>
    public async Task<(int Started, IReadOnlyList<string> Refused)> RunStaleAsync(
        Guid job,
        Actor by,
        CancellationToken cancel
    )
    {
        var state = await JobState.LoadAsync(db, job, cancel);
        var stale = await Staleness.OfAsync(db, state, cancel);
        int started = 0;
        var refused = new List<string>();
        foreach (var order in await db.Orders.Where(o => o.JobId == job).OrderBy(o => o.Number).ToListAsync(cancel))
        {
            if (!stale.ContainsKey(order.Id))
                continue;
            try
            {
                if (await RunAsync(order, by, cancel))
                    started++;
            }
            catch (RefusedException e)
            {
                refused.Add($"Order {order.Number} {order.Title}: {e.Message}");
            }
        }

        return (started, refused);
    }

    /// <summary>Runs the orders that say so whenever a revision that they use has come; by whom the order was saved.</summary>
    /// <returns>How many runs were started.</returns>
    public async Task<int> RunDueAsync(CancellationToken cancel)
    {
        var asked = await db
            .Orders.FromSql($"SELECT * FROM orders WHERE spec ->> 'every' = 'revision'")
            .Where(o => db.Jobs.Any(j => j.Id == o.JobId && j.ArchivedAt == null))
            .OrderBy(o => o.JobId)
            .ToListAsync(cancel);
        int started = 0;
        foreach (var group in asked.GroupBy(o => o.JobId))
        {
            var state = await JobState.LoadAsync(db, group.Key, cancel);
            if (state.Sources.Concat(state.Drawings).Any(s => s.Underway > 0))
                continue;
            foreach (var order in group)
            {
                var last = await db
                    .Transmittals.AsNoTracking()
                    .Where(t => t.OrderId == order.Id)
                    .OrderByDescending(t => t.Number)
                    .Select(t => new { t.State, t.Basis })
                    .FirstOrDefaultAsync(cancel);
                // Run once by hand first: what an order gives is looked at before it goes by itself.
                if (last is null or { State: < TransmittalState.Done } || OrderBasis.Read(last.Basis) is not { } basis)
                    continue;
                // Part of what it would give waits for a decision.
                if (OrderPreview.SourcesOf(state, StoredOrder.Read(order.Spec).Document).Any(s => s.Held > 0))
                    continue;
                var now = OrderBasis.Of(state.Model, StoredOrder.Read(order.Spec).Document, order.SavedAt);
                if (now.Revisions.All(r => basis.Revisions.Any(b => b.Source == r.Source && b.Number == r.Number)))
                    continue;
                try
                {
                    if (await RunAsync(order, new Actor(order.SavedBy, ""), cancel))
                        started++;
                }
                catch (Exception e) when (e is RefusedException or DbUpdateException)
                {
                    // Somebody else started it, or it waits for a person; the list says that it is stale.
                    db.ChangeTracker.Clear();
                }
            }
        }

        return started;
    }
}
