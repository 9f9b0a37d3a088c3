using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>A migrated database with one job, one party and one source.</summary>
public sealed class StoreFixture : IAsyncLifetime
{
    private readonly string _connection = TestDatabase.New();

    public Guid Source { get; } = Guid.NewGuid();

    public LintelDb Open()
    {
        var options = new DbContextOptionsBuilder<LintelDb>();
        LintelDbFactory.Configure(options, _connection);
        return new LintelDb(options.Options);
    }

    public async ValueTask InitializeAsync()
    {
        await using var db = Open();
        await db.Database.MigrateAsync();
        var job = new Job
        {
            Id = Guid.NewGuid(),
            Code = "T1",
            Name = "Test",
        };
        var party = new Party
        {
            Id = Guid.NewGuid(),
            JobId = job.Id,
            Code = "ARC",
            Discipline = "Architecture",
            Colour = "#000000",
        };
        db.AddRange(
            job,
            party,
            new Source
            {
                Id = Source,
                JobId = job.Id,
                PartyId = party.Id,
                Name = "Main",
            }
        );
        await db.SaveChangesAsync();
    }

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    public async Task<Guid> DeliverAsync()
    {
        await using var db = Open();
        var delivery = new Delivery
        {
            Id = Guid.NewGuid(),
            SourceId = Source,
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
}

public class StoreTests(StoreFixture store) : IClassFixture<StoreFixture>
{
    private const string Walls =
        "#20=IFCBUILDINGSTOREY('0000000000000000000020',$,'Ground',$,$,$,$,$,.ELEMENT.,0.);#50=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,2.,1.);#51=IFCEXTRUDEDAREASOLID(#50,#2,#3,3.);#52=IFCSHAPEREPRESENTATION(#8,'Body','SweptSolid',(#51));#53=IFCPRODUCTDEFINITIONSHAPE($,$,(#52));"
        + "#30=IFCWALL('0000000000000000000030',$,'One',$,$,$,#53,$,$);#31=IFCWALL('0000000000000000000031',$,'Two',$,$,$,#53,$,$);#32=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000032',$,$,$,(#30,#31),#20);";

    private static (
        ModelSnapshot Snapshot,
        IntakeReport Report,
        List<ElementRow> Rows,
        IReadOnlyList<GeometryChunk> Chunks
    ) Intake(Guid delivery)
    {
        var snapshot = ModelSnapshot.Open(Sample.Model(Walls));
        var chunks = new ChunkBuilder();
        var rows = new List<ElementRow>();
        var report = IntakeReader.Read(snapshot, (element, shape) =>
        {
            chunks.Add(element, shape);
            rows.Add(
                new ElementRow
                {
                    RevisionId = delivery,
                    Number = element.Number,
                    GlobalId = element.GlobalId,
                    Class = element.Class,
                    Name = element.Name + "\0",
                    Storey = element.Storey,
                    Layer = "",
                    Facts = IntakeStore.Pack(ElementFacts.Read(snapshot, element)),
                }
            );
        });
        return (snapshot, report, rows, chunks.Build());
    }

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(Blobs.PieceLength)]
    [InlineData(Blobs.PieceLength + 1)]
    [InlineData((2 * Blobs.PieceLength) + 12345)]
    public async Task A_blob_comes_back_byte_for_byte(int length)
    {
        var bytes = new byte[length];
        new Random(length).NextBytes(bytes);
        await using var db = store.Open();
        var blobs = db.Blobs;
        var id = Guid.NewGuid();
        Assert.Equal(length, await blobs.PutAllAsync(id, new MemoryStream(bytes)));
        using var back = new MemoryStream();
        Assert.Equal(Convert.ToHexStringLower(SHA256.HashData(bytes)), await blobs.CopyToAsync(id, back));
        Assert.Equal(bytes, back.ToArray());
        Assert.Equal(length, (await blobs.HeldAsync(id)).Bytes);
        await blobs.DeleteAsync(id);
        Assert.Equal((0, 0), await blobs.HeldAsync(id));
    }

    [Fact]
    public async Task A_piece_sent_twice_is_kept_once_and_order_does_not_matter()
    {
        await using var db = store.Open();
        var blobs = db.Blobs;
        var id = Guid.NewGuid();
        await blobs.PutAsync(id, 1, Encoding.ASCII.GetBytes("world"));
        await blobs.PutAsync(id, 0, Encoding.ASCII.GetBytes("hello "));
        await blobs.PutAsync(id, 0, Encoding.ASCII.GetBytes("other "));
        using var back = new MemoryStream();
        await blobs.CopyToAsync(id, back);
        Assert.Equal("hello world", Encoding.ASCII.GetString(back.ToArray()));
        Assert.Equal((11, 2), await blobs.HeldAsync(id));
    }

    [Fact]
    public async Task Revisions_are_numbered_and_storing_again_replaces()
    {
        var (first, second) = (await store.DeliverAsync(), await store.DeliverAsync());
        int one = await SaveAsync(first),
            two = await SaveAsync(second);
        Assert.Equal(one + 1, two);
        // A worker that was killed after its last step does it again.
        Assert.Equal(one, await SaveAsync(first));
        await using var db = store.Open();
        Assert.Equal(2, await db.Elements.CountAsync(e => e.RevisionId == first));
        Assert.Equal(1, await db.Levels.CountAsync(l => l.RevisionId == first));
        Assert.Equal(DeliveryState.Ready, (await db.Deliveries.SingleAsync(d => d.Id == first)).State);
        Assert.Equal([2], await db.Facets.Where(f => f.RevisionId == first).Select(f => f.Count).ToListAsync());
    }

    [Fact]
    public async Task What_stands_alike_in_two_revisions_is_kept_once()
    {
        var (first, second) = (await store.DeliverAsync(), await store.DeliverAsync());
        await SaveAsync(first);
        await SaveAsync(second);
        await using var db = store.Open();
        var hashes = await db
            .Chunks.Where(c => c.RevisionId == first || c.RevisionId == second)
            .Select(c => c.Hash)
            .ToListAsync();
        Assert.Equal(2 * hashes.Distinct().Count(), hashes.Count);
    }

    [Fact]
    public async Task A_stopped_intake_leaves_nothing_half_written()
    {
        var delivery = await store.DeliverAsync();
        var (snapshot, report, rows, chunks) = Intake(delivery);
        await using (var db = store.Open())
        {
            // The second row breaks the primary key, in the middle of it all.
            rows[1].Number = rows[0].Number;
            await Assert.ThrowsAnyAsync<Exception>(() =>
                new IntakeStore(db).SaveAsync(
                    delivery,
                    snapshot,
                    Contents(report, rows, chunks),
                    null,
                    CancellationToken.None
                )
            );
        }

        await using var again = store.Open();
        Assert.Equal(0, await again.Elements.CountAsync(e => e.RevisionId == delivery));
        Assert.Equal(0, await again.Chunks.CountAsync(c => c.RevisionId == delivery));
        Assert.Equal(DeliveryState.Received, (await again.Deliveries.SingleAsync(d => d.Id == delivery)).State);
    }

    [Fact]
    public async Task Elements_go_with_their_revision()
    {
        var delivery = await store.DeliverAsync();
        await SaveAsync(delivery);
        await using var db = store.Open();
        await db.Revisions.Where(r => r.Id == delivery).ExecuteDeleteAsync();
        Assert.Equal(0, await db.Elements.CountAsync(e => e.RevisionId == delivery));
    }

    [Fact]
    public async Task Facts_are_packed_and_come_back_and_text_is_cleaned_for_the_database()
    {
        var delivery = await store.DeliverAsync();
        await SaveAsync(delivery);
        await using var db = store.Open();
        var row = await db.Elements.OrderBy(e => e.Number).FirstAsync(e => e.RevisionId == delivery);
        Assert.Equal("One\uFFFD", row.Name);
        var facts = await IntakeStore.FactsAsync(db, row, default);
        Assert.Equal(
            ("0000000000000000000030", "IfcWall", "One\uFFFD", "Ground"),
            (facts.GlobalId, facts.Class, facts.Name, facts.Storey)
        );
    }

    [Fact]
    public async Task A_job_has_a_code_only_once()
    {
        await using var db = store.Open();
        db.Add(
            new Job
            {
                Id = Guid.NewGuid(),
                Code = "T1",
                Name = "Again",
            }
        );
        await Assert.ThrowsAsync<DbUpdateException>(() => db.SaveChangesAsync());
    }

    private async Task<int> SaveAsync(Guid delivery)
    {
        var (snapshot, report, rows, chunks) = Intake(delivery);
        await using var db = store.Open();
        return await new IntakeStore(db).SaveAsync(
            delivery,
            snapshot,
            Contents(report, rows, chunks),
            null,
            CancellationToken.None
        );
    }

    private static Func<Action<PackedElement, int[]>, IntakeContents> Contents(
        IntakeReport report,
        IEnumerable<ElementRow> rows,
        IReadOnlyList<GeometryChunk> chunks
    ) =>
        add =>
        {
            foreach (var row in rows)
                add(PackedElement.Of(row), row.Sets);
            return new IntakeContents(report, [], chunks);
        };
}
