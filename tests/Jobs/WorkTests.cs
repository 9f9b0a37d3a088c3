using System.Text;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging;
using Microsoft.Extensions.Logging.Abstractions;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>Whatever happens to work, it ends: in a final state, with a sentence.</summary>
public class WorkTests(JobFixture job) : IClassFixture<JobFixture>
{
    /// <summary>Reading that does what a test wants instead.</summary>
    private sealed class Reading(JobFixture job, Func<WorkProgress, Task> instead, WorkOptions? options = null)
        : BackgroundWork<Delivery>(job, options ?? job.Options, NullLogger.Instance)
    {
        protected override WorkTable Table => WorkTable.Deliveries;

        protected override string CalledOff => "Called off.";

        protected override string Subject => "The reading";

        protected override bool IsForPeople(Exception e) => false;

        protected override Task DoAsync(
            LintelDb db,
            Delivery work,
            Guid worker,
            string folder,
            WorkProgress progress
        ) => instead(progress);

        protected override (int State, string? Sentence) StateOf(string step) => ((int)DeliveryState.Reading, null);

        protected override WorkOutcome Outcome(Delivery work) => new(work.State.ToString(), false, 0);

        protected override Task<Delivery> LoadAsync(LintelDb db, Guid id, CancellationToken cancel) =>
            db.Deliveries.AsNoTracking().FirstAsync(d => d.Id == id, cancel);
    }

    private async Task<Guid> ArrivedAsync()
    {
        await using var db = job.CreateDbContext();
        var source = await db.Sources.FirstAsync();
        var delivery = new Delivery
        {
            Id = Guid.NewGuid(),
            SourceId = source.Id,
            FileName = "a.ifc",
            Length = 1,
            BlobId = Guid.NewGuid(),
            ReceivedAt = DateTime.UtcNow,
            State = DeliveryState.Received,
        };
        db.Add(delivery);
        await db.SaveChangesAsync();
        return delivery.Id;
    }

    private async Task<Delivery> NowAsync(Guid id)
    {
        await using var db = job.CreateDbContext();
        return await db.Deliveries.AsNoTracking().FirstAsync(d => d.Id == id);
    }

    [Fact]
    public async Task A_sentence_that_quotes_what_no_database_keeps_ends_work_all_the_same()
    {
        var id = await ArrivedAsync();
        await using var db = job.CreateDbContext();
        Assert.True(
            await WorkTable.Deliveries.FailAsync(
                db,
                id,
                "The checksum of \0\ud800.ifc is another.",
                CancellationToken.None
            )
        );
        var now = await NowAsync(id);
        Assert.Equal(
            (DeliveryState.Refused, "The checksum of \ufffd\ufffd.ifc is another."),
            (now.State, now.Sentence)
        );
    }

    [Fact]
    public async Task An_error_of_the_program_is_an_end_with_a_reference()
    {
        foreach (
            var e in new Exception[]
            {
                new NullReferenceException(),
                new OverflowException(),
                new OutOfMemoryException(),
                new IOException("disk"),
            }
        )
        {
            var id = await ArrivedAsync();
            Assert.Equal(WorkEnd.Over, await new Reading(job, _ => throw e).RunAsync(id, CancellationToken.None));
            var now = await NowAsync(id);
            Assert.Equal(DeliveryState.Refused, now.State);
            Assert.Matches(
                "^The reading (could not be finished|needs more memory).* reference [0-9A-F]{8}\\.$",
                now.Sentence
            );
        }
    }

    [Fact]
    public async Task A_fault_that_may_pass_is_tried_again_but_not_for_ever()
    {
        var id = await ArrivedAsync();
        var reading = new Reading(job, _ => throw new TimeoutException("no answer"));
        for (int n = 1; n < WorkTable.MaxAttempts; n++)
        {
            Assert.Equal(WorkEnd.Later, await reading.RunAsync(id, CancellationToken.None));
            Assert.Equal((n, DeliveryState.Received), ((await NowAsync(id)).Attempts, (await NowAsync(id)).State));
        }

        Assert.Equal(WorkEnd.Over, await reading.RunAsync(id, CancellationToken.None));
        Assert.Equal(DeliveryState.Refused, (await NowAsync(id)).State);
    }

    [Fact]
    public async Task Work_that_ended_its_process_twice_is_set_aside()
    {
        var id = await ArrivedAsync();
        var reading = new Reading(job, _ => Task.CompletedTask);
        Assert.True(await reading.DiedAsync(id, "it was aborted"));
        Assert.Equal(DeliveryState.Received, (await NowAsync(id)).State);
        Assert.False(await reading.DiedAsync(id, "it was aborted"));
        var now = await NowAsync(id);
        Assert.Equal((DeliveryState.Refused, 2), (now.State, now.Deaths));
        Assert.Contains("set aside", now.Sentence, StringComparison.Ordinal);
        // And nobody takes it up by itself.
        int begun = 0;
        await new Reading(job, _ => Task.FromResult(begun++)).RunAsync(id, CancellationToken.None);
        Assert.Equal(0, begun);
    }

    [Fact]
    public async Task Only_one_works_on_it_and_a_silent_one_is_replaced()
    {
        var id = await ArrivedAsync();
        var begun = new TaskCompletionSource();
        var end = new TaskCompletionSource();
        var options = new WorkOptions { Lease = TimeSpan.FromSeconds(2) };
        var first = new Reading(
            job,
            async progress =>
            {
                progress.At("reading", 0);
                begun.SetResult();
                await end.Task;
            },
            options
        ).RunAsync(id, CancellationToken.None);
        await begun.Task;
        int others = 0;
        // It gives signs of life by itself, longer than the lease.
        await Task.Delay(3000);
        await new Reading(job, _ => Task.FromResult(others++), options).RunAsync(id, CancellationToken.None);
        Assert.Equal(0, others);
        end.SetResult();
        await first;
        await using var db = job.CreateDbContext();
        await db
            .Deliveries.Where(d => d.Id == id)
            .ExecuteUpdateAsync(u =>
                u.SetProperty(d => d.Worker, Guid.NewGuid()).SetProperty(d => d.Beat, DateTime.UtcNow.AddSeconds(-30))
            );
        await new Reading(job, _ => Task.FromResult(others++), options).RunAsync(id, CancellationToken.None);
        Assert.Equal(1, others);
    }

    [Fact]
    public async Task Calling_off_is_felt_whatever_the_work_is_at()
    {
        var id = await ArrivedAsync();
        var begun = new TaskCompletionSource();
        var running = new Reading(job, async progress =>
        {
            progress.At("reading", 0);
            begun.SetResult();
            await Task.Delay(Timeout.Infinite, progress.Token);
        }).RunAsync(id, CancellationToken.None);
        await begun.Task;
        await using var db = job.CreateDbContext();
        await WorkTable.Deliveries.AskCancelAsync(db, id, "Called off.", job.Options.Lease, CancellationToken.None);
        Assert.False((await NowAsync(id)).IsFinal);
        await running.WaitAsync(TimeSpan.FromSeconds(2));
        Assert.Equal(DeliveryState.Cancelled, (await NowAsync(id)).State);
        // What nobody is at ends at once.
        var waiting = await ArrivedAsync();
        await WorkTable.Deliveries.AskCancelAsync(
            db,
            waiting,
            "Called off.",
            job.Options.Lease,
            CancellationToken.None
        );
        Assert.Equal(DeliveryState.Cancelled, (await NowAsync(waiting)).State);
    }

    [Fact]
    public async Task What_the_queue_has_lost_is_found_once()
    {
        var id = await ArrivedAsync();
        await using var db = job.CreateDbContext();
        await db
            .Deliveries.Where(d => d.Id == id)
            .ExecuteUpdateAsync(u => u.SetProperty(d => d.ReceivedAt, DateTime.UtcNow.AddHours(-1)));
        Assert.Contains(id, await Forgotten());
        Assert.DoesNotContain(id, await Forgotten());

        Task<List<Guid>> Forgotten() =>
            WorkTable.Deliveries.ForgottenAsync(db, job.Options.Lease, job.Options.Wait, CancellationToken.None);
    }

    [Fact]
    public async Task Uploads_that_were_given_up_end_after_a_day()
    {
        await using var db = job.CreateDbContext();
        var receiving = job.Receiving(db);
        var delivery = await receiving.BeginAsync(
            await db.Parties.FirstAsync(),
            "Old",
            "a.ifc",
            10,
            job.Somebody,
            CancellationToken.None
        );
        Assert.Empty(await receiving.GiveUpAsync(TimeSpan.FromDays(1), CancellationToken.None));
        await db
            .Deliveries.Where(d => d.Id == delivery.Id)
            .ExecuteUpdateAsync(u => u.SetProperty(d => d.ReceivedAt, DateTime.UtcNow.AddDays(-2)));
        Assert.Equal([delivery.Id], await receiving.GiveUpAsync(TimeSpan.FromDays(1), CancellationToken.None));
        Assert.Equal(DeliveryState.Cancelled, (await NowAsync(delivery.Id)).State);
    }

    [Fact]
    public async Task Names_with_NUL_half_pairs_and_twenty_thousand_letters_are_kept()
    {
        // \X\00 is NUL, \X2\D800\X0\ half of a pair (ISO 10303-21, 6.4.3).
        string longName = new('n', 20_000),
            odd = @"A\X\00B\X2\D800\X0\C";
        string text = Sample.Text(
            "#20=IFCSITE('0000000000000000000020',$,'S',$,$,$,$,$,.ELEMENT.,$,$,$,$,$);#24=IFCRELAGGREGATES('0000000000000000000024',$,$,$,#7,(#20));"
                + $"#25=IFCBUILDINGSTOREY('0000000000000000000025',$,'{odd}',$,$,$,$,$,.ELEMENT.,0.);#26=IFCRELAGGREGATES('0000000000000000000026',$,$,$,#20,(#25));"
                + $"#30=IFCWALL('{longName}',$,'{odd}',$,$,$,$,$,$);#31=IFCWALL('0000000000000000000031',$,'{longName}',$,$,$,$,$,$);"
                + "#32=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000032',$,$,$,(#30,#31),#25);"
                + "#35=IFCBLOCK(#2,1.,1.,1.);#36=IFCSHAPEREPRESENTATION(#8,'Body','CSG',(#35));#37=IFCPRODUCTDEFINITIONSHAPE($,$,(#36));"
                + $"#38=IFCSLAB('0000000000000000000038',$,'L',$,$,$,#37,$,$);#39=IFCPRESENTATIONLAYERASSIGNMENT('{longName}{odd}',$,(#36),$);"
                + $"#40=IFCPROPERTYSINGLEVALUE('{odd}',$,IFCLABEL('{odd}'),$);#43=IFCPROPERTYSET('0000000000000000000043',$,'{longName}{odd}',$,(#40));"
                + "#44=IFCRELDEFINESBYPROPERTIES('0000000000000000000044',$,$,$,(#30),#43);"
        );
        var id = await job.DeliverAsync("SNK", "Odd names", Encoding.ASCII.GetBytes(text));
        var now = await NowAsync(id);
        Assert.Equal(("", DeliveryState.Ready), (now.Sentence, now.State));
        await using var db = job.CreateDbContext();
        Assert.Equal("A\uFFFDB\uFFFDC", (await db.Levels.SingleAsync(l => l.RevisionId == id)).Name);
        Assert.Equal(
            20_000,
            (await db.Elements.SingleAsync(e => e.RevisionId == id && e.GlobalId == "0000000000000000000031"))
                .Name
                .Length
        );
    }
}
