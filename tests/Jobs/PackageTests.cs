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
        foreach (var id in await WorkTable.Deliveries.ForgottenAsync(db, job.Options.Lease, job.Options.Wait, CancellationToken.None))
            await new ReadDelivery(job, job.Options, NullLogger<ReadDelivery>.Instance).RunAsync(id, CancellationToken.None);
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
        byte[] zip = Zip(("set/A-301 walls.dwg", Plan("A-WALL")), ("set/A-300.dwg", Sheet("A-301 walls.dwg", "A-302.dwg")),
            ("set/A-302.dwg", Plan("A-DOOR")), ("set/read me.txt", [1]));
        var id = await job.DeliverAsync("ARC", "Sheets", zip, "A-300.zip");
        await TakeUpAsync();
        await using var db = job.CreateDbContext();
        var deliveries = await db.Deliveries.Include(d => d.Source).Where(d => d.Id == id || d.Source.Name.StartsWith("A-30"))
            .OrderBy(d => d.FileName).ToListAsync();
        Assert.Equal([("Sheets", "A-300.dwg", DeliveryState.Ready), ("A-301 walls", "A-301 walls.dwg", DeliveryState.Ready),
            ("A-302", "A-302.dwg", DeliveryState.Ready)], deliveries.Select(d => (d.Source.Name, d.FileName, d.State)));
        var (drawing, open) = await SeenAsync(id);
        Assert.Empty(open);
        Assert.Equal(["A-301 walls$0$A-WALL", "A-302$0$A-DOOR"], drawing.Layers.Select(l => l.Name).Where(n => n.Contains('$', StringComparison.Ordinal)).Order());
        // The same archive again brings nothing new.
        var again = await job.DeliverAsync("ARC", "Sheets", zip, "A-300.zip");
        await TakeUpAsync();
        Assert.Equal(DeliveryState.Same, (await db.Deliveries.AsNoTracking().SingleAsync(d => d.Id == again)).State);
        Assert.Equal(3, await db.Revisions.CountAsync(r => r.Delivery.Source.Name == "Sheets" || r.Delivery.Source.Name.StartsWith("A-30")));
    }

    [Fact]
    public async Task What_is_missing_can_come_later_and_an_order_binds_it()
    {
        var id = await job.DeliverAsync("STR", "S-400", Sheet("S-401.dwg"), "S-400.dwg");
        Assert.Contains("S-401.dwg) stays open: the file is not here", Assert.Single((await SeenAsync(id)).Open).Message, StringComparison.Ordinal);
        await job.DeliverAsync("SRV", "Ours", Plan("S-BEAM"), "s-401.DWG");
        Assert.Empty((await SeenAsync(id)).Open);
        foreach (bool keep in (bool[])[false, true])
        {
            var result = await GiveAsync(id, keep ? "keep" : "bind");
            Assert.True(result.Balanced, string.Join('\n', result.Drawings.SelectMany(d => d.Differences)));
            Assert.Equal(!keep, Assert.Single(result.Drawings).Rows.Any(r => r.Layer == "S-401$0$S-BEAM" && r.Found == 1));
        }
    }

    private async Task<HandoverResult> GiveAsync(Guid delivery, string references)
    {
        await using var db = job.CreateDbContext();
        var source = await db.Deliveries.Where(d => d.Id == delivery).Select(d => d.SourceId).SingleAsync();
        var orders = new Orders(db, job, job.Options, new Space(db, new SpaceOptions()));
        int number = await orders.CreateAsync(job.Job.Id, job.Somebody, CancellationToken.None);
        var order = await db.Orders.SingleAsync(o => o.JobId == job.Job.Id && o.Number == number);
        await orders.SaveAsync(order, "", new OrderDocument
        {
            Into = new OrderInto { File = "none" },
            Drawings = new OrderDrawings { Sources = [source.ToString()], References = references },
        }, job.Somebody, CancellationToken.None);
        Assert.True(await orders.RunAsync(order, job.Somebody, CancellationToken.None));
        await job.WorkAsync();
        var run = await db.Transmittals.AsNoTracking().Include(t => t.Files).SingleAsync(t => t.OrderId == order.Id);
        Assert.Equal(TransmittalState.Done, run.State);
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
        if (how == "damaged") zip[100] ^= 0x40;
        var id = await job.DeliverAsync("ARC", "Odd " + how, zip, "odd.zip");
        await using var db = job.CreateDbContext();
        var delivery = await db.Deliveries.SingleAsync(d => d.Id == id);
        Assert.Equal(DeliveryState.Refused, delivery.State);
        Assert.Contains(sentence, delivery.Sentence, StringComparison.Ordinal);
    }
}
