using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Units of properties as instances of a model (ISO 16739-1, IfcSIUnit, IfcConversionBasedUnit).</summary>
internal static class UnitInstances
{
    /// <summary>Adds a unit unless it is there.</summary>
    /// <returns>Its name in the file.</returns>
    public static int Once(PropertyUnit unit, NewInstances fresh)
    {
        if (unit.Name.Contains(',', StringComparison.Ordinal)) return fresh.Once("IFCSIUNIT", $"*,.{unit.Kind}.,{unit.Name}");
        var (si, measure, powers) = unit.Kind switch
        {
            "LENGTHUNIT" => ("$,.METRE.", "IFCLENGTHMEASURE", "1,0,0,0,0,0,0"),
            "AREAUNIT" => ("$,.SQUARE_METRE.", "IFCAREAMEASURE", "2,0,0,0,0,0,0"),
            "VOLUMEUNIT" => ("$,.CUBIC_METRE.", "IFCVOLUMEMEASURE", "3,0,0,0,0,0,0"),
            "MASSUNIT" => ("$,.GRAM.", "IFCMASSMEASURE", "0,1,0,0,0,0,0"),
            _ => ("$,.RADIAN.", "IFCPLANEANGLEMEASURE", "0,0,0,0,0,0,0"),
        };
        int basis = fresh.Once("IFCSIUNIT", $"*,.{unit.Kind}.,{si}");
        int size = fresh.Once("IFCMEASUREWITHUNIT", $"{measure}({StepNumber.Format(unit.Factor)}),#{basis}");
        int dimensions = fresh.Once("IFCDIMENSIONALEXPONENTS", powers);
        return fresh.Once("IFCCONVERSIONBASEDUNIT", $"#{dimensions},.{unit.Kind}.,{StepWriter.String(unit.Name)},#{size}");
    }
}
