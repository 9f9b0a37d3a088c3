using System.Globalization;
using System.Xml.Linq;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Hatches in the picture of a drawing: areas with islands, patterns as lines.</summary>
public class HatchPictureTests
{
    private static Hatch Area(params (double X, double Y, double Size)[] squares)
    {
        var hatch = new Hatch();
        foreach (var (x, y, s) in squares)
        {
            var path = new HatchPath { Flags = 2, Closed = true };
            path.Vertices.AddRange(
                new[] { new Vec2(x, y), new(x + s, y), new(x + s, y + s), new(x, y + s) }.Select(p => (p, 0.0))
            );
            hatch.Paths.Add(path);
        }

        return hatch;
    }

    private static Hatch Lines(double angle, Vec2 at, Vec2 offset, params double[] dashes)
    {
        var hatch = Area((0, 0, 100));
        (hatch.Filled, hatch.Pattern) = (false, "LINES");
        hatch.Lines.Add(new HatchLine(angle * Math.PI / 180, at, offset, [.. dashes]));
        return hatch;
    }

    private static XElement Picture(params Entity[] entities)
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        foreach (var entity in entities)
            drawing.Add(entity);
        return XElement.Parse(PlanPicture.Of(drawing)!);
    }

    private static double Signed(Vec3[] loop) =>
        loop.Select((p, i) => p.XY.Cross(loop[(i + 1) % loop.Length].XY)).Sum() / 2;

    [Fact]
    public void A_gradient_is_filled_with_the_mean_of_its_colours()
    {
        var hatch = Area((0, 0, 10));
        hatch.Gradient = new HatchGradient { Stops = { (0, CadColour.True(0x204060)), (1, CadColour.True(0x406080)) } };
        Assert.Contains(Picture(hatch).Descendants(), e => (string?)e.Attribute("fill") == "#305070");
    }

    [Theory]
    // Every other one, the outermost only, islands ignored (75 of the DXF reference).
    [InlineData(0, 100 - 36 + 16 - 4)]
    [InlineData(1, 100 - 36)]
    [InlineData(2, 100)]
    public void Islands_are_cut_as_the_style_says(int style, double area)
    {
        var hatch = Area((2, 2, 6), (0, 0, 10), (4, 4, 2), (3, 3, 4));
        hatch.Style = style;
        Assert.Equal(area, HatchArea.Loops(hatch, InsertTransform.Identity).Sum(Signed), 1e-9);
        // Seen in a mirror it is as large, and turns the same way.
        var mirror = InsertTransform.Identity with { X = new Vec3(-1, 0, 0) };
        Assert.Equal(area, HatchArea.Loops(hatch, mirror).Sum(Signed), 1e-9);
    }

    // Areas over one another stay areas: all turn one way, and a point of both counts twice.
    [Fact]
    public void An_area_drawn_twice_is_no_hole()
    {
        var turned = Area((0, 0, 10));
        turned.Paths[0].Vertices.Reverse();
        var picture = Picture(Area((0, 0, 10)), turned);
        var path = Assert.Single(picture.Descendants(), e => e.Attribute("fill-opacity") is not null);
        Assert.Null(path.Attribute("fill-rule"));
        Assert.Equal(2, path.Attribute("d")!.Value.Count(c => c == 'M'));
        Assert.All(new[] { Area((0, 0, 10)), turned }, h =>
            Assert.True(Signed(Assert.Single(HatchArea.Loops(h, InsertTransform.Identity))) > 0)
        );
    }

    [Fact]
    public void A_pattern_fills_with_its_lines()
    {
        var picture = Picture(Lines(0, new Vec2(0, 5), new Vec2(0, 10)));
        XNamespace svg = "http://www.w3.org/2000/svg";
        var pattern = Assert.Single(picture.Elements(svg + "pattern"));
        Assert.Equal(
            $"url(#{pattern.Attribute("id")!.Value})",
            Assert
                .Single(picture.Descendants(svg + "path"), p => p.Attribute("fill")?.Value != "none")
                .Attribute("fill")!
                .Value
        );
        double[] m = Numbers(pattern);
        double unit = double.Parse(picture.Attribute("data-unit")!.Value, CultureInfo.InvariantCulture);
        // A tile is ten drawing units high, its line is in its middle: at five, fifteen …
        Assert.Equal(0, m[1], 1e-6);
        Assert.Equal(0, m[2], 1e-6);
        Assert.Equal(-10, m[3] * unit, 1e-6);
        double line = -(m[5] + (m[3] / 2)) * unit;
        Assert.Equal(5, line - (10 * Math.Floor(line / 10)), 1e-6);
        Assert.Equal(
            10 / unit,
            double.Parse(pattern.Elements().Single().Attribute("data-spacing")!.Value, CultureInfo.InvariantCulture),
            1e-3 / unit
        );
    }

    private static double[] Numbers(XElement pattern) =>
        [
            .. pattern
                .Attribute("patternTransform")!
                .Value["matrix(".Length..^1]
                .Split(' ')
                .Select(n => double.Parse(n, CultureInfo.InvariantCulture)),
        ];

    // Dashes of six and two with gaps of one: a period of ten along the lines, which are shifted by half a brick.
    [Fact]
    public void Dashes_and_shifts_are_those_of_the_pattern()
    {
        var hatch = Lines(0, new Vec2(3, 0), new Vec2(5, 4), 6, -1, 2, -1);
        var lines = PatternLines.Of(hatch.Lines[0], hatch, InsertTransform.Identity, default, 1)!;
        Assert.Equal("M0 .5h0.6M0.7 .5h0.2", lines.Data);
        double[] m = [.. lines.Transform.Split(' ').Select(n => double.Parse(n, CultureInfo.InvariantCulture))];
        Assert.Equal([10, 0, 5, -4], m[..4]);
        // The line through the base point begins a dash there.
        Assert.Equal((3, 0), (Math.Round(m[4] + (m[2] / 2), 6), Math.Round(m[5] + (m[3] / 2), 6)));
        Assert.Equal(4, lines.Spacing, 1e-12);
    }

    [Theory]
    [InlineData(30)]
    [InlineData(45)]
    [InlineData(170)]
    public void Turned_and_in_a_turned_block_the_spacing_stays(double angle)
    {
        double a = angle * Math.PI / 180;
        var hatch = Lines(angle, new Vec2(7, 9), new Vec2(-Math.Sin(a) * 3, Math.Cos(a) * 3));
        var block = new InsertTransform(new Vec3(0, 2, 0), new Vec3(-2, 0, 0), new Vec3(0, 0, 2), new Vec3(100, 50, 0));
        Assert.Equal(6, PatternLines.Of(hatch.Lines[0], hatch, block, default, 1)!.Spacing, 1e-9);
        double[] m =
        [
            .. PatternLines
                .Of(hatch.Lines[0], hatch, block, default, 1)!
                .Transform.Split(' ')
                .Select(n => double.Parse(n, CultureInfo.InvariantCulture)),
        ];
        // Along the lines, turned by a quarter with the block; y runs down in a picture.
        Assert.Equal(
            0,
            (m[0] * Math.Cos(a + (Math.PI / 2) + (Math.PI / 2))) - (m[1] * Math.Sin(a + (Math.PI / 2) + (Math.PI / 2))),
            1e-2
        );
    }

    [Fact]
    public void Hatches_of_one_pattern_share_it_and_colours_do_not()
    {
        var same = new[]
        {
            Lines(45, new Vec2(0, 0), new Vec2(-3, 3)),
            Lines(45, new Vec2(30, -30), new Vec2(-3, 3)),
            Lines(45, new Vec2(6, 0), new Vec2(-3, 3)),
        };
        var red = Lines(45, new Vec2(0, 0), new Vec2(-3, 3));
        red.Colour = new CadColour(1);
        Assert.Equal(2, Picture([.. same, red]).Elements().Count(e => e.Name.LocalName == "pattern"));
    }

    // What has no lines, or lines upon one another, is filled lightly as before.
    [Theory]
    [InlineData(0, 0)]
    [InlineData(3, 0)]
    public void A_pattern_without_distance_is_a_light_fill(double x, double y)
    {
        var picture = Picture(Lines(0, default, new Vec2(x, y)));
        Assert.DoesNotContain(picture.Elements(), e => e.Name.LocalName == "pattern");
        Assert.Single(picture.Descendants(), e => e.Attribute("fill-opacity") is not null);
    }

    [Fact]
    public void So_many_patterns_that_none_could_be_told_from_another_are_light_fills()
    {
        Entity[] many =
        [
            .. Enumerable
                .Range(1, 2100)
                .Select(i =>
                    Lines(
                        i * 0.05,
                        default,
                        new Vec2(-Math.Sin(i * 0.05 * Math.PI / 180), Math.Cos(i * 0.05 * Math.PI / 180)) * 5
                    )
                ),
        ];
        var picture = Picture(many);
        Assert.Equal(2000, picture.Elements().Count(e => e.Name.LocalName == "pattern"));
        Assert.Contains(picture.Descendants(), e => e.Attribute("fill-opacity") is not null);
    }
}
