using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Heights are found from levels; tables of points are read as people keep them.</summary>
public class LevelFitTests
{
    private static readonly (string, double)[] Job =
    [
        ("Quay level", 0),
        ("Concourse", 4.8),
        ("Gallery", 8.6),
        ("Roof", 12.4),
    ];

    [Fact]
    public void A_model_100_ft_low_is_lifted_and_what_does_not_agree_is_named()
    {
        var fit = LevelFit.Of(
            [("Quay level", -30.48), ("Concourse", 4.8 - 30.48), ("Gallery", 8.3 - 30.48), ("Roof", 12.4 - 30.48)],
            Job
        );
        Assert.Equal(30.48, fit.Height!.Value, 9);
        Assert.Equal("levels: 3 of 4 agree, Gallery is −0.300 m off", fit.Sentence);
        Assert.Equal(["Gallery"], fit.Points.Where(p => !p.Used).Select(p => p.Name));
    }

    [Fact]
    public void Equal_storey_heights_are_told_apart_by_names()
    {
        (string, double)[] job = [("0", 0), ("1", 3), ("2", 6), ("3", 9)];
        Assert.Equal(-10, LevelFit.Of([("1", 13), ("2", 16)], job).Height!.Value, 9);
    }

    [Fact]
    public void Without_levels_nothing_is_found() => Assert.Null(LevelFit.Of([], Job).Height);

    [Fact]
    public void Points_are_read_with_units_and_written_back()
    {
        var points = PointTable.Read(
            "name,sx,sy,sz,jx,jy,jz\r\nA / 1,-1.148,2.297,,0,0,\n\"B\",16'-2 3/4\",0,0,4964 mm,0,0\nRoof,,,12.4,,,42.88\n"
        );
        Assert.Equal([(true, false), (true, true), (false, true)], points.Select(p => (p.HasPlan, p.HasHeight)));
        Assert.Equal((4.94665, 4.964), (Math.Round(points[1].Source.X, 6), points[1].Job.X));
        Assert.Equal(points, PointTable.Read(PointTable.Write(points)));
        Assert.Equal(2, PointTable.Read("1;0;0;0;1;1;1\n2;5;0;0;6;1;1").Count);
        // No cell begins a formula.
        Assert.DoesNotContain(
            "\n=",
            PointTable.Write([new ControlPoint("=1+1", Vec3.Zero, Vec3.Zero)]),
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("a,1,2,3", "has 4 fields")]
    [InlineData("a,1,2,3,4,5,6\nb,x,2,3,4,5,6", "'x' in line 2")]
    [InlineData("a,1,2,3,4,5,6\nb,,,,,,", "no numbers")]
    public void What_is_no_point_is_named_by_its_line(string table, string why) =>
        Assert.Contains(
            why,
            Assert.Throws<OrderException>(() => PointTable.Read(table)).Message,
            StringComparison.Ordinal
        );
}
