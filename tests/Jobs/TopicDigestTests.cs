using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>Mails about topics: at once, gathered for a day, or none.</summary>
public class TopicDigestTests(JobFixture job) : IClassFixture<JobFixture>
{
    private static CancellationToken None => CancellationToken.None;

    private async Task<Actor> MemberAsync(LintelDb db, TopicMails mails, string zone = "")
    {
        var id = Guid.NewGuid();
        string name = $"{id:N}@heron.example";
        db.Users.Add(
            new AppUser
            {
                Id = id,
                UserName = name,
                Email = name,
                DisplayName = name[..8],
                TimeZone = zone,
            }
        );
        db.Memberships.Add(
            new Membership
            {
                JobId = job.Job.Id,
                UserId = id,
                Role = MemberRole.Coordinator,
                TopicMails = mails,
            }
        );
        await db.SaveChangesAsync();
        return new Actor(id, "");
    }

    private static string AddressOf(Actor who) => $"{who.User:N}@heron.example";

    [Fact]
    public async Task Each_gets_mails_as_they_want_them()
    {
        await using var db = job.CreateDbContext();
        var me = await MemberAsync(db, TopicMails.AtOnce);
        var atOnce = await MemberAsync(db, TopicMails.AtOnce);
        var daily = await MemberAsync(db, TopicMails.Daily);
        var never = await MemberAsync(db, TopicMails.Never);
        var editing = new TopicEditing(db, new StorageQuota(db, new StorageQuotaOptions()));
        var state = await JobState.LoadAsync(db, job.Job.Id, None);
        var may = new JobPermissions(MemberRole.Coordinator, null, false, false);
        foreach (string title in (string[])["First", "Second"])
        foreach (var to in (Actor[])[atOnce, daily, never])
            await editing.AskAsync(state, may, new TopicWish { Title = title, Assigned = AddressOf(to) }, me, None);
        Task<List<OutgoingMail>> Mails(Actor who) =>
            db.Mails.AsNoTracking().Where(m => m.To == AddressOf(who)).ToListAsync();
        Assert.Equal(2, (await Mails(atOnce)).Count);
        Assert.Empty(await Mails(daily));
        Assert.Empty(await Mails(never));

        var digest = new TopicDigest(db);
        // Not before six in the morning after.
        Assert.Equal(0, await digest.WriteDueAsync(DateTime.UtcNow, None));
        var tomorrow = DateTime.UtcNow.Date.AddDays(1).AddHours(TopicDigest.Hour).AddMinutes(1);
        Assert.Equal(1, await digest.WriteDueAsync(tomorrow, None));
        var mail = Assert.Single(await Mails(daily));
        Assert.Contains("2 answers and questions", mail.Subject);
        Assert.Contains("First", mail.Text);
        Assert.Contains("Second", mail.Text);
        Assert.Equal(0, await digest.WriteDueAsync(tomorrow.AddDays(1), None));
        Assert.Empty(await Mails(never));
    }

    [Fact]
    public async Task What_waits_for_somebody_who_leaves_the_job_goes_with_them()
    {
        await using var db = job.CreateDbContext();
        var gone = await MemberAsync(db, TopicMails.Daily);
        db.TopicNews.Add(
            new TopicNews
            {
                JobId = job.Job.Id,
                UserId = gone.User,
                At = DateTime.UtcNow.AddDays(-3),
                Line = "you owe",
                Text = "x",
            }
        );
        await db.SaveChangesAsync();
        await db.Memberships.Where(m => m.UserId == gone.User).ExecuteDeleteAsync();
        Assert.Equal(0, await new TopicDigest(db).WriteDueAsync(DateTime.UtcNow, None));
    }

    [Theory]
    [InlineData("2026-12-01T05:59:00", "", "2026-11-30T06:00:00")]
    [InlineData("2026-12-01T06:00:00", "", "2026-12-01T06:00:00")]
    [InlineData("2026-12-01T05:30:00", "Europe/Berlin", "2026-12-01T05:00:00")]
    [InlineData("2026-07-01T04:30:00", "Europe/Berlin", "2026-07-01T04:00:00")]
    [InlineData("2026-12-01T05:30:00", "no such zone", "2026-11-30T06:00:00")]
    public void Six_in_the_morning_is_the_readers_own(string now, string zone, string wanted) =>
        Assert.Equal(
            DateTime.Parse(wanted, null, System.Globalization.DateTimeStyles.None),
            TopicDigest.LastHour(
                DateTime.SpecifyKind(
                    DateTime.Parse(now, null, System.Globalization.DateTimeStyles.None),
                    DateTimeKind.Utc
                ),
                zone
            )
        );
}
