using System.Text;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>Reading again after an update, suggestions of sources, and what a refused file leaves behind.</summary>
public class ReceivingAgainTests(JobFixture job) : IClassFixture<JobFixture>
{
    private readonly CancellationToken _none = CancellationToken.None;

    private async Task<SourceSuggestion?> SuggestAsync(LintelDb db, string file, string? project = null) =>
        await SourceSuggestion.OfAsync(
            db,
            job.Job.Id,
            await db.Parties.Where(p => p.JobId == job.Job.Id).ToListAsync(),
            file,
            project,
            job.Somebody.User,
            _none
        );

    [Fact]
    public async Task A_revision_of_an_older_version_is_read_again_and_stays_meanwhile()
    {
        await using var db = job.CreateDbContext();
        var id = (await db.Sources.SingleAsync(s => s.Name == "Sink")).Id;
        var revision = await db
            .Revisions.AsNoTracking()
            .Where(r => r.SourceId == id)
            .OrderByDescending(r => r.Number)
            .FirstAsync();
        // As an older version left it: fewer facts, no property sets.
        await db.PropertySets.Where(p => p.RevisionId == revision.Id).ExecuteDeleteAsync();
        await db
            .Revisions.Where(r => r.Id == revision.Id)
            .ExecuteUpdateAsync(u => u.SetProperty(r => r.Derived, IntakeStore.Derived - 1));
        var orders = new Orders(db, job, job.Options, new StorageQuota(db, new StorageQuotaOptions()));
        int number = await orders.CreateAsync(job.Job.Id, job.Somebody, _none);
        var order = await db.Orders.SingleAsync(o => o.JobId == job.Job.Id && o.Number == number);
        await orders.SaveAsync(
            order,
            "Again",
            Orders.Everything with
            {
                Sources = [id.ToString()],
            },
            job.Somebody,
            _none
        );
        var refused = await Assert.ThrowsAsync<RefusedException>(() => orders.RunAsync(order, job.Somebody, _none));
        Assert.Contains("being read again", refused.Message, StringComparison.Ordinal);

        Assert.Equal(1, await new ReadAgain(db, job).BeginAsync(_none));
        Assert.Equal(
            revision.Id,
            (await JobState.LoadAsync(db, job.Job.Id, _none)).Sources.Single(s => s.Source.Id == id).Latest!.Id
        );
        var row = await db.Deliveries.AsNoTracking().Include(d => d.Source).SingleAsync(d => d.Id == revision.Id);
        Assert.Equal(ReadAgain.Sentence, row.Sentence);
        // Its original is not deleted by cancelling.
        await Assert.ThrowsAsync<RefusedException>(() => job.Receiving(db).CancelAsync(row, job.Somebody, _none));
        await job.WorkAsync();
        db.ChangeTracker.Clear();
        var after = await db.Revisions.AsNoTracking().SingleAsync(r => r.Id == revision.Id);
        Assert.Equal((revision.Number, IntakeStore.Derived), (after.Number, after.Derived));
        Assert.Equal(DeliveryState.Ready, (await db.Deliveries.SingleAsync(d => d.Id == revision.Id)).State);
        Assert.True(await db.PropertySets.AnyAsync(p => p.RevisionId == revision.Id));
        Assert.True(await orders.RunAsync(order, job.Somebody, _none));
    }

    [Fact]
    public async Task What_cannot_be_read_again_stays_and_says_so()
    {
        var id = await job.DeliverAsync("SNK", "Stays", ModelSink.Bytes(), "stays.ifc");
        await using var db = job.CreateDbContext();
        await db
            .Revisions.Where(r => r.Id == id)
            .ExecuteUpdateAsync(u => u.SetProperty(r => r.Derived, IntakeStore.Derived - 1));
        await db
            .Deliveries.Where(d => d.Id == id)
            .ExecuteUpdateAsync(u =>
                u.SetProperty(d => d.State, DeliveryState.Refused).SetProperty(d => d.Sentence, "It broke.")
            );
        await new ReadAgain(db, job).BeginAsync(_none);
        var row = await db.Deliveries.AsNoTracking().SingleAsync(d => d.Id == id);
        Assert.Equal(DeliveryState.Ready, row.State);
        Assert.EndsWith("could not be read again: It broke.", row.Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_source_of_a_file_is_suggested_by_project_name_code_and_sender()
    {
        await job.DeliverAsync("STR", "Quay", ModelSink.Bytes(), "T2-quay-2026-01-04_r1.ifc");
        await using var db = job.CreateDbContext();
        string project = await db
            .Database.SqlQuery<string>(
                $"SELECT r.report ->> 'projectId' AS \"Value\" FROM revisions r JOIN sources s ON s.id = r.source_id WHERE s.name = 'Frame' ORDER BY r.number DESC LIMIT 1"
            )
            .FirstAsync();
        Assert.Equal(22, project.Length);
        var byProject = await SuggestAsync(db, "any.ifc", project);
        Assert.Equal(("Frame", true), (byProject!.Source, byProject.Sure));
        var byName = await SuggestAsync(db, "T2-Quay-2026-02-11_r2.ifc");
        Assert.Equal(("Quay", true), (byName!.Source, byName.Sure));
        var byCode = await SuggestAsync(db, "T2-SRV-ducts.ifc");
        Assert.Equal((await db.Parties.SingleAsync(p => p.JobId == job.Job.Id && p.Code == "SRV")).Id, byCode!.Party);
        Assert.False(byCode.Sure);
        Assert.NotNull(await SuggestAsync(db, "nothing known.ifc"));
    }

    [Fact]
    public async Task A_refused_file_leaves_no_source_behind_and_a_drawing_under_a_models_name_is_asked_about()
    {
        await job.DeliverAsync("SNK", "Broken", Encoding.ASCII.GetBytes("no model at all"), "broken.ifc");
        await using var db = job.CreateDbContext();
        Assert.DoesNotContain((await JobState.LoadAsync(db, job.Job.Id, _none)).Sources, s =>
            s.Source.Name == "Broken"
        );
        var party = await db.Parties.SingleAsync(p => p.JobId == job.Job.Id && p.Code == "SNK");
        var asked = await Assert.ThrowsAsync<AskedException>(() =>
            job.Receiving(db).BeginAsync(party, "Sink", "plan.dxf", 10, job.Somebody, _none, apart: false)
        );
        Assert.Contains("Sink has models so far, and plan.dxf is a drawing", asked.Message, StringComparison.Ordinal);
        var apart = await job.Receiving(db).BeginAsync(party, "Sink", "plan.dxf", 10, job.Somebody, _none);
        Assert.NotEqual((await db.Sources.SingleAsync(s => s.Name == "Sink")).Id, apart.SourceId);
    }

    [Fact]
    public async Task An_upload_is_given_up_a_day_after_its_last_piece()
    {
        await using var db = job.CreateDbContext();
        var party = await db.Parties.SingleAsync(p => p.JobId == job.Job.Id && p.Code == "SNK");
        var delivery = await job.Receiving(db).BeginAsync(party, "Slow", "slow.ifc", 10, job.Somebody, _none);
        var twoDays = DateTime.UtcNow.AddDays(-2);
        await db
            .Deliveries.Where(d => d.Id == delivery.Id)
            .ExecuteUpdateAsync(u => u.SetProperty(d => d.ReceivedAt, twoDays));
        await job.Receiving(db).PieceAsync(delivery, 0, 10, bytes => Task.FromResult(bytes.Length), _none);
        Assert.DoesNotContain(delivery.Id, await job.Receiving(db).GiveUpAsync(TimeSpan.FromDays(1), _none));
        await db
            .Deliveries.Where(d => d.Id == delivery.Id)
            .ExecuteUpdateAsync(u => u.SetProperty(d => d.Beat, twoDays));
        Assert.Contains(delivery.Id, await job.Receiving(db).GiveUpAsync(TimeSpan.FromDays(1), _none));
    }

    [Fact]
    public async Task Six_who_run_an_order_at_the_same_time_start_one_run()
    {
        await using var db = job.CreateDbContext();
        var orders = new Orders(db, job, job.Options, new StorageQuota(db, new StorageQuotaOptions()));
        int number = await orders.CreateAsync(job.Job.Id, job.Somebody, _none);
        var id = (await db.Orders.SingleAsync(o => o.JobId == job.Job.Id && o.Number == number)).Id;
        var started = await Task.WhenAll(
            Enumerable
                .Range(0, 6)
                .Select(async _ =>
                {
                    await using var own = job.CreateDbContext();
                    var order = await own.Orders.SingleAsync(o => o.Id == id);
                    return await new Orders(
                        own,
                        job,
                        job.Options,
                        new StorageQuota(own, new StorageQuotaOptions())
                    ).RunAsync(order, job.Somebody, _none);
                })
        );
        Assert.Equal(1, started.Count(s => s));
        Assert.Equal(1, await db.Transmittals.CountAsync(t => t.OrderId == id));
    }

    [Fact]
    public async Task An_order_that_cannot_be_read_breaks_neither_the_list_nor_staleness()
    {
        await using var db = job.CreateDbContext();
        var orders = new Orders(db, job, job.Options, new StorageQuota(db, new StorageQuotaOptions()));
        int number = await orders.CreateAsync(job.Job.Id, job.Somebody, _none);
        await db
            .Orders.Where(o => o.JobId == job.Job.Id && o.Number == number)
            .ExecuteUpdateAsync(u => u.SetProperty(o => o.Spec, "{\"version\":1,\"rules\":[null]}"));
        var row = await db.Orders.AsNoTracking().SingleAsync(o => o.JobId == job.Job.Id && o.Number == number);
        Assert.NotNull(StoredOrder.Read(row.Spec).Problem);
        await Staleness.OfAsync(db, await JobState.LoadAsync(db, job.Job.Id, _none), _none);
        await Assert.ThrowsAsync<RefusedException>(() => orders.RunAsync(row, job.Somebody, _none));
        await orders.DeleteAsync(job.Job.Id, number, false, job.Somebody, _none);
        Assert.False(await db.Orders.AnyAsync(o => o.Id == row.Id));
    }
}
