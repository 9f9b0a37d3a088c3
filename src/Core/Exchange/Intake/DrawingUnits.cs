namespace SteadyLintel.Exchange;

/// <summary>Drawing units by their $INSUNITS number (DXF reference, header variables).</summary>
public static class DrawingUnits
{
    private static readonly (string Name, double Metres)[] Units =
    [
        ("unknown", 0),
        ("inch", 0.0254),
        ("foot", 0.3048),
        ("mile", 1609.344),
        ("millimetre", 0.001),
        ("centimetre", 0.01),
        ("metre", 1),
        ("kilometre", 1000),
        ("microinch", 2.54e-8),
        ("mil", 2.54e-5),
        ("yard", 0.9144),
        ("ångström", 1e-10),
        ("nanometre", 1e-9),
        ("micrometre", 1e-6),
        ("decimetre", 0.1),
        ("decametre", 10),
        ("hectometre", 100),
        ("gigametre", 1e9),
        ("astronomical unit", 149_597_870_700),
        ("light year", 9.4607304725808e15),
        ("parsec", 3.0856775814913673e16),
        ("US survey foot", 1200.0 / 3937),
    ];

    /// <summary>Name and metres of a unit; metres are null where nothing is said.</summary>
    public static (string Name, double? Metres) Of(int number)
    {
        var (name, metres) = number > 0 && number < Units.Length ? Units[number] : Units[0];
        return (name, metres == 0 ? null : metres);
    }
}
