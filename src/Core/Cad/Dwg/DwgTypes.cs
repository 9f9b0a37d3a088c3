namespace SteadyLintel.Cad;

/// <summary>The numbers of kinds in DWG (Open Design specification, chapter 20, from memory).</summary>
internal static class DwgTypes
{
    /// <summary>The first number of kinds with a class.</summary>
    public const int FirstClass = 500;

    /// <summary>The kinds around blocks and tables, which are no objects of the drawing here.</summary>
    public const int Block = 4,
        EndBlock = 5,
        SeqEnd = 6,
        BlockControl = 48,
        ViewportEntityControl = 70,
        ViewportEntity = 71;

    private static readonly Dictionary<int, string> Objects = new()
    {
        [42] = "DICTIONARY",
        [72] = "GROUP",
        [73] = "MLINESTYLE",
        [79] = "XRECORD",
        [80] = "ACDBPLACEHOLDER",
        [81] = "VBA_PROJECT",
        [82] = "LAYOUT",
        [499] = "ACAD_PROXY_OBJECT",
    };

    private static readonly Dictionary<int, string> Opaque = new()
    {
        [33] = "SHAPE",
        [37] = "REGION",
        [38] = "3DSOLID",
        [39] = "BODY",
        [43] = "OLEFRAME",
        [74] = "OLE2FRAME",
        [498] = "ACAD_PROXY_ENTITY",
    };

    /// <summary>A new entity of a number the format gives itself, or null.</summary>
    /// <param name="type">The number.</param>
    /// <param name="asBits">Whether a body in a form that is not known is kept as it came.</param>
    public static Entity? Entity(int type, bool asBits) =>
        type switch
        {
            37 or 38 or 39 when !asBits => new ModelerEntity(Opaque[type]),
            1 => new Text(),
            2 => new AttributeEntity(),
            3 => new AttributeDefinition(),
            7 => new Insert(),
            8 => new Insert { ReadAsArray = true },
            10 => new Vertex(PolylineKind.Flat),
            11 => new Vertex(PolylineKind.Space),
            12 => new Vertex(PolylineKind.Mesh),
            13 => new Vertex(PolylineKind.Polyface),
            14 => new Vertex(PolylineKind.Polyface, true),
            15 => new Polyline(PolylineKind.Flat),
            16 => new Polyline(PolylineKind.Space),
            17 => new ArcEntity(),
            18 => new Circle(),
            19 => new Line(),
            20 => new Dimension(DimensionKind.Ordinate),
            21 => new Dimension(DimensionKind.Linear),
            22 => new Dimension(DimensionKind.Aligned),
            23 => new Dimension(DimensionKind.Angular3Point),
            24 => new Dimension(DimensionKind.Angular),
            25 => new Dimension(DimensionKind.Radius),
            26 => new Dimension(DimensionKind.Diameter),
            27 => new Point(),
            28 => new Face3D(),
            29 => new Polyline(PolylineKind.Polyface),
            30 => new Polyline(PolylineKind.Mesh),
            31 => new Solid(),
            32 => new Solid(true),
            34 => new Viewport(),
            35 => new Ellipse(),
            36 => new Spline(),
            40 => new Ray(false),
            41 => new Ray(true),
            44 => new MText(),
            45 => new Leader(),
            46 => new GeometricTolerance(),
            47 => new MultiLine(),
            77 => new LightPolyline(),
            78 => new Hatch(),
            _ => Opaque.TryGetValue(type, out string? name) ? new OpaqueEntity(name) : null,
        };

    /// <summary>Whether a number is that of a body.</summary>
    public static bool IsBody(int type) => type is 37 or 38 or 39;

    /// <summary>The number of an entity; 0 for a kind that needs a class.</summary>
    public static int Number(Entity entity) =>
        entity switch
        {
            AttributeDefinition => 3,
            AttributeEntity => 2,
            Text => 1,
            Insert insert => insert.IsArray ? 8 : 7,
            Vertex { IsFace: true } => 14,
            Vertex vertex => 10 + (int)vertex.Kind,
            Polyline { Kind: PolylineKind.Flat } => 15,
            Polyline { Kind: PolylineKind.Space } => 16,
            Polyline { Kind: PolylineKind.Mesh } => 30,
            Polyline => 29,
            ArcEntity => 17,
            Circle => 18,
            Line => 19,
            Dimension dimension => dimension.Kind switch
            {
                DimensionKind.Ordinate => 20,
                DimensionKind.Linear => 21,
                DimensionKind.Aligned => 22,
                DimensionKind.Angular3Point => 23,
                DimensionKind.Angular => 24,
                DimensionKind.Radius => 25,
                _ => 26,
            },
            Point => 27,
            Face3D => 28,
            Solid solid => solid.IsTrace ? 32 : 31,
            Viewport => 34,
            Ellipse => 35,
            Spline => 36,
            Ray ray => ray.Both ? 41 : 40,
            MText => 44,
            Leader => 45,
            GeometricTolerance => 46,
            MultiLine => 47,
            LightPolyline => 77,
            Hatch => 78,
            ModelerEntity body => body.Type switch
            {
                "REGION" => 37,
                "3DSOLID" => 38,
                _ => 39,
            },
            OpaqueEntity opaque => opaque.Bits?.TypeNumber ?? 0,
            _ => 0,
        };

    /// <summary>A new object of a number the format gives itself, or null.</summary>
    public static CadObject? Object(int type) =>
        Objects.TryGetValue(type, out string? name) ? ObjectKinds.Object(name) : null;

    /// <summary>The number of an object; 0 for a kind that needs a class.</summary>
    public static int Number(CadObject item)
    {
        if (item is OpaqueObject opaque)
            return opaque.Bits?.TypeNumber ?? 0;
        foreach (var (number, name) in Objects)
            if (name == item.Type)
                return number;
        return 0;
    }

    /// <summary>The number of a table's control object; that of its records is one more.</summary>
    public static int Control(SymbolKind table) =>
        table switch
        {
            SymbolKind.Block => 48,
            SymbolKind.Layer => 50,
            SymbolKind.Style => 52,
            SymbolKind.LineType => 56,
            SymbolKind.View => 60,
            SymbolKind.Ucs => 62,
            SymbolKind.Viewport => 64,
            SymbolKind.Application => 66,
            _ => 68,
        };

    /// <summary>The table a number belongs to, as its control or as one of its records; null for others.</summary>
    public static SymbolKind? Symbol(int type) =>
        (type & ~1) switch
        {
            48 => SymbolKind.Block,
            50 => SymbolKind.Layer,
            52 => SymbolKind.Style,
            56 => SymbolKind.LineType,
            60 => SymbolKind.View,
            62 => SymbolKind.Ucs,
            64 => SymbolKind.Viewport,
            66 => SymbolKind.Application,
            68 => SymbolKind.DimensionStyle,
            _ => null,
        };
}
