using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Contents alike are one mesh, and no other content ever is.</summary>
public class MeshPoolTests
{
    private static Prism Column(double depth, double turn = 0, double hole = 0)
    {
        var outer = new Vec2[] { new(0, 0), new(0.3, 0), new(0.3, 0.2), new(0, 0.2) };
        Vec2[][] holes =
            hole > 0
                ?
                [
                    [new(0.1, 0.1), new(0.1, 0.1 + hole), new(0.1 + hole, 0.1)],
                ]
                : [];
        return new Prism(
            [new Region(outer, holes)],
            Frame.FromAxes(new Vec3(1, 2, 3), Vec3.AxisZ, new Vec3(Math.Cos(turn), Math.Sin(turn), 0)),
            new Vec3(0, 0, depth)
        );
    }

    [Fact]
    public void Prisms_alike_have_one_mesh_which_is_the_one_they_would_have_alone()
    {
        var pool = new MeshPool();
        var first = pool.Of(Column(3, hole: 0.05));
        Assert.Same(first, pool.Of(Column(3, hole: 0.05)));
        var alone = Column(3, hole: 0.05).ToMesh();
        Assert.Equal(alone.Points, first.Points);
        Assert.Equal(alone.Triangles, first.Triangles);
        foreach (var other in (Prism[])[Column(3.0000001, hole: 0.05), Column(3, 1e-12, 0.05), Column(3), Column(-3)])
        {
            Assert.NotSame(first, pool.Of(other));
            Assert.Equal(other.ToMesh().Points, pool.Of(other).Points);
            Assert.Equal(other.ToMesh().Triangles, pool.Of(other).Triangles);
        }
    }

    // Two regions of one prism and one region with a hole have the same loops.
    [Fact]
    public void Which_loop_is_whose_is_part_of_the_content()
    {
        var pool = new MeshPool();
        Vec2[] outer = [new(0, 0), new(1, 0), new(1, 1), new(0, 1)],
            inner = [new(0.2, 0.2), new(0.2, 0.4), new(0.4, 0.4)];
        var hole = new Prism([new Region(outer, [inner])], Frame.Identity, Vec3.AxisZ);
        var two = new Prism([new Region(outer), new Region(inner)], Frame.Identity, Vec3.AxisZ);
        Assert.NotEqual(pool.Of(hole).TriangleCount, pool.Of(two).TriangleCount);
        Assert.Equal(two.ToMesh().TriangleCount, pool.Of(two).TriangleCount);
        int cuts = 0;
        Mesh Cut()
        {
            cuts++;
            return hole.ToMesh();
        }

        Assert.Same(pool.Cut(hole, [two], Cut), pool.Cut(hole, [two], Cut));
        pool.Cut(two, [hole], Cut);
        pool.Cut(hole, [two, two], Cut);
        Assert.Equal(3, cuts);
    }

    [Fact]
    public void A_million_different_meshes_have_a_million_contents()
    {
        var random = new Random(5);
        var seen = new HashSet<MeshContent>();
        int[][] triangles =
        [
            [0, 1, 2],
            [0, 2, 1],
        ];
        for (int n = 0; n < 500_000; n++)
        {
            Vec3[] points = [new(n / 7, random.NextDouble(), 0), new(random.NextDouble(), 1, 0), Vec3.AxisY];
            foreach (int[] triangle in triangles)
                Assert.True(seen.Add(MeshContent.Of(new Mesh(points, triangle))));
            if (n % 1000 == 0)
                Assert.Contains(MeshContent.Of(new Mesh([.. points], [2 - 2, 1, 2])), seen);
        }
    }

    [Fact]
    public void A_pool_that_is_full_gives_the_same_contents()
    {
        var pool = new MeshPool();
        for (int n = 0; n < 300_000; n++)
            pool.Of(new Mesh([new(n, 0, 0), new(0, n, 1), Vec3.AxisY], [0, 1, 2]));
        var late = pool.Of(Column(7));
        Assert.Equal(Column(7).ToMesh().Points, late.Points);
        Assert.Equal(MeshContent.Of(late), MeshContent.Of(pool.Of(Column(7))));
        var mesh = new Mesh([new(-1, 0, 0), Vec3.AxisX, Vec3.AxisY], [0, 1, 2]);
        Assert.Same(mesh, pool.Of(mesh));
    }

    [Fact]
    public void Many_threads_that_ask_for_one_content_get_one_mesh()
    {
        var pool = new MeshPool();
        var meshes = new Mesh[200];
        Parallel.For(0, meshes.Length, n => meshes[n] = pool.Of(Column(3 + (n % 2), hole: 0.05)));
        Assert.Equal(2, meshes.Distinct(ReferenceEqualityComparer.Instance).Count());
    }

    // The direction and the moments of a body that lies anywhere are those of its mesh as it lies.
    [Fact]
    public void Moments_turn_with_the_body()
    {
        var random = new Random(11);
        for (int n = 0; n < 200; n++)
        {
            var mesh = Column(0.1 + (3 * random.NextDouble()), random.NextDouble(), 0.05).ToMesh();
            var frame = Frame.FromAxes(
                new Vec3(500_000 * random.NextDouble(), 20, 3),
                new Vec3(random.NextDouble() - 0.5, random.NextDouble() - 0.5, random.NextDouble() - 0.5),
                new Vec3(random.NextDouble() - 0.5, random.NextDouble() - 0.5, 0.1)
            );
            double? there = PlanBearing.Of([mesh.Map(frame)]),
                turned = PlanBearing.Of(SurfaceMoments.Of([mesh]), frame);
            Assert.Equal(there is null, turned is null);
            if (there is { } bearing)
                Assert.Equal(0, Math.Abs(Math.IEEERemainder(bearing - turned!.Value, 180)), 5);
        }
    }
}
