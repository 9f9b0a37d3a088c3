using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>SPLINE: control points with knots, or points it goes through.</summary>
public sealed class Spline : Entity
{
    private const int IsClosed = 1,
        IsPeriodic = 2,
        IsRational = 4,
        Planar = 8;

    /// <inheritdoc/>
    public override string Type => "SPLINE";

    /// <summary>1 closed, 2 periodic, 4 rational, 8 planar, 16 linear (70).</summary>
    public int Flags { get; set; }

    /// <summary>The degree (71).</summary>
    public int Degree { get; set; } = 3;

    /// <summary>The knots (40).</summary>
    public List<double> Knots { get; } = [];

    /// <summary>The control points in world coordinates (10).</summary>
    public List<Vec3> Controls { get; } = [];

    /// <summary>A weight for every control point of a rational one (41).</summary>
    public List<double> Weights { get; } = [];

    /// <summary>The points it goes through (11).</summary>
    public List<Vec3> Fits { get; } = [];

    /// <summary>Tangents at the ends, where given with fit points (12, 13).</summary>
    public (Vec3 Start, Vec3 End) Tangents { get; set; }

    /// <summary>The normal of a planar one (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <summary>Tolerances of knots, control points and fit points (42, 43, 44).</summary>
    public (double Knot, double Control, double Fit) Tolerances { get; set; } = (1e-7, 1e-7, 1e-10);

    /// <summary>The curve with the stretch of its parameter; null where control points, knots and degree make none.</summary>
    public (BSplineCurve Curve, double From, double To)? Curve()
    {
        int count = Controls.Count;
        if (count == 0 || Degree < 1 || Degree > BSplineBasis.MaxDegree || Knots.Count != count + Degree + 1)
            return null;
        try
        {
            var basis = new BSplineBasis(Degree, [.. Knots], count);
            return (
                new BSplineCurve(basis, [.. Controls], Weights.Count == count ? [.. Weights] : null),
                basis.From,
                basis.To
            );
        }
        catch (Exception e) when (e is ShapeException or ArgumentException)
        {
            return null;
        }
    }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbSpline");
        if (f.Dwg is { } d)
            ExchangeDwg(d);
        else
            ExchangeDxf(f);
    }

    private void ExchangeDxf(Fields f)
    {
        Normal = f.Normal(Normal);
        Flags = f.Short(70, Flags);
        Degree = f.Short(71, Degree);
        f.Short(72, Knots.Count);
        f.Short(73, Controls.Count);
        f.Short(74, Fits.Count);
        Tolerances = (f.Double(42, Tolerances.Knot), f.Double(43, Tolerances.Control), f.Double(44, Tolerances.Fit));
        if (f.Reading || Tangents.Start != Vec3.Zero || Tangents.End != Vec3.Zero)
            Tangents = (f.Point(12, Tangents.Start), f.Point(13, Tangents.End));
        f.Items(Knots, Knots.Count, 40, k => f.Double(40, k));
        f.Items(Weights, Weights.Count, 41, w => f.Double(41, w));
        f.Items(Controls, Controls.Count, 10, p => f.Point(10, p));
        f.Items(Fits, Fits.Count, 11, p => f.Point(11, p));
    }

    private void ExchangeDwg(DwgFields d)
    {
        bool byFit = d.Long(Controls.Count == 0 ? 2 : 1) == 2;
        if (d.Since(CadVersion.AC1027))
        {
            d.Long(byFit ? 9 : 0);
            d.Long(byFit ? 0 : 15);
        }

        Degree = d.Long(Degree);
        if (byFit)
        {
            double tolerance = d.Double(Tolerances.Fit);
            Tolerances = Tolerances with { Fit = tolerance };
            Tangents = (d.Point(12, Tangents.Start), d.Point(13, Tangents.End));
            int fits = d.Count(Fits.Count);
            d.Items(Fits, fits, 0, p => d.Point(11, p));
            if (d.Reading && IsPlanar(Fits))
                Flags |= Planar;
            return;
        }

        Flag(d, IsRational);
        Flag(d, IsClosed);
        Flag(d, IsPeriodic);
        Tolerances = (d.Double(Tolerances.Knot), d.Double(Tolerances.Control), Tolerances.Fit);
        int knots = d.Count(Knots.Count),
            controls = d.Count(Controls.Count);
        bool weighted = d.Bit(Weights.Count == Controls.Count);
        d.Items(Knots, knots, 0, d.Double);
        var weights = new List<double>(Weights);
        Weights.Clear();
        int at = 0;
        d.Items(Controls, controls, 0, p =>
        {
            var control = d.Point(10, p);
            if (weighted)
                Weights.Add(d.Double(at < weights.Count ? weights[at++] : 1));
            return control;
        });
        if (d.Reading && IsPlanar(Controls))
            Flags |= Planar;
    }

    // DWG does not say whether a spline is planar; DXF does.
    private static bool IsPlanar(List<Vec3> points)
    {
        double size = Box.Of(points).Size.Length;
        Vec3 normal = default;
        for (int i = 2; i < points.Count && normal.Length < 1e-12 * size * size; i++)
            normal = (points[i - 1] - points[0]).Cross(points[i] - points[0]);
        normal = normal.Unit();
        return points.TrueForAll(p => Math.Abs(normal.Dot(p - points[0])) <= 1e-9 * size);
    }

    private void Flag(DwgFields d, int bit) => Flags = SymbolRecord.Flag(d, Flags, bit);
}
