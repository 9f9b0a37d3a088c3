using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Units as instances of a model (ISO 16739-1, IfcSIUnit, IfcConversionBasedUnit).</summary>
internal static class UnitInstances
{
    /// <summary>Adds the unit of a property unless it is there.</summary>
    /// <returns>Its name in the file.</returns>
    public static int Once(PropertyUnit unit, NewInstances fresh) =>
        unit.Name.Contains(',', StringComparison.Ordinal)
            ? fresh.Once("IFCSIUNIT", $"*,.{unit.Kind}.,{unit.Name}")
            : Converted(unit.Kind, unit.Name, unit.Factor, fresh);

    /// <summary>Adds a length unit unless it is there.</summary>
    /// <returns>Its name in the file.</returns>
    public static int Once(LengthUnit unit, NewInstances fresh) =>
        unit.Code switch
        {
            "m" => "$",
            "dm" => ".DECI.",
            "cm" => ".CENTI.",
            "mm" => ".MILLI.",
            _ => null,
        }
            is { } prefix
            ? fresh.Once("IFCSIUNIT", $"*,.LENGTHUNIT.,{prefix},.METRE.")
            : Converted("LENGTHUNIT", unit.Name.ToUpperInvariant(), unit.Metres, fresh);

    private static int Converted(string kind, string name, double factor, NewInstances fresh)
    {
        var (si, measure, powers) = kind switch
        {
            "LENGTHUNIT" => ("$,.METRE.", "IFCLENGTHMEASURE", "1,0,0,0,0,0,0"),
            "AREAUNIT" => ("$,.SQUARE_METRE.", "IFCAREAMEASURE", "2,0,0,0,0,0,0"),
            "VOLUMEUNIT" => ("$,.CUBIC_METRE.", "IFCVOLUMEMEASURE", "3,0,0,0,0,0,0"),
            "MASSUNIT" => ("$,.GRAM.", "IFCMASSMEASURE", "0,1,0,0,0,0,0"),
            _ => ("$,.RADIAN.", "IFCPLANEANGLEMEASURE", "0,0,0,0,0,0,0"),
        };
        int basis = fresh.Once("IFCSIUNIT", $"*,.{kind}.,{si}");
        int size = fresh.Once("IFCMEASUREWITHUNIT", $"{measure}({StepNumber.Format(factor)}),#{basis}");
        int dimensions = fresh.Once("IFCDIMENSIONALEXPONENTS", powers);
        return fresh.Once("IFCCONVERSIONBASEDUNIT", $"#{dimensions},.{kind}.,{StepWriter.String(name)},#{size}");
    }
}
