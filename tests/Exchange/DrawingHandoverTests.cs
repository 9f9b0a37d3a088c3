using System.Globalization;
using System.Text.RegularExpressions;
using SteadyLintel.Cad;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Drawings that go out: placed in another frame and unit, every kind where the placing says, numbers of dimensions as they were,
/// sheets showing what they showed.</summary>
public partial class DrawingHandoverTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private static readonly Frame Lies = new(
        new Vec3(12.5, -3.25, 4.8),
        new Vec3(0.08, 0.06, 0),
        new Vec3(-0.06, 0.08, 0),
        Vec3.AxisZ * 0.1
    );

    private static Drawing Read(byte[] bytes) => CadFile.Read(bytes).Drawing;

    private static byte[] Plan()
    {
        using var stream = new MemoryStream();
        HeronWharf.Plans[0].Write(stream);
        return stream.ToArray();
    }

    private static SettingOutDocument Placed => SettingOutDocument.Of(Lies, EvidenceKind.Typed);

    private (HandoverResult Result, MemoryFiles Files) Run(OrderDocument document, params HandoverDrawing[] drawings)
    {
        var files = new MemoryFiles();
        return (
            HandoverRunner.Run(
                new HandoverRun(document.ToOrder(), [.. demo.Sources.Take(1)], files)
                {
                    Job = "HW",
                    TimeStamp = "2026-11-28T10:00:00",
                    Drawings = drawings,
                }
            ),
            files
        );
    }

    [Theory]
    [InlineData(CadVersion.AC1018, true)]
    [InlineData(CadVersion.AC1024, true)]
    [InlineData(CadVersion.AC1032, true)]
    [InlineData(CadVersion.AC1027, false)]
    public void Every_kind_comes_to_lie_where_the_placing_says_and_none_is_lost(CadVersion version, bool dwg)
    {
        byte[] bytes = ConversionTests.Sink(version, dwg);
        var result = DrawingConverter.Convert(
            bytes,
            new CadForm(dwg, version),
            place: OutgoingPlace.Of(Lies, LengthUnit.Millimetre)
        );
        Assert.Empty(result.Differences);
        Assert.True(result.Balanced);
        var check = Assert.Single(result.Checks);
        Assert.True(check.Same > 20 && check.Differ == 0, check.ToString());
        Drawing before = Read(bytes),
            after = Read(result.Bytes);
        // What has no image of its own went into one block, which one insert shows.
        var kinds = Kinds(after);
        kinds["INSERT"]--;
        Assert.Equal(Kinds(before), kinds);
        Assert.Equal(4, after.Units);

        static SortedDictionary<string, int> Kinds(Drawing d) =>
            new(d.Blocks.SelectMany(b => b.Entities).CountBy(e => e.Type).ToDictionary());
    }

    // The boxes are found by other code than the placing; the image of a box holds the box of the image.
    [Fact]
    public void The_box_of_each_entity_is_that_of_its_image()
    {
        var before = Read(ConversionTests.Sink(CadVersion.AC1027, false));
        var boxes = before
            .Model.Entities.Zip(before.ExtentsOf(before.Model.Entities))
            .ToDictionary(p => p.First.Handle, p => p.Second);
        var map = DrawingPlacement.Map(25.4, Math.PI / 2, new Vec3(1000, 2000, 0));
        DrawingPlacement.Apply(before, map);
        int compared = 0;
        foreach (var (entity, box) in before.Model.Entities.Zip(before.ExtentsOf(before.Model.Entities)))
        {
            if (!boxes.TryGetValue(entity.Handle, out var was) || was.IsEmpty || entity is Ray)
                continue;
            var image = Box.Of([map.Apply(was.Min), map.Apply(was.Max)]);
            double size = Math.Max(1, (image.Max - image.Min).Length);
            Assert.True(
                (image.Min - box.Min).Length + (image.Max - box.Max).Length < 1e-6 * size,
                $"{entity.Type}: {image} and {box}"
            );
            compared++;
        }

        Assert.True(compared > 20);
    }

    [Fact]
    public void A_sheet_shows_what_it_showed_and_dimensions_say_what_they_said()
    {
        using var stream = new MemoryStream();
        HeronWharf.Drawings[0].Write(stream);
        Drawing before = Read(stream.ToArray()),
            after = Read(stream.ToArray());
        DrawingPlacement.Apply(after, DrawingPlacement.Map(0.001, 0.7, new Vec3(100, 50, 3)));
        foreach (var layout in before.Layouts.Where(l => l.Tab > 0))
            SamePicture(PlanPicture.Of(before, layout.Name)!, PlanPicture.Of(after, layout.Name)!);
        foreach (
            var (was, now) in before.Model.Entities.OfType<Dimension>().Zip(after.Model.Entities.OfType<Dimension>())
        )
        {
            Assert.Equal(Shown(before, was), Shown(after, now), 9);
            Assert.Equal(was.Measurement * 0.001, now.Measurement, 9);
            Assert.Equal(
                (double)before.DimensionStyles[was.Style]!["DIMSCALE"] * 0.001,
                (double)after.DimensionStyles[now.Style]!["DIMSCALE"],
                9
            );
        }

        // DXF reference, DIMLFAC: the measurement times the factor is what a dimension says.
        static double Shown(Drawing d, Dimension e) => e.Measurement * (double)d.DimensionStyles[e.Style]!["DIMLFAC"];
    }

    // The same words; the same numbers but for the last digit of a thousandth of the sheet's millimetre.
    private static void SamePicture(string one, string other)
    {
        Assert.Equal(Number().Replace(one, "#"), Number().Replace(other, "#"));
        foreach (var (a, b) in Number().Matches(one).Zip(Number().Matches(other)))
            Assert.Equal(
                double.Parse(a.Value, CultureInfo.InvariantCulture),
                double.Parse(b.Value, CultureInfo.InvariantCulture),
                2.0
            );
    }

    [GeneratedRegex(@"-?\d+\.?\d*(E[-+]?\d+)?")]
    private static partial Regex Number();

    [Fact]
    public void There_and_back_everything_lies_where_it_lay()
    {
        Drawing before = Read(Plan()),
            drawing = Read(Plan());
        var there = DrawingPlacement.Map(12.5, 1.1, new Vec3(-300, 70, 2));
        double c = Math.Cos(-1.1) / 12.5,
            s = Math.Sin(-1.1) / 12.5;
        var back = DrawingPlacement.Map(
            1 / 12.5,
            -1.1,
            new Vec3((300 * c) + (70 * s), (300 * s) - (70 * c), -2 / 12.5)
        );
        var test = new PlaceTest(before, InsertTransform.Identity);
        DrawingPlacement.Apply(drawing, there);
        Assert.NotEqual(0, test.Compare(drawing, new HashSet<Handle>(), _ => { }).Differ);
        DrawingPlacement.Apply(drawing, back);
        var check = test.Compare(drawing, new HashSet<Handle>(), _ => { });
        Assert.Equal(0, check.Differ);
        Assert.True(check.Same == before.Model.Entities.Count && check.Largest < 1e-9, check.ToString());
    }

    [Fact]
    public void A_written_entity_that_lies_elsewhere_is_told()
    {
        var drawing = Read(Plan());
        var test = new PlaceTest(drawing, InsertTransform.Identity);
        var moved = drawing.Model.Entities.OfType<Line>().First();
        moved.End += new Vec3(0, 0.001, 0);
        var told = new List<string>();
        Assert.Equal(1, test.Compare(drawing, new HashSet<Handle>(), told.Add).Differ);
        Assert.Contains(
            $"LINE {moved.Handle} is not where the placing puts it",
            told.Single(),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_drawing_goes_beside_models_in_the_jobs_frame_under_the_receivers_names()
    {
        var document = OrderDocument.Read(
            """
            { "version": 1, "into": { "file": "ifc" }, "unit": "m", "frame": "job", "name": "{party}-{source}-{storey}",
              "drawings": { "as": "prepared", "file": "dxf", "layers": [ { "from": "A-WALL", "to": "WALLS" }, { "from": "A-DOOR", "to": "WALLS" },
                { "from": "NONE", "to": "X" } ] } }
            """
        );
        var sent = new HandoverDrawing("ARC", "A-200", ".dxf", Plan(), Placed)
        {
            Preparation = new PreparationDocument
            {
                Steps = [new PreparationStep { Do = "drop", Layers = ["A-TTLB"] }],
            },
            Storey = "Quay",
        };
        var (result, files) = Run(document, sent);
        Assert.True(result.Balanced, string.Join('\n', result.Drawings.SelectMany(d => d.Differences)));
        var balance = Assert.Single(result.Drawings);
        Assert.Equal("ARC-A-200-Quay.dxf", balance.File);
        Assert.Equal(["drop", "rename layer", "rename layer", "rename layer"], balance.Steps.Select(s => s.Do));
        Assert.Contains("no layer NONE", balance.Steps[^1].Finding, StringComparison.Ordinal);
        Assert.Contains(balance.Rows, r => r.Layer == "A-TTLB" && r.LeftOut == r.In && r.Found == 0);
        var written = Read(files.Read(balance.File).ToArray());
        Assert.Equal(6, written.Units);
        Assert.DoesNotContain(written.Layers, l => l.Name is "A-WALL" or "A-DOOR");
        // The corner of the plan by hand: 60, 80 on paper, a tenth of a metre each, turned so that x is 0.8, 0.6.
        var corner = new Vec3(12.5 + (0.08 * 60) - (0.06 * 80), -3.25 + (0.06 * 60) + (0.08 * 80), 4.8);
        Assert.Contains(
            written
                .Model.Entities.OfType<LightPolyline>()
                .SelectMany(l => l.Vertices.Select(v => new Vec3(v.Point.X, v.Point.Y, l.Elevation)))
                .Concat(written.Model.Entities.OfType<Line>().SelectMany(l => (Vec3[])[l.Start, l.End])),
            p => (p - corner).Length < 1e-9
        );
    }

    [Fact]
    public void As_received_the_very_bytes_go_and_models_may_stay()
    {
        byte[] original = Plan();
        var (result, files) = Run(
            OrderDocument.Read("""{ "version": 1, "into": { "file": "none" }, "drawings": { "as": "received" } }"""),
            new HandoverDrawing("ARC", "A-200", ".dwg", original)
        );
        Assert.True(result.Balanced);
        Assert.Empty(result.Reconciliation.Rows);
        Assert.Equal(original, files.Read(Assert.Single(result.Files).Name).ToArray());
    }

    [Theory]
    [InlineData("""{ "unit": "m", "drawings": {} }""", "The scale and place of A-200 are not set")]
    [InlineData("""{ "frame": "job", "drawings": {} }""", "The scale and place of A-200 are not set")]
    [InlineData(
        """{ "drawings": { "as": "prepard" } }""",
        "as of drawings takes prepared or received, not 'prepard'. Nearest: 'prepared'"
    )]
    [InlineData("""{ "drawings": { "as": "received", "file": "dxf" } }""", "go as they are")]
    [InlineData("""{ "drawings": { "file": "dwg", "version": "AC1021" } }""", "version of drawings takes")]
    [InlineData(
        """{ "drawings": { "layers": [ { "from": "A", "to": "B" }, { "from": "a", "to": "C" } ] } }""",
        "gets two names"
    )]
    [InlineData("""{ "into": { "file": "none" } }""", "needs drawings")]
    [InlineData("""{ "drawings": { "kind": "dwg" } }""", "'kind'")]
    public void What_an_order_cannot_say_of_drawings_is_said_before_anything_is_written(string json, string sentence)
    {
        var files = new MemoryFiles();
        var e = Assert.Throws<OrderException>(() =>
            HandoverRunner.Run(
                new HandoverRun(OrderDocument.Read(json).ToOrder(), [.. demo.Sources.Take(1)], files)
                {
                    Job = "HW",
                    TimeStamp = "2026-11-28T10:00:00",
                    Drawings = [new HandoverDrawing("ARC", "A-200", ".dwg", Plan())],
                }
            )
        );
        Assert.Contains(sentence, e.Message, StringComparison.Ordinal);
        Assert.Empty(files.Files);
    }
}
