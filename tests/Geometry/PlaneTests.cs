using CsCheck;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Plane work: regions, faces with holes, sections, outlines, fillets.</summary>
public class PlaneTests
{
    private static Vec2[] Square(double size, double x = 0, double y = 0) =>
        [new(x, y), new(x + size, y), new(x + size, y + size), new(x, y + size)];

    [Fact]
    public void A_region_turns_its_loops_the_right_way()
    {
        var region = Region.Of([.. Square(4).Reverse()], [Square(1, 1, 1)]);
        Assert.True(Region.SignedArea(region.Outer) > 0);
        Assert.True(Region.SignedArea(region.Holes[0]) < 0);
        Assert.Equal(15, region.Area, 1e-12);
        // A mirror turns them over, and they are turned back.
        Assert.Equal(15, region.Map(p => new Vec2(-p.X, p.Y)).Area, 1e-12);
    }

    [Theory]
    [InlineData(new double[] { 0, 0, 1, 0 })]
    [InlineData(new double[] { 0, 0, 1, 0, 2, 0 })]
    [InlineData(new double[] { 0, 0, 0, 0, 0, 0, 0, 0 })]
    public void An_outline_without_area_is_told(double[] numbers) =>
        Assert.Throws<ShapeException>(() =>
            Region.Of([
                .. Enumerable.Range(0, numbers.Length / 2).Select(i => new Vec2(numbers[2 * i], numbers[(2 * i) + 1])),
            ])
        );

    [Fact]
    public void Triangles_of_a_face_cover_it_and_use_its_own_points() =>
        Gen.Select(Gen.Double[0.1, 3], Gen.Double[0.1, 3], Gen.Int[1, 3], Gen.Double[0, 6.2])
            .Sample(
                (x, y, holes, turn) =>
                {
                    // A square of 10 with up to three holes, tilted in space.
                    var loops = new List<Vec2[]> { Square(10) };
                    for (int i = 0; i < holes; i++)
                        loops.Add([.. Square(0.8, 0.5 + x + i, 0.5 + y + (2 * i)).Reverse()]);
                    var frame = Frame.FromAxes(
                        new Vec3(5, -3, 2),
                        new Vec3(Math.Cos(turn), Math.Sin(turn), 1),
                        Vec3.AxisX
                    );
                    var points = loops.SelectMany(l => l).Select(p => frame.Point(new Vec3(p.X, p.Y, 0))).ToList();
                    int at = 0;
                    var numbers = loops
                        .Select(l => Enumerable.Range(at, l.Length).Select(_ => at++).ToArray())
                        .ToList();
                    var triangles = new List<int>();
                    FaceTriangles.Add(numbers, points, triangles);
                    double area = 0;
                    for (int i = 0; i < triangles.Count; i += 3)
                        area +=
                            (points[triangles[i + 1]] - points[triangles[i]])
                                .Cross(points[triangles[i + 2]] - points[triangles[i]])
                                .Dot(frame.Z) / 2;
                    Assert.Equal(100 - (0.64 * holes), area, 1e-9);
                    Assert.Equal(points.Count, triangles.Distinct().Count());
                },
                iter: 100
            );

    [Fact]
    public void Regions_less_others_keep_what_is_left() =>
        Gen.Select(Gen.Double[-2, 6], Gen.Double[-2, 6], Gen.Double[0.5, 5])
            .Sample(
                (x, y, size) =>
                {
                    var tool = new Region(Square(size, x, y));
                    double shared =
                        Math.Max(0, Math.Min(4, x + size) - Math.Max(0, x))
                        * Math.Max(0, Math.Min(4, y + size) - Math.Max(0, y));
                    Assert.Equal(16 - shared, Overlay.Subtract(new Region(Square(4)), [tool]).Sum(r => r.Area), 1e-6);
                    Assert.Equal(
                        16 + (size * size) - shared,
                        Overlay.Union([new Region(Square(4)), tool]).Sum(r => r.Area),
                        1e-6
                    );
                },
                iter: 200
            );

    [Theory]
    [InlineData(3.077e-13)]
    [InlineData(5e-10)]
    public void A_strip_thinner_than_points_are_apart_is_nothing_left(double strip) =>
        Assert.Empty(Overlay.Subtract(new Region(Square(4)), [new Region(Square(4.8, strip, -5e-9))]));

    [Theory]
    [InlineData(0.5, 4)]
    [InlineData(2.5, 4)]
    public void A_cut_through_a_hollow_body_gives_both_outlines(double z, double size)
    {
        var tube = new Prism([Region.Of(Square(size), [Square(2, 1, 1)])], Frame.Identity, new Vec3(0, 0, 3)).ToMesh();
        var lines = Section.Cut(tube, z);
        Assert.Equal(2, lines.Count);
        Assert.All(lines, l => Assert.True((l[0] - l[^1]).Length < 1e-9));
        // The solid lies to the left: the outline turns left, the hole right.
        var areas = lines.Select(l => Region.SignedArea([.. l.SkipLast(1)])).Order().ToList();
        Assert.Equal(-4, areas[0], 1e-9);
        Assert.Equal(16, areas[1], 1e-9);
    }

    [Theory]
    [InlineData(-1)]
    [InlineData(0)]
    [InlineData(5)]
    public void A_cut_beside_a_body_gives_nothing(double z) =>
        Assert.Empty(Section.Cut(new Prism([new Region(Square(1))], Frame.Identity, new Vec3(0, 0, 3)).ToMesh(), z));

    [Fact]
    public void Edges_of_a_box_are_twelve_and_of_an_open_sheet_its_border()
    {
        var box = new Prism([new Region(Square(1))], Frame.Identity, new Vec3(0, 0, 3)).ToMesh();
        Assert.Equal(12, Section.FeatureEdges(box).Count);
        var sheet = new Mesh([new(0, 0, 0), new(1, 0, 0), new(1, 1, 0), new(0, 1, 0)], [0, 1, 2, 0, 2, 3]);
        Assert.Equal(4, Section.FeatureEdges(sheet).Count);
    }

    // A rounded corner leaves out r² (1 − π/4).
    [Theory]
    [InlineData(0.5)]
    [InlineData(1)]
    [InlineData(2)]
    public void Outlines_with_rounded_corners_have_their_area(double radius)
    {
        var outline = new Outline(new Tolerance(1e-6, 400))
            .Corner(0, 0, radius)
            .Corner(6, 0, radius)
            .Corner(6, 4, radius)
            .Corner(0, 4, radius)
            .Points();
        Assert.Equal(24 - (4 * radius * radius * (1 - (Math.PI / 4))), Region.SignedArea([.. outline]), 0.001);
    }

    [Fact]
    public void A_filleted_path_is_shorter_by_what_its_corners_save()
    {
        var path = Fillets.Round([new(0, 0, 0), new(10, 0, 0), new(10, 10, 0)], 2, new Tolerance(1e-6, 400));
        double length = path.Zip(path.Skip(1), (a, b) => (b - a).Length).Sum();
        Assert.Equal(20 - 4 + Math.PI, length, 0.001);
        Assert.Equal((new Vec3(0, 0, 0), new Vec3(10, 10, 0)), (path[0], path[^1]));
    }

    [Fact]
    public void A_frame_and_its_inverse_undo_each_other() =>
        Gen.Select(Gen.Double[-1, 1], Gen.Double[-1, 1], Gen.Double[0.1, 1], Gen.Double[-1e6, 1e6])
            .Sample(
                (x, y, z, o) =>
                {
                    var frame = Frame.FromAxes(new Vec3(o, -o, o / 2), new Vec3(x, y, z), Vec3.AxisX);
                    var p = new Vec3(1.5, -2.5, 3.5);
                    Assert.True((frame.Inverse().Point(frame.Point(p)) - p).Length < 1e-8);
                    Assert.Equal(1, frame.Determinant, 1e-12);
                },
                iter: 100
            );

    [Theory]
    [InlineData(0, 0)]
    [InlineData(1.5, 1)]
    [InlineData(3.5, 6)]
    [InlineData(4, 8)]
    [InlineData(99, 8)]
    [InlineData(-5, 0)]
    public void Points_on_sampled_curves_are_found_between_their_parameters(double t, double x)
    {
        var samples = new CurveSamples(
            [0, 1, 2, 3, 4],
            [new(0, 0, 0), new(0, 0, 0), new(2, 0, 0), new(4, 0, 0), new(8, 0, 0)]
        );
        Assert.Equal(x, samples.Point(t).X, 1e-12);
    }

    [Fact]
    public void Boxes_know_when_they_touch()
    {
        Box a = new(Vec3.Zero, new Vec3(1, 1, 1)),
            b = new(new Vec3(1, 0, 0), new Vec3(2, 1, 1)),
            c = new(new Vec3(1.1, 0, 0), new Vec3(2, 1, 1));
        Assert.True(a.Touches(b, 0));
        Assert.False(a.Touches(c, 0));
        Assert.True(a.Touches(c, 0.11));
        Assert.True(Box.Empty.IsEmpty);
        Assert.Equal(a, Box.Empty.Add(a));
        Assert.Equal(new Vec3(2, 1, 1), a.Add(b).Size);
    }
}
