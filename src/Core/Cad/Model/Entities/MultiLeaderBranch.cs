using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A leader of a <see cref="MultiLeader"/>: lines that meet in one place.</summary>
public sealed class MultiLeaderBranch
{
    /// <summary>Whether <see cref="End"/> and <see cref="Hook"/> are set (290, 291).</summary>
    public bool HasEnd { get; set; } = true;

    /// <summary>Whether the lines end in a short straight piece (291).</summary>
    public bool HasHook { get; set; } = true;

    /// <summary>Where the lines meet (10).</summary>
    public Vec3 End { get; set; }

    /// <summary>Which way the last piece runs (11), and how far (40).</summary>
    public Vec3 Hook { get; set; } = Vec3.AxisX;

    /// <summary>The length of the last piece (40).</summary>
    public double HookLength { get; set; } = 1;

    /// <summary>Gaps in the last piece (12, 13).</summary>
    public List<(Vec3 From, Vec3 To)> Breaks { get; } = [];

    /// <summary>Its number (90).</summary>
    public int Number { get; set; }

    /// <summary>Its lines (304 LEADER_LINE).</summary>
    public List<MultiLeaderLine> Lines { get; } = [];

    /// <summary>Whether it meets the content at its sides or above and below (271).</summary>
    public int Attachment { get; set; }

    internal MultiLeaderBranch Exchange(DwgFields d)
    {
        (HasEnd, HasHook) = (d.Bit(HasEnd), d.Bit(HasHook));
        (End, Hook) = (d.Point(10, End), d.Point(11, Hook));
        int breaks = d.Count(Breaks.Count);
        d.Items(Breaks, breaks, 0, b => (d.Point(12, b.From), d.Point(13, b.To)));
        Number = d.Long(Number);
        HookLength = d.Double(HookLength);
        int lines = d.Count(Lines.Count);
        d.Items(Lines, lines, 0, l => (l ?? new MultiLeaderLine()).Exchange(d));
        if (d.Since(CadVersion.AC1024))
            Attachment = d.Short(Attachment);
        return this;
    }
}
