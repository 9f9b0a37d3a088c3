namespace SteadyLintel.Cad;

/// <summary>A record of ACIS data, as far as plane faces are recognised by it.</summary>
/// <param name="Kind">What it is: <c>face</c>, <c>loop</c>, <c>plane-surface</c> …</param>
/// <param name="Links">The records it names, behind the attribute and the pattern; -1 for none.</param>
/// <param name="Numbers">Its numbers in order.</param>
/// <param name="Reversed">Whether it runs against what it lies on.</param>
internal sealed record AcisRecord(string Kind, int[] Links, double[] Numbers, bool Reversed)
{
    /// <summary>The version from which records name a pattern behind their attribute.</summary>
    public const int PatternVersion = 700;

    /// <summary>More records than a body is read with.</summary>
    public const int Most = 5_000_000;

    /// <summary>The last three numbers: where a point is.</summary>
    public Geometry.Vec3 Position => new(Numbers[^3], Numbers[^2], Numbers[^1]);
}
