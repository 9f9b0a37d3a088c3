using CsCheck;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

public class SweepTests
{
    private static readonly Region Square = Region.Of([new(-0.5, -0.5), new(0.5, -0.5), new(0.5, 0.5), new(-0.5, 0.5)]);

    private static void IsSolid(Mesh mesh, double volume, double share = 1e-9)
    {
        var mass = MassProperties.Of(mesh);
        Assert.True(mass.Closed, "not closed");
        Assert.InRange(mass.Volume, volume * (1 - share), volume * (1 + share));
    }

    [Fact]
    public void A_mitred_frame_is_as_long_as_its_middle_line() =>
        IsSolid(
            Sweep.Along([new(0, 0, 0), new(10, 0, 0), new(10, 6, 0), new(0, 6, 0)], true, Square, Sweep.Untwisted()),
            32
        );

    [Fact]
    public void Any_path_of_gentle_corners_keeps_section_times_length()
    {
        // Corners below a right angle, stretches longer than the section: the mitres never meet.
        Gen.Double[-0.6, 0.6]
            .Array[2, 8]
            .Sample(
                turns =>
                {
                    var path = new List<Vec3> { default, new(5, 0, 0) };
                    double angle = 0;
                    foreach (double turn in turns)
                    {
                        angle += turn;
                        path.Add(path[^1] + new Vec3(5 * Math.Cos(angle), 5 * Math.Sin(angle), turn));
                    }

                    double length = path.Zip(path.Skip(1)).Sum(p => (p.Second - p.First).Length);
                    var mass = MassProperties.Of(
                        Sweep.Along(path, false, Region.Of(Arc.Circle(0.3, Tolerance.Default)), Sweep.Untwisted())
                    );
                    return mass.Closed && Math.Abs(mass.Volume / (Math.PI * 0.09 * length) - 1) < 1e-3;
                },
                iter: 60
            );
    }

    [Fact]
    public void Repeated_points_of_a_path_do_no_harm() =>
        IsSolid(
            Sweep.Along([new(0, 0, 0), new(0, 0, 0), new(0, 0, 2), new(0, 0, 2)], false, Square, Sweep.Untwisted()),
            2
        );

    [Fact]
    public void A_path_without_length_is_told() =>
        Assert.Throws<ShapeException>(() =>
            Sweep.Along([new(1, 1, 1), new(1, 1, 1)], false, Square, Sweep.Untwisted())
        );

    [Theory]
    [InlineData(1.0)]
    [InlineData(-1.0)]
    [InlineData(3.0)]
    [InlineData(6.283185307179586)]
    public void A_turn_follows_Pappus(double angle)
    {
        var offset = Square.Map(p => p + new Vec2(3, 0));
        IsSolid(
            Sweep.Around(offset, offset, Frame.Identity, Vec3.Zero, Vec3.AxisY, angle, Tolerance.Default),
            3 * Math.Abs(angle),
            1e-3
        );
    }

    [Fact]
    public void A_turn_about_an_axis_moves_points_on_circles()
    {
        var turn = Sweep.Turn(new Vec3(1, 0, 0), Vec3.AxisZ, Math.PI / 2);
        Assert.True((turn.Point(new Vec3(2, 0, 5)) - new Vec3(1, 1, 5)).Length < 1e-12);
        Assert.Equal(1, turn.Determinant, 12);
    }

    [Fact]
    public void Regions_that_do_not_match_cannot_be_tapered() =>
        Assert.Contains(
            "do not match",
            Assert
                .Throws<ShapeException>(() => Sweep.Between(Square, Region.Of([new(0, 0), new(1, 0), new(0, 1)]), 0.5))
                .Message
        );

    [Fact]
    public void Half_way_between_two_regions_is_their_mean()
    {
        var half = Sweep.Between(Square, Square.Map(p => p * 3), 0.5);
        Assert.Equal(4, half.Area, 12);
    }

    [Fact]
    public void Sections_with_other_corners_cannot_be_skinned()
    {
        var triangle = LoftSection.Of(Region.Of([new(0, 0), new(1, 0), new(0, 1)]), Frame.At(new Vec3(0, 0, 1)));
        Assert.Throws<ShapeException>(() => Loft.Through([LoftSection.Of(Square, Frame.Identity), triangle], Square));
    }

    [Fact]
    public void A_skin_faces_outward_whichever_way_it_runs()
    {
        LoftSection low = LoftSection.Of(Square, Frame.Identity),
            high = LoftSection.Of(Square, Frame.At(new Vec3(0, 0, 2)));
        IsSolid(Loft.Through([low, high], Square), 2);
        IsSolid(Loft.Through([high, low], Square), 2);
    }

    [Theory]
    [InlineData(0.25, 1.5 + (Math.PI / 8))]
    [InlineData(0.5, 1 + (Math.PI / 4))]
    [InlineData(100, 1 + (Math.PI / 4))]
    public void Fillets_are_as_large_as_asked_or_as_fits(double radius, double length)
    {
        // Two stretches of a metre at a right angle; an arc can take half of each.
        var round = Fillets.Round([new(0, 0, 0), new(1, 0, 0), new(1, 1, 0)], radius, new Tolerance(1e-6, 400));
        double sum = round.Zip(round.Skip(1)).Sum(p => (p.Second - p.First).Length);
        Assert.Equal(length, sum, 1e-3);
        Assert.Equal((new Vec3(0, 0, 0), new Vec3(1, 1, 0)), (round[0], round[^1]));
    }

    [Fact]
    public void Primitives_stand_where_their_frame_is()
    {
        var frame = Frame.FromAxes(new Vec3(5, 6, 7), Vec3.AxisX, Vec3.AxisY);
        var sphere = MassProperties.Of(Primitives.Sphere(frame, 2, Tolerance.Default));
        Assert.Equal(4 * Math.PI / 3 * 8, sphere.Volume, 9);
        Assert.True((sphere.Bounds.Centre - frame.Origin).Length < 1e-6);
        Assert.Equal(8, MassProperties.Of(Primitives.Cone(frame, 1, 3, Tolerance.Default)).Bounds.Max.X, 9);
        IsSolid(Primitives.Pyramid(frame, 2, 3, 4), 8);
    }
}
