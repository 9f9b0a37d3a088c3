using System.Diagnostics;
using System.IO.Compression;
using System.Text;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Cad;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Ifc;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>Damaged and hostile files of every format, whole, through the same door as uploads: each becomes a revision or is refused with
/// a sentence about the file, in time and memory.</summary>
public class DoorFuzzTests(JobFixture job) : IClassFixture<JobFixture>
{
    private const int Few = 10;

    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(5);

    // A few as a rule; LINTEL_FUZZ=10000 for a long run, LINTEL_FUZZ_FROM=2500 to go on where another ended,
    // LINTEL_FUZZ_FORMATS=1015.dwg,1018.dwg for some formats alone.
    private static readonly int Rounds = int.TryParse(Environment.GetEnvironmentVariable("LINTEL_FUZZ"), out int n)
        ? n
        : Few;

    private static readonly int First = int.TryParse(Environment.GetEnvironmentVariable("LINTEL_FUZZ_FROM"), out int n)
        ? n
        : 0;

    /// <summary>Every format that is received, or those that were asked for.</summary>
    public static TheoryData<string> Formats { get; } =
    [
        .. (
            Environment.GetEnvironmentVariable("LINTEL_FUZZ_FORMATS")
            ?? "sink.ifc,small.ifc,small.ifczip,text.dxf,binary.dxf,1015.dwg,1018.dwg,1024.dwg,1027.dwg,1032.dwg"
        ).Split(','),
    ];

    [Theory]
    [MemberData(nameof(Formats))]
    public async Task Whatever_is_sent_is_read_or_refused_in_time_and_memory(string format)
    {
        byte[] seed = Seed(format);
        string text = Encoding.Latin1.GetString(seed);
        for (int round = First; round < Rounds; round++)
        {
            // A round is made anew from its number alone.
            var mutator = new FileMutator(new Random((round * 7919) + format.Length));
            byte[] bytes = Path.GetExtension(format) switch
            {
                ".ifc" => mutator.Part21(text),
                ".ifczip" => round % 2 == 0
                    ? Zip(mutator.Part21(Encoding.Latin1.GetString(SmallModel())))
                    : mutator.Bytes(seed),
                ".dxf" when format == "text.dxf" => mutator.Dxf(text),
                _ => mutator.Bytes(seed),
            };
            // Slow twice is slow; once may be the machine.
            var taken = await SendAsync(format, round, bytes);
            if (taken > Longest)
                taken = await SendAsync(format, round, bytes);
            Assert.True(taken < Longest, $"{format}, round {round} took {taken}");
        }
    }

    private async Task<TimeSpan> SendAsync(string format, int round, byte[] bytes)
    {
        long before = GC.GetTotalMemory(round % 100 == 0),
            most = 0;
        using var look = new Timer(_ => most = Math.Max(most, GC.GetTotalMemory(false) - before), null, 10, 10);
        var clock = Stopwatch.StartNew();
        var id = await job.DeliverAsync("SNK", "Fuzz " + format, bytes, format);
        var taken = clock.Elapsed;
        await using var db = job.CreateDbContext();
        var delivery = await db.Deliveries.AsNoTracking().FirstAsync(d => d.Id == id);
        string about = $"{format}, round {round}: {delivery.State} {delivery.Sentence}";
        bool fine =
            delivery.State is DeliveryState.Ready or DeliveryState.Same or DeliveryState.Held
            || (
                delivery.State == DeliveryState.Refused
                && !delivery.Sentence.Contains("reference", StringComparison.Ordinal)
            );
        if (!fine)
            await File.WriteAllBytesAsync(Path.Combine(Path.GetTempPath(), $"fuzz-{round}-{format}"), bytes);
        Assert.True(fine, about);
        // Garbage that nobody holds counts too, until it is collected.
        if (most > (20L * bytes.Length) + 200_000_000)
            Assert.True(
                GC.GetTotalMemory(true) - before < (20L * bytes.Length) + 200_000_000,
                $"{about} took {most >> 20} MB"
            );
        await db.Deliveries.Where(d => d.Id == id).ExecuteDeleteAsync();
        await db.Blobs.DeleteAsync(delivery.BlobId);
        return taken;
    }

    private static byte[] Seed(string format)
    {
        string kind = Path.GetFileNameWithoutExtension(format);
        return Path.GetExtension(format) switch
        {
            ".ifc" => kind == "sink" ? ModelSink.Bytes() : SmallModel(),
            ".ifczip" => Zip(SmallModel()),
            ".dxf" => Drawing(new CadForm(false, CadVersion.AC1027, kind == "binary")),
            _ => Drawing(new CadForm(true, Enum.Parse<CadVersion>("AC" + kind))),
        };
    }

    private static byte[] SmallModel()
    {
        using var whole = new MemoryStream();
        HeronWharf.Models[0].Write(whole);
        var snapshot = ModelSnapshot.Open(IfcModel.Open(whole.ToArray()));
        using var part = new MemoryStream();
        SubsetWriter.Write(
            snapshot,
            SubsetPlan.Of(snapshot, [.. snapshot.Elements.Where((_, i) => i % 40 == 0)], [0]),
            null,
            "x",
            "",
            part
        );
        return part.ToArray();
    }

    private static byte[] Drawing(CadForm form)
    {
        using var demo = new MemoryStream();
        HeronWharf.Drawings[0].Write(demo);
        using var written = new MemoryStream();
        CadFile.Write(CadFile.Read(demo.ToArray()).Drawing, written, form);
        return written.ToArray();
    }

    private static byte[] Zip(byte[] model)
    {
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create))
        using (var entry = zip.CreateEntry("model.ifc").Open())
            entry.Write(model);
        return stream.ToArray();
    }
}
