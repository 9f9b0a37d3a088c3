using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>A unit that values of properties can go in.</summary>
/// <param name="Symbol">As people write it.</param>
/// <param name="Kind">The kind of measure, as IfcUnitEnum spells it.</param>
/// <param name="Factor">How many metres, square metres, cubic metres, grams or radians are in one.</param>
/// <param name="Name">The name of an IfcConversionBasedUnit; with an SI unit prefix and name of IfcSIUnit.</param>
public sealed record PropertyUnit(string Symbol, string Kind, double Factor, string Name)
{
    private const double Foot = 0.3048,
        Inch = 0.0254;

    /// <summary>All that can be asked for. Sizes of feet, inches and pounds are exact by definition.</summary>
    public static IReadOnlyList<PropertyUnit> All { get; } =
    [
        new("mm", "LENGTHUNIT", 0.001, ".MILLI.,.METRE."),
        new("cm", "LENGTHUNIT", 0.01, ".CENTI.,.METRE."),
        new("m", "LENGTHUNIT", 1, "$,.METRE."),
        new("in", "LENGTHUNIT", Inch, "inch"),
        new("ft", "LENGTHUNIT", Foot, "foot"),
        new("mm²", "AREAUNIT", 1e-6, ".MILLI.,.SQUARE_METRE."),
        new("cm²", "AREAUNIT", 1e-4, ".CENTI.,.SQUARE_METRE."),
        new("m²", "AREAUNIT", 1, "$,.SQUARE_METRE."),
        new("in²", "AREAUNIT", Inch * Inch, "square inch"),
        new("ft²", "AREAUNIT", Foot * Foot, "square foot"),
        new("l", "VOLUMEUNIT", 0.001, "litre"),
        new("m³", "VOLUMEUNIT", 1, "$,.CUBIC_METRE."),
        new("ft³", "VOLUMEUNIT", Foot * Foot * Foot, "cubic foot"),
        new("g", "MASSUNIT", 1, "$,.GRAM."),
        new("kg", "MASSUNIT", 1000, ".KILO.,.GRAM."),
        new("t", "MASSUNIT", 1e6, ".MEGA.,.GRAM."),
        new("lb", "MASSUNIT", 453.59237, "pound"),
        new("°", "PLANEANGLEUNIT", Math.PI / 180, "degree"),
        new("rad", "PLANEANGLEUNIT", 1, "$,.RADIAN."),
    ];

    /// <summary>The unit of a symbol; a number means a raised one: <c>m2</c>. Null for none.</summary>
    public static PropertyUnit? Find(string symbol) =>
        All.FirstOrDefault(u =>
            u.Symbol == symbol.Replace('2', '²').Replace('3', '³') || (symbol == "deg" && u.Symbol == "°")
        );

    /// <summary>The unit that a file's symbol or name means: <c>Mg</c> and <c>litre</c> too. Null for none that is known here.</summary>
    internal static PropertyUnit? Written(string written) =>
        All.FirstOrDefault(u => u.Symbol == written || u.Name == written) ?? (written == "Mg" ? Find("t") : null);

    /// <summary>A value in this unit.</summary>
    /// <param name="value">The value.</param>
    /// <param name="from">The size of the unit it is in, as <see cref="Factor"/>.</param>
    public double Convert(double value, double from) => value * from / Factor;

    /// <summary>The size of the unit that a property's or quantity's value is in, as <see cref="Factor"/>; NaN where the value is no number
    /// of this kind, or nothing says its unit.</summary>
    internal double SizeOf(ModelSnapshot snapshot, int property)
    {
        var model = snapshot.Model;
        string measure = Measure(model, property);
        if (MeasureKinds.UnitKind(measure) != Kind)
            return double.NaN;
        int own = model.Ref(property, "Unit");
        int unit = own >= 0 ? own : snapshot.Units.ByKind.GetValueOrDefault(Kind, -1);
        return unit < 0 ? double.NaN : snapshot.Units.Factor(unit);
    }

    /// <summary>The attribute that holds the one number of a property or quantity; null where it has none.</summary>
    internal static string? ValueOf(IfcModel model, int property) =>
        model.Is(property, "IfcPropertySingleValue") ? "NominalValue"
        : model.Is(property, "IfcPhysicalSimpleQuantity")
            ? model.Entity(property)?.Attributes.ElementAtOrDefault(3)?.Name
        : null;

    private static string Measure(IfcModel model, int property)
    {
        if (ValueOf(model, property) is not { } attribute)
            return "";
        var value = model.Get(property, attribute);
        return attribute == "NominalValue"
            ? value.TypeName ?? ""
            : model.Entity(property)!.Attributes[3].Type.ToUpperInvariant();
    }
}
