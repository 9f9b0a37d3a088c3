namespace SteadyLintel.Exchange;

/// <summary>A length unit to write in.</summary>
/// <param name="Code">Its code in orders: <c>mm</c>, <c>m</c>, <c>ft</c> and others.</param>
/// <param name="Name">Its name.</param>
/// <param name="Metres">Metres in one.</param>
/// <param name="DxfUnits">Its $INSUNITS value (DXF reference, header variables).</param>
public sealed record LengthUnit(string Code, string Name, double Metres, int DxfUnits)
{
    /// <summary>Whether heights beside it are written in feet and inches.</summary>
    public bool IsImperial => Code is "in" or "ft" or "yd" or "us-ft";

    /// <summary>Several of it, as people say it: <c>feet</c>.</summary>
    public string Plural =>
        Code switch
        {
            "ft" => "feet",
            "us-ft" => "US survey feet",
            "in" => "inches",
            _ => Name + "s",
        };

    /// <summary>Millimetre.</summary>
    public static readonly LengthUnit Millimetre = new("mm", "millimetre", 0.001, 4);

    /// <summary>Metre.</summary>
    public static readonly LengthUnit Metre = new("m", "metre", 1, 6);

    /// <summary>International foot.</summary>
    public static readonly LengthUnit Foot = new("ft", "foot", 0.3048, 2);

    /// <summary>All of them; the US survey foot is 1200/3937 m.</summary>
    public static readonly IReadOnlyList<LengthUnit> All =
    [
        Millimetre,
        new("cm", "centimetre", 0.01, 5),
        new("dm", "decimetre", 0.1, 14),
        Metre,
        new("in", "inch", 0.0254, 1),
        Foot,
        new("yd", "yard", 0.9144, 10),
        new("us-ft", "US survey foot", 1200.0 / 3937, 21),
    ];

    /// <summary>The unit with a code, null when there is none.</summary>
    public static LengthUnit? Find(string code) => All.FirstOrDefault(u => u.Code == code);

    /// <summary>The unit nearest to a source's own, for formats that need one of these.</summary>
    public static LengthUnit Nearest(double metres) => All.MinBy(u => Math.Abs(Math.Log(u.Metres / metres)))!;
}
