using CsCheck;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

public class SolidsTests
{
    private static Prism Box(double x, double y, double z, double w, double d, double h) =>
        Prism.Box(new Vec3(x, y, z), new Vec3(w, 0, 0), new Vec3(0, d, 0), new Vec3(0, 0, h));

    private static void IsSolid(Mesh mesh, double volume)
    {
        var mass = MassProperties.Of(mesh);
        Assert.Equal(volume, mass.Volume, 6);
        Assert.True(mass.Closed, "not closed");
    }

    [Fact]
    public void A_hole_through_a_box_is_cut() =>
        IsSolid(Solids.Subtract(Box(0, 0, 0, 4, 1, 3).ToMesh(), Box(1, -1, 1, 1, 3, 1).ToMesh()), 12 - 1);

    [Fact]
    public void Faces_in_one_plane_do_no_harm() =>
        IsSolid(Solids.Subtract(Box(0, 0, 0, 4, 1, 3).ToMesh(), Box(1, 0, 0, 1, 1, 2).ToMesh()), 12 - 2);

    [Fact]
    public void Boxes_that_only_touch_stay_as_they_are() =>
        IsSolid(Solids.Subtract(Box(0, 0, 0, 1, 1, 1).ToMesh(), Box(1, 0, 0, 1, 1, 1).ToMesh()), 1);

    [Fact]
    public void Union_and_intersection_have_their_volumes()
    {
        IsSolid(Solids.Unite(Box(0, 0, 0, 2, 2, 2).ToMesh(), Box(1, 1, 1, 2, 2, 2).ToMesh()), 15);
        IsSolid(Solids.Intersect(Box(0, 0, 0, 2, 2, 2).ToMesh(), Box(1, 1, 1, 2, 2, 2).ToMesh()), 1);
    }

    [Fact]
    public void Volumes_add_up_whatever_the_boxes() =>
        Gen.Double[0.1, 2]
            .Array[3]
            .Select(Gen.Double[-1, 1].Array[3])
            .Sample(
                (size, at) =>
                {
                    var a = Box(0, 0, 0, 1, 1, 1).ToMesh();
                    var b = Box(at[0], at[1], at[2], size[0], size[1], size[2]).ToMesh();
                    double less = MassProperties.Of(Solids.Subtract(a, b)).Volume,
                        both = MassProperties.Of(Solids.Intersect(a, b)).Volume;
                    return Math.Abs(less + both - 1) < 1e-5;
                },
                iter: 300
            );

    [Fact]
    public void An_opening_across_a_wall_is_cut_in_its_plane()
    {
        var wall = Box(0, 0, 0, 5, 0.3, 3);
        var cut = wall.SweptAlong(new Vec3(0, 1, 0))!
            .Less([Prism.Box(new Vec3(1, -0.1, 0), new Vec3(1, 0, 0), new Vec3(0, 0, 2.1), new Vec3(0, 0.5, 0))])!;
        IsSolid(cut.ToMesh(), 0.3 * (15 - 2.1));
    }

    [Fact]
    public void A_niche_is_not_taken_for_a_hole() =>
        Assert.Null(
            Box(0, 0, 0, 5, 0.3, 3)
                .SweptAlong(new Vec3(0, 1, 0))!
                .Less([Prism.Box(new Vec3(1, -0.1, 1), new Vec3(1, 0, 0), new Vec3(0, 0, 1), new Vec3(0, 0.2, 0))])
        );

    [Fact]
    public void Bodies_too_fine_to_cut_say_so()
    {
        var fine = new Prism(
            [Region.Of(Arc.Circle(1, new Tolerance(1e-7, 1000)))],
            Frame.Identity,
            new Vec3(0, 0, 1)
        ).ToMesh();
        var finer = Mesh.Join([fine, fine.Map(Frame.At(new Vec3(5, 0, 0)))]);
        Assert.Contains("too fine", Assert.Throws<ShapeException>(() => Solids.Subtract(finer, fine)).Message);
    }

    [Fact]
    public void A_section_of_a_box_is_its_outline()
    {
        var line = Assert.Single(Section.Cut(Box(0, 0, 0, 2, 1, 3).ToMesh(), 1.2));
        Assert.Equal(6, line.Zip(line.Skip(1), (a, b) => (b - a).Length).Sum(), 9);
        Assert.Empty(Section.Cut(Box(0, 0, 0, 2, 1, 3).ToMesh(), 3.5));
    }

    [Fact]
    public void A_box_shows_twelve_edges_and_a_cylinder_two_rings()
    {
        Assert.Equal(12, Section.FeatureEdges(Box(0, 0, 0, 1, 1, 1).ToMesh()).Count);
        var circle = Arc.Circle(1, Tolerance.Default);
        Assert.Equal(
            2 * circle.Length,
            Section.FeatureEdges(new Prism([Region.Of(circle)], Frame.Identity, new Vec3(0, 0, 1)).ToMesh()).Count
        );
    }

    // So far away no plane holds its own facet any more; what would be cut for ever is refused at once. A body that merely is far is cut.
    [Theory]
    [InlineData(1e7, false)]
    [InlineData(2e8, true)]
    [InlineData(1e20, true)]
    [InlineData(1e300, true)]
    public void Bodies_out_of_all_reach_are_refused(double far, bool refused)
    {
        Mesh At(double x, double size) =>
            Prism.Box(new Vec3(x, x, x), new Vec3(size, 0, 0), new Vec3(0, size, 0), new Vec3(0, 0, size)).ToMesh();
        using var budget = new WorkBudget(work: 1_000_000);
        var e = Record.Exception(() => Solids.Subtract(At(far, far / 2), At(far * 1.1, far / 4)));
        if (refused)
            Assert.IsType<ShapeException>(e);
        else
            Assert.Null(e);
    }
}
