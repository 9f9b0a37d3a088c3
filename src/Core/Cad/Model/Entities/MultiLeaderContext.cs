using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Where the content of a <see cref="MultiLeader"/> lies, and its leaders.</summary>
public sealed class MultiLeaderContext
{
    /// <summary>Leaders: at most one on each side.</summary>
    public List<MultiLeaderBranch> Branches { get; } = [];

    /// <summary>The scale of all (40).</summary>
    public double Scale { get; set; } = 1;

    /// <summary>The content's base (10).</summary>
    public Vec3 Base { get; set; }

    /// <summary>Height of letters, size of arrows, and the gap before the content (41, 140, 145).</summary>
    public (double Text, double Arrow, double Gap) Sizes { get; set; } = (4, 4, 2);

    /// <summary>Where lines meet the text on the left and right (174, 175), its alignment (176), and whether they meet the content's
    /// outline or its base (177).</summary>
    public (int Left, int Right, int Alignment, int Content) Attachment { get; set; } = (1, 1, 0, 0);

    /// <summary>The text, or null (290).</summary>
    public MultiLeaderText? Text { get; set; }

    /// <summary>The block, or null (296).</summary>
    public MultiLeaderBlock? Block { get; set; }

    /// <summary>The plane: origin and axes (110, 111, 112), and whether its normal is turned (297).</summary>
    public (Vec3 Origin, Vec3 X, Vec3 Y, bool Reversed) Plane { get; set; } =
        (Vec3.Zero, Vec3.AxisX, Vec3.AxisY, false);

    /// <summary>Where lines meet the content above and below (273, 272).</summary>
    public (int Top, int Bottom) Vertical { get; set; } = (9, 9);

    /// <summary>The points of all lines, each to the content: arrow first, then where the landing begins and ends.</summary>
    public IEnumerable<IReadOnlyList<Vec3>> Paths()
    {
        foreach (var branch in Branches)
        foreach (var line in branch.Lines)
            yield return branch.HasEnd
                ? branch.HasHook
                    ? [.. line.Points, branch.End, branch.End + (branch.Hook * branch.HookLength)]
                    : [.. line.Points, branch.End]
                : line.Points;
    }

    internal void Exchange(DwgFields d)
    {
        int branches = d.Count(Branches.Count);
        d.Items(Branches, branches, 0, b => (b ?? new MultiLeaderBranch()).Exchange(d));
        Scale = d.Double(Scale);
        Base = d.Point(10, Base);
        Sizes = (d.Double(Sizes.Text), d.Double(Sizes.Arrow), d.Double(Sizes.Gap));
        Attachment = (
            d.Short(Attachment.Left),
            d.Short(Attachment.Right),
            d.Short(Attachment.Alignment),
            d.Short(Attachment.Content)
        );
        if (d.Bit(Text is not null))
            (Text ??= new MultiLeaderText()).Exchange(d);
        else if (d.Bit(Block is not null))
            (Block ??= new MultiLeaderBlock()).Exchange(d);
        Plane = (d.Point(110, Plane.Origin), d.Point(111, Plane.X), d.Point(112, Plane.Y), d.Bit(Plane.Reversed));
        if (d.Since(CadVersion.AC1024))
            Vertical = (d.Short(Vertical.Top), d.Short(Vertical.Bottom));
    }
}
