using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A line of a leader, from its arrow on.</summary>
public sealed class MultiLeaderLine
{
    /// <summary>The points (10).</summary>
    public List<Vec3> Points { get; } = [];

    /// <summary>Gaps: the stretch (90), from and to (11, 12).</summary>
    public List<(int Stretch, List<(Vec3 From, Vec3 To)> Gaps)> Breaks { get; } = [];

    /// <summary>Its number (91).</summary>
    public int Number { get; set; }

    /// <summary>What it has of its own, by the bits of <c>Overrides</c> (93): kind (170), colour (92), line type (340), line weight (171),
    /// size and block of the arrow (40, 341).</summary>
    public (
        int Kind,
        CadColour Colour,
        Handle LineType,
        int Weight,
        double ArrowSize,
        Handle Arrow,
        int Overrides
    ) Own { get; set; } = (1, CadColour.ByBlock, default, -2, 0, default, 0);

    internal MultiLeaderLine Exchange(DwgFields d)
    {
        int points = d.Count(Points.Count);
        d.Items(Points, points, 0, p => d.Point(10, p));
        int breaks = d.Count(Breaks.Count);
        d.Items(Breaks, breaks, 0, b => Break(d, b));
        Number = d.Long(Number);
        if (d.Since(CadVersion.AC1024))
            Own = (
                d.Short(Own.Kind),
                d.Colour(0, Own.Colour),
                d.Handle(Own.LineType, HandleKind.HardPointer),
                d.Long(Own.Weight),
                d.Double(Own.ArrowSize),
                d.Handle(Own.Arrow, HandleKind.HardPointer),
                d.Long(Own.Overrides)
            );
        return this;
    }

    private static (int Stretch, List<(Vec3 From, Vec3 To)> Gaps) Break(
        DwgFields d,
        (int Stretch, List<(Vec3 From, Vec3 To)>? Gaps) b
    )
    {
        int stretch = d.Long(b.Stretch);
        var gaps = b.Gaps ?? [];
        int count = d.Count(gaps.Count);
        d.Items(gaps, count, 0, g => (d.Point(11, g.From), d.Point(12, g.To)));
        return (stretch, gaps);
    }
}
