using System.Data.Common;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>The list of jobs: the same figures as inside each job, in as many queries for one job as for a hundred.</summary>
public class JobOverviewTests(JobFixture job) : IClassFixture<JobFixture>
{
    private sealed class Counter : DbCommandInterceptor
    {
        public int Commands { get; private set; }

        public override ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
            DbCommand command,
            CommandEventData eventData,
            InterceptionResult<DbDataReader> result,
            CancellationToken cancellationToken = default
        )
        {
            Commands++;
            return ValueTask.FromResult(result);
        }
    }

    [Fact]
    public async Task A_hundred_jobs_take_three_queries()
    {
        var counter = new Counter();
        var options = new DbContextOptionsBuilder<LintelDb>();
        LintelDbFactory.Configure(options, job.Connection);
        options.AddInterceptors(counter);
        await using var db = new LintelDb(options.Options);
        var jobs = Enumerable
            .Range(0, 100)
            .Select(n => new Job
            {
                Id = Guid.NewGuid(),
                Code = $"OV{n}",
                Name = $"Job {n}",
            })
            .ToList();
        db.Jobs.AddRange(jobs);
        await db.SaveChangesAsync();
        int before = counter.Commands;
        var access = new JobAccess(db);
        var all = await access.OverviewAsync([.. jobs.Select(j => j.Id), job.Job.Id], CancellationToken.None);
        Assert.Equal(3, counter.Commands - before);
        Assert.Equal(new JobOverview(0, 0, 0, 0, false), all[jobs[7].Id]);
        var who = new JobPermissions(MemberRole.Coordinator, null, false, false);
        var inside = await access.RouteAsync(job.Job.Id, who, CancellationToken.None);
        var line = all[job.Job.Id];
        Assert.True(line.Sources > 0);
        Assert.Equal(
            (inside.Underway, inside.Findings, inside.Sources, inside.Orders, inside.Stale),
            (
                line.Underway,
                line.Findings,
                line.Sources,
                line.Orders,
                await access.StaleAsync(job.Job.Id, CancellationToken.None)
            )
        );
    }
}
