namespace SteadyLintel.Cad;

/// <summary>The kinds of objects by their DXF names.</summary>
internal static class ObjectKinds
{
    /// <summary>A new entity; kinds without fields here are opaque.</summary>
    /// <param name="type">The DXF name.</param>
    /// <param name="flags">Group 70, which tells the kinds of polylines, vertices and dimensions apart.</param>
    /// <param name="within">The polyline a vertex belongs to.</param>
    public static Entity Entity(string type, int flags, Polyline? within) =>
        type switch
        {
            "LINE" => new Line(),
            "LWPOLYLINE" => new LightPolyline(),
            "INSERT" => new Insert(),
            "CIRCLE" => new Circle(),
            "ARC" => new ArcEntity(),
            "TEXT" => new Text(),
            "MTEXT" => new MText(),
            "POINT" => new Point(),
            "HATCH" => new Hatch(),
            "DIMENSION" when (flags & 15) < 7 => new Dimension((DimensionKind)(flags & 15)),
            "POLYLINE" => new Polyline(Polyline.KindOf(flags)),
            "VERTEX" => new Vertex(
                within?.Kind ?? PolylineKind.Flat,
                within?.Kind == PolylineKind.Polyface && (flags & 192) == 128
            ),
            "ELLIPSE" => new Ellipse(),
            "SPLINE" => new Spline(),
            "SOLID" => new Solid(),
            "TRACE" => new Solid(true),
            "3DFACE" => new Face3D(),
            "RAY" => new Ray(false),
            "XLINE" => new Ray(true),
            "ATTRIB" => new AttributeEntity(),
            "ATTDEF" => new AttributeDefinition(),
            "LEADER" => new Leader(),
            "MLINE" => new MultiLine(),
            "MULTILEADER" or "MLEADER" => new MultiLeader(),
            "TOLERANCE" => new GeometricTolerance(),
            "VIEWPORT" => new Viewport(),
            "IMAGE" => new Image(),
            "WIPEOUT" => new Image(true),
            "MESH" => new MeshEntity(),
            Table.Kind => new Table(),
            "PDFUNDERLAY" or "DWFUNDERLAY" or "DGNUNDERLAY" => new Underlay(type),
            "3DSOLID" or "REGION" or "BODY" => new ModelerEntity(type),
            _ => new OpaqueEntity(type),
        };

    /// <summary>A new object without a picture; kinds without fields here are opaque.</summary>
    public static CadObject Object(string type) =>
        type switch
        {
            "DICTIONARY" => new CadDictionary(),
            "ACDBDICTIONARYWDFLT" => new CadDictionary(true),
            "ACDBPLACEHOLDER" => new Placeholder(),
            "LAYOUT" => new Layout(),
            "GROUP" => new EntityGroup(),
            "IMAGEDEF" => new ImageDefinition(),
            "PDFDEFINITION" or "DWFDEFINITION" or "DGNDEFINITION" => new UnderlayDefinition(type),
            "GEODATA" => new GeoData(),
            "DICTIONARYVAR" => new DictionaryVariable(),
            "MLINESTYLE" => new MultiLineStyle(),
            "XRECORD" => new CadRecord(),
            _ => new OpaqueObject(type),
        };

    /// <summary>The classes of the kinds that need one.</summary>
    public static readonly IReadOnlyDictionary<string, CadClass> Classes = new[]
    {
        Class("MESH", "AcDbSubDMesh", true),
        Class("MULTILEADER", "AcDbMLeader", true),
        Class("IMAGE", "AcDbRasterImage", true),
        Class("WIPEOUT", "AcDbWipeout", true),
        Class("ACDBDICTIONARYWDFLT", "AcDbDictionaryWithDefault", false),
        Class("ACDBPLACEHOLDER", "AcDbPlaceHolder", false),
        Class("LAYOUT", "AcDbLayout", false),
        Class("IMAGEDEF", "AcDbRasterImageDef", false),
        Class("DICTIONARYVAR", "AcDbDictionaryVar", false),
        Class("PDFUNDERLAY", "AcDbPdfReference", true),
        Class("DWFUNDERLAY", "AcDbDwfReference", true),
        Class("DGNUNDERLAY", "AcDbDgnReference", true),
        Class("PDFDEFINITION", "AcDbPdfDefinition", false),
        Class("DWFDEFINITION", "AcDbDwfDefinition", false),
        Class("DGNDEFINITION", "AcDbDgnDefinition", false),
        Class(Table.Kind, "AcDbTable", true),
        Class("GEODATA", "AcDbGeoData", false),
    }.ToDictionary(c => c.DxfName);

    private static CadClass Class(string dxf, string name, bool entity) =>
        new()
        {
            DxfName = dxf,
            ClassName = name,
            IsEntity = entity,
        };
}
