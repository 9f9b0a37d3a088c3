using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>A body is as long as it is, whichever way it lies.</summary>
public class BodyBoxTests
{
    private static Mesh Box(double x, double y, double z)
    {
        Vec3[] p =
        [
            new(0, 0, 0),
            new(x, 0, 0),
            new(x, y, 0),
            new(0, y, 0),
            new(0, 0, z),
            new(x, 0, z),
            new(x, y, z),
            new(0, y, z),
        ];
        return new Mesh(
            p,
            [0, 2, 1, 0, 3, 2, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 1, 2, 6, 1, 6, 5, 2, 3, 7, 2, 7, 6, 3, 0, 4, 3, 4, 7]
        );
    }

    private static Frame Turned(double aboutZ, double aboutY)
    {
        var (sz, cz) = Math.SinCos(aboutZ);
        var (sy, cy) = Math.SinCos(aboutY);
        var x = new Vec3(cz * cy, sz * cy, -sy);
        var y = new Vec3(-sz, cz, 0);
        return new Frame(new Vec3(12, -7, 3), x, y, x.Cross(y));
    }

    [Fact]
    public void A_box_is_as_long_as_it_is_however_it_is_turned()
    {
        var random = new Random(3);
        for (int n = 0; n < 50; n++)
        {
            double x = 1 + (5 * random.NextDouble()),
                y = 0.1 + (0.4 * random.NextDouble()),
                z = 0.1 + (0.4 * random.NextDouble());
            var body = Box(x, y, z).Map(Turned(random.NextDouble() * 6, random.NextDouble() * 3));
            Assert.Equal(x, BodyBox.Longest([body]), 1e-6);
        }
    }

    // A right triangle of 3, 4 and 5 (Euclid, Elements I.47).
    [Fact]
    public void A_rafter_that_rises_three_over_four_is_five_long() =>
        Assert.Equal(5, BodyBox.Longest([Box(5, 0.1, 0.2).Map(Turned(0, -Math.Atan2(3, 4)))]), 1e-9);

    [Fact]
    public void A_round_bar_is_as_long_as_its_axis()
    {
        const int Sides = 24;
        var points = new List<Vec3>();
        for (int i = 0; i < Sides; i++)
        {
            var (s, c) = Math.SinCos(2 * Math.PI * i / Sides);
            points.Add(new Vec3(0, 0.1 * c, 0.1 * s));
            points.Add(new Vec3(6.5, 0.1 * c, 0.1 * s));
        }

        var triangles = new List<int>();
        for (int i = 0; i < Sides; i++)
        {
            int a = 2 * i,
                b = a + 1,
                c = 2 * ((i + 1) % Sides),
                d = c + 1;
            triangles.AddRange([a, b, c, b, d, c]);
        }

        var bar = new Mesh([.. points], [.. triangles]);
        Assert.Equal(6.5, BodyBox.Longest([bar.Map(Turned(0.7, 0.9))]), 1e-6);
    }

    [Fact]
    public void A_body_along_its_axes_keeps_them_and_nothing_has_no_size()
    {
        Assert.Equal(new Vec3(4, 0.2, 3), BodyBox.Size([Box(4, 0.2, 3)]));
        Assert.Equal(Vec3.Zero, BodyBox.Size([]));
        Assert.Equal(0, BodyBox.Longest([new Mesh([], [])]));
    }
}
