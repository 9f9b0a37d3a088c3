namespace SteadyLintel.Exchange;

/// <summary>How lengths are written for a reader.</summary>
public enum LengthNotation
{
    /// <summary>Metres: <c>4.964 m</c>.</summary>
    Metres,

    /// <summary>Millimetres: <c>4964 mm</c>.</summary>
    Millimetres,

    /// <summary>Feet, inches and fractions: <c>16'-2 3/4"</c>.</summary>
    FeetAndInches,
}
