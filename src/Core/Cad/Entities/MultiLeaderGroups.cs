using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A <see cref="MultiLeader"/> as groups of DXF. Codes mean something else within <c>CONTEXT_DATA{</c>, <c>LEADER{</c> and <c>LEADER_LINE{</c>, so its groups are read in their order (DXF reference, MLEADER).</summary>
internal sealed class MultiLeaderGroups
{
    private const int BeginContext = 300, EndContext = 301, BeginBranch = 302, EndBranch = 303, BeginLine = 304, EndLine = 305;
    private readonly List<CadGroup> _groups;
    private int _at;

    private MultiLeaderGroups(List<CadGroup> groups) => _groups = groups;

    /// <summary>Reads or writes the entity.</summary>
    public static void Exchange(Fields f, MultiLeader leader)
    {
        var groups = new List<CadGroup>();
        if (f.Reading)
        {
            f.Groups(groups);
            new MultiLeaderGroups(groups).Read(leader);
            return;
        }

        new MultiLeaderGroups(groups).Write(leader, f.Version);
        f.Groups(groups);
    }

    private bool Next(out CadGroup group)
    {
        group = _at < _groups.Count ? _groups[_at++] : default;
        return group.Value is not null;
    }

    private void Read(MultiLeader m)
    {
        // Codes of arrows and labels come again for each.
        int line = 0;
        (Handle Definition, int Number, double Width, string Text)? label = null;
        while (Next(out var g))
        {
            switch (g.Code)
            {
                case BeginContext: Context(m.Context); break;
                case 270: m.Form = Whole(g); break;
                case 340: m.Style = m.Style with { Handle = Named(g) }; break;
                case 90: m.Style = m.Style with { Overrides = Whole(g) }; break;
                case 170: m.Lines = m.Lines with { Kind = Whole(g) }; break;
                case 91: m.Lines = m.Lines with { Colour = Colour(g) }; break;
                case 341: m.Lines = m.Lines with { LineType = Named(g) }; break;
                case 171: m.Lines = m.Lines with { Weight = Whole(g) }; break;
                case 290: m.Landing = m.Landing with { Shown = Is(g) }; break;
                case 291: m.Landing = m.Landing with { Hook = Is(g) }; break;
                case 41: m.Landing = m.Landing with { Length = g.Number }; break;
                case 342: m.Arrow = m.Arrow with { Block = Named(g) }; break;
                case 42: m.Arrow = m.Arrow with { Size = g.Number }; break;
                case 172: m.Content = Whole(g); break;
                case 343: m.Text = m.Text with { Style = Named(g) }; break;
                case 173: m.Text = m.Text with { Left = Whole(g) }; break;
                case 95: m.Text = m.Text with { Right = Whole(g) }; break;
                case 174: m.Text = m.Text with { Angle = Whole(g) }; break;
                case 175: m.Text = m.Text with { Alignment = Whole(g) }; break;
                case 92: m.Text = m.Text with { Colour = Colour(g) }; break;
                case 292: m.Text = m.Text with { Framed = Is(g) }; break;
                case 344: m.Block = m.Block with { Block = Named(g) }; break;
                case 93: m.Block = m.Block with { Colour = Colour(g) }; break;
                case 10: m.Block = m.Block with { Scale = Point(g) }; break;
                case 43: m.Block = m.Block with { Rotation = g.Number }; break;
                case 176: m.Block = m.Block with { Connection = Whole(g) }; break;
                case 293: m.Size = m.Size with { Annotative = Is(g) }; break;
                case 94: line = Whole(g); break;
                case 345: m.Arrows.Add((line, Named(g))); break;
                case 330: label = (Named(g), 0, 0, ""); break;
                case 177 when label is { } l: label = l with { Number = Whole(g) }; break;
                case 44 when label is { } l: label = l with { Width = g.Number }; break;
                case BeginBranch when label is { } l:
                    m.Labels.Add(l with { Text = g.Text });
                    label = null;
                    break;
                case 294: m.Direction = m.Direction with { Negative = Is(g) }; break;
                case 178: m.Direction = m.Direction with { Alignment = Whole(g) }; break;
                case 179: m.Direction = m.Direction with { Justification = Whole(g) }; break;
                case 45: m.Size = m.Size with { Scale = g.Number }; break;
                case 271: m.Attachment = m.Attachment with { Direction = Whole(g) }; break;
                case 272: m.Attachment = m.Attachment with { Bottom = Whole(g) }; break;
                case 273: m.Attachment = m.Attachment with { Top = Whole(g) }; break;
                case 295: m.Extended = Is(g); break;
            }
        }
    }

    private void Context(MultiLeaderContext c)
    {
        while (Next(out var g) && g.Code != EndContext)
        {
            switch (g.Code)
            {
                case BeginBranch: c.Branches.Add(Branch()); break;
                case 40: c.Scale = g.Number; break;
                case 10: c.Base = Point(g); break;
                case 41: c.Sizes = c.Sizes with { Text = g.Number }; break;
                case 140: c.Sizes = c.Sizes with { Arrow = g.Number }; break;
                case 145: c.Sizes = c.Sizes with { Gap = g.Number }; break;
                case 174: c.Attachment = c.Attachment with { Left = Whole(g) }; break;
                case 175: c.Attachment = c.Attachment with { Right = Whole(g) }; break;
                case 176: c.Attachment = c.Attachment with { Alignment = Whole(g) }; break;
                case 177: c.Attachment = c.Attachment with { Content = Whole(g) }; break;
                case 290: c.Text = Is(g) ? new MultiLeaderText() : null; break;
                case 296: c.Block = Is(g) ? new MultiLeaderBlock() : null; break;
                case 110: c.Plane = c.Plane with { Origin = Point(g) }; break;
                case 111: c.Plane = c.Plane with { X = Point(g) }; break;
                case 112: c.Plane = c.Plane with { Y = Point(g) }; break;
                case 297: c.Plane = c.Plane with { Turned = Is(g) }; break;
                case 273: c.Vertical = c.Vertical with { Top = Whole(g) }; break;
                case 272: c.Vertical = c.Vertical with { Bottom = Whole(g) }; break;
                default:
                    if (c.Text is { } text) Text(text, g);
                    if (c.Block is { } block) Block(block, g);
                    break;
            }
        }
    }

    private void Text(MultiLeaderText t, CadGroup g)
    {
        switch (g.Code)
        {
            case 304: t.Value = g.Text; break;
            case 11: t.Position = t.Position with { Normal = Point(g) }; break;
            case 12: t.Position = t.Position with { Place = Point(g) }; break;
            case 13: t.Position = t.Position with { Direction = Point(g) }; break;
            case 42: t.Position = t.Position with { Rotation = g.Number }; break;
            case 340: t.Style = Named(g); break;
            case 43: t.Size = t.Size with { Width = g.Number }; break;
            case 44: t.Size = t.Size with { Height = g.Number }; break;
            case 45: t.Spacing = t.Spacing with { Factor = g.Number }; break;
            case 170: t.Spacing = t.Spacing with { Kind = Whole(g) }; break;
            case 90: t.Colour = Colour(g); break;
            case 171: t.Set = t.Set with { Alignment = Whole(g) }; break;
            case 172: t.Set = t.Set with { Flow = Whole(g) }; break;
            case 91: t.Ground = t.Ground with { Colour = Colour(g) }; break;
            case 141: t.Ground = t.Ground with { Scale = g.Number }; break;
            case 92: t.Ground = t.Ground with { Transparency = Whole(g) }; break;
            case 291: t.Ground = t.Ground with { Window = Is(g) }; break;
            case 292: t.Ground = t.Ground with { Filled = Is(g) }; break;
            case 173: t.Columns = t.Columns with { Kind = Whole(g) }; break;
            case 293: t.Columns = t.Columns with { Auto = Is(g) }; break;
            case 142: t.Columns = t.Columns with { Width = g.Number }; break;
            case 143: t.Columns = t.Columns with { Gutter = g.Number }; break;
            case 294: t.Columns = t.Columns with { Reversed = Is(g) }; break;
            case 144: t.Heights.Add(g.Number); break;
            case 295: t.Breaks = Is(g); break;
        }
    }

    private void Block(MultiLeaderBlock b, CadGroup g)
    {
        switch (g.Code)
        {
            case 341: b.Block = Named(g); break;
            case 14: b.Position = b.Position with { Normal = Point(g) }; break;
            case 15: b.Position = b.Position with { Place = Point(g) }; break;
            case 16: b.Position = b.Position with { Scale = Point(g) }; break;
            case 46: b.Position = b.Position with { Rotation = g.Number }; break;
            case 93: b.Colour = Colour(g); break;
            case 47: b.Transformation.Add(g.Number); break;
        }
    }

    private MultiLeaderBranch Branch()
    {
        var b = new MultiLeaderBranch();
        var from = Vec3.Zero;
        while (Next(out var g) && g.Code != EndBranch)
        {
            switch (g.Code)
            {
                case BeginLine: b.Lines.Add(Line()); break;
                case 290: b.HasEnd = Is(g); break;
                case 291: b.HasHook = Is(g); break;
                case 10: b.End = Point(g); break;
                case 11: b.Hook = Point(g); break;
                case 12: from = Point(g); break;
                case 13: b.Breaks.Add((from, Point(g))); break;
                case 90: b.Number = Whole(g); break;
                case 40: b.HookLength = g.Number; break;
                case 271: b.Attachment = Whole(g); break;
            }
        }

        return b;
    }

    private MultiLeaderLine Line()
    {
        var l = new MultiLeaderLine();
        var from = Vec3.Zero;
        while (Next(out var g) && g.Code != EndLine)
        {
            switch (g.Code)
            {
                case 10: l.Points.Add(Point(g)); break;
                case 90: l.Breaks.Add((Whole(g), [])); break;
                case 11: from = Point(g); break;
                case 12:
                    if (l.Breaks.Count == 0) l.Breaks.Add((0, []));
                    l.Breaks[^1].Gaps.Add((from, Point(g)));
                    break;
                case 91: l.Number = Whole(g); break;
                case 170: l.Own = l.Own with { Kind = Whole(g) }; break;
                case 92: l.Own = l.Own with { Colour = Colour(g) }; break;
                case 340: l.Own = l.Own with { LineType = Named(g) }; break;
                case 171: l.Own = l.Own with { Weight = Whole(g) }; break;
                case 40: l.Own = l.Own with { ArrowSize = g.Number }; break;
                case 341: l.Own = l.Own with { Arrow = Named(g) }; break;
                case 93: l.Own = l.Own with { Overrides = Whole(g) }; break;
            }
        }

        return l;
    }

    private static int Whole(CadGroup g) => unchecked((int)(long)Math.Clamp(g.Number, long.MinValue, long.MaxValue));

    private static bool Is(CadGroup g) => g.Number != 0;

    private static Handle Named(CadGroup g) => g.Value is Handle handle ? handle : default;

    private static CadColour Colour(CadGroup g) => DwgReadFields.Packed(unchecked((uint)Whole(g)), null);

    // The other coordinates follow.
    private Vec3 Point(CadGroup x) => new(x.Number, Coordinate(x.Code + 10), Coordinate(x.Code + 20));

    private double Coordinate(int code) => _at < _groups.Count && _groups[_at].Code == code ? _groups[_at++].Number : 0;

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
        if (!m.Arrow.Block.IsNull) Add(342, m.Arrow.Block);
        Add(42, m.Arrow.Size);
        Add(172, m.Content);
        Add(343, m.Text.Style);
        Add(173, m.Text.Left);
        Add(95, m.Text.Right);
        Add(174, m.Text.Angle);
        Add(175, m.Text.Alignment);
        Add(92, m.Text.Colour);
        Add(292, m.Text.Framed);
        if (!m.Block.Block.IsNull) Add(344, m.Block.Block);
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

        if (version >= CadVersion.AC1027) Add(295, m.Extended);
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
        if (c.Text is { } text) Write(text);
        Add(296, c.Block is not null);
        if (c.Block is { } block) Write(block);
        Add(110, c.Plane.Origin);
        Add(111, c.Plane.X);
        Add(112, c.Plane.Y);
        Add(297, c.Plane.Turned);
        foreach (var branch in c.Branches) Write(branch, version);
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
        foreach (double height in t.Heights) Add(144, height);
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
        foreach (double value in b.Transformation) Add(47, value);
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
        foreach (var line in b.Lines) Write(line, version);
        if (version >= CadVersion.AC1024) Add(271, b.Attachment);
        Add(EndBranch, "}");
    }

    private void Write(MultiLeaderLine l, CadVersion version)
    {
        Add(BeginLine, "LEADER_LINE{");
        foreach (var point in l.Points) Add(10, point);
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

    private void Add(int code, CadColour value) => Add(code, unchecked((int)DwgWriteFields.Packed(value)));

    private void Add(int code, Vec3 value)
    {
        Add(code, value.X);
        Add(code + 10, value.Y);
        Add(code + 20, value.Z);
    }
}
