using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>ACAD_TABLE: a grid of texts and blocks, with its picture as a block.</summary>
/// <remarks>
/// A table that came from DXF is written to DXF by the groups it came with; its grid is what they say. One that came from DWG goes back
/// into its version by its bits. To DWG of another version it is not
/// written: the layout of cells there is from memory and could be held against no other reader, and a wrong one could cost the receiver the
/// drawing (docs/decisions/drawings.md).
/// </remarks>
public sealed class Table : Entity
{
    /// <summary>The name in DXF.</summary>
    public const string Kind = "ACAD_TABLE";

    private const int ScaledAlike = 3;

    /// <inheritdoc/>
    public override string Type => Kind;

    /// <summary>The block with its picture (2).</summary>
    public Handle Block { get; set; }

    /// <summary>Its upper left corner (10).</summary>
    public Vec3 Location { get; set; }

    /// <summary>Which way its rows run (11).</summary>
    public Vec3 Direction { get; set; } = Vec3.AxisX;

    /// <summary>The direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <summary>Rows and columns (91, 92).</summary>
    public (int Rows, int Columns) Size { get; set; } = (1, 1);

    /// <summary>Its rows, columns and cells.</summary>
    public TableGrid Grid { get; internal set; } = new();

    /// <summary>The bits it had in DWG.</summary>
    public OpaqueBits? Bits { get; set; }

    /// <summary>Its picture, where it is.</summary>
    public Insert Shown() =>
        new()
        {
            Block = Block,
            Location = Location,
            Rotation = Math.Atan2(Direction.Y, Direction.X),
            Layer = Layer,
            Colour = Colour,
            LineType = LineType,
        };

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbBlockReference");
        if (f.Dwg is { } d)
        {
            ExchangeDwg(d);
            return;
        }

        Block = f.Symbol(2, Block, SymbolKind.Block);
        Location = f.Point(10, Location);
        f.Subclass("AcDbTable");
        if (!f.Reading && (!HasExtras || Extras.Unread.Count == 0))
        {
            TableGroups.Write(f, this);
            return;
        }

        Direction = f.Point(11, Direction);
        Size = (f.Long(91, Size.Rows), f.Long(92, Size.Columns));
    }

    private void ExchangeDwg(DwgFields d)
    {
        Location = d.Point(10, Location);
        Scale(d);
        d.Double(Math.Atan2(Direction.Y, Direction.X));
        Normal = d.Point(210, Normal);
        // The count is there also where there are none; of inserts it does not.
        bool attributes = d.Bit(false);
        int parts = d.Count(0);
        Block = d.Handle(Block, HandleKind.HardPointer);
        for (int i = 0; i < parts; i++)
            d.Handle(default, HandleKind.HardOwner);
        if (attributes)
            d.Handle(default, HandleKind.HardOwner);
        Grid.Style = d.Handle(Grid.Style, HandleKind.HardPointer);
        if (d.Since(CadVersion.AC1024))
            TableContent.Exchange(d, this);
        else
            TableBits.Exchange(d, this);
    }

    // As of an insert; a table is not scaled.
    private static void Scale(DwgFields d)
    {
        int form = d.TwoBits(ScaledAlike);
        double x = form is 0 or 2 ? d.RawDouble(1) : 1;
        if (form is not (0 or 1))
            return;
        d.Default(x, x);
        d.Default(x, x);
    }
}
