using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Transition curves of railways, whose curvature is given by formulas of the handbooks: all turn by L / 2R over their
/// length.</summary>
public class SpiralTests
{
    private const double R = 300,
        L = 80;
    private const string Start = "#30=IFCCARTESIANPOINT((0.,0.));#33=IFCAXIS2PLACEMENT2D(#30,$);";

    /// <summary>Name, the spiral #44, its curvature.</summary>
    public static TheoryData<string, string, Func<double, double>> Transitions =>
        new()
        {
            { "clothoid", $"IFCCLOTHOID(#33,{N(Math.Sqrt(R * L))})", s => s / (R * L) },
            {
                "Bloss",
                $"IFCTHIRDORDERPOLYNOMIALSPIRAL(#33,{N(-Math.Pow(R * L * L * L / 2, 0.25))},{N(Math.Cbrt(R * L * L / 3))},$,$)",
                s => ((3 * s * s / (L * L)) - (2 * s * s * s / (L * L * L))) / R
            },
            {
                "cosine",
                $"IFCCOSINESPIRAL(#33,{N(-2 * R)},{N(2 * R)})",
                s => (1 - Math.Cos(Math.PI * s / L)) / (2 * R)
            },
            {
                "sine",
                $"IFCSINESPIRAL(#33,{N(-2 * Math.PI * R)},{N(Math.Sqrt(R * L))},$)",
                s => (s / (R * L)) - (Math.Sin(2 * Math.PI * s / L) / (2 * Math.PI * R))
            },
            {
                "parabola, first half",
                $"IFCSECONDORDERPOLYNOMIALSPIRAL(#33,{N(Math.Cbrt(R * L * L / 1.5))},$,$)",
                s => 1.5 * s * s / (R * L * L)
            },
            {
                "seventh order",
                $"IFCSEVENTHORDERPOLYNOMIALSPIRAL(#33,{N(-Seventh(-20, 7))},{N(Seventh(70, 6))},{N(-Seventh(-84, 5))},{N(Seventh(35, 4))},$,$,$,$)",
                s => Wiener(s / L) / R
            },
        };

    private static string N(double value) => Sample.N(value);

    // κ = c · sⁿ / (R Lⁿ) as a term of degree n.
    private static double Seventh(double c, int n) => Math.Pow(R * Math.Pow(L, n) / Math.Abs(c), 1.0 / (n + 1));

    private static double Wiener(double x) =>
        (35 * Math.Pow(x, 4)) - (84 * Math.Pow(x, 5)) + (70 * Math.Pow(x, 6)) - (20 * Math.Pow(x, 7));

    private static IReadOnlyList<Vec3> Segment(string spiral, string start, string length, string unit = "m")
    {
        var model = Sample.Model(
            $"{Start}#44={spiral};#47=IFCCURVESEGMENT(.CONTSAMEGRADIENT.,#33,{start},{length},#44);#100=IFCCOMPOSITECURVE((#47),.F.);",
            unit,
            "IFC4X3"
        );
        return new ShapeReader(model, new IfcRelations(model), new IfcUnits(model)).Curve(model.File.IndexOf(100));
    }

    [Theory]
    [MemberData(nameof(Transitions))]
    public void A_transition_ends_where_its_curvature_leads(string name, string spiral, Func<double, double> curvature)
    {
        // Euler's method in a hundred thousand steps knows nothing of the closed forms in use.
        double x = 0,
            y = 0,
            angle = 0,
            step = L / 100_000;
        for (int i = 0; i < 100_000; i++)
        {
            double s = (i + 0.5) * step,
                turned = angle + (curvature(s) * step / 2);
            (x, y, angle) = (
                x + (step * Math.Cos(turned)),
                y + (step * Math.Sin(turned)),
                angle + (curvature(s) * step)
            );
        }

        Assert.Equal(L / (2 * R), angle, 1e-6);
        var points = Segment(spiral, "IFCLENGTHMEASURE(0.)", $"IFCLENGTHMEASURE({N(L)})");
        Assert.True((points[^1] - new Vec3(x, y, 0)).Length < 1e-4, $"{name} ends at {points[^1]}, not {x}, {y}");
        var last = (points[^1] - points[^2]).Unit();
        Assert.Equal(angle, Math.Atan2(last.Y, last.X), 0.01);
    }

    [Theory]
    [MemberData(nameof(Transitions))]
    public void In_millimetres_it_is_the_same_curve(string name, string spiral, Func<double, double> curvature)
    {
        Assert.NotNull(curvature);
        var metres = Segment(spiral, "IFCLENGTHMEASURE(0.)", $"IFCLENGTHMEASURE({N(L)})");
        string mm = System.Text.RegularExpressions.Regex.Replace(spiral, @"-?\d+\.\d*(E-?\d+)?", m =>
            N(1000 * double.Parse(m.Value, System.Globalization.CultureInfo.InvariantCulture))
        );
        var other = Segment(mm, "IFCLENGTHMEASURE(0.)", $"IFCLENGTHMEASURE({N(1000 * L)})", "mm");
        Assert.True((metres[^1] - other[^1]).Length < 1e-6, name);
    }

    // A cubic parabola y = x³ / 6RL, cut by its parameter and by its length.
    [Theory]
    [InlineData("IFCPARAMETERVALUE", 60, 60)]
    [InlineData("IFCLENGTHMEASURE", 60.03375, 60)]
    public void A_polynomial_curve_is_cut_by_parameter_or_length(string kind, double length, double x)
    {
        double c = 1 / (6 * R * L);
        var points = Segment(
            $"IFCPOLYNOMIALCURVE(#33,(0.,1.),(0.,0.,0.,{N(c)}),$)",
            $"{kind}(0.)",
            $"{kind}({N(length)})"
        );
        Assert.Equal(x, points[^1].X, 0.01);
        Assert.Equal(c * x * x * x, points[^1].Y, 0.01);
    }

    [Theory]
    [InlineData("IFCCOSINESPIRAL(#33,0.,$)", "make no sense")]
    [InlineData("IFCPOLYNOMIALCURVE(#33,(0.,1.),(0.,0.,0.,1.E300),$)", "")]
    [InlineData("IFCELLIPSE(#33,2.,1.)", "is not shaped yet")]
    public void A_curve_that_cannot_be_is_told_and_does_not_hang(string spiral, string word)
    {
        try
        {
            Segment(spiral, "IFCLENGTHMEASURE(0.)", "IFCLENGTHMEASURE(10.)");
            Assert.Equal("", word);
        }
        catch (ShapeException e)
        {
            Assert.Contains(word, e.Message);
        }
    }
}
