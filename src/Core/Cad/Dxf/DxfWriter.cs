using System.Globalization;
using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Writes a drawing as ASCII DXF of version AC1027 (2013). Group codes after the published DXF reference.</summary>
/// <remarks>Numbers are printed so that they read back the same; text is UTF-8, as this version has it.</remarks>
public sealed class DxfWriter
{
    /// <summary>The application name of our extended data.</summary>
    public const string Application = "STEADY_LINTEL";

    private readonly StreamWriter _out;
    private int _handle = 0x100;

    private DxfWriter(Stream target) => _out = new StreamWriter(target, new UTF8Encoding(false), 1 << 16, leaveOpen: true) { NewLine = "\r\n" };

    /// <summary>Writes a drawing; the stream is left open.</summary>
    public static void Write(Drawing drawing, Stream target, CancellationToken cancel = default)
    {
        var writer = new DxfWriter(target);
        writer.Header(drawing);
        writer.Classes();
        writer.Tables(drawing);
        writer.Blocks();
        writer.Begin("ENTITIES");
        foreach (var entity in drawing.Entities)
        {
            cancel.ThrowIfCancellationRequested();
            writer.Entity(entity);
        }

        writer.EndSection();
        writer.Objects();
        writer.Group(0, "EOF");
        writer._out.Flush();
    }

    private void Header(Drawing drawing)
    {
        var box = drawing.Extents();
        if (box.IsEmpty) box = new Box(Vec3.Zero, Vec3.Zero);
        Begin("HEADER");
        Variable("$ACADVER", 1, "AC1027");
        Variable("$DWGCODEPAGE", 3, "ANSI_1252");
        Variable("$INSUNITS", 70, drawing.Units);
        Variable("$MEASUREMENT", 70, drawing.Units is 1 or 2 ? 0 : 1);
        Group(9, "$EXTMIN");
        Point(10, box.Min);
        Group(9, "$EXTMAX");
        Point(10, box.Max);
        // Handles are given out in order, so a bound is enough; readers only need it above all that are used.
        Variable("$HANDSEED", 5, (0x200 + drawing.Entities.Count + drawing.Layers.Count).ToString("X", CultureInfo.InvariantCulture));
        EndSection();
    }

    private void Classes()
    {
        Begin("CLASSES");
        Group(0, "CLASS");
        Group(1, "MESH");
        Group(2, "AcDbSubDMesh");
        Group(3, "ObjectDBX Classes");
        Group(90, 0);
        Group(91, 0);
        Group(280, 0);
        Group(281, 1);
        EndSection();
    }

    private void Tables(Drawing drawing)
    {
        Begin("TABLES");
        Table("VPORT", "8", 1);
        Record("VPORT", "AcDbViewportTableRecord", "*Active", "8");
        Point2(10, 0, 0);
        Point2(11, 1, 1);
        var box = drawing.Extents();
        if (!box.IsEmpty) Point2(12, box.Centre.X, box.Centre.Y);
        Group(40, box.IsEmpty ? 1 : Math.Max(box.Size.Y, 1));
        Group(41, 1.5);
        Group(0, "ENDTAB");
        Table("LTYPE", "5", 4);
        LineType("ByBlock", "", []);
        LineType("ByLayer", "", []);
        LineType("Continuous", "Solid line", []);
        LineType("DASHED", "Dashed __ __ __", [0.5, -0.25]);
        Group(0, "ENDTAB");
        Table("LAYER", "2", drawing.Layers.Count + 1);
        LayerRecord(new Layer("0", 0xFFFFFF));
        foreach (var layer in drawing.Layers.Where(l => l.Name != "0")) LayerRecord(layer);
        Group(0, "ENDTAB");
        Table("STYLE", "3", 1);
        Record("STYLE", "AcDbTextStyleTableRecord", "Standard", "3");
        Group(40, 0.0);
        Group(41, 1.0);
        Group(50, 0.0);
        Group(71, 0);
        Group(42, 2.5);
        Group(3, "txt");
        Group(4, "");
        Group(0, "ENDTAB");
        Table("VIEW", "6", 0);
        Group(0, "ENDTAB");
        Table("UCS", "7", 0);
        Group(0, "ENDTAB");
        Table("APPID", "9", 2);
        Record("APPID", "AcDbRegAppTableRecord", "ACAD", "9");
        Record("APPID", "AcDbRegAppTableRecord", Application, "9");
        Group(0, "ENDTAB");
        DimensionStyles();
        Table("BLOCK_RECORD", "1", 2);
        BlockRecord("1F", "*Model_Space", "22");
        BlockRecord("1B", "*Paper_Space", "1E");
        Group(0, "ENDTAB");
        EndSection();
    }

    private void DimensionStyles()
    {
        Table("DIMSTYLE", "A", 1);
        Group(100, "AcDbDimStyleTable");
        Group(71, 1);
        Group(0, "DIMSTYLE");
        Group(105, NextHandle());
        Group(330, "A");
        Group(100, "AcDbSymbolTableRecord");
        Group(100, "AcDbDimStyleTableRecord");
        Group(2, "Standard");
        Group(70, 0);
        Group(0, "ENDTAB");
    }

    private void LayerRecord(Layer layer)
    {
        Record("LAYER", "AcDbLayerTableRecord", layer.Name, "2");
        Group(62, 7);
        Group(420, layer.Rgb);
        Group(6, layer.Dashed ? "DASHED" : "Continuous");
        Group(370, -3);
        Group(390, "F");
    }

    private void LineType(string name, string description, double[] pattern)
    {
        Record("LTYPE", "AcDbLinetypeTableRecord", name, "5");
        Group(3, description);
        Group(72, 65);
        Group(73, pattern.Length);
        Group(40, pattern.Sum(Math.Abs));
        foreach (double dash in pattern)
        {
            Group(49, dash);
            Group(74, 0);
        }
    }

    private void BlockRecord(string handle, string name, string layout)
    {
        Group(0, "BLOCK_RECORD");
        Group(5, handle);
        Group(330, "1");
        Group(100, "AcDbSymbolTableRecord");
        Group(100, "AcDbBlockTableRecord");
        Group(2, name);
        Group(340, layout);
    }

    private void Blocks()
    {
        Begin("BLOCKS");
        Block("1F", "*Model_Space", "20", "21", false);
        Block("1B", "*Paper_Space", "1C", "1D", true);
        EndSection();
    }

    private void Block(string record, string name, string begin, string end, bool paper)
    {
        Group(0, "BLOCK");
        Group(5, begin);
        Group(330, record);
        Group(100, "AcDbEntity");
        if (paper) Group(67, 1);
        Group(8, "0");
        Group(100, "AcDbBlockBegin");
        Group(2, name);
        Group(70, 0);
        Point(10, Vec3.Zero);
        Group(3, name);
        Group(1, "");
        Group(0, "ENDBLK");
        Group(5, end);
        Group(330, record);
        Group(100, "AcDbEntity");
        if (paper) Group(67, 1);
        Group(8, "0");
        Group(100, "AcDbBlockEnd");
    }

    private void Entity(DrawingEntity entity)
    {
        switch (entity)
        {
            case MeshEntity mesh:
                Common("MESH", mesh.Layer, mesh.Rgb, "AcDbSubDMesh");
                Mesh(mesh);
                break;
            case PolylineEntity line:
                Common("LWPOLYLINE", line.Layer, null, "AcDbPolyline");
                Group(90, line.Points.Count);
                Group(70, line.Closed ? 1 : 0);
                Group(38, line.Points.Count > 0 ? line.Points[0].Z : 0.0);
                foreach (var p in line.Points) Point2(10, p.X, p.Y);
                break;
            default:
                Common("LINE", entity.Layer, null, "AcDbLine");
                Point(10, entity.Points[0]);
                Point(11, entity.Points[1]);
                break;
        }

        if (entity.Data.Count == 0) return;
        Group(1001, Application);
        foreach (string text in entity.Data) Group(1000, text.Length > 255 ? text[..255] : text);
    }

    private void Mesh(MeshEntity mesh)
    {
        Group(71, 2);
        Group(72, 0);
        Group(91, 0);
        Group(92, mesh.Points.Count);
        foreach (var p in mesh.Points) Point(10, p);
        int faces = mesh.Triangles.Count / 3;
        Group(93, faces * 4);
        for (int i = 0; i < mesh.Triangles.Count; i++)
        {
            if (i % 3 == 0) Group(90, 3);
            Group(90, mesh.Triangles[i]);
        }

        Group(94, 0);
        Group(95, 0);
        Group(90, 0);
    }

    private void Objects()
    {
        Begin("OBJECTS");
        Dictionary("C", "0", [("ACAD_GROUP", "D"), ("ACAD_LAYOUT", "1A"), ("ACAD_PLOTSTYLENAME", "E")]);
        Dictionary("D", "C", []);
        Dictionary("1A", "C", [("Model", "22"), ("Layout1", "1E")]);
        Group(0, "ACDBDICTIONARYWDFLT");
        Group(5, "E");
        Group(330, "C");
        Group(100, "AcDbDictionary");
        Group(281, 1);
        Group(3, "Normal");
        Group(350, "F");
        Group(100, "AcDbDictionaryWithDefault");
        Group(340, "F");
        Group(0, "ACDBPLACEHOLDER");
        Group(5, "F");
        Group(330, "E");
        Layout("22", "Model", 0, "1F", 1024);
        Layout("1E", "Layout1", 1, "1B", 0);
        EndSection();
    }

    private void Dictionary(string handle, string owner, (string Name, string Handle)[] entries)
    {
        Group(0, "DICTIONARY");
        Group(5, handle);
        Group(330, owner);
        Group(100, "AcDbDictionary");
        Group(281, 1);
        foreach (var (name, target) in entries)
        {
            Group(3, name);
            Group(350, target);
        }
    }

    private void Layout(string handle, string name, int tab, string block, int flags)
    {
        Group(0, "LAYOUT");
        Group(5, handle);
        Group(330, "1A");
        Group(100, "AcDbPlotSettings");
        Group(1, "");
        Group(70, flags + 688);
        Group(72, 0);
        Group(73, 0);
        Group(74, 5);
        Group(100, "AcDbLayout");
        Group(1, name);
        Group(70, 1);
        Group(71, tab);
        Group(330, block);
    }

    private void Common(string type, string layer, int? rgb, string subclass)
    {
        Group(0, type);
        Group(5, NextHandle());
        Group(330, "1F");
        Group(100, "AcDbEntity");
        Group(8, layer);
        if (rgb is { } colour) Group(420, colour);
        Group(100, subclass);
    }

    private void Table(string name, string handle, int count)
    {
        Group(0, "TABLE");
        Group(2, name);
        Group(5, handle);
        Group(330, "0");
        Group(100, "AcDbSymbolTable");
        Group(70, count);
    }

    private void Record(string type, string subclass, string name, string owner)
    {
        Group(0, type);
        Group(5, NextHandle());
        Group(330, owner);
        Group(100, "AcDbSymbolTableRecord");
        Group(100, subclass);
        Group(2, name);
        Group(70, 0);
    }

    private string NextHandle() => (_handle++).ToString("X", CultureInfo.InvariantCulture);

    private void Begin(string section)
    {
        Group(0, "SECTION");
        Group(2, section);
    }

    private void EndSection() => Group(0, "ENDSEC");

    private void Variable(string name, int code, object value)
    {
        Group(9, name);
        if (value is int number) Group(code, number);
        else Group(code, (string)value);
    }

    private void Point(int code, Vec3 p)
    {
        Group(code, p.X);
        Group(code + 10, p.Y);
        Group(code + 20, p.Z);
    }

    private void Point2(int code, double x, double y)
    {
        Group(code, x);
        Group(code + 10, y);
    }

    private void Group(int code, string value)
    {
        Code(code);
        _out.WriteLine(value.ReplaceLineEndings(" "));
    }

    private void Group(int code, int value)
    {
        Code(code);
        _out.WriteLine(value.ToString(CultureInfo.InvariantCulture));
    }

    private void Group(int code, double value)
    {
        Code(code);
        string text = value.ToString("R", CultureInfo.InvariantCulture);
        _out.WriteLine(text.AsSpan().IndexOfAny('.', 'E') < 0 ? text + ".0" : text);
    }

    private void Code(int code) => _out.WriteLine(code.ToString(CultureInfo.InvariantCulture).PadLeft(3));
}
