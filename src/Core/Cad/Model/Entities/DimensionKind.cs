namespace SteadyLintel.Cad;

/// <summary>The kinds of DIMENSION (70); the numbers are the format's.</summary>
public enum DimensionKind
{
    /// <summary>Measured in a given direction.</summary>
    Linear = 0,

    /// <summary>Measured along two points.</summary>
    Aligned = 1,

    /// <summary>Between two lines.</summary>
    Angular = 2,

    /// <summary>Of a diameter.</summary>
    Diameter = 3,

    /// <summary>Of a radius.</summary>
    Radius = 4,

    /// <summary>An angle by three points.</summary>
    Angular3Point = 5,

    /// <summary>Of an x or y coordinate.</summary>
    Ordinate = 6,
}
