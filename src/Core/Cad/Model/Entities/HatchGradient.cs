namespace SteadyLintel.Cad;

/// <summary>A gradient in place of a pattern (450–470).</summary>
public sealed class HatchGradient
{
    /// <summary>Its name: LINEAR, SPHERICAL … (470).</summary>
    public string Name { get; set; } = "LINEAR";

    /// <summary>Rotation, radians in both formats (460).</summary>
    public double Angle { get; set; }

    /// <summary>How far it is centred (461).</summary>
    public double Shift { get; set; }

    /// <summary>Whether the second colour is a tint of the first (452).</summary>
    public bool SingleColour { get; set; }

    /// <summary>The tint (462).</summary>
    public double Tint { get; set; }

    /// <summary>Stops: place between 0 and 1, colour (463, 63, 421).</summary>
    public List<(double At, CadColour Colour)> Stops { get; } = [];

    /// <summary>Reads or writes a gradient; answers null where there is none.</summary>
    internal static HatchGradient? Exchange(Fields f, HatchGradient? gradient)
    {
        int has = f.Long(450, gradient is null ? 0 : 1);
        if (has == 0 && f.Dwg is null)
            return null;
        var g = gradient ?? new HatchGradient { Name = "" };
        f.Long(451, 0);
        if (f.Dwg is null)
            return g.ExchangeDxf(f);
        g.Angle = f.Double(460, g.Angle);
        g.Shift = f.Double(461, g.Shift);
        g.SingleColour = f.Long(452, g.SingleColour ? 1 : 0) != 0;
        g.Tint = f.Double(462, g.Tint);
        int count = f.Dwg.Count(g.Stops.Count);
        f.Items(g.Stops, count, 0, s => (f.Double(463, s.At), f.Colour(63, s.Colour)));
        g.Name = f.Text(470, g.Name);
        return has == 0 ? null : g;
    }

    private HatchGradient ExchangeDxf(Fields f)
    {
        Angle = f.Double(460, Angle);
        Shift = f.Double(461, Shift);
        SingleColour = f.Long(452, SingleColour ? 1 : 0) != 0;
        Tint = f.Double(462, Tint);
        int count = f.Long(453, Stops.Count);
        f.Items(Stops, count, 463, s =>
        {
            double at = f.Double(463, s.At);
            int index = f.Short(63, s.Colour.Index);
            int rgb = f.Long(421, s.Colour.Rgb ?? -1, -1);
            return (at, new CadColour((short)index, rgb < 0 ? null : rgb));
        });
        Name = f.Text(470, Name);
        return this;
    }
}
