using System.Globalization;

namespace SteadyLintel.Exchange;

/// <summary>A number with its unit, in metres, square metres or cubic metres where the unit is one of length, area or volume.</summary>
/// <param name="Value">The number; of a length, area or volume in m, m², m³, else as it is written.</param>
/// <param name="Power">1 for a length, 2 for an area, 3 for a volume, 0 where no such unit is written.</param>
public readonly record struct Measure(double Value, int Power)
{
    private const double Foot = 0.3048,
        Inch = 0.0254;

    private static readonly Dictionary<string, Measure> Units = new(StringComparer.Ordinal)
    {
        ["m"] = new(1, 1),
        ["dm"] = new(0.1, 1),
        ["cm"] = new(1e-2, 1),
        ["mm"] = new(1e-3, 1),
        ["km"] = new(1e3, 1),
        ["in"] = new(Inch, 1),
        ["inch"] = new(Inch, 1),
        ["ft"] = new(Foot, 1),
        ["foot"] = new(Foot, 1),
        ["m²"] = new(1, 2),
        ["dm²"] = new(1e-2, 2),
        ["cm²"] = new(1e-4, 2),
        ["mm²"] = new(1e-6, 2),
        ["in²"] = new(Inch * Inch, 2),
        ["square inch"] = new(Inch * Inch, 2),
        ["ft²"] = new(Foot * Foot, 2),
        ["square foot"] = new(Foot * Foot, 2),
        ["m³"] = new(1, 3),
        ["dm³"] = new(1e-3, 3),
        ["l"] = new(1e-3, 3),
        ["cm³"] = new(1e-6, 3),
        ["mm³"] = new(1e-9, 3),
        ["in³"] = new(Inch * Inch * Inch, 3),
        ["cubic inch"] = new(Inch * Inch * Inch, 3),
        ["ft³"] = new(Foot * Foot * Foot, 3),
        ["cubic foot"] = new(Foot * Foot * Foot, 3),
    };

    /// <summary>How many metres, square metres or cubic metres a unit is.</summary>
    /// <param name="unit">Its symbol; an unknown one gives a factor of 1 and no power.</param>
    public static Measure Unit(string unit) =>
        Units.TryGetValue(unit.Replace('2', '²').Replace('3', '³'), out var known) ? known : new(1, 0);

    /// <summary>A value of a property.</summary>
    /// <param name="text">The number as it is read, with a point.</param>
    /// <param name="unit">Its unit's symbol; empty for none.</param>
    /// <returns>Null where the text is no number.</returns>
    public static Measure? Of(string text, string unit)
    {
        if (
            !double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out double number)
            || !double.IsFinite(number)
        )
            return null;
        var of = Unit(unit);
        return of with { Value = number * of.Value };
    }

    /// <summary>Reads a number as people write it, with or without a unit: <c>0.9</c>, <c>900 mm</c>, <c>12 m²</c>, <c>4'-2"</c>.</summary>
    /// <returns>Null where it is none.</returns>
    public static Measure? Read(string text)
    {
        string plain = text.Trim();
        if (double.TryParse(plain, NumberStyles.Float, CultureInfo.InvariantCulture, out double bare))
            return double.IsFinite(bare) ? new(bare, 0) : null;
        int end = plain.Length;
        while (end > 0 && !char.IsAsciiDigit(plain[end - 1]) && plain[end - 1] != '.')
            end--;
        // A raised number at the end belongs to the unit.
        if (end == plain.Length && end > 1 && plain[end - 1] is '2' or '3' && char.IsLetter(plain[end - 2]))
            for (end--; end > 0 && !char.IsAsciiDigit(plain[end - 1]); )
                end--;
        string unit = plain[end..].Trim();
        if (unit.Length > 0 && Unit(unit).Power > 0 && Of(plain[..end].Trim(), unit) is { } measured)
            return measured;
        return LengthText.TryRead(plain, LengthNotation.Metres, out double metres) ? new(metres, 1) : null;
    }
}
