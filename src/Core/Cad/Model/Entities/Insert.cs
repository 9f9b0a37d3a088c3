using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>INSERT: a block placed, perhaps in rows and columns, with its attributes.</summary>
public sealed class Insert : CompoundEntity
{
    private readonly List<AttributeEntity> _attributes = [];

    /// <inheritdoc/>
    public override string Type => "INSERT";

    /// <summary>The block (2).</summary>
    public Handle Block { get; set; }

    /// <summary>Where it is put, in object coordinates (10).</summary>
    public Vec3 Location { get; set; }

    /// <summary>Scales along its axes (41, 42, 43).</summary>
    public Vec3 Scale { get; set; } = new(1, 1, 1);

    /// <summary>Rotation, radians (50).</summary>
    public double Rotation { get; set; }

    /// <summary>Columns and rows of an array (70, 71).</summary>
    public (int Columns, int Rows) Array { get; set; } = (1, 1);

    /// <summary>Spacing of columns and rows (44, 45).</summary>
    public (double Columns, double Rows) Spacing { get; set; }

    /// <summary>Direction of extrusion (210).</summary>
    public Vec3 Normal { get; set; } = Vec3.AxisZ;

    /// <summary>Its attributes.</summary>
    public List<AttributeEntity> Attributes => _attributes;

    /// <inheritdoc/>
    public override IReadOnlyList<Entity> Parts => _attributes;

    /// <summary>Whether it is an array (MINSERT).</summary>
    public bool IsArray => Array is not ((0 or 1), (0 or 1));

    /// <summary>Set by the DWG reader: whether the type says array, for then the counts are in the data.</summary>
    internal bool ReadAsArray { get; set; }

    /// <inheritdoc/>
    internal override bool Adopt(Entity part)
    {
        if (part is not AttributeEntity attribute || part is AttributeDefinition)
            return false;
        _attributes.Add(attribute);
        return true;
    }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        if (f.Dwg is { } d)
        {
            ExchangeDwg(d);
            return;
        }

        f.Subclass(IsArray ? "AcDbMInsertBlock" : "AcDbBlockReference");
        if (_attributes.Count > 0)
            f.Fixed(66, 1L);
        Block = f.Symbol(2, Block, SymbolKind.Block);
        Location = f.Point(10, Location);
        Scale = new Vec3(f.Double(41, Scale.X, 1), f.Double(42, Scale.Y, 1), f.Double(43, Scale.Z, 1));
        Rotation = f.Angle(50, Rotation, 0);
        Array = (f.Short(70, Array.Columns, 1), f.Short(71, Array.Rows, 1));
        Spacing = (f.Double(44, Spacing.Columns, 0), f.Double(45, Spacing.Rows, 0));
        Normal = f.Normal(Normal);
    }

    private void ExchangeDwg(DwgFields d)
    {
        Location = d.Point(10, Location);
        ExchangeScale(d);
        Rotation = d.Double(Rotation);
        Normal = d.Point(210, Normal);
        bool has = d.Bit(_attributes.Count > 0);
        int count = has ? CountParts(d) : 0;
        if (d.Reading ? ReadAsArray : IsArray)
        {
            Array = (d.Short(Array.Columns), d.Short(Array.Rows));
            Spacing = (d.Double(Spacing.Columns), d.Double(Spacing.Rows));
        }

        Block = d.Handle(Block, HandleKind.HardPointer);
        if (has)
            HandleParts(d, count);
    }

    private void ExchangeScale(DwgFields d)
    {
        if (!d.Since(CadVersion.AC1015))
        {
            Scale = d.Point(41, Scale);
            return;
        }

        bool alike = Scale.X == Scale.Y && Scale.X == Scale.Z;
        int form = d.TwoBits(
            alike
                ? Scale.X == 1
                    ? 3
                    : 2
                : Scale.X == 1
                    ? 1
                    : 0
        );
        double x = form is 0 or 2 ? d.RawDouble(Scale.X) : 1;
        Scale = form is 2 or 3 ? new Vec3(x, x, x) : new Vec3(x, d.Default(Scale.Y, x), d.Default(Scale.Z, x));
    }
}
