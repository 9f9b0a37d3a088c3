using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Solids whose faces have inner loops: rooms around columns. The volume is that of the formula, whatever a reader that fills
/// faces without their holes says.</summary>
public class HoledSolidTests
{
    [Fact]
    public void The_volume_of_a_room_with_columns_is_that_of_the_formula()
    {
        var random = new Random(7);
        for (int n = 0; n < 60; n++)
        {
            int grid = 1 + random.Next(4),
                sides = 3 + random.Next(12);
            double size = 2 + (random.NextDouble() * 40),
                r = size / grid / 4,
                height = 2.5 + random.NextDouble();
            var holes = new List<Vec2[]>();
            for (int i = 0; i < grid * grid; i++)
            {
                Vec2 centre = new(((i % grid) + 0.5) * size / grid, ((i / grid) + 0.5) * size / grid);
                double turn = random.NextDouble() * 7;
                holes.Add([
                    .. Enumerable
                        .Range(0, sides)
                        .Select(k =>
                            centre
                            + (
                                new Vec2(
                                    Math.Cos(turn - (2 * Math.PI * k / sides)),
                                    Math.Sin(turn - (2 * Math.PI * k / sides))
                                ) * r
                            )
                        ),
                ]);
            }

            // Area of a regular polygon of n corners on a circle: n r² sin(2π/n) / 2.
            double expected =
                ((size * size) - (grid * grid * sides * r * r * Math.Sin(2 * Math.PI / sides) / 2)) * height;
            var move = FrameRewrite.Move(
                new Vec3(random.NextDouble() * 1000, random.NextDouble() * 1000, 3),
                random.NextDouble() * 360
            );
            var mesh = new Prism([new Region(Square(size), holes)], Frame.Identity, new Vec3(0, 0, height))
                .ToMesh()
                .Map(move);
            var solid = Bodies.Solid(mesh, 1000, n % 2 == 0 ? CadVersion.AC1024 : CadVersion.AC1027);
            Assert.NotNull(solid);
            var back = MassProperties.Of(
                Mesh.Join([.. new BodyMeshes(Drawing.Create(CadVersion.AC1027), 0.001).Of(solid)])
            );
            Assert.True(back.Closed);
            Assert.Equal(expected, back.Volume, 1e-6 * expected);
        }
    }

    // Exact corners on corners: columns that touch a wall or one another.
    [Theory]
    [InlineData(2, 2, 2.5, 2.5)]
    [InlineData(0, 3, 9.5, 3)]
    [InlineData(2, 2, 2.5, 1.5)]
    public void Columns_that_touch_a_wall_or_one_another_are_cut_out(double x1, double y1, double x2, double y2)
    {
        Vec2[] Column(double x, double y) => [new(x, y), new(x, y + 0.5), new(x + 0.5, y + 0.5), new(x + 0.5, y)];
        int[] triangles = Triangulator.Triangulate(new Region(Square(10), [Column(x1, y1), Column(x2, y2)]));
        Vec2[] points = [.. Square(10), .. Column(x1, y1), .. Column(x2, y2)];
        double area = triangles.Chunk(3).Sum(t => (points[t[1]] - points[t[0]]).Cross(points[t[2]] - points[t[0]]) / 2);
        Assert.Equal(100 - 0.5, Math.Abs(area), 9);
    }

    private static Vec2[] Square(double size) => [new(0, 0), new(size, 0), new(size, size), new(0, size)];
}
