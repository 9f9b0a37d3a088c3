using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>The body beside a surface, against integrals worked by hand.</summary>
public class SurfaceSideTests
{
    private static Mesh Cube(double half) =>
        Prism
            .Box(
                new Vec3(-half, -half, -half),
                new Vec3(2 * half, 0, 0),
                new Vec3(0, 2 * half, 0),
                new Vec3(0, 0, 2 * half)
            )
            .ToMesh();

    // z = a + bx + cy over a square of six metres.
    private static BSplineSurface Slope(double a, double b, double c)
    {
        Vec3 P(double x, double y) => new(x, y, a + (b * x) + (c * y));
        var basis = new BSplineBasis(1, [0, 0, 1, 1], 2);
        return new BSplineSurface(
            basis,
            basis,
            [
                [P(-3, -3), P(-3, 3)],
                [P(3, -3), P(3, 3)],
            ],
            null
        );
    }

    [Theory]
    // A plane halves the cube's column wherever it leans; lifted by a it takes 16 a more.
    [InlineData(0, 0, 0, 32)]
    [InlineData(0.5, 0.3, -0.2, 40)]
    [InlineData(-1, 0.1, 0.4, 16)]
    public void A_sloping_surface_divides_a_cube(double a, double b, double c, double below)
    {
        var cube = Cube(2);
        foreach (bool behind in (bool[])[true, false])
        {
            var side = SurfaceSide.Of(Slope(a, b, c), cube, behind);
            Assert.True(MassProperties.Of(side) is { Closed: true, Volume: > 0 });
            var part = MassProperties.Of(Solids.Intersect(cube, side));
            Assert.True(part.Closed);
            Assert.Equal(behind ? below : 64 - below, part.Volume, 1e-6);
        }
    }

    // Far from the origin, and seen from the side: x = f(y, z).
    [Fact]
    public void It_stands_wherever_the_body_stands()
    {
        var far = new Vec3(500_000, 5_800_000, 40);
        Vec3 P(double y, double z) => far + new Vec3(0.25 * y, y, z);
        var basis = new BSplineBasis(1, [0, 0, 1, 1], 2);
        var wall = new BSplineSurface(
            basis,
            basis,
            [
                [P(-4, -4), P(-4, 4)],
                [P(4, -4), P(4, 4)],
            ],
            null
        );
        var cube = Cube(2).Map(Frame.At(far));
        Assert.Equal(32, MassProperties.Of(Solids.Subtract(cube, SurfaceSide.Of(wall, cube, true))).Volume, 1e-3);
    }

    [Fact]
    public void A_surface_that_ends_within_the_body_is_refused() =>
        Assert.Contains(
            "ends before",
            Assert.Throws<ShapeException>(() => SurfaceSide.Of(Slope(0, 0, 0), Cube(3.5), true)).Message
        );
}
