using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A <see cref="MultiLeader"/> as groups of DXF. Codes mean something else within <c>CONTEXT_DATA{</c>, <c>LEADER{</c> and
/// <c>LEADER_LINE{</c>, so its groups are read in their order (DXF reference, MLEADER).</summary>
internal sealed class MultiLeaderGroups
{
    internal const int BeginContext = 300,
        EndContext = 301,
        BeginBranch = 302,
        EndBranch = 303,
        BeginLine = 304,
        EndLine = 305;
    private readonly List<CadGroup> _groups;
    private int _at;

    private MultiLeaderGroups(List<CadGroup> groups) => _groups = groups;

    /// <summary>Reads or writes the entity.</summary>
    public static void Exchange(Fields f, MultiLeader leader)
    {
        if (f.Reading)
        {
            var groups = new List<CadGroup>();
            f.Groups(groups);
            new MultiLeaderGroups(groups).Read(leader);
            return;
        }

        f.Groups(MultiLeaderGroupWriter.Of(leader, f.Version));
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
                case BeginContext:
                    Context(m.Context);
                    break;
                case 270:
                    m.Form = Whole(g);
                    break;
                case 340:
                    m.Style = m.Style with { Handle = Named(g) };
                    break;
                case 90:
                    m.Style = m.Style with { Overrides = Whole(g) };
                    break;
                case 170:
                    m.Lines = m.Lines with { Kind = Whole(g) };
                    break;
                case 91:
                    m.Lines = m.Lines with { Colour = Colour(g) };
                    break;
                case 341:
                    m.Lines = m.Lines with { LineType = Named(g) };
                    break;
                case 171:
                    m.Lines = m.Lines with { Weight = Whole(g) };
                    break;
                case 290:
                    m.Landing = m.Landing with { Shown = Is(g) };
                    break;
                case 291:
                    m.Landing = m.Landing with { Hook = Is(g) };
                    break;
                case 41:
                    m.Landing = m.Landing with { Length = g.Number };
                    break;
                case 342:
                    m.Arrow = m.Arrow with { Block = Named(g) };
                    break;
                case 42:
                    m.Arrow = m.Arrow with { Size = g.Number };
                    break;
                case 172:
                    m.Content = Whole(g);
                    break;
                case 343:
                    m.Text = m.Text with { Style = Named(g) };
                    break;
                case 173:
                    m.Text = m.Text with { Left = Whole(g) };
                    break;
                case 95:
                    m.Text = m.Text with { Right = Whole(g) };
                    break;
                case 174:
                    m.Text = m.Text with { Angle = Whole(g) };
                    break;
                case 175:
                    m.Text = m.Text with { Alignment = Whole(g) };
                    break;
                case 92:
                    m.Text = m.Text with { Colour = Colour(g) };
                    break;
                case 292:
                    m.Text = m.Text with { Framed = Is(g) };
                    break;
                case 344:
                    m.Block = m.Block with { Block = Named(g) };
                    break;
                case 93:
                    m.Block = m.Block with { Colour = Colour(g) };
                    break;
                case 10:
                    m.Block = m.Block with { Scale = Point(g) };
                    break;
                case 43:
                    m.Block = m.Block with { Rotation = g.Number };
                    break;
                case 176:
                    m.Block = m.Block with { Connection = Whole(g) };
                    break;
                case 293:
                    m.Size = m.Size with { Annotative = Is(g) };
                    break;
                case 94:
                    line = Whole(g);
                    break;
                case 345:
                    m.Arrows.Add((line, Named(g)));
                    break;
                case 330:
                    label = (Named(g), 0, 0, "");
                    break;
                case 177 when label is { } l:
                    label = l with { Number = Whole(g) };
                    break;
                case 44 when label is { } l:
                    label = l with { Width = g.Number };
                    break;
                case BeginBranch when label is { } l:
                    m.Labels.Add(l with { Text = g.Text });
                    label = null;
                    break;
                case 294:
                    m.Direction = m.Direction with { Negative = Is(g) };
                    break;
                case 178:
                    m.Direction = m.Direction with { Alignment = Whole(g) };
                    break;
                case 179:
                    m.Direction = m.Direction with { Justification = Whole(g) };
                    break;
                case 45:
                    m.Size = m.Size with { Scale = g.Number };
                    break;
                case 271:
                    m.Attachment = m.Attachment with { Direction = Whole(g) };
                    break;
                case 272:
                    m.Attachment = m.Attachment with { Bottom = Whole(g) };
                    break;
                case 273:
                    m.Attachment = m.Attachment with { Top = Whole(g) };
                    break;
                case 295:
                    m.Extended = Is(g);
                    break;
            }
        }
    }

    private void Context(MultiLeaderContext c)
    {
        while (Next(out var g) && g.Code != EndContext)
        {
            switch (g.Code)
            {
                case BeginBranch:
                    c.Branches.Add(Branch());
                    break;
                case 40:
                    c.Scale = g.Number;
                    break;
                case 10:
                    c.Base = Point(g);
                    break;
                case 41:
                    c.Sizes = c.Sizes with { Text = g.Number };
                    break;
                case 140:
                    c.Sizes = c.Sizes with { Arrow = g.Number };
                    break;
                case 145:
                    c.Sizes = c.Sizes with { Gap = g.Number };
                    break;
                case 174:
                    c.Attachment = c.Attachment with { Left = Whole(g) };
                    break;
                case 175:
                    c.Attachment = c.Attachment with { Right = Whole(g) };
                    break;
                case 176:
                    c.Attachment = c.Attachment with { Alignment = Whole(g) };
                    break;
                case 177:
                    c.Attachment = c.Attachment with { Content = Whole(g) };
                    break;
                case 290:
                    c.Text = Is(g) ? new MultiLeaderText() : null;
                    break;
                case 296:
                    c.Block = Is(g) ? new MultiLeaderBlock() : null;
                    break;
                case 110:
                    c.Plane = c.Plane with { Origin = Point(g) };
                    break;
                case 111:
                    c.Plane = c.Plane with { X = Point(g) };
                    break;
                case 112:
                    c.Plane = c.Plane with { Y = Point(g) };
                    break;
                case 297:
                    c.Plane = c.Plane with { Reversed = Is(g) };
                    break;
                case 273:
                    c.Vertical = c.Vertical with { Top = Whole(g) };
                    break;
                case 272:
                    c.Vertical = c.Vertical with { Bottom = Whole(g) };
                    break;
                default:
                    if (c.Text is { } text)
                        Text(text, g);
                    if (c.Block is { } block)
                        Block(block, g);
                    break;
            }
        }
    }

    private void Text(MultiLeaderText t, CadGroup g)
    {
        switch (g.Code)
        {
            case 304:
                t.Value = g.Text;
                break;
            case 11:
                t.Position = t.Position with { Normal = Point(g) };
                break;
            case 12:
                t.Position = t.Position with { Place = Point(g) };
                break;
            case 13:
                t.Position = t.Position with { Direction = Point(g) };
                break;
            case 42:
                t.Position = t.Position with { Rotation = g.Number };
                break;
            case 340:
                t.Style = Named(g);
                break;
            case 43:
                t.Size = t.Size with { Width = g.Number };
                break;
            case 44:
                t.Size = t.Size with { Height = g.Number };
                break;
            case 45:
                t.Spacing = t.Spacing with { Factor = g.Number };
                break;
            case 170:
                t.Spacing = t.Spacing with { Kind = Whole(g) };
                break;
            case 90:
                t.Colour = Colour(g);
                break;
            case 171:
                t.Set = t.Set with { Alignment = Whole(g) };
                break;
            case 172:
                t.Set = t.Set with { Flow = Whole(g) };
                break;
            case 91:
                t.Ground = t.Ground with { Colour = Colour(g) };
                break;
            case 141:
                t.Ground = t.Ground with { Scale = g.Number };
                break;
            case 92:
                t.Ground = t.Ground with { Transparency = Whole(g) };
                break;
            case 291:
                t.Ground = t.Ground with { Window = Is(g) };
                break;
            case 292:
                t.Ground = t.Ground with { Filled = Is(g) };
                break;
            case 173:
                t.Columns = t.Columns with { Kind = Whole(g) };
                break;
            case 293:
                t.Columns = t.Columns with { Auto = Is(g) };
                break;
            case 142:
                t.Columns = t.Columns with { Width = g.Number };
                break;
            case 143:
                t.Columns = t.Columns with { Gutter = g.Number };
                break;
            case 294:
                t.Columns = t.Columns with { Reversed = Is(g) };
                break;
            case 144:
                t.Heights.Add(g.Number);
                break;
            case 295:
                t.Breaks = Is(g);
                break;
        }
    }

    private void Block(MultiLeaderBlock b, CadGroup g)
    {
        switch (g.Code)
        {
            case 341:
                b.Block = Named(g);
                break;
            case 14:
                b.Position = b.Position with { Normal = Point(g) };
                break;
            case 15:
                b.Position = b.Position with { Place = Point(g) };
                break;
            case 16:
                b.Position = b.Position with { Scale = Point(g) };
                break;
            case 46:
                b.Position = b.Position with { Rotation = g.Number };
                break;
            case 93:
                b.Colour = Colour(g);
                break;
            case 47:
                b.Transformation.Add(g.Number);
                break;
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
                case BeginLine:
                    b.Lines.Add(Line());
                    break;
                case 290:
                    b.HasEnd = Is(g);
                    break;
                case 291:
                    b.HasHook = Is(g);
                    break;
                case 10:
                    b.End = Point(g);
                    break;
                case 11:
                    b.Hook = Point(g);
                    break;
                case 12:
                    from = Point(g);
                    break;
                case 13:
                    b.Breaks.Add((from, Point(g)));
                    break;
                case 90:
                    b.Number = Whole(g);
                    break;
                case 40:
                    b.HookLength = g.Number;
                    break;
                case 271:
                    b.Attachment = Whole(g);
                    break;
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
                case 10:
                    l.Points.Add(Point(g));
                    break;
                case 90:
                    l.Breaks.Add((Whole(g), []));
                    break;
                case 11:
                    from = Point(g);
                    break;
                case 12:
                    if (l.Breaks.Count == 0)
                        l.Breaks.Add((0, []));
                    l.Breaks[^1].Gaps.Add((from, Point(g)));
                    break;
                case 91:
                    l.Number = Whole(g);
                    break;
                case 170:
                    l.Own = l.Own with { Kind = Whole(g) };
                    break;
                case 92:
                    l.Own = l.Own with { Colour = Colour(g) };
                    break;
                case 340:
                    l.Own = l.Own with { LineType = Named(g) };
                    break;
                case 171:
                    l.Own = l.Own with { Weight = Whole(g) };
                    break;
                case 40:
                    l.Own = l.Own with { ArrowSize = g.Number };
                    break;
                case 341:
                    l.Own = l.Own with { Arrow = Named(g) };
                    break;
                case 93:
                    l.Own = l.Own with { Overrides = Whole(g) };
                    break;
            }
        }

        return l;
    }

    private static int Whole(CadGroup g) => unchecked((int)(long)Math.Clamp(g.Number, long.MinValue, long.MaxValue));

    private static bool Is(CadGroup g) => g.Number != 0;

    private static Handle Named(CadGroup g) => g.Value is Handle handle ? handle : default;

    private static CadColour Colour(CadGroup g) => CadColour.FromPacked(unchecked((uint)Whole(g)), null);

    // The other coordinates follow.
    private Vec3 Point(CadGroup x) => new(x.Number, Coordinate(x.Code + 10), Coordinate(x.Code + 20));

    private double Coordinate(int code) => _at < _groups.Count && _groups[_at].Code == code ? _groups[_at++].Number : 0;
}
