using System.Text;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

public class IntakeTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private IntakeReport Report(string party) => IntakeReader.Read(demo.Snapshots[party]);

    // The flaws that the demo's README lists.
    [Theory]
    [InlineData("ARC", "IFC-GUID-DUPLICATE", 1)]
    [InlineData("ARC", "IFC-GUID-FORM", 1)]
    [InlineData("ARC", "IFC-REFERENCE-DANGLING", 1)]
    [InlineData("ARC", "IFC-SHAPE-FAILED", 1)]
    [InlineData("STR", "IFC-ENTITY-UNKNOWN", 1)]
    [InlineData("SRV", "IFC-ELEMENT-NO-STOREY", 3)]
    [InlineData("SRV", "IFC-STOREY-ELEVATION", 1)]
    [InlineData("SRV", "IFC-STOREY-EMPTY", 1)]
    public void The_demos_flaws_are_found(string party, string code, int count)
    {
        var finding = Assert.Single(Report(party).Findings, f => f.Code == code);
        Assert.Equal(count, finding.Count);
        Assert.Equal(count, finding.Elements.Count);
    }

    [Fact]
    public void Nothing_else_is_found() =>
        Assert.Equal(8, new[] { "ARC", "STR", "SRV" }.Sum(p => Report(p).Findings.Count));

    [Fact]
    public void The_demo_is_the_same_every_time()
    {
        foreach (var delivery in HeronWharf.Models)
        {
            using var again = new MemoryStream();
            delivery.Write(again);
            Assert.Equal(demo.Bytes[delivery.Party], again.ToArray());
        }
    }

    [Theory]
    [InlineData("ARC", "IFC4", "millimetre", 796)]
    [InlineData("STR", "IFC2X3", "metre", 539)]
    [InlineData("SRV", "IFC4", "foot", 921)]
    public void Facts_are_read(string party, string schema, string unit, int elements)
    {
        var report = Report(party);
        Assert.Equal((schema, unit, elements), (report.Schema, report.LengthUnit, report.Elements));
        Assert.Equal(report.Elements, report.Storeys.Sum(s => s.Elements) + report.NoStorey);
        Assert.All(report.Storeys, s => Assert.Equal(s.Elements, s.Classes.Sum(c => c.Count)));
        Assert.Equal(report.Products, report.Classes.Sum(c => c.Count));
        Assert.Contains(report.PropertySets, p => p.Blank > 0);
    }

    [Fact]
    public void Parties_agree_on_the_building()
    {
        // 6 bays of 8 m by 3, and the apse of 12 m beyond the last axis.
        var arc = Report("ARC").Bounds;
        Assert.Equal((0, 60), (Math.Round(arc.Min.X, 2), Math.Round(arc.Max.X, 2)));
        Assert.InRange(Report("STR").Bounds.Max.X, 48, 49.3);
    }

    [Fact]
    public void Levels_match_over_the_parties()
    {
        var storeys = demo.Snapshots.SelectMany(
            (s, n) => s.Value.Structure.Storeys.Select((t, i) => new SourceStorey(n, i, t.Name, t.Level, t.PlacementZ))
        );
        var schedule = LevelSchedule.Match([.. storeys]);
        Assert.Equal([-1.2, 0, 4.8, 8.6, 12.4], schedule.Rungs.Select(r => Math.Round(r.Elevation, 6)));
        Assert.Equal([2, 3, 3, 3, 3], schedule.Rungs.Select(r => r.Storeys.Count));
    }

    [Fact]
    public void A_model_without_storeys_unit_or_shape_says_so()
    {
        var report = IntakeReader.Read(
            ModelSnapshot.Open(
                Encoding.ASCII.GetBytes(
                    "ISO-10303-21;HEADER;FILE_SCHEMA(('IFC9'));ENDSEC;DATA;#1=IFCPROJECT('0000000000000000000001',$,$,$,$,$,$,$,$);#2=IFCWALL($,$,$,$,$,$,$,$,$);#3=IFCBUILDINGELEMENTPROXY('0000000000000000000003',$,$,$,$,$,$,$,$);ENDSEC;"
                )
            )
        );
        Assert.Equal(
            [
                "IFC-ATTRIBUTE-REQUIRED",
                "IFC-ELEMENT-NO-STOREY",
                "IFC-GUID-MISSING",
                "IFC-PROXY-MANY",
                "IFC-SCHEMA-UNKNOWN",
                "IFC-SHAPE-NONE",
                "IFC-STOREY-NONE",
                "IFC-UNIT-NONE",
                "STEP-TRUNCATED",
            ],
            report.Findings.Select(f => f.Code).Order(StringComparer.Ordinal)
        );
    }

    [Fact]
    public void A_model_far_out_is_warned_about()
    {
        string far = Encoding
            .ASCII.GetString(demo.Bytes["STR"])
            .Replace("IFCCARTESIANPOINT((0.,0.,0.))", "IFCCARTESIANPOINT((500000.,0.,0.))");
        Assert.Contains(IntakeReader.Read(ModelSnapshot.Open(Encoding.ASCII.GetBytes(far))).Findings, f =>
            f.Code == "IFC-FAR-FROM-ORIGIN"
        );
    }

    [Fact]
    public void Textures_are_noted()
    {
        string textured = Encoding
            .ASCII.GetString(demo.Bytes["STR"])
            .Replace("ENDSEC;\nEND-ISO", "#9000001=IFCIMAGETEXTURE(.T.,.T.,$,$,$,'oak.png');\nENDSEC;\nEND-ISO");
        var note = Assert.Single(IntakeReader.Read(ModelSnapshot.Open(Encoding.ASCII.GetBytes(textured))).Findings, f =>
            f.Code == "IFC-TEXTURE"
        );
        Assert.Equal((Severity.Note, "IfcImageTexture"), (note.Severity, Assert.Single(note.Elements).Class));
    }

    [Theory]
    [InlineData("", "0 bytes")]
    [InlineData("<?xml version='1.0'?>", "XML")]
    [InlineData("%PDF-1.7", "PDF")]
    [InlineData("{\"type\":1}", "JSON")]
    [InlineData("anything", "neither IFC")]
    public void Other_files_get_their_sentence(string head, string word)
    {
        var (kind, sentence) = FileRecognition.Recognise(Encoding.Latin1.GetBytes(head));
        Assert.Equal(DeliveredKind.Refused, kind);
        Assert.Contains(word, sentence);
    }

    [Theory]
    [InlineData("AC1027\0\0\0")]
    [InlineData("  0\r\nSECTION\r\n")]
    [InlineData("AutoCAD Binary DXF\r\n")]
    public void Drawings_are_told_by_their_first_bytes(string head) =>
        Assert.Equal(DeliveredKind.Drawing, FileRecognition.Recognise(Encoding.Latin1.GetBytes(head)).Kind);

    [Fact]
    public void A_flipped_bit_in_an_archive_is_an_error_and_never_another_model()
    {
        byte[] model = System.Text.Encoding.ASCII.GetBytes(
            string.Concat(Enumerable.Range(1, 2000).Select(n => $"#{n}=IFCCARTESIANPOINT(({n}.,0.,0.));\n"))
        );
        using var whole = new MemoryStream();
        using (var zip = new System.IO.Compression.ZipArchive(whole, System.IO.Compression.ZipArchiveMode.Create, true))
        // Stored as it is, every bit of the archive is a bit of the model: no unpacker would notice.
        using (var entry = zip.CreateEntry("x.ifc", System.IO.Compression.CompressionLevel.NoCompression).Open())
            entry.Write(model);
        using (var target = new MemoryStream())
        {
            IfcZip.Extract(whole, target, 1 << 20);
            Assert.Equal(model, target.ToArray());
        }

        for (int at = 100; at < model.Length; at += 997)
        {
            byte[] damaged = whole.ToArray();
            damaged[at] ^= 4;
            using var target = new MemoryStream();
            var e = Assert.Throws<DeliveryException>(() => IfcZip.Extract(new MemoryStream(damaged), target, 1 << 20));
            Assert.Contains("archive is damaged", e.Message, StringComparison.Ordinal);
        }
    }

    [Fact]
    public void A_zip_bomb_is_not_opened()
    {
        using var archive = new MemoryStream();
        using (
            var zip = new System.IO.Compression.ZipArchive(archive, System.IO.Compression.ZipArchiveMode.Create, true)
        )
        using (var entry = zip.CreateEntry("x.ifc").Open())
            for (int i = 0; i < 64; i++)
                entry.Write(new byte[1 << 20]);
        archive.Position = 0;
        using var target = new MemoryStream();
        Assert.Contains(
            "attack",
            Assert.Throws<DeliveryException>(() => IfcZip.Extract(archive, target, 1 << 30)).Message
        );
        Assert.True(target.Length < 100 * archive.Length);
    }

    [Fact]
    public void Chunks_hold_every_triangle()
    {
        var chunks = new ChunkBuilder();
        var report = IntakeReader.Read(demo.Snapshots["SRV"], chunks.Add);
        var built = chunks.Build();
        Assert.Equal(report.Triangles, built.Sum(c => (long)c.Triangles));
        Assert.Equal(built.Select(c => c.Hash), Again().Select(c => c.Hash));
        Assert.True(built.Count < 60, $"{built.Count} chunks");

        IReadOnlyList<GeometryChunk> Again()
        {
            var again = new ChunkBuilder();
            demo.Snapshots["SRV"].ForEachShape(demo.Snapshots["SRV"].Elements, again.Add);
            return again.Build();
        }
    }
}
