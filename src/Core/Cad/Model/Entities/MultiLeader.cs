using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>MULTILEADER: a text or a block with any number of arrows to it. Fields as in the DXF reference; DWG after the Open Design
/// specification, from memory, and as an independent reader takes it (tests/Outside).</summary>
public sealed class MultiLeader : Entity
{
    /// <inheritdoc/>
    public override string Type => "MULTILEADER";

    /// <summary>The form of the entity (270).</summary>
    public int Form { get; set; } = 2;

    /// <summary>The content's place, its leaders, and what is drawn of it (300 CONTEXT_DATA).</summary>
    public MultiLeaderContext Context { get; } = new();

    /// <summary>The style (340), and bits for what is not as the style has it (90).</summary>
    public (Handle Handle, int Overrides) Style { get; set; }

    /// <summary>The lines: 0 none, 1 straight, 2 splines (170), colour (91), line type (341), line weight in 1/100 mm or -1 to -3
    /// (171).</summary>
    public (int Kind, CadColour Colour, Handle LineType, int Weight) Lines { get; set; } =
        (1, CadColour.ByBlock, default, -2);

    /// <summary>Whether lines end in a landing and a short horizontal piece (290, 291), and the length of that (41).</summary>
    public (bool Shown, bool Hook, double Length) Landing { get; set; } = (true, true, 8);

    /// <summary>The arrow's block, none for the usual (342), and its size (42).</summary>
    public (Handle Block, double Size) Arrow { get; set; } = (default, 4);

    /// <summary>0 nothing, 1 a block, 2 text, 3 a tolerance (172).</summary>
    public int Content { get; set; } = 2;

    /// <summary>Of the text: style (343), where lines meet it on the left and right (173, 95), how it is turned (174) and aligned (175),
    /// its colour (92), whether it is framed (292).</summary>
    public (
        Handle Style,
        int Left,
        int Right,
        int Angle,
        int Alignment,
        CadColour Colour,
        bool Framed
    ) Text { get; set; } = (default, 1, 1, 1, 0, CadColour.ByBlock, false);

    /// <summary>Of the block: its record (344), colour (93), scale (10), turn (43), and whether lines meet its outline or its base
    /// (176).</summary>
    public (Handle Block, CadColour Colour, Vec3 Scale, double Rotation, int Connection) Block { get; set; } =
        (default, CadColour.ByBlock, new(1, 1, 1), 0, 0);

    /// <summary>Whether its size follows the scale of the view (293), and its scale (45).</summary>
    public (bool Annotative, double Scale) Size { get; set; } = (false, 1);

    /// <summary>Arrows of single lines: the line (94) and the block (345).</summary>
    public List<(int Line, Handle Block)> Arrows { get; } = [];

    /// <summary>Attributes of the block: the definition (330), its number (177), width (44) and text (302).</summary>
    public List<(Handle Definition, int Number, double Width, string Text)> Labels { get; } = [];

    /// <summary>Whether the text runs the other way (294), and two numbers of its alignment (178, 179).</summary>
    public (bool Negative, int Alignment, int Justification) Direction { get; set; } = (false, 0, 1);

    /// <summary>Whether lines meet the content at its sides or above and below (271), and how there (272, 273).</summary>
    public (int Direction, int Bottom, int Top) Attachment { get; set; } = (0, 9, 9);

    /// <summary>Whether lines run on to the text (295).</summary>
    public bool Extended { get; set; }

    /// <summary>The text as a paragraph text, the block as an insert; null when the content is neither.</summary>
    public Entity? Shown()
    {
        Entity? shown = null;
        if (Context.Text is { } text)
        {
            double turn = text.Position.Rotation;
            var along =
                turn == 0
                    ? text.Position.Direction
                    : (text.Position.Direction * Math.Cos(turn))
                        + (text.Position.Normal.Cross(text.Position.Direction) * Math.Sin(turn));
            shown = new MText
            {
                Value = text.Value,
                Style = text.Style,
                Insertion = text.Position.Place,
                Direction = along,
                Normal = text.Position.Normal,
                Height = Context.Sizes.Text,
                Width = text.Size.Width,
                Attachment = Math.Clamp(text.Set.Alignment, 1, 3),
            };
        }
        else if (Context.Block is { } block)
            shown = new Insert
            {
                Block = block.Block,
                Location = ObjectCoordinates.FromWorld(block.Position.Place, block.Position.Normal),
                Scale = block.Position.Scale,
                Rotation = block.Position.Rotation,
                Normal = block.Position.Normal,
            };
        if (shown is not null)
            (shown.Layer, shown.Colour) = (
                Layer,
                Text.Colour.Index == 0 || Context.Block is not null ? Colour : Text.Colour
            );
        return shown;
    }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbMLeader");
        if (f.Dwg is { } d)
            ExchangeDwg(d);
        else
            MultiLeaderGroups.Exchange(f, this);
    }

    private void ExchangeDwg(DwgFields d)
    {
        if (d.Since(CadVersion.AC1024))
            Form = d.Short(Form);
        Context.Exchange(d);
        var style = d.Handle(Style.Handle, HandleKind.HardPointer);
        Style = (style, d.Long(Style.Overrides));
        Lines = (
            d.Short(Lines.Kind),
            d.Colour(0, Lines.Colour),
            d.Handle(Lines.LineType, HandleKind.HardPointer),
            d.Long(Lines.Weight)
        );
        Landing = (d.Bit(Landing.Shown), d.Bit(Landing.Hook), d.Double(Landing.Length));
        Arrow = (d.Handle(Arrow.Block, HandleKind.HardPointer), d.Double(Arrow.Size));
        Content = d.Short(Content);
        Text = (
            d.Handle(Text.Style, HandleKind.HardPointer),
            d.Short(Text.Left),
            d.Short(Text.Right),
            d.Short(Text.Angle),
            d.Short(Text.Alignment),
            d.Colour(0, Text.Colour),
            d.Bit(Text.Framed)
        );
        Block = (
            d.Handle(Block.Block, HandleKind.HardPointer),
            d.Colour(0, Block.Colour),
            d.Point(10, Block.Scale),
            d.Double(Block.Rotation),
            d.Short(Block.Connection)
        );
        Size = (d.Bit(Size.Annotative), d.Reading ? Context.Scale : Size.Scale);
        if (d.Since(CadVersion.AC1024))
        {
            int direction = d.Short(Attachment.Direction),
                top = d.Short(Attachment.Top);
            Attachment = (direction, d.Short(Attachment.Bottom), top);
        }
        else
            ExchangeUntil2007(d);

        if (d.Since(CadVersion.AC1027))
            Extended = d.Bit(Extended);
    }

    // From 2010 on these are in DXF only.
    private void ExchangeUntil2007(DwgFields d)
    {
        int arrows = d.Count(Arrows.Count);
        d.Items(Arrows, arrows, 0, a => (d.Bit(a.Line != 0) ? 1 : 0, d.Handle(a.Block, HandleKind.HardPointer)));
        int labels = d.Count(Labels.Count);
        d.Items(Labels, labels, 0, l => Label(d, l));
        Direction = (d.Bit(Direction.Negative), d.Short(Direction.Alignment), d.Short(Direction.Justification));
        Size = (Size.Annotative, d.Double(Size.Scale));
    }

    private static (Handle Definition, int Number, double Width, string Text) Label(
        DwgFields d,
        (Handle Definition, int Number, double Width, string Text) l
    )
    {
        var definition = d.Handle(l.Definition, HandleKind.SoftPointer);
        string text = d.Text(302, l.Text ?? "");
        return (definition, d.Short(l.Number), d.Double(l.Width), text);
    }
}
