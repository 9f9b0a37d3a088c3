using System.Collections.Concurrent;

namespace SteadyLintel.Ifc;

/// <summary>Which unit a measure type is given in (ISO 16739-1, the defined types of IfcMeasureResource).</summary>
/// <remarks>
/// The standard names kinds of units after measures: IfcThermalTransmittanceMeasure is given in THERMALTRANSMITTANCEUNIT. The words are
/// those of IfcUnitEnum and
/// IfcDerivedUnitEnum; a measure whose word is in neither (a label, count, ratio) has no unit. Money is given in the assigned
/// IfcMonetaryUnit, which has no word: MONETARYUNIT here.
/// </remarks>
public static class MeasureKinds
{
    /// <summary>The kind under which a project's IfcMonetaryUnit is listed.</summary>
    public const string Money = "MONETARYUNIT";

    private static readonly HashSet<string> Words =
    [
        .. IfcSchema.Named("IFC4X3").Type("IfcUnitEnum")!.Members,
        .. IfcSchema.Named("IFC4X3").Type("IfcDerivedUnitEnum")!.Members,
    ];
    private static readonly ConcurrentDictionary<string, string?> Known = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>The kind of unit a measure is given in, as IfcUnitEnum and IfcDerivedUnitEnum spell it; null for a label, count, ratio
    /// …</summary>
    /// <param name="measure">The measure's name in any case.</param>
    public static string? UnitKind(string measure) => Known.GetOrAdd(measure, Find);

    /// <summary>Whether values of a defined type are lengths, and so change with the length unit.</summary>
    /// <param name="measure">The defined type, in capital letters.</param>
    public static bool IsLength(string measure) => UnitKind(measure) == "LENGTHUNIT";

    private static string? Find(string measure)
    {
        string name = measure.ToUpperInvariant();
        if (!name.StartsWith("IFC", StringComparison.Ordinal) || !name.EndsWith("MEASURE", StringComparison.Ordinal))
            return null;
        name = name[3..^7];
        foreach (string sign in (string[])["POSITIVE", "NONNEGATIVE"])
            if (name.StartsWith(sign, StringComparison.Ordinal))
                name = name[sign.Length..];
        if (name == "MONETARY")
            return Money;
        return Words.Contains(name + "UNIT") && name != "USERDEFINED" ? name + "UNIT" : null;
    }
}
