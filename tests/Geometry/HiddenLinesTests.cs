using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Edges behind faces, regions of loops and outer skins, each against lengths, areas and volumes by hand.</summary>
public class HiddenLinesTests
{
    private static Mesh Slab(double x, double y, double w, double h, double z) =>
        new(
            [new Vec3(x, y, z), new Vec3(x + w, y, z), new Vec3(x + w, y + h, z), new Vec3(x, y + h, z)],
            [0, 1, 2, 0, 2, 3]
        );

    private static Mesh Block(Vec3 low, Vec3 high)
    {
        Vec3[] p =
        [
            .. from x in new[] { low.X, high.X }
            from y in new[] { low.Y, high.Y }
            from z in new[] { low.Z, high.Z }
            select new Vec3(x, y, z),
        ];
        return new Mesh(
            p,
            [0, 1, 3, 0, 3, 2, 4, 6, 7, 4, 7, 5, 0, 4, 5, 0, 5, 1, 2, 3, 7, 2, 7, 6, 0, 2, 6, 0, 6, 4, 1, 5, 7, 1, 7, 3]
        );
    }

    private static double Hidden(HiddenLines hiding, Vec3 a, Vec3 b) =>
        hiding.Divide(a, b).Where(p => p.Hidden).Sum(p => p.To - p.From) * (b.XY - a.XY).Length;

    // A face from x = 2 to x = 6: of a line from 0 to 10 below it four metres are hidden, of one above it none.
    [Theory]
    [InlineData(-1, 4)]
    [InlineData(1, 0)]
    public void A_face_hides_what_is_below_it(double z, double hidden)
    {
        var hiding = new HiddenLines();
        hiding.Add(Slab(2, -1, 4, 2, 0));
        Assert.Equal(hidden, Hidden(hiding, new Vec3(0, 0.3, z), new Vec3(10, 0.3, z)), 1e-3);
    }

    // The diagonal in which the two triangles of a face meet is no gap.
    [Fact]
    public void Where_two_triangles_meet_nothing_shows_through()
    {
        var hiding = new HiddenLines();
        hiding.Add(Slab(0, 0, 4, 4, 0));
        Assert.Equal(4 * Math.Sqrt(2), Hidden(hiding, new Vec3(0, 0, -1), new Vec3(4, 4, -1)), 1e-3);
    }

    [Fact]
    public void The_outline_of_a_face_does_not_hide_what_is_right_below_it()
    {
        var hiding = new HiddenLines();
        hiding.Add(Slab(0, 0, 4, 4, 0));
        Assert.Equal(0, Hidden(hiding, new Vec3(0, 0, -1), new Vec3(4, 0, -1)));
    }

    // A slope from z = 0 at x = 0 to z = 4 at x = 4 passes a level line at z = 1 where x is 1.
    [Fact]
    public void A_slope_hides_from_where_it_is_higher()
    {
        var hiding = new HiddenLines();
        hiding.Add(
            new Mesh([new Vec3(0, -1, 0), new Vec3(4, -1, 4), new Vec3(4, 1, 4), new Vec3(0, 1, 0)], [0, 1, 2, 0, 2, 3])
        );
        Assert.Equal(3, Hidden(hiding, new Vec3(0, 0.2, 1), new Vec3(4, 0.2, 1)), 5e-3);
    }

    [Fact]
    public void What_is_above_the_cut_hides_nothing()
    {
        var hiding = new HiddenLines();
        hiding.Add(Slab(0, -1, 4, 2, 2), 1);
        Assert.Equal(0, Hidden(hiding, new Vec3(0, 0, 0), new Vec3(4, 0, 0)));
        // Of a slope from 0 to 4 the part below 1 does.
        hiding = new HiddenLines();
        hiding.Add(
            new Mesh(
                [new Vec3(0, -1, 0), new Vec3(4, -1, 4), new Vec3(4, 1, 4), new Vec3(0, 1, 0)],
                [0, 1, 2, 0, 2, 3]
            ),
            1
        );
        Assert.Equal(1, Hidden(hiding, new Vec3(0, 0.2, -1), new Vec3(4, 0.2, -1)), 5e-3);
    }

    // Whatever the faces, the pieces of an edge follow one another from its start to its end.
    [Fact]
    public void Pieces_make_up_the_whole_edge()
    {
        var random = new Random(7);
        double Next() => (random.NextDouble() * 10) - 5;
        for (int n = 0; n < 200; n++)
        {
            var hiding = new HiddenLines();
            for (int f = 0; f < 20; f++)
                hiding.Add(
                    new Mesh(
                        [
                            new Vec3(Next(), Next(), Next()),
                            new Vec3(Next(), Next(), Next()),
                            new Vec3(Next(), Next(), Next()),
                        ],
                        [0, 1, 2]
                    )
                );
            var pieces = hiding.Divide(new Vec3(Next(), Next(), Next()), new Vec3(Next(), Next(), Next()));
            Assert.Equal((0, 1), (pieces[0].From, pieces[^1].To));
            for (int p = 1; p < pieces.Count; p++)
            {
                Assert.Equal(pieces[p - 1].To, pieces[p].From);
                Assert.NotEqual(pieces[p - 1].Hidden, pieces[p].Hidden);
            }
        }
    }

    [Fact]
    public void Loops_become_regions_with_the_holes_right_inside_them()
    {
        static Vec2[] Square(double at, double size, bool hole)
        {
            Vec2[] loop = [new(at, at), new(at + size, at), new(at + size, at + size), new(at, at + size)];
            return hole ? [.. loop.Reverse()] : loop;
        }

        // An island within a hole within a square, and another square beside it.
        var regions = LoopRegions.Of([
            Square(0, 10, false),
            Square(1, 8, true),
            Square(3, 2, false),
            Square(20, 1, false),
        ]);
        Assert.Equal([100 - 64, 4, 1], regions.Select(r => Math.Round(r.Area, 9)).OrderDescending());
    }

    // Two blocks of 2 × 1 × 1 that share a cube of 1: 3 m³ and 14 m² outside.
    [Fact]
    public void Faces_between_bodies_are_no_part_of_the_skin()
    {
        var skin = MassProperties.Of(
            OuterSkin.Of([Block(Vec3.Zero, new Vec3(2, 1, 1)), Block(new Vec3(1, 0, 0), new Vec3(3, 1, 1))])
        );
        Assert.True(skin.Closed);
        Assert.Equal(3, skin.Volume, 1e-6);
        Assert.Equal(14, skin.Area, 1e-6);
    }

    // A block of 3 × 3 × 3 around a hollow of 1: outside it is 27 m³.
    [Fact]
    public void A_hollow_is_no_part_of_the_skin()
    {
        var hollow = Mesh.Join([
            Block(Vec3.Zero, new Vec3(3, 3, 3)),
            Block(new Vec3(1, 1, 1), new Vec3(2, 2, 2)).Flipped(),
        ]);
        Assert.Equal(26, MassProperties.Of(hollow).Volume, 1e-9);
        var skin = MassProperties.Of(OuterSkin.Of([hollow]));
        Assert.Equal((27, 54), (Math.Round(skin.Volume, 9), Math.Round(skin.Area, 9)));
    }

    // A lying cylinder shows its outline: two lines as long as it is, beside the edges of its ends.
    [Fact]
    public void A_rounded_body_shows_its_outline()
    {
        const int sides = 48;
        var points = Enumerable
            .Range(0, 2 * sides)
            .Select(n => (n / sides * 5.0, 2 * Math.PI * (n % sides + 0.5) / sides))
            .Select(p => new Vec3(p.Item1, Math.Cos(p.Item2), Math.Sin(p.Item2)))
            .ToArray();
        var triangles = Enumerable
            .Range(0, sides)
            .SelectMany(n =>
                new[] { n, (n + 1) % sides, sides + n, (n + 1) % sides, sides + ((n + 1) % sides), sides + n }
            );
        var tube = new Mesh(points, [.. triangles]);
        var along = Section.EdgesFromAbove(tube).Where(e => Math.Abs(e.A.X - e.B.X) > 1).ToList();
        Assert.Equal(2, along.Count);
        Assert.All(along, e => Assert.Equal(5, (e.B - e.A).Length, 1e-9));
        Assert.Equal([-1.0, 1.0], along.Select(e => Math.Round(e.A.Y, 2)).Order());
    }
}
