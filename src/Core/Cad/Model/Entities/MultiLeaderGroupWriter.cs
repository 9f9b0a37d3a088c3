using SteadyLintel.Geometry;
using static SteadyLintel.Cad.MultiLeaderGroups;

namespace SteadyLintel.Cad;

/// <summary>The groups of DXF that a <see cref="MultiLeader"/> is written as, in the order in which <see cref="MultiLeaderGroups"/> and
/// others read them.</summary>
internal sealed class MultiLeaderGroupWriter
{
    private readonly List<CadGroup> _groups = [];

    /// <summary>All groups of its subclass.</summary>
    public static List<CadGroup> Of(MultiLeader leader, CadVersion version)
    {
        var writer = new MultiLeaderGroupWriter();
        writer.Write(leader, version);
        return writer._groups;
    }

    private void Write(MultiLeader m, CadVersion version)
    {
        Add(270, m.Form);
        Write(m.Context, version);
        Add(340, m.Style.Handle);
        Add(90, m.Style.Overrides);
        Add(170, m.Lines.Kind);
        Add(91, m.Lines.Colour);
        Add(341, m.Lines.LineType);
        Add(171, m.Lines.Weight);
        Add(290, m.Landing.Shown);
        Add(291, m.Landing.Hook);
        Add(41, m.Landing.Length);
        if (!m.Arrow.Block.IsNull)
            Add(342, m.Arrow.Block);
        Add(42, m.Arrow.Size);
        Add(172, m.Content);
        Add(343, m.Text.Style);
        Add(173, m.Text.Left);
        Add(95, m.Text.Right);
        Add(174, m.Text.Angle);
        Add(175, m.Text.Alignment);
        Add(92, m.Text.Colour);
        Add(292, m.Text.Framed);
        if (!m.Block.Block.IsNull)
            Add(344, m.Block.Block);
        Add(93, m.Block.Colour);
        Add(10, m.Block.Scale);
        Add(43, m.Block.Rotation);
        Add(176, m.Block.Connection);
        Add(293, m.Size.Annotative);
        foreach (var (line, block) in m.Arrows)
        {
            Add(94, line);
            Add(345, block);
        }

        foreach (var label in m.Labels)
        {
            Add(330, label.Definition);
            Add(177, label.Number);
            Add(44, label.Width);
            Add(302, label.Text);
        }

        Add(294, m.Direction.Negative);
        Add(178, m.Direction.Alignment);
        Add(179, m.Direction.Justification);
        Add(45, m.Size.Scale);
        if (version >= CadVersion.AC1024)
        {
            Add(271, m.Attachment.Direction);
            Add(272, m.Attachment.Bottom);
            Add(273, m.Attachment.Top);
        }

        if (version >= CadVersion.AC1027)
            Add(295, m.Extended);
    }

    private void Write(MultiLeaderContext c, CadVersion version)
    {
        Add(BeginContext, "CONTEXT_DATA{");
        Add(40, c.Scale);
        Add(10, c.Base);
        Add(41, c.Sizes.Text);
        Add(140, c.Sizes.Arrow);
        Add(145, c.Sizes.Gap);
        Add(174, c.Attachment.Left);
        Add(175, c.Attachment.Right);
        Add(176, c.Attachment.Alignment);
        Add(177, c.Attachment.Content);
        Add(290, c.Text is not null);
        if (c.Text is { } text)
            Write(text);
        Add(296, c.Block is not null);
        if (c.Block is { } block)
            Write(block);
        Add(110, c.Plane.Origin);
        Add(111, c.Plane.X);
        Add(112, c.Plane.Y);
        Add(297, c.Plane.Reversed);
        foreach (var branch in c.Branches)
            Write(branch, version);
        if (version >= CadVersion.AC1024)
        {
            Add(272, c.Vertical.Bottom);
            Add(273, c.Vertical.Top);
        }

        Add(EndContext, "}");
    }

    private void Write(MultiLeaderText t)
    {
        Add(304, t.Value);
        Add(11, t.Position.Normal);
        Add(340, t.Style);
        Add(12, t.Position.Place);
        Add(13, t.Position.Direction);
        Add(42, t.Position.Rotation);
        Add(43, t.Size.Width);
        Add(44, t.Size.Height);
        Add(45, t.Spacing.Factor);
        Add(170, t.Spacing.Kind);
        Add(90, t.Colour);
        Add(171, t.Set.Alignment);
        Add(172, t.Set.Flow);
        Add(91, t.Ground.Colour);
        Add(141, t.Ground.Scale);
        Add(92, t.Ground.Transparency);
        Add(291, t.Ground.Window);
        Add(292, t.Ground.Filled);
        Add(173, t.Columns.Kind);
        Add(293, t.Columns.Auto);
        Add(142, t.Columns.Width);
        Add(143, t.Columns.Gutter);
        Add(294, t.Columns.Reversed);
        foreach (double height in t.Heights)
            Add(144, height);
        Add(295, t.Breaks);
    }

    private void Write(MultiLeaderBlock b)
    {
        Add(341, b.Block);
        Add(14, b.Position.Normal);
        Add(15, b.Position.Place);
        Add(16, b.Position.Scale);
        Add(46, b.Position.Rotation);
        Add(93, b.Colour);
        b.Fill();
        foreach (double value in b.Transformation)
            Add(47, value);
    }

    private void Write(MultiLeaderBranch b, CadVersion version)
    {
        Add(BeginBranch, "LEADER{");
        Add(290, b.HasEnd);
        Add(291, b.HasHook);
        Add(10, b.End);
        Add(11, b.Hook);
        foreach (var (from, to) in b.Breaks)
        {
            Add(12, from);
            Add(13, to);
        }

        Add(90, b.Number);
        Add(40, b.HookLength);
        foreach (var line in b.Lines)
            Write(line, version);
        if (version >= CadVersion.AC1024)
            Add(271, b.Attachment);
        Add(EndBranch, "}");
    }

    private void Write(MultiLeaderLine l, CadVersion version)
    {
        Add(BeginLine, "LEADER_LINE{");
        foreach (var point in l.Points)
            Add(10, point);
        foreach (var (stretch, gaps) in l.Breaks)
        {
            Add(90, stretch);
            foreach (var (from, to) in gaps)
            {
                Add(11, from);
                Add(12, to);
            }
        }

        Add(91, l.Number);
        if (version >= CadVersion.AC1024)
        {
            Add(170, l.Own.Kind);
            Add(92, l.Own.Colour);
            Add(340, l.Own.LineType);
            Add(171, l.Own.Weight);
            Add(40, l.Own.ArrowSize);
            Add(341, l.Own.Arrow);
            Add(93, l.Own.Overrides);
        }

        Add(EndLine, "}");
    }

    private void Add(int code, string value) => _groups.Add(new CadGroup(code, value));

    private void Add(int code, double value) => _groups.Add(new CadGroup(code, value));

    private void Add(int code, int value) => _groups.Add(new CadGroup(code, (long)value));

    private void Add(int code, bool value) => _groups.Add(new CadGroup(code, value));

    private void Add(int code, Handle value) => _groups.Add(new CadGroup(code, value));

    private void Add(int code, CadColour value) => Add(code, unchecked((int)value.Packed()));

    private void Add(int code, Vec3 value)
    {
        Add(code, value.X);
        Add(code + 10, value.Y);
        Add(code + 20, value.Z);
    }
}
