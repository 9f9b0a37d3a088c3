namespace SteadyLintel.Cad;

/// <summary>The kinds of edge around a hatch (72); the numbers are the format's.</summary>
public enum HatchEdgeKind
{
    /// <summary>A straight line.</summary>
    Line = 1,

    /// <summary>An arc of a circle.</summary>
    Arc = 2,

    /// <summary>An arc of an ellipse.</summary>
    Ellipse = 3,

    /// <summary>A spline.</summary>
    Spline = 4,
}
