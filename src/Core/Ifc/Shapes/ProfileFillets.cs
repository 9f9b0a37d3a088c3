namespace SteadyLintel.Ifc;

/// <summary>The attributes of profiles that round edges and corners (ISO 16739-1, IfcParameterizedProfileDef and its subtypes).</summary>
public static class ProfileFillets
{
    /// <summary>Whether an attribute is one: FilletRadius, EdgeRadius, and those whose names end in these.</summary>
    /// <param name="attribute">As the standard spells it.</param>
    public static bool Are(string attribute) =>
        attribute.EndsWith("FilletRadius", StringComparison.Ordinal)
        || attribute.EndsWith("EdgeRadius", StringComparison.Ordinal);
}
