using System.Text;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>Levels kept with the job, deliveries without a web server, orders of before.</summary>
public class LevelsAndReceivingTests(JobFixture job) : IClassFixture<JobFixture>
{
    [Fact]
    public async Task A_matched_storey_stays_matched_whatever_comes_later()
    {
        await using var db = job.CreateDbContext();
        var before = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
        int sink = Enumerable.Range(0, before.Sources.Count).Single(s => before.Sources[s].Source.Party.Code == "SNK");
        var level = before.Schedule.Rungs.Single(r => r.Storeys.Any(s => s.Source == sink && s.Name == "Two"));
        // The next revision puts the storey a metre higher and adds one: the match holds, the new storey waits for somebody's word.
        string next = ModelSink
            .Text.Replace(".ELEMENT.,4.);", ".ELEMENT.,5.);", StringComparison.Ordinal)
            .Replace(
                "#15=",
                "#300=IFCBUILDINGSTOREY('0000000000000000000300',$,'Attic',$,$,$,$,$,.ELEMENT.,77.);\n#301=IFCRELAGGREGATES('0000000000000000000301',$,$,$,#10,(#300));\n#15=",
                StringComparison.Ordinal
            );
        await job.DeliverAsync("SNK", "Sink", Encoding.ASCII.GetBytes(next));
        var after = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
        Assert.Equal(2, after.Sources[sink].Latest!.Number);
        var same = after.Schedule.Rungs.Single(r => r.Storeys.Any(s => s.Source == sink && s.Name == "Two"));
        Assert.Equal((level.Level, level.Name, level.Elevation), (same.Level, same.Name, same.Elevation));
        Assert.Equal("Attic", after.Schedule.Rungs[^1].Name);
        Assert.Equal(before.Schedule.Rungs.Count + 1, after.Schedule.Rungs.Count);
        Assert.Equal(
            ("Attic", (int?)null),
            (Assert.Single(after.Schedule.Unconfirmed).Storey.Name, after.Schedule.Rungs[^1].Level)
        );
        await new LevelEditing(db).ConfirmAsync(job.Job.Id, null, null, job.Somebody, CancellationToken.None);
        after = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
        Assert.NotNull(after.Schedule.Rungs[^1].Level);
        Assert.Empty(after.Schedule.Unconfirmed);
        // Files of a run and the screen go by the same schedule.
        var run = await JobLevels.LoadAsync(
            db,
            job.Job.Id,
            [.. after.Sources.Select(s => s.Latest!.Id)],
            CancellationToken.None
        );
        Assert.Equal(after.Schedule.Rungs.Select(r => (r.Name, r.Level)), run.Rungs.Select(r => (r.Name, r.Level)));
    }

    [Fact]
    public async Task Pieces_that_are_not_the_files_are_refused()
    {
        await using var db = job.CreateDbContext();
        var receiving = job.Receiving(db);
        var party = await db.Parties.SingleAsync(p => p.Code == "STR");
        await Assert.ThrowsAsync<RefusedException>(() =>
            receiving.BeginAsync(party, "x", "a.ifc", 0, job.Somebody, CancellationToken.None)
        );
        await Assert.ThrowsAsync<RefusedException>(() =>
            receiving.BeginAsync(party, "x", "a.ifc", UploadLimits.MaxBytes + 1, job.Somebody, CancellationToken.None)
        );
        var delivery = await receiving.BeginAsync(party, "Frame", "../b.ifc", 10, job.Somebody, CancellationToken.None);
        Assert.Equal("b.ifc", delivery.FileName);
        await Assert.ThrowsAsync<RefusedException>(() =>
            receiving.PieceAsync(delivery, 1, 10, _ => Task.FromResult(10), CancellationToken.None)
        );
        await Assert.ThrowsAsync<RefusedException>(() =>
            receiving.PieceAsync(delivery, 0, 9, _ => Task.FromResult(9), CancellationToken.None)
        );
        Assert.Equal(
            RefusalKind.Conflict,
            (
                await Assert.ThrowsAsync<RefusedException>(() =>
                    receiving.CompleteAsync(delivery, CancellationToken.None)
                )
            ).Kind
        );
        await receiving.CancelAsync(delivery, job.Somebody, CancellationToken.None);
        Assert.Equal(
            DeliveryState.Cancelled,
            (await db.Deliveries.AsNoTracking().SingleAsync(d => d.Id == delivery.Id)).State
        );
    }

    [Fact]
    public async Task Orders_saved_as_words_of_a_sentence_become_documents()
    {
        var options = new DbContextOptionsBuilder<LintelDb>();
        LintelDbFactory.Configure(options, TestDatabase.New());
        await using var db = new LintelDb(options.Options);
        await db.GetService<IMigrator>().MigrateAsync("20261126042000_DrawnFacets");
        var id = Guid.NewGuid();
        await db.Database.ExecuteSqlAsync(
            $"INSERT INTO jobs (id, code, name, description) VALUES ({id}, 'J', 'J', '')"
        );
        const string old =
            """{"to":"SRV","sources":["5a1c0f0e-0000-4000-8000-000000000001"],"storeys":["Gallery"],"classes":["IfcWall"],"layers":[],"form":"dwg-plan-2010","unit":"mm","byStorey":true,"name":"{storey}"}""";
        await db.Database.ExecuteSqlRawAsync(
            "INSERT INTO orders (id, job_id, number, title, spec, saved_at, saved_by) VALUES ({0}, {1}, 1, 'O', {2}::jsonb, now(), {0})",
            Guid.NewGuid(),
            id,
            old
        );
        await db.Database.MigrateAsync();
        var document = OrderDocument.Read(await db.Orders.Select(o => o.Spec).SingleAsync());
        Assert.Equal(("SRV", "mm", "storey", "{storey}"), (document.To, document.Unit, document.Split, document.Name));
        Assert.Equal([("storey", "Gallery"), ("class", "IfcWall")], document.Rules.Select(r => (r.What, r.Are[0])));
        Assert.Equal(("dwg", "AC1024", "plan"), (document.Into.File, document.Into.Version, document.Into.As));
        Assert.Equal("dwg-plan-2010", FileForm.ChoiceOf(document.Into)?.Word);
        document.ToOrder();
    }
}
