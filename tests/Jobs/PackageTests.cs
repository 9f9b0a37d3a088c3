using System.IO.Compression;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging.Abstractions;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>A sheet and the plans it draws on, in one archive and one after the other.</summary>
public class PackageTests(JobFixture job) : IClassFixture<JobFixture>
{
    private static byte[] Plan(string layer)
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        drawing.Units = 4;
        drawing.Add(new Line { Layer = drawing.AddLayer(layer).Handle, End = new Vec3(1000, 0, 0) });
        return Written(drawing);
    }

    private static byte[] Sheet(params string[] files)
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        drawing.Units = 4;
        drawing.Add(new Circle { Radius = 5 });
        foreach (string file in files)
        {
            var block = drawing.AddBlock(Path.GetFileNameWithoutExtension(file));
            (block.IsXref, block.Path) = (true, "..\\plans\\" + file);
            drawing.Add(new Insert { Block = block.Handle });
        }

        return Written(drawing);
    }

    private static byte[] Written(Drawing drawing)
    {
        using var stream = new MemoryStream();
        DwgWriter.Write(drawing, stream);
        return stream.ToArray();
    }

    private static byte[] Zip(params (string Name, byte[] Bytes)[] files)
    {
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, true))
            foreach (var (name, bytes) in files)
            {
                using var entry = zip.CreateEntry(name).Open();
                entry.Write(bytes);
            }

        return stream.ToArray();
    }

    private async Task TakeUpAsync()
    {
        await using var db = job.CreateDbContext();
        foreach (
            var id in await WorkTable.Deliveries.ForgottenAsync(
                db,
                job.Options.Lease,
                job.Options.Wait,
                CancellationToken.None
            )
        )
            await new ReadDelivery(job, job.Options, NullLogger<ReadDelivery>.Instance).RunAsync(
                id,
                CancellationToken.None
            );
    }

    private async Task<(Drawing Drawing, IReadOnlyList<CadFinding> Open)> SeenAsync(Guid delivery)
    {
        await using var db = job.CreateDbContext();
        var row = await db.Deliveries.Include(d => d.Source).SingleAsync(d => d.Id == delivery);
        var references = await JobReferences.LoadAsync(db, job.Job.Id, null, CancellationToken.None);
        return await SheetDesk.ReadBoundAsync(db, references, row.Source, row.BlobId, CancellationToken.None);
    }

    [Fact]
    public async Task An_archive_of_a_sheet_and_its_plans_becomes_one_sheet_with_its_references()
    {
        byte[] zip = Zip(
            ("set/A-301 walls.dwg", Plan("A-WALL")),
            ("set/A-300.dwg", Sheet("A-301 walls.dwg", "A-302.dwg")),
            ("set/A-302.dwg", Plan("A-DOOR")),
            ("set/read me.txt", [1])
        );
        var id = await job.DeliverAsync("ARC", "Sheets", zip, "A-300.zip");
        await TakeUpAsync();
        await using var db = job.CreateDbContext();
        var deliveries = await db
            .Deliveries.Include(d => d.Source)
            .Where(d => d.Id == id || d.Source.Name.StartsWith("A-30"))
            .OrderBy(d => d.FileName)
            .ToListAsync();
        Assert.Equal(
            [
                ("Sheets", "A-300.dwg", DeliveryState.Ready),
                ("A-301 walls", "A-301 walls.dwg", DeliveryState.Ready),
                ("A-302", "A-302.dwg", DeliveryState.Ready),
            ],
            deliveries.Select(d => (d.Source.Name, d.FileName, d.State))
        );
        var (drawing, open) = await SeenAsync(id);
        Assert.Empty(open);
        Assert.Equal(
            ["A-301 walls$0$A-WALL", "A-302$0$A-DOOR"],
            drawing.Layers.Select(l => l.Name).Where(n => n.Contains('$', StringComparison.Ordinal)).Order()
        );
        // The same archive again brings nothing new.
        var again = await job.DeliverAsync("ARC", "Sheets", zip, "A-300.zip");
        await TakeUpAsync();
        Assert.Equal(DeliveryState.Same, (await db.Deliveries.AsNoTracking().SingleAsync(d => d.Id == again)).State);
        Assert.Equal(
            3,
            await db.Revisions.CountAsync(r =>
                r.Delivery.Source.Name == "Sheets" || r.Delivery.Source.Name.StartsWith("A-30")
            )
        );
    }

    [Fact]
    public async Task What_is_missing_can_come_later_and_an_order_binds_it()
    {
        var id = await job.DeliverAsync("STR", "S-400", Sheet("S-401.dwg"), "S-400.dwg");
        Assert.Contains(
            "S-401.dwg) was not bound: the file is not here",
            Assert.Single((await SeenAsync(id)).Open).Message,
            StringComparison.Ordinal
        );
        await job.DeliverAsync("SRV", "Ours", Plan("S-BEAM"), "s-401.DWG");
        Assert.Empty((await SeenAsync(id)).Open);
        foreach (bool keep in (bool[])[false, true])
        {
            var result = await GiveAsync(id, keep ? "keep" : "bind");
            Assert.True(result.Balanced, string.Join('\n', result.Drawings.SelectMany(d => d.Differences)));
            Assert.Equal(
                !keep,
                Assert.Single(result.Drawings).Rows.Any(r => r.Layer == "S-401$0$S-BEAM" && r.Found == 1)
            );
        }
    }

    // A sheet given as prepared rests on the drawings that it refers to and on the details that its steps place.
    [Fact]
    public async Task A_prepared_sheet_is_stale_once_what_it_draws_on_changes_and_is_else_not_written_again()
    {
        var id = await job.DeliverAsync("STR", "S-500", Sheet("S-501.dwg", "S-502.dwg"), "S-500.dwg");
        await job.DeliverAsync("STR", "S-501", Plan("S-SLAB"), "S-501.dwg");
        await using var db = job.CreateDbContext();
        var source = await db.Sources.Include(s => s.Party).SingleAsync(s => s.Name == "S-500");
        await new SettingOuts(db).AcceptAsync(
            source,
            job.Job.Id,
            new SettingOutDocument { Scale = 0.001 },
            new PreparationDocument
            {
                Steps =
                [
                    new PreparationStep
                    {
                        Do = "detail",
                        To = "Edge",
                        At = [100, 0],
                    },
                ],
            },
            1,
            job.Somebody,
            CancellationToken.None
        );
        await KeepAsync(db, "S-EDGE");
        var order = await OrderAsync(db, source.Id, "bind");
        var first = await RunAsync(db, order);
        Assert.Empty(await StaleAsync(db, order));
        var second = await RunAsync(db, order);
        Assert.Equal(1, Assert.Single(second.Files).SameAs);

        await job.DeliverAsync("STR", "S-501", Plan("S-SLAB-NEW"), "S-501.dwg");
        Assert.Equal(["STR S-501 r2, which a drawing refers to, came"], await StaleAsync(db, order));
        var third = await RunAsync(db, order);
        Assert.Null(Assert.Single(third.Files).SameAs);
        Assert.Equal(
            ["S-501$0$S-SLAB", "S-501$0$S-SLAB-NEW"],
            TransmittalComparison.Of(second, third).Drawn.Select(c => c.Layer).Order()
        );

        await job.DeliverAsync("SRV", "Theirs", Plan("S-PIT"), "s-502.dwg");
        await KeepAsync(db, "S-EDGE-NEW");
        var stale = await StaleAsync(db, order);
        Assert.Equal(2, stale.Count);
        Assert.EndsWith("r1, which a drawing refers to, came", stale[0], StringComparison.Ordinal);
        Assert.Equal("the detail Edge changed", stale[1]);
        await RunAsync(db, order);
        Assert.Empty(await StaleAsync(db, order));

        // What has another name concerns it not, nor does a reference that stays one.
        var kept = await OrderAsync(db, source.Id, "keep");
        await RunAsync(db, kept);
        await job.DeliverAsync("STR", "S-501", Plan("S-SLAB-THIRD"), "S-501.dwg");
        await job.DeliverAsync("STR", "S-503", Plan("S-ROOF"), "S-503.dwg");
        Assert.Empty(await StaleAsync(db, kept));
        Assert.Equal(["STR S-501 r3, which a drawing refers to, came"], await StaleAsync(db, order));
    }

    private async Task KeepAsync(LintelDb db, string layer) =>
        await new Details(db).KeepAsync(
            job.Job.Id,
            "Edge",
            DetailCut.Of(
                CadFile.Read(Plan(layer)).Drawing,
                [
                    [-1, -1],
                    [1001, 1],
                ],
                [0, 0]
            ),
            new DetailFacts(0.001, 1, 0, "STR r1"),
            job.Somebody,
            CancellationToken.None
        );

    private async Task<IReadOnlyList<string>> StaleAsync(LintelDb db, OrderRow order) =>
        (
            await Staleness.OfAsync(
                db,
                await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None),
                CancellationToken.None
            )
        ).GetValueOrDefault(order.Id, []);

    private Orders Orders(LintelDb db) => new(db, job, job.Options, new StorageQuota(db, new StorageQuotaOptions()));

    private async Task<OrderRow> OrderAsync(LintelDb db, Guid source, string references)
    {
        int number = await Orders(db).CreateAsync(job.Job.Id, job.Somebody, CancellationToken.None);
        var order = await db.Orders.SingleAsync(o => o.JobId == job.Job.Id && o.Number == number);
        await Orders(db)
            .SaveAsync(
                order,
                "",
                new OrderDocument
                {
                    Into = new OrderInto { File = "none" },
                    Drawings = new OrderDrawings { Sources = [source.ToString()], References = references },
                },
                job.Somebody,
                CancellationToken.None
            );
        return order;
    }

    private async Task<Transmittal> RunAsync(LintelDb db, OrderRow order)
    {
        Assert.True(await Orders(db).RunAsync(order, job.Somebody, CancellationToken.None));
        await job.WorkAsync();
        var run = await db
            .Transmittals.AsNoTracking()
            .Include(t => t.Files)
            .Where(t => t.OrderId == order.Id)
            .OrderByDescending(t => t.Number)
            .FirstAsync();
        Assert.True(run.State == TransmittalState.Done, run.Sentence);
        return run;
    }

    private async Task<HandoverResult> GiveAsync(Guid delivery, string references)
    {
        await using var db = job.CreateDbContext();
        var source = await db.Deliveries.Where(d => d.Id == delivery).Select(d => d.SourceId).SingleAsync();
        var run = await RunAsync(db, await OrderAsync(db, source, references));
        return JsonSerializer.Deserialize<HandoverResult>(run.Result!, IntakeStore.Json)!;
    }

    [Theory]
    [InlineData("twice", "twice, in two folders")]
    [InlineData("damaged", "damaged")]
    [InlineData("nothing", "no .ifc file")]
    public async Task An_archive_that_cannot_be_unpacked_is_refused_with_a_sentence(string how, string sentence)
    {
        byte[] zip = how switch
        {
            "twice" => Zip(("a/p.dwg", Plan("A")), ("b/P.dwg", Plan("B"))),
            "nothing" => Zip(("a.txt", [1])),
            _ => Zip(("p.dwg", Plan("A"))),
        };
        if (how == "damaged")
            zip[100] ^= 0x40;
        var id = await job.DeliverAsync("ARC", "Odd " + how, zip, "odd.zip");
        await using var db = job.CreateDbContext();
        var delivery = await db.Deliveries.SingleAsync(d => d.Id == id);
        Assert.Equal(DeliveryState.Refused, delivery.State);
        Assert.Contains(sentence, delivery.Sentence, StringComparison.Ordinal);
    }
}
