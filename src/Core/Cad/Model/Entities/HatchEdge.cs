using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>An edge of a hatch's boundary, in object coordinates.</summary>
public sealed class HatchEdge
{
    /// <summary>The kind.</summary>
    public HatchEdgeKind Kind { get; set; } = HatchEdgeKind.Line;

    /// <summary>Start of a line, or centre (10).</summary>
    public Vec2 First { get; set; }

    /// <summary>End of a line, or end of an ellipse's major axis from its centre (11).</summary>
    public Vec2 Second { get; set; }

    /// <summary>Radius, or minor to major axis (40).</summary>
    public double Radius { get; set; }

    /// <summary>Start and end in radians; degrees in DXF (50, 51).</summary>
    public (double Start, double End) Angles { get; set; }

    /// <summary>Whether angles run counterclockwise (73).</summary>
    public bool Counterclockwise { get; set; } = true;

    /// <summary>Degree of a spline (94).</summary>
    public int Degree { get; set; } = 3;

    /// <summary>Whether a spline is rational, and periodic (73, 74).</summary>
    public (bool Rational, bool Periodic) Spline { get; set; }

    /// <summary>Knots of a spline (40).</summary>
    public List<double> Knots { get; } = [];

    /// <summary>Control points with weights (10, 42).</summary>
    public List<(Vec2 Point, double Weight)> Controls { get; } = [];

    /// <summary>Fit points (11).</summary>
    public List<Vec2> Fits { get; } = [];

    /// <summary>Tangents at the ends of a spline with fit points (12, 13).</summary>
    public (Vec2 Start, Vec2 End) Tangents { get; set; }

    /// <summary>Reads or writes the fields behind the kind.</summary>
    internal void Exchange(Fields f)
    {
        switch (Kind)
        {
            case HatchEdgeKind.Line:
                First = f.Flat(10, First);
                Second = f.Flat(11, Second);
                break;
            case HatchEdgeKind.Arc:
                First = f.Flat(10, First);
                Radius = f.Double(40, Radius);
                ExchangeAngles(f);
                break;
            case HatchEdgeKind.Ellipse:
                First = f.Flat(10, First);
                Second = f.Flat(11, Second);
                Radius = f.Double(40, Radius);
                ExchangeAngles(f);
                break;
            default:
                ExchangeSpline(f);
                break;
        }
    }

    private void ExchangeAngles(Fields f)
    {
        Angles = (f.Angle(50, Angles.Start), f.Angle(51, Angles.End));
        Counterclockwise = Bit(f, 73, Counterclockwise);
    }

    private void ExchangeSpline(Fields f)
    {
        Degree = f.Long(94, Degree);
        Spline = (Bit(f, 73, Spline.Rational), Bit(f, 74, Spline.Periodic));
        int knots = f.Long(95, Knots.Count),
            controls = f.Long(96, Controls.Count);
        f.Items(Knots, knots, 40, k => f.Double(40, k));
        f.Items(Controls, controls, 10, c => (f.Flat(10, c.Point), Spline.Rational ? f.Double(42, c.Weight) : 1));
        if (!f.Since(CadVersion.AC1024))
            return;
        int fits = f.Long(97, Fits.Count);
        f.Items(Fits, fits, 11, p => f.Flat(11, p));
        if (fits > 0 || f.Dwg is not null)
            Tangents = (f.Flat(12, Tangents.Start), f.Flat(13, Tangents.End));
    }

    private static bool Bit(Fields f, int code, bool value) =>
        f.Dwg is { } d ? d.Bit(value) : f.Short(code, value ? 1 : 0) != 0;
}
