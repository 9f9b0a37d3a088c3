using Microsoft.EntityFrameworkCore;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>What there is no room for is refused before it is begun, with a sentence that says whose room is used up.</summary>
public class SpaceTests(JobFixture job) : IClassFixture<JobFixture>
{
    [Fact]
    public async Task A_job_a_person_and_the_disk_have_their_limits_each()
    {
        Assert.Contains("The job keeps", await RefusalAsync(new StorageQuotaOptions { JobBytes = 1 }));
        Assert.Contains("You have sent", await RefusalAsync(new StorageQuotaOptions { PersonBytes = 1 }));
        Assert.Contains(
            "disk is nearly full",
            await RefusalAsync(new StorageQuotaOptions { FreeBytes = long.MaxValue / 2 })
        );
    }

    [Fact]
    public async Task What_fits_to_the_byte_is_taken_and_one_byte_more_is_not()
    {
        await using var db = job.CreateDbContext();
        long held = await new StorageQuota(db, new StorageQuotaOptions()).OfJobAsync(
            job.Job.Id,
            CancellationToken.None
        );
        var party = await db.Parties.FirstAsync(p => p.JobId == job.Job.Id);
        var receiving = job.Receiving(db, new StorageQuotaOptions { JobBytes = held + 10 });
        var refused = await Assert.ThrowsAsync<RefusedException>(() =>
            receiving.BeginAsync(party, "Fits", "a.ifc", 11, job.Somebody, CancellationToken.None)
        );
        Assert.Equal(RefusalKind.Full, refused.Kind);
        // What is announced counts, though none of it is here yet.
        var taken = await receiving.BeginAsync(party, "Fits", "a.ifc", 10, job.Somebody, CancellationToken.None);
        await Assert.ThrowsAsync<RefusedException>(() =>
            receiving.BeginAsync(party, "Fits", "b.ifc", 1, job.Somebody, CancellationToken.None)
        );
        // What is called off counts no more.
        await receiving.CancelAsync(
            await db.Deliveries.Include(d => d.Source).FirstAsync(d => d.Id == taken.Id),
            job.Somebody,
            CancellationToken.None
        );
        await receiving.BeginAsync(party, "Fits", "b.ifc", 1, job.Somebody, CancellationToken.None);
    }

    [Fact]
    public void A_full_disk_is_told_from_other_faults()
    {
        Assert.True(
            StorageQuota.IsFull(
                new DbUpdateException("", new Npgsql.PostgresException("disk full", "ERROR", "ERROR", "53100"))
            )
        );
        Assert.False(StorageQuota.IsFull(new Npgsql.PostgresException("unique", "ERROR", "ERROR", "23505")));
        Assert.False(StorageQuota.IsFull(new IOException("other")));
        // A device that is always full (Linux, full(4)).
        using var full = new FileStream("/dev/full", FileMode.Open, FileAccess.Write, FileShare.ReadWrite, 0);
        Assert.True(StorageQuota.IsFull(Assert.ThrowsAny<IOException>(() => full.Write([1]))));
    }

    [Fact]
    public async Task Originals_move_into_a_folder_and_back_and_keep_their_hashes()
    {
        string path = Directory.CreateTempSubdirectory("originals-").FullName;
        try
        {
            var options = new DbContextOptionsBuilder<LintelDb>();
            LintelDbFactory.Configure(options, job.Connection);
            await using var db = new LintelDb(options.Options, new BlobFolder(path));
            int pieces = await db.Pieces.CountAsync();
            Assert.True(pieces > 3);
            Assert.Equal(pieces, await db.Blobs.MoveAsync(true, CancellationToken.None));
            Assert.Equal(0, await db.Pieces.CountAsync());
            Assert.Empty((await Integrity.CheckAsync(db, CancellationToken.None)).Faults);

            var blob = Guid.NewGuid();
            var bytes = new byte[Blobs.PieceLength + 5];
            Random.Shared.NextBytes(bytes);
            await db.Blobs.PutAllAsync(blob, new MemoryStream(bytes));
            using var back = new MemoryStream();
            await db.Blobs.CopyToAsync(blob, back);
            Assert.Equal(bytes, back.ToArray());
            // Nothing speaks of it, but it is young: a run may just be writing it.
            Assert.Equal(0, await db.Blobs.SweepAsync(CancellationToken.None));
            string folder = Directory.GetDirectories(path, blob.ToString("N"), SearchOption.AllDirectories).Single();
            Directory.SetLastWriteTimeUtc(folder, DateTime.UtcNow.AddDays(-2));
            Assert.Equal(1, await db.Blobs.SweepAsync(CancellationToken.None));

            Assert.Equal(pieces, await db.Blobs.MoveAsync(false, CancellationToken.None));
            Assert.Equal(pieces, await db.Pieces.CountAsync());
            Assert.Empty((await Integrity.CheckAsync(db, CancellationToken.None)).Faults);
        }
        finally
        {
            Directory.Delete(path, true);
        }
    }

    private async Task<string> RefusalAsync(StorageQuotaOptions options)
    {
        await using var db = job.CreateDbContext();
        var party = await db.Parties.FirstAsync(p => p.JobId == job.Job.Id);
        var refused = await Assert.ThrowsAsync<RefusedException>(() =>
            job.Receiving(db, options).BeginAsync(party, "Any", "a.ifc", 10, job.Somebody, CancellationToken.None)
        );
        Assert.Equal(RefusalKind.Full, refused.Kind);
        Assert.False(await db.Deliveries.AnyAsync(d => d.FileName == "a.ifc" && d.Source.Name == "Any"));
        return refused.Message;
    }
}
