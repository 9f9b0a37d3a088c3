using CsCheck;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

public class MeshTests
{
    private static Mesh Box(double x, double y, double z, double w, double d, double h) =>
        Prism.Box(new Vec3(x, y, z), new Vec3(w, 0, 0), new Vec3(0, d, 0), new Vec3(0, 0, h)).ToMesh();

    [Fact]
    public void A_box_has_its_volume_area_and_closed_surface()
    {
        var mass = MassProperties.Of(Box(1, 2, 3, 2, 3, 4));
        Assert.Equal(24, mass.Volume, 9);
        Assert.Equal(52, mass.Area, 9);
        Assert.True(mass.Closed);
        Assert.Equal(new Box(new Vec3(1, 2, 3), new Vec3(3, 5, 7)), mass.Bounds);
    }

    [Fact]
    public void Far_coordinates_lose_nothing()
    {
        // 5 500 km out, as map coordinates can be: a double still spaces numbers a nanometre apart there (IEEE 754).
        var mass = MassProperties.Of(Box(5_500_000, 5_500_000, 100, 2, 3, 4));
        Assert.Equal(24, mass.Volume, 6);
        Assert.True(mass.Closed);
    }

    [Fact]
    public void A_mirrored_mesh_still_faces_outward() =>
        Assert.Equal(
            24,
            MassProperties
                .Of(Box(0, 0, 0, 2, 3, 4).Map(new Frame(Vec3.Zero, -Vec3.AxisX, Vec3.AxisY, Vec3.AxisZ)))
                .Volume,
            9
        );

    [Fact]
    public void An_open_mesh_is_told()
    {
        var box = Box(0, 0, 0, 1, 1, 1);
        Assert.False(MassProperties.Of(box with { Triangles = box.Triangles[3..] }).Closed);
    }

    [Fact]
    public void A_frame_and_its_inverse_cancel() =>
        Gen.Select(Gen.Double[-3, 3], Gen.Double[-3, 3], Gen.Double[-3, 3], Gen.Double[-1e4, 1e4])
            .Sample(
                (a, b, c, o) =>
                {
                    var frame = Frame.FromAxes(new Vec3(o, -o, a), new Vec3(a, b, c + 4), new Vec3(1, a, b));
                    var p = new Vec3(a, b, c);
                    return (frame.Inverse().Point(frame.Point(p)) - p).Length < 1e-8;
                }
            );

    // Volume of a prism: area of the outline times the depth, whatever its turn.
    [Fact]
    public void A_prism_with_a_hole_is_exact()
    {
        var outer = Region.Of(
            [new(0, 0), new(4, 0), new(4, 3), new(0, 3)],
            [
                [new(1, 1), new(2, 1), new(2, 2), new(1, 2)],
            ]
        );
        foreach (double turn in new[] { 0, 0.7, 2.5 })
        {
            var prism = new Prism(
                [outer],
                Frame.FromAxes(new Vec3(9, 9, 9), new Vec3(Math.Sin(turn), 0, Math.Cos(turn)), Vec3.AxisY),
                new Vec3(0, 0, 2)
            );
            var mass = MassProperties.Of(prism.ToMesh());
            Assert.Equal(22, mass.Volume, 9);
            Assert.Equal((2 * 11) + (2 * (14 + 4)), mass.Area, 9);
            Assert.True(mass.Closed);
        }
    }

    [Fact]
    public void A_slanted_prism_keeps_the_volume_of_its_height() =>
        Assert.Equal(
            2 * 5,
            MassProperties
                .Of(
                    new Prism(
                        [Region.Of([new(0, 0), new(2, 0), new(2, 1), new(0, 1)])],
                        Frame.Identity,
                        new Vec3(3, 1, 5)
                    ).ToMesh()
                )
                .Volume,
            9
        );

    [Fact]
    public void A_circle_has_its_area_and_nearly_its_perimeter()
    {
        var region = Region.Of(Arc.Circle(0.5, Tolerance.Default));
        Assert.Equal(Math.PI * 0.25, region.Area, 12);
        double perimeter = region
            .Outer.Select((p, i) => (region.Outer[(i + 1) % region.Outer.Length] - p).Length)
            .Sum();
        Assert.InRange(perimeter / Math.PI, 0.999, 1.001);
    }

    [Fact]
    public void An_arc_through_three_points_passes_them()
    {
        var arc = Arc.Through(new Vec3(-1, 0, 0), new Vec3(0, 1, 0), new Vec3(1, 0, 0), Tolerance.Default);
        Assert.All(arc, p => Assert.Equal(1, p.Length, 9));
        Assert.True(arc.Count > 12);
        Assert.Equal(new Vec3(1, 0, 0), arc[^1]);
    }

    [Fact]
    public void A_rounded_corner_takes_the_area_of_the_formula()
    {
        // (1 - π/4)·r² a corner.
        var square = Region.Of(
            new Outline(new Tolerance(1e-5, 400))
                .Corner(0, 0, 0.2)
                .Corner(1, 0, 0.2)
                .Corner(1, 1, 0.2)
                .Corner(0, 1, 0.2)
                .Points()
        );
        Assert.Equal(1 - (4 * (1 - (Math.PI / 4)) * 0.04), square.Area, 5);
    }
}
