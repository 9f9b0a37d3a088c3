using System.Globalization;
using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Reads the entities of <see cref="Drawing"/> back from ASCII DXF of version AC1021 or later (UTF-8). Other entities are passed over.</summary>
public sealed class DxfReader
{
    private readonly StreamReader _in;
    private readonly Drawing _drawing = new();
    private int _line;
    private int _code;
    private string _value = "";

    private DxfReader(Stream source) => _in = new StreamReader(source, new UTF8Encoding(false), false, 1 << 16, leaveOpen: true);

    /// <summary>Reads a drawing.</summary>
    /// <exception cref="FormatException">A group code is not a number, or the file ends inside a group; the message names the line.</exception>
    public static Drawing Read(Stream source)
    {
        var reader = new DxfReader(source);
        string section = "";
        reader.Next();
        while (!(reader._code == 0 && reader._value == "EOF"))
        {
            if (reader._code == 2 && section == "?") section = reader._value;
            if (reader._code == 0) section = reader._value == "SECTION" ? "?" : reader._value == "ENDSEC" ? "" : section;
            if (section == "HEADER" && reader._code == 9) reader.Variable();
            else if (section == "TABLES" && reader is { _code: 0, _value: "LAYER" }) reader.LayerRecord();
            else if (section == "ENTITIES" && reader._code == 0) reader.Entity();
            else reader.Next();
        }

        return reader._drawing;
    }

    private void Variable()
    {
        string name = _value;
        Next();
        if (name == "$INSUNITS") _drawing.Units = (int)Number();
    }

    private void LayerRecord()
    {
        string name = "0", type = "";
        int colour = 0;
        for (Next(); _code != 0; Next())
        {
            if (_code == 2) name = _value;
            else if (_code == 420) colour = (int)Number();
            else if (_code == 6) type = _value;
        }

        _drawing.Layers.Add(new Layer(name, colour, type == "DASHED"));
    }

    private void Entity()
    {
        string type = _value, layer = "0", application = "";
        var data = new List<string>();
        var points = new List<Vec3>();
        var corners = new List<int>();
        int? colour = null;
        int flags = 0, faceItems = -1, pending = 0;
        double elevation = 0;
        for (Next(); _code != 0; Next())
        {
            switch (_code)
            {
                case 8: layer = _value; break;
                case 420: colour = (int)Number(); break;
                case 70: flags = (int)Number(); break;
                case 38: elevation = Number(); break;
                case 10 or 11: points.Add(new Vec3(Number(), 0, elevation)); break;
                case 20 or 21 when points.Count > 0: points[^1] = points[^1] with { Y = Number() }; break;
                case 30 or 31 when points.Count > 0: points[^1] = points[^1] with { Z = Number() }; break;
                case 93: faceItems = (int)Number(); break;
                case 94: faceItems = 0; break;
                case 90 when faceItems > 0:
                    faceItems--;
                    if (pending == 0) pending = (int)Number();
                    else
                    {
                        corners.Add((int)Number());
                        pending--;
                    }

                    break;
                case 1001: application = _value; break;
                case 1000 when application == DxfWriter.Application: data.Add(_value); break;
            }
        }

        if (type == "MESH") _drawing.Entities.Add(new MeshEntity(layer, data, points, corners, colour));
        else if (type == "LWPOLYLINE") _drawing.Entities.Add(new PolylineEntity(layer, data, points, (flags & 1) != 0));
        else if (type == "LINE" && points.Count == 2) _drawing.Entities.Add(new LineEntity(layer, data, points));
    }

    private double Number() => double.TryParse(_value, NumberStyles.Float, CultureInfo.InvariantCulture, out double value) ? value
        : throw new FormatException($"Line {_line}: '{_value}' is not a number.");

    private void Next()
    {
        string? code = _in.ReadLine(), value = _in.ReadLine();
        _line += 2;
        if (code is null || value is null) throw new FormatException($"Line {_line}: the drawing ends before EOF.");
        if (!int.TryParse(code, NumberStyles.AllowLeadingWhite | NumberStyles.AllowTrailingWhite | NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out _code))
            throw new FormatException($"Line {_line - 1}: '{code}' is not a group code.");
        _value = _code is >= 1000 and < 1010 or 1 or 2 or 3 or 8 ? value : value.Trim();
    }
}
