namespace SteadyLintel.Cad;

/// <summary>Where a dimension or leader differs from its style, in its extended data: <c>DSTYLE</c> of the application <c>ACAD</c>,
/// pairs of a code and a value in braces (DXF reference, DIMENSION, dimension style overrides).</summary>
internal static class DimensionOverrides
{
    private const int Scaling = 40,
        LengthFactor = 144;

    /// <summary>Scales its sizes, and takes the scale back from the number it shows.</summary>
    public static void Scale(Entity entity, double scale)
    {
        if (!entity.HasExtras)
            return;
        foreach (var groups in entity.Extras.Data.Select(d => d.Groups))
        {
            int at = groups.FindIndex(g => g.Code == 1000 && g.Text == "DSTYLE");
            if (at < 0)
                continue;
            for (int i = at + 2; i + 1 < groups.Count && groups[i].Code == 1070; i += 2)
            {
                if (groups[i + 1].Code != 1040)
                    continue;
                double value = groups[i + 1].Number;
                switch ((int)groups[i].Number)
                {
                    case Scaling:
                        groups[i + 1] = new CadGroup(1040, value * scale);
                        break;
                    case LengthFactor:
                        groups[i + 1] = new CadGroup(1040, Factor(value, scale));
                        break;
                    default:
                        break;
                }
            }
        }
    }

    /// <summary>The factor on lengths that shows the same number after scaling. A negative one is about sheets alone: in model space it
    /// counts as 1.</summary>
    public static double Factor(double factor, double scale) => (factor < 0 ? 1 : factor) / scale;
}
