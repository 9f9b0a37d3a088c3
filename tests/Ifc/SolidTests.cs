using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Every kind of solid against its formula at the tolerance of ordinary use: volume and area within 0.1 %, box within 1 mm a
/// side.</summary>
public class SolidTests
{
    [Theory]
    [MemberData(nameof(SolidCases.Solids), MemberType = typeof(SolidCases))]
    public void A_solid_has_the_measures_of_its_formula(
        string name,
        string data,
        double volume,
        double area,
        double[] size
    )
    {
        foreach (var (unit, metres) in new[] { ("m", 1.0), ("ft", 0.3048) })
        {
            var mass = Sample.Measure(data, unit, tolerance: Tolerance.Default);
            Assert.True(mass.Closed, name);
            Assert.InRange(mass.Volume / (volume * metres * metres * metres), 0.999, 1.001);
            if (area > 0)
                Assert.InRange(mass.Area / (area * metres * metres), 0.999, 1.001);
            Assert.InRange(Math.Abs(mass.Bounds.Size.X - (size[0] * metres)), 0, 0.002);
            Assert.InRange(Math.Abs(mass.Bounds.Size.Y - (size[1] * metres)), 0, 0.002);
            Assert.InRange(Math.Abs(mass.Bounds.Size.Z - (size[2] * metres)), 0, 0.002);
        }
    }

    [Theory]
    [MemberData(nameof(SolidCases.Solids), MemberType = typeof(SolidCases))]
    public void Turned_and_far_away_it_keeps_them(string name, string data, double volume, double area, double[] size)
    {
        // Map coordinates 5 500 km off, turned about a slanted axis.
        const string placement =
            "#170=IFCCARTESIANPOINT((500000.,5500000.,50.));#171=IFCDIRECTION((0.6,0.,0.8));#172=IFCDIRECTION((0.8,0.1,-0.6));#173=IFCAXIS2PLACEMENT3D(#170,#171,#172);#174=IFCLOCALPLACEMENT($,#173);";
        var mass = Sample.Measure(data + placement, "m", "#174", tolerance: Tolerance.Default);
        Assert.True(mass.Closed, name);
        Assert.InRange(mass.Volume / volume, 0.999, 1.001);
        if (area > 0)
            Assert.InRange(mass.Area / area, 0.999, 1.001);
        // Turned, its box has no longer diagonal than about a ball that holds it, and is no smaller than its longest edge seen aslant.
        Assert.InRange(mass.Bounds.Size.Length, size.Max() * 0.99, Math.Sqrt(3 * size.Sum(s => s * s)) + 0.01);
    }
}
