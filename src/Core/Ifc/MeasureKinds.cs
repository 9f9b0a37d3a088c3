namespace SteadyLintel.Ifc;

/// <summary>Which unit a measure type is given in (ISO 16739-1, the defined types of IfcMeasureResource).</summary>
public static class MeasureKinds
{
    private static readonly Dictionary<string, string> Kinds = new(StringComparer.OrdinalIgnoreCase)
    {
        ["IfcLengthMeasure"] = "LENGTHUNIT",
        ["IfcPositiveLengthMeasure"] = "LENGTHUNIT",
        ["IfcNonNegativeLengthMeasure"] = "LENGTHUNIT",
        ["IfcAreaMeasure"] = "AREAUNIT",
        ["IfcVolumeMeasure"] = "VOLUMEUNIT",
        ["IfcPlaneAngleMeasure"] = "PLANEANGLEUNIT",
        ["IfcPositivePlaneAngleMeasure"] = "PLANEANGLEUNIT",
        ["IfcMassMeasure"] = "MASSUNIT",
        ["IfcTimeMeasure"] = "TIMEUNIT",
        ["IfcThermodynamicTemperatureMeasure"] = "THERMODYNAMICTEMPERATUREUNIT",
        ["IfcPressureMeasure"] = "PRESSUREUNIT",
        ["IfcForceMeasure"] = "FORCEUNIT",
        ["IfcPowerMeasure"] = "POWERUNIT",
        ["IfcEnergyMeasure"] = "ENERGYUNIT",
        ["IfcFrequencyMeasure"] = "FREQUENCYUNIT",
        ["IfcElectricCurrentMeasure"] = "ELECTRICCURRENTUNIT",
        ["IfcElectricVoltageMeasure"] = "ELECTRICVOLTAGEUNIT",
        ["IfcIlluminanceMeasure"] = "ILLUMINANCEUNIT",
        ["IfcThermalTransmittanceMeasure"] = "THERMALTRANSMITTANCEUNIT",
        ["IfcVolumetricFlowRateMeasure"] = "VOLUMETRICFLOWRATEUNIT",
        ["IfcLinearVelocityMeasure"] = "LINEARVELOCITYUNIT",
        ["IfcMassDensityMeasure"] = "MASSDENSITYUNIT",
    };

    /// <summary>The kind of unit a measure is given in, as IfcUnitEnum and IfcDerivedUnitEnum spell it; null for a label, count, ratio …</summary>
    public static string? UnitKind(string measure) => Kinds.GetValueOrDefault(measure);

    /// <summary>Whether values of a defined type are lengths, and so change with the length unit.</summary>
    public static bool IsLength(string measure) => UnitKind(measure) == "LENGTHUNIT";
}
