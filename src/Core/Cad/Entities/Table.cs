using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>ACAD_TABLE: a grid of texts, with its picture as a block. In DXF its place and size are read and its cells kept as they came; DWG keeps it as bits.</summary>
public sealed class Table : Entity
{
    /// <summary>The name in DXF.</summary>
    public const string Kind = "ACAD_TABLE";

    /// <inheritdoc/>
    public override string Type => Kind;

    /// <summary>The block with its picture (2).</summary>
    public Handle Block { get; set; }

    /// <summary>Its upper left corner (10).</summary>
    public Vec3 Location { get; set; }

    /// <summary>Which way its rows run (11).</summary>
    public Vec3 Direction { get; set; } = Vec3.AxisX;

    /// <summary>Rows and columns (91, 92).</summary>
    public (int Rows, int Columns) Size { get; set; } = (1, 1);

    /// <summary>Its picture, where it stands.</summary>
    public Insert Shown() => new() { Block = Block, Location = Location, Rotation = Math.Atan2(Direction.Y, Direction.X), Layer = Layer, Colour = Colour, LineType = LineType };

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbBlockReference");
        Block = f.Symbol(2, Block, SymbolKind.Block);
        Location = f.Point(10, Location);
        f.Subclass("AcDbTable");
        Direction = f.Point(11, Direction);
        Size = (f.Long(91, Size.Rows), f.Long(92, Size.Columns));
    }
}
