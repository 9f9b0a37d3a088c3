using Microsoft.EntityFrameworkCore;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>A delivery that is damaged, or far less than before, is held until a coordinator decides; nothing is handed over from it.</summary>
public class HeldDeliveryTests(JobFixture job) : IClassFixture<JobFixture>
{
    private static byte[] Demo(string party)
    {
        using var stream = new MemoryStream();
        HeronWharf.Models.Single(d => d.Party == party).Write(stream);
        return stream.ToArray();
    }

    private async Task<Delivery> DeliveryAsync(Guid id)
    {
        await using var db = job.CreateDbContext();
        return await db
            .Deliveries.IgnoreQueryFilters()
            .AsNoTracking()
            .Include(d => d.Revision)
            .Include(d => d.Source)
            .SingleAsync(d => d.Id == id);
    }

    private async Task<int?> NewestAsync(string source)
    {
        await using var db = job.CreateDbContext();
        var state = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
        return state.Sources.Concat(state.Drawings).Single(s => s.Source.Name == source).Latest?.Number;
    }

    private async Task DoAsync(Func<HeldDeliveries, Task> what)
    {
        await using var db = job.CreateDbContext();
        await what(new HeldDeliveries(db));
    }

    [Fact]
    public async Task A_model_that_was_cut_off_is_held_and_orders_go_on_with_the_one_before()
    {
        byte[] whole = Demo("STR");
        await job.DeliverAsync("STR", "Cut", whole);
        await using var db = job.CreateDbContext();
        var orders = new Orders(db, job, job.Options, new StorageQuota(db, new StorageQuotaOptions()));
        int number = await orders.CreateAsync(job.Job.Id, job.Somebody, CancellationToken.None);
        var order = await db.Orders.SingleAsync(o => o.JobId == job.Job.Id && o.Number == number);
        var source = await db.Sources.SingleAsync(s => s.Name == "Cut");
        await orders.SaveAsync(
            order,
            "All",
            Orders.Everything with
            {
                Sources = [source.Id.ToString()],
                Every = "revision",
            },
            job.Somebody,
            CancellationToken.None
        );
        Assert.True(await orders.RunAsync(order, job.Somebody, CancellationToken.None));
        await job.WorkAsync();

        var id = await job.DeliverAsync("STR", "Cut", whole[..(whole.Length / 3)]);
        var held = await DeliveryAsync(id);
        Assert.Equal(DeliveryState.Held, held.State);
        Assert.Contains(held.HeldFor, r => r.Contains("STEP-TRUNCATED", StringComparison.Ordinal));
        Assert.Contains(held.HeldFor, r => r.Contains("% fewer", StringComparison.Ordinal));
        // It is read and reported, and nothing uses it.
        Assert.True(held.Revision!.Elements > 0 && !held.Revision.InUse);
        Assert.Equal(1, await NewestAsync("Cut"));
        Assert.Equal(0, await orders.RunDueAsync(CancellationToken.None));
        var state = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
        Assert.DoesNotContain(order.Id, (await Staleness.OfAsync(db, state, CancellationToken.None)).Keys);

        // Turned down: its sender is told in the coordinator's words.
        await DoAsync(h =>
            h.TurnDownAsync(
                job.Job.Id,
                id,
                "The file is cut off; please export it again.",
                job.Somebody,
                CancellationToken.None
            )
        );
        Assert.Equal(DeliveryState.TurnedDown, (await DeliveryAsync(id)).State);
        await Assert.ThrowsAsync<RefusedException>(() =>
            DoAsync(h => h.TurnDownAsync(job.Job.Id, id, "Again.", job.Somebody, CancellationToken.None))
        );

        // Used after all: it is the newest, the order is stale, and is run again by itself.
        await DoAsync(h => h.UseAsync(job.Job.Id, id, job.Somebody, CancellationToken.None));
        Assert.Equal(2, await NewestAsync("Cut"));
        Assert.Equal(1, await orders.RunDueAsync(CancellationToken.None));
        await job.WorkAsync();

        // What the sources hold less of is said of the transmittal: it is balanced, and a third of the building is gone.
        var run = await db.Transmittals.AsNoTracking().SingleAsync(t => t.OrderId == order.Id && t.Number == 2);
        var result = TransmittalResult.Of(run)!;
        Assert.True(run.Balanced);
        Assert.Contains(result.Less, l =>
            l.Contains("fewer", StringComparison.Ordinal) || l.Contains("none of", StringComparison.Ordinal)
        );

        // Withdrawn: the one before is the newest again, and what was made of it is stale, with the reason.
        await DoAsync(h =>
            h.WithdrawAsync(job.Job.Id, id, "It was the wrong file.", job.Somebody, CancellationToken.None)
        );
        Assert.Equal(1, await NewestAsync("Cut"));
        state = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
        Assert.Contains((await Staleness.OfAsync(db, state, CancellationToken.None))[order.Id], r =>
            r.Contains("was withdrawn", StringComparison.Ordinal)
        );
        Assert.Contains(await db.Record.Where(r => r.JobId == job.Job.Id).Select(r => r.Did).ToListAsync(), d =>
            d == "withdrew the delivery"
        );
    }

    [Fact]
    public async Task A_storey_or_a_class_that_is_gone_holds_a_delivery()
    {
        byte[] whole = Demo("STR");
        await job.DeliverAsync("STR", "Storeys", whole);
        string text = System.Text.Encoding.Latin1.GetString(whole);
        // All braces become members: a class is gone, the number of elements is the same.
        Assert.Contains("IFCPILE(", text, StringComparison.Ordinal);
        string other = System.Text.RegularExpressions.Regex.Replace(
            text,
            @"=IFCPILE\(([^;]*),[^,;]*,[^,;]*\);",
            "=IFCBUILDINGELEMENTPROXY($1,$);"
        );
        var held = await DeliveryAsync(
            await job.DeliverAsync("STR", "Storeys", System.Text.Encoding.Latin1.GetBytes(other))
        );
        Assert.Equal(DeliveryState.Held, held.State);
        Assert.Contains(
            "IfcPile",
            Assert.Single(held.HeldFor, r => r.Contains("class", StringComparison.Ordinal)),
            StringComparison.Ordinal
        );
        // The job may say that this is no reason.
        await DoAsync(h =>
            h.SetLimitsAsync(job.Job.Id, new DeliveryLimits { ClassSize = 0 }, job.Somebody, CancellationToken.None)
        );
        held = await DeliveryAsync(
            await job.DeliverAsync("STR", "Storeys", System.Text.Encoding.Latin1.GetBytes(other + "\n"))
        );
        Assert.Equal(DeliveryState.Ready, held.State);
        await DoAsync(h => h.SetLimitsAsync(job.Job.Id, DeliveryLimits.Default, job.Somebody, CancellationToken.None));
    }

    [Fact]
    public async Task The_same_bytes_come_again_after_they_were_withdrawn()
    {
        byte[] whole = Demo("STR");
        var first = await job.DeliverAsync("STR", "Again", whole);
        Assert.Equal(DeliveryState.Same, (await DeliveryAsync(await job.DeliverAsync("STR", "Again", whole))).State);
        await DoAsync(h => h.WithdrawAsync(job.Job.Id, first, "Wrong source.", job.Somebody, CancellationToken.None));
        Assert.Null(await NewestAsync("Again"));
        var again = await DeliveryAsync(await job.DeliverAsync("STR", "Again", whole));
        Assert.Equal((DeliveryState.Ready, 2), (again.State, again.Revision!.Number));
    }
}
