using System.Globalization;
using SteadyLintel.Cad;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Parts of drawings kept by themselves, placed again in others and side by side on a sheet.</summary>
public class DetailTests
{
    private static readonly double[][] Whole =
    [
        [0, 0],
        [10, 10],
    ];

    [Fact]
    public void A_detail_is_what_touches_the_window_around_its_insertion_point()
    {
        var drawing = Connection();
        drawing.Add(
            new Line
            {
                Start = new(50, 50, 0),
                End = new(60, 50, 0),
                Layer = drawing.AddLayer("FAR").Handle,
            }
        );
        var detail = CadFile.Read(DetailCut.Of(drawing, Whole, [2, 3])).Drawing;
        Assert.Equal(["CIRCLE", "LINE", "TEXT"], detail.Model.Entities.Select(e => e.Type).Order());
        Assert.Null(detail.Layers["FAR"]);
        var line = detail.Model.Entities.OfType<Line>().Single();
        Assert.Equal((new Vec3(-2, -3, 0), new Vec3(8, -3, 0)), (line.Start, line.End));
        // What crosses the edge comes along where that is asked for, whole.
        Assert.Equal(["CIRCLE", "TEXT"], Types(Crossing(), false));
        Assert.Equal(["CIRCLE", "LINE", "TEXT"], Types(Crossing(), true));
        Assert.Throws<OrderException>(() =>
            DetailCut.Of(
                Connection(),
                [
                    [100, 100],
                    [101, 101],
                ],
                [0, 0]
            )
        );
        Assert.Throws<OrderException>(() =>
            DetailCut.Of(
                Connection(),
                [
                    [0, 0],
                ],
                [0, 0]
            )
        );
    }

    // Both have a layer BOLTS: there is one afterwards, of the host's colour; both have a block PLATE, and both stay.
    [Fact]
    public void Placed_twice_it_is_one_block_on_the_hosts_layers_and_everything_balances()
    {
        var source = Connection();
        source.Add(new Insert { Block = Plate(source, 1).Handle, Location = new(5, 5, 0) });
        byte[] detail = DetailCut.Of(source, Whole, [0, 0]);
        var host = new Drawing();
        host.Complete();
        host.AddLayer("BOLTS", 0x112233);
        host.Add(new Insert { Block = Plate(host, 9).Handle });
        using var stream = new MemoryStream();
        CadFile.Write(host, stream, CadForm.Default);
        var steps = PreparationDocument.Read(
            """
            {"steps":[{"do":"detail","to":"Plate: fixed","at":[100,200],"scale":2,"degrees":90},{"do":"detail","to":"Plate: fixed","at":[0,0]},
            {"do":"detail","to":"unknown","at":[0,0]},{"do":"detail","to":"broken","at":[0,0]}]}
            """
        ) with
        {
            Details = new Dictionary<string, byte[]> { ["Plate: fixed"] = detail, ["broken"] = [1, 2, 3] },
        };
        foreach (
            var form in new[]
            {
                CadForm.Default,
                new CadForm(true, CadVersion.AC1024),
                new CadForm(false, CadVersion.AC1027),
            }
        )
        {
            var result = DrawingConverter.Convert(stream.ToArray(), form, preparation: steps);
            Assert.True(result.Balanced, string.Join("\n", result.Differences));
            Assert.Equal(
                [null, null, "There is no detail unknown in the library."],
                result.Steps.Take(3).Select(s => s.Finding)
            );
            Assert.StartsWith("The detail broken cannot be read", result.Steps[3].Finding, StringComparison.Ordinal);
            var written = CadFile.Read(result.Bytes).Drawing;
            Assert.Equal(0x112233, Assert.Single(written.Layers, l => l.Name == "BOLTS").Colour.Seen);
            Assert.Equal(
                ["PLATE", "Plate_ fixed", "Plate_ fixed$0$PLATE"],
                written.Blocks.Where(b => !b.IsSpace).Select(b => b.Name).Order(StringComparer.Ordinal)
            );
            // The line's end, ten units out, is twenty units up from where it was put.
            var placed = written.Model.Entities.OfType<Insert>().First(i => i.Scale.X == 2);
            var end = InsertTransform.All(placed, written.Blocks[placed.Block]!, 1).Single().Apply(new Vec3(10, 0, 0));
            Assert.True((end - new Vec3(100, 220, 0)).Length < 1e-9);
        }
    }

    // 1:10 of a unit of a millimetre: ten units are a millimetre of paper. The third does not go beside the others.
    [Fact]
    public void A_sheet_holds_details_side_by_side_with_their_names()
    {
        byte[] detail = DetailCut.Of(Connection(), Whole, [0, 0]);
        var sheet = DetailSheet.Of(
            [new("A", detail, 0.1), new("B", detail, 0.1), new("C", detail, 0.1), new("in mm", detail, 0.001)],
            10,
            300
        );
        var boxes = sheet.ExtentsOf(sheet.Model.Entities.OfType<Insert>()).ToList();
        Assert.Equal(4, boxes.Count);
        Assert.Equal(100, boxes[0].Size.X, 6);
        Assert.Equal(1, boxes[3].Size.X, 6);
        Assert.Equal(boxes[0].Min.Y, boxes[1].Min.Y, 6);
        Assert.True(boxes[2].Max.Y < boxes[0].Min.Y);
        for (int a = 0; a < 4; a++)
        for (int b = 0; b < a; b++)
            Assert.True(
                boxes[a].Max.X < boxes[b].Min.X || boxes[a].Min.X > boxes[b].Max.X || boxes[a].Max.Y < boxes[b].Min.Y
            );
        Assert.Contains("in mm  1:10", sheet.Model.Entities.OfType<Text>().Select(t => t.Value));
        using var stream = new MemoryStream();
        CadFile.Write(sheet, stream, CadForm.Default);
        Assert.Equal(8, CadFile.Read(stream.ToArray()).Drawing.Model.Entities.Count);
    }

    [Fact]
    public void A_hatch_becomes_lines_or_a_fill_and_keeps_its_boundary()
    {
        using var demo = new MemoryStream();
        HeronWharf.Drawings[0].Write(demo);
        var hatch = CadFile.Read(demo.ToArray()).Drawing.Model.Entities.OfType<Hatch>().First();
        string handle = hatch.Handle.Value.ToString("X", CultureInfo.InvariantCulture);
        foreach (string how in new[] { "\"spacing\":250,\"degrees\":30", "\"off\":false" })
        {
            var result = DrawingConverter.Convert(
                demo.ToArray(),
                CadForm.Default,
                preparation: PreparationDocument.Read(
                    $$"""{"steps":[{"do":"hatch","handles":["{{handle}}"],{{how}}}]}"""
                )
            );
            Assert.True(result.Balanced, string.Join("\n", result.Differences));
            var now = Assert.IsType<Hatch>(
                CadFile.Read(result.Bytes).Drawing.Model.Entities.Single(e => e.Handle == hatch.Handle)
            );
            Assert.Equal(hatch.Paths.Count, now.Paths.Count);
            Assert.Equal(!how.StartsWith("\"spacing", StringComparison.Ordinal), now.Filled);
            if (now.Filled)
                continue;
            var line = Assert.Single(now.Lines);
            Assert.Equal((Math.PI / 6, 250), (line.Angle, Math.Round(line.Offset.Length, 9)));
        }
    }

    [Theory]
    [InlineData("""{"do":"detail","at":[0,0]}""", "needs to")]
    [InlineData("""{"do":"detail","to":"A"}""", "and at")]
    [InlineData("""{"do":"detail","to":"A","at":[0,0],"scale":0}""", "positive")]
    [InlineData("""{"do":"hatch"}""", "needs handles")]
    [InlineData("""{"do":"hatch","handles":["1"],"spacing":-1}""", "positive")]
    public void What_makes_no_sense_is_refused(string step, string says) =>
        Assert.Contains(
            says,
            Assert.Throws<OrderException>(() => PreparationDocument.Read($$"""{"steps":[{{step}}]}""")).Message,
            StringComparison.Ordinal
        );

    private static Drawing Crossing()
    {
        var drawing = Connection();
        drawing.Model.Entities.OfType<Line>().Single().End = new(11, 0, 0);
        return drawing;
    }

    private static IEnumerable<string> Types(Drawing drawing, bool crossing) =>
        CadFile.Read(DetailCut.Of(drawing, Whole, [2, 3], crossing)).Drawing.Model.Entities.Select(e => e.Type).Order();

    private static Drawing Connection()
    {
        var drawing = new Drawing();
        drawing.Complete();
        drawing.Add(
            new Line
            {
                Start = new(0, 0, 0),
                End = new(10, 0, 0),
                Layer = drawing.AddLayer("PLATES", 0xAA0000).Handle,
            }
        );
        drawing.Add(
            new Circle
            {
                Centre = new(4, 6, 0),
                Radius = 1,
                Layer = drawing.AddLayer("BOLTS", 0x00AA00).Handle,
            }
        );
        drawing.Add(
            new Text
            {
                Value = "M20",
                Height = 1,
                Insertion = new(6, 6, 0),
            }
        );
        return drawing;
    }

    private static BlockRecord Plate(Drawing drawing, double size)
    {
        var plate = drawing.AddBlock("PLATE");
        drawing.Add(new Line { Start = default, End = new(size, 0, 0) }, plate);
        return plate;
    }
}
