using System.Diagnostics;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Npgsql;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>A backup brings everything back, and damage is found.</summary>
public class BackupTests(JobFixture job) : IClassFixture<JobFixture>
{
    private static string Tool(string name) =>
        Directory
            .EnumerateDirectories("/usr/lib/postgresql")
            .OrderDescending()
            .Select(d => Path.Combine(d, "bin", name))
            .First(File.Exists);

    private static async Task RunAsync(string tool, string connection, params string[] arguments)
    {
        var to = new NpgsqlConnectionStringBuilder(connection);
        var start = new ProcessStartInfo(
            Tool(tool),
            ["-h", to.Host!, "-p", $"{to.Port}", "-U", to.Username!, "-d", to.Database!, .. arguments]
        )
        {
            RedirectStandardError = true,
        };
        start.Environment["PGPASSWORD"] = to.Password;
        using var process = Process.Start(start)!;
        string errors = await process.StandardError.ReadToEndAsync();
        await process.WaitForExitAsync();
        Assert.True(process.ExitCode == 0, errors);
    }

    private static LintelDb Open(string connection)
    {
        var options = new DbContextOptionsBuilder<LintelDb>();
        LintelDbFactory.Configure(options, connection);
        return new LintelDb(options.Options);
    }

    [Fact]
    public async Task A_backup_restored_into_an_empty_database_has_every_hash_again()
    {
        string dump = Path.GetTempFileName(),
            other = TestDatabase.New();
        try
        {
            await RunAsync("pg_dump", job.Connection, "-Fc", "-f", dump);
            await using var empty = Open(other);
            await empty.GetService<Microsoft.EntityFrameworkCore.Storage.IRelationalDatabaseCreator>().CreateAsync();
            await RunAsync("pg_restore", other, "--no-owner", dump);
            await using var db = job.CreateDbContext();
            var before = await Integrity.CheckAsync(db, CancellationToken.None);
            var after = await Integrity.CheckAsync(empty, CancellationToken.None);
            Assert.Empty(after.Faults);
            Assert.True(after.Contents >= 4);
            Assert.Equal((before.Contents, before.Bytes), (after.Contents, after.Bytes));
            Assert.Equal(await db.Elements.CountAsync(), await empty.Elements.CountAsync());
            Assert.Equal(await db.ChunkContents.CountAsync(), await empty.ChunkContents.CountAsync());
            Assert.False(empty.Database.HasPendingModelChanges());
            Assert.Empty(await empty.Database.GetPendingMigrationsAsync());
            // The record is append only there, too.
            await Assert.ThrowsAsync<PostgresException>(() =>
                empty.Database.ExecuteSqlAsync($"UPDATE record SET did = 'nothing'")
            );
        }
        finally
        {
            File.Delete(dump);
        }
    }

    [Fact]
    public async Task A_byte_that_has_changed_is_found()
    {
        await using var db = job.CreateDbContext();
        var blob = (await db.Deliveries.FirstAsync(d => d.Revision != null && d.Source.Party.Code == "SNK")).BlobId;
        await db.Database.ExecuteSqlAsync(
            $"UPDATE pieces SET bytes = set_byte(bytes, 100, get_byte(bytes, 100) # 1) WHERE blob_id = {blob} AND number = 0"
        );
        Assert.Contains(
            "not those that were received",
            Assert.Single((await Integrity.CheckAsync(db, CancellationToken.None)).Faults),
            StringComparison.Ordinal
        );
        await db.Database.ExecuteSqlAsync(
            $"UPDATE pieces SET bytes = set_byte(bytes, 100, get_byte(bytes, 100) # 1) WHERE blob_id = {blob} AND number = 0"
        );
        Assert.Empty((await Integrity.CheckAsync(db, CancellationToken.None)).Faults);
    }
}
