using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging.Abstractions;
using SteadyLintel.Demo;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>A job with the demo's models and one model of everything, received and read without a web server.</summary>
public sealed class JobFixture : IAsyncLifetime, IDbContextFactory<LintelDb>, IWorkQueue
{
    private readonly string _connection = TestDatabase.New();
    private readonly Queue<Func<Task>> _work = new();

    public Job Job { get; } =
        new()
        {
            Id = Guid.NewGuid(),
            Code = "J",
            Name = "Job",
        };

    /// <summary>How work is watched here.</summary>
    public WorkOptions Options { get; } = new();

    public Actor Somebody { get; } = new(Guid.NewGuid(), "127.0.0.1");

    /// <summary>The database.</summary>
    public string Connection => _connection;

    public LintelDb CreateDbContext()
    {
        var options = new DbContextOptionsBuilder<LintelDb>();
        LintelDbFactory.Configure(options, _connection);
        return new LintelDb(options.Options);
    }

    public void Read(Guid delivery) =>
        _work.Enqueue(() =>
            new ReadDelivery(this, Options, NullLogger<ReadDelivery>.Instance).RunAsync(
                delivery,
                CancellationToken.None
            )
        );

    public void Run(Guid transmittal) =>
        _work.Enqueue(() =>
            new RunOrder(this, Options, NullLogger<RunOrder>.Instance).RunAsync(transmittal, CancellationToken.None)
        );

    /// <summary>Does what waits.</summary>
    public async Task WorkAsync()
    {
        while (_work.TryDequeue(out var next))
            await next();
    }

    /// <summary>Receives into this job.</summary>
    public Receiving Receiving(LintelDb db, StorageQuotaOptions? space = null) =>
        new(db, this, Options, new StorageQuota(db, space ?? new StorageQuotaOptions()));

    public async Task<Guid> DeliverAsync(string party, string source, byte[] bytes, string fileName = "model.ifc")
    {
        await using var db = CreateDbContext();
        using var stream = new MemoryStream(bytes);
        var id = await Receiving(db)
            .DeliverAsync(
                await db.Parties.SingleAsync(p => p.Code == party),
                source,
                fileName,
                stream,
                Somebody,
                CancellationToken.None
            );
        await WorkAsync();
        return id;
    }

    public async ValueTask InitializeAsync()
    {
        await using var db = CreateDbContext();
        await db.Database.MigrateAsync();
        foreach (string code in (string[])["ARC", "STR", "SRV", "SNK"])
            Job.Parties.Add(
                new Party
                {
                    Id = Guid.NewGuid(),
                    Code = code,
                    Discipline = code,
                    Colour = "#000000",
                }
            );
        db.Add(Job);
        await db.SaveChangesAsync();
        foreach (var demo in HeronWharf.Models)
        {
            using var stream = new MemoryStream();
            demo.Write(stream);
            await DeliverAsync(demo.Party, demo.Source, stream.ToArray());
        }

        await DeliverAsync("SNK", "Sink", ModelSink.Bytes());
        // The architect gives the job its frame and levels; what others have more is added.
        await using var after = CreateDbContext();
        var levels = new LevelEditing(after);
        await new JobReference(after, new SettingOuts(after), levels).ChooseAsync(
            Job.Id,
            (await after.Sources.SingleAsync(s => s.Party.Code == "ARC")).Id,
            Somebody,
            CancellationToken.None
        );
        await levels.ConfirmAsync(Job.Id, null, null, Somebody, CancellationToken.None);
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;
}
