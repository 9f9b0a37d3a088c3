namespace SteadyLintel.Cad;

/// <summary>A cell of a table: a text, or a block shown in it.</summary>
public sealed class TableCell
{
    /// <summary>The kinds of content (171): text and block.</summary>
    public const int OfText = 1,
        OfBlock = 2;

    /// <summary>What differs from the style of the table (177; a bit each): alignment, no fill, fill, colour of the content, text style,
    /// text height, then for top, right, bottom and left colour, weight and visibility of the line.</summary>
    public const int OwnAlignment = 1,
        OwnNoFill = 2,
        OwnFill = 4,
        OwnColour = 8,
        OwnStyle = 0x10,
        OwnHeight = 0x20,
        OwnLineColour = 0x40,
        OwnLineWeight = 0x400,
        OwnLineVisibility = 0x4000;

    /// <summary>What it holds: <see cref="OfText"/> or <see cref="OfBlock"/>.</summary>
    public int Kind { get; set; } = OfText;

    /// <summary>The text, with the codes of multi-line text (1; 3 for pieces before the last).</summary>
    public string Text { get; set; } = "";

    /// <summary>The field that makes the text (344).</summary>
    public Handle Field { get; set; }

    /// <summary>The block (340), with its scale (144) and the texts of its attributes (331, 300).</summary>
    public Handle Block { get; set; }

    /// <summary>The scale of the block (144).</summary>
    public double BlockScale { get; set; } = 1;

    /// <summary>Texts for attributes of the block: definition and text (331, 300).</summary>
    public List<(Handle Definition, string Text)> Attributes => field ??= [];

    /// <summary>Edges (172).</summary>
    public int Edges { get; set; }

    /// <summary>Whether another cell covers it (173).</summary>
    public bool IsCovered { get; set; }

    /// <summary>Whether the content fits itself to the cell (174).</summary>
    public bool AutoFit { get; set; }

    /// <summary>How many columns and rows it covers (175, 176); of one cell alone nothing is said.</summary>
    public (int Columns, int Rows) Span { get; set; } = (1, 1);

    /// <summary>The turn of the content, radians (145).</summary>
    public double Rotation { get; set; }

    /// <summary>What of the following is its own (177).</summary>
    public int Own { get; set; }

    /// <summary>Edges that neighbours draw (178).</summary>
    public int VirtualEdges { get; set; }

    /// <summary>Where the content is: 1 top left to 9 bottom right (170).</summary>
    public int Alignment { get; set; } = 5;

    /// <summary>Whether it is filled (283) and with what (63).</summary>
    public (bool None, CadColour Colour) Fill { get; set; } = (true, CadColour.ByLayer);

    /// <summary>The colour of the content (64).</summary>
    public CadColour Colour { get; set; } = CadColour.ByBlock;

    /// <summary>The text style (7).</summary>
    public Handle Style { get; set; }

    /// <summary>The text height (140).</summary>
    public double Height { get; set; }

    /// <summary>The lines at top, right, bottom and left: colour (69, 65, 66, 68), weight (279, 275, 276, 278), visibility (289, 285, 286,
    /// 288).</summary>
    public (CadColour Colour, int Weight, int Visible)[] Lines => field ??= new (CadColour, int, int)[4];
}
