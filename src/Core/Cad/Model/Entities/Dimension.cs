using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>DIMENSION of any kind; what is drawn is in its anonymous block.</summary>
public sealed class Dimension(DimensionKind kind) : Entity
{
    /// <summary>The kind.</summary>
    public DimensionKind Kind { get; } = kind;

    /// <inheritdoc/>
    public override string Type => "DIMENSION";

    /// <summary>The block with its picture (2).</summary>
    public Handle Block { get; set; }

    /// <summary>The dimension style (3).</summary>
    public Handle Style { get; set; }

    /// <summary>The point that defines it: on the dimension line, the arc, the origin (10).</summary>
    public Vec3 Definition { get; set; }

    /// <summary>The middle of the text, in object coordinates (11).</summary>
    public Vec3 TextMiddle { get; set; }

    /// <summary>Where its block is put, for copies (12).</summary>
    public Vec2 Offset { get; set; }

    /// <summary>First and second measured point, or ends of the first line (13, 14).</summary>
    public (Vec3 First, Vec3 Second) Points { get; set; }

    /// <summary>A point on the arc, the vertex of the angle, or of the second line (15).</summary>
    public Vec3 Third { get; set; }

    /// <summary>A point on the arc of the angle, in object coordinates (16).</summary>
    public Vec2 ArcPoint { get; set; }

    /// <summary>Text in place of the measurement; &lt;&gt; means it (1).</summary>
    public string Value { get; set; } = "";

    /// <summary>The measurement as the writer had it (42).</summary>
    public double Measurement { get; set; }

    /// <summary>Direction of measuring of a linear one, radians (50).</summary>
    public double Angle { get; set; }

    /// <summary>Slant of the extension lines, radians (52).</summary>
    public double Slant { get; set; }

    /// <summary>Rotation of the text, radians (53).</summary>
    public double TextRotation { get; set; }

    /// <summary>The horizontal direction, radians (51).</summary>
    public double Horizontal { get; set; }

    /// <summary>Length of the leader of a radius or diameter (40).</summary>
    public double Leader { get; set; }

    /// <summary>Where the text is attached (71).</summary>
    public int Attachment { get; set; } = 5;

    /// <summary>Line spacing: style and factor (72, 41).</summary>
    public (int Style, double Factor) Spacing { get; set; } = (1, 1);

    /// <summary>Whether an ordinate measures x (70, bit 64).</summary>
    public bool OfX { get; set; }

    /// <summary>Whether the text was placed by hand (70, bit 128).</summary>
    public bool TextPlaced { get; set; }

    /// <summary>Whether no other entity refers to the block (70, bit 32).</summary>
    public bool OwnBlock { get; set; } = true;

    /// <summary>How its block is scaled and turned; DWG only (54).</summary>
    public (Vec3 Scale, double Rotation) Picture { get; set; } = (new Vec3(1, 1, 1), 0);

    /// <summary>Whether arrows are turned over (74, 75); in DXF these stay groups.</summary>
    public (bool First, bool Second) Flipped { get; set; }

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        if (f.Dwg is { } d)
        {
            ExchangeDwg(d);
            return;
        }

        f.Subclass("AcDbDimension");
        Block = f.Symbol(2, Block, SymbolKind.Block);
        Definition = f.Point(10, Definition);
        TextMiddle = f.Point(11, TextMiddle);
        if (f.Reading || Offset != default)
            Offset = f.Point(12, new Vec3(Offset.X, Offset.Y, 0)).XY;
        int flags = f.Short(70, (int)Kind | (OwnBlock ? 32 : 0) | (OfX ? 64 : 0) | (TextPlaced ? 128 : 0));
        (OwnBlock, OfX, TextPlaced) = ((flags & 32) != 0, (flags & 64) != 0, (flags & 128) != 0);
        Value = f.Text(1, Value, "");
        if (f.Since(CadVersion.AC1015) || f.Reading)
        {
            Attachment = f.Short(71, Attachment);
            Spacing = (f.Short(72, Spacing.Style), f.Double(41, Spacing.Factor));
            Measurement = f.Double(42, Measurement);
        }

        TextRotation = f.Angle(53, TextRotation, 0);
        Horizontal = f.Angle(51, Horizontal, 0);
        Normal = f.Normal(Normal);
        Style = f.Symbol(3, Style, SymbolKind.DimensionStyle);
        ExchangeKind(f);
    }

    private void ExchangeKind(Fields f)
    {
        switch (Kind)
        {
            case DimensionKind.Linear or DimensionKind.Aligned:
                f.Subclass("AcDbAlignedDimension");
                Points = (f.Point(13, Points.First), f.Point(14, Points.Second));
                Angle = f.Angle(50, Angle, 0);
                Slant = f.Angle(52, Slant, 0);
                if (Kind == DimensionKind.Linear)
                    f.Subclass("AcDbRotatedDimension");
                break;
            case DimensionKind.Angular or DimensionKind.Angular3Point:
                f.Subclass(Kind == DimensionKind.Angular ? "AcDb2LineAngularDimension" : "AcDb3PointAngularDimension");
                Points = (f.Point(13, Points.First), f.Point(14, Points.Second));
                Third = f.Point(15, Third);
                if (Kind == DimensionKind.Angular)
                    ArcPoint = f.Point(16, new Vec3(ArcPoint.X, ArcPoint.Y, 0)).XY;
                break;
            case DimensionKind.Ordinate:
                f.Subclass("AcDbOrdinateDimension");
                Points = (f.Point(13, Points.First), f.Point(14, Points.Second));
                break;
            default:
                f.Subclass(Kind == DimensionKind.Radius ? "AcDbRadialDimension" : "AcDbDiametricDimension");
                Third = f.Point(15, Third);
                Leader = f.Double(40, Leader);
                break;
        }
    }

    private void ExchangeDwg(DwgFields d)
    {
        if (d.Since(CadVersion.AC1024))
            d.RawByte(0);
        Normal = d.Point(210, Normal);
        var middle = d.RawPoint(TextMiddle.XY);
        TextMiddle = new Vec3(middle.X, middle.Y, d.Double(TextMiddle.Z));
        int flags = d.RawByte((TextPlaced ? 0 : 1) | (OwnBlock ? 2 : 0));
        (TextPlaced, OwnBlock) = ((flags & 1) == 0, (flags & 2) != 0);
        Value = d.Text(1, Value);
        TextRotation = d.Double(TextRotation);
        Horizontal = d.Double(Horizontal);
        Picture = (d.Point(0, Picture.Scale), d.Double(Picture.Rotation));
        if (d.Since(CadVersion.AC1015))
        {
            Attachment = d.Short(Attachment);
            Spacing = (d.Short(Spacing.Style), d.Double(Spacing.Factor));
            Measurement = d.Double(Measurement);
        }

        if (d.Since(CadVersion.AC1021))
        {
            // Nobody has explained the first.
            d.Bit(false);
            Flipped = (d.Bit(Flipped.First), d.Bit(Flipped.Second));
        }

        Offset = d.RawPoint(Offset);
        ExchangeDwgKind(d);
        Style = d.Handle(Style, HandleKind.HardPointer);
        Block = d.Handle(Block, HandleKind.HardPointer);
    }

    private void ExchangeDwgKind(DwgFields d)
    {
        switch (Kind)
        {
            case DimensionKind.Ordinate:
                Definition = d.Point(10, Definition);
                Points = (d.Point(13, Points.First), d.Point(14, Points.Second));
                OfX = (d.RawByte(OfX ? 1 : 0) & 1) != 0;
                break;
            case DimensionKind.Linear or DimensionKind.Aligned:
                Points = (d.Point(13, Points.First), d.Point(14, Points.Second));
                Definition = d.Point(10, Definition);
                Slant = d.Double(Slant);
                if (Kind == DimensionKind.Linear)
                    Angle = d.Double(Angle);
                break;
            case DimensionKind.Angular3Point:
                Definition = d.Point(10, Definition);
                Points = (d.Point(13, Points.First), d.Point(14, Points.Second));
                Third = d.Point(15, Third);
                break;
            case DimensionKind.Angular:
                ArcPoint = d.RawPoint(ArcPoint);
                Points = (d.Point(13, Points.First), d.Point(14, Points.Second));
                Third = d.Point(15, Third);
                Definition = d.Point(10, Definition);
                break;
            case DimensionKind.Radius:
                Definition = d.Point(10, Definition);
                Third = d.Point(15, Third);
                Leader = d.Double(Leader);
                break;
            default:
                Third = d.Point(15, Third);
                Definition = d.Point(10, Definition);
                Leader = d.Double(Leader);
                break;
        }
    }
}
