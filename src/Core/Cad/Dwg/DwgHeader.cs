using System.Globalization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>The header variables of a drawing to and from DWG.</summary>
internal sealed class DwgHeader(Drawing drawing, DwgFields fields)
{
    private const double MillisecondsADay = 86_400_000;
    private Dictionary<string, Handle> _known = [];

    /// <summary>Handles by their @ names: given when writing, found when reading.</summary>
    public IReadOnlyDictionary<string, Handle> Known => _known;

    /// <summary>Symbol handles by variable, to be named once the tables are there.</summary>
    public List<(DwgHeaderVariable Variable, Handle Handle)> Symbols { get; } = [];

    /// <summary>Reads or writes all variables of the version.</summary>
    public void Exchange(Dictionary<string, Handle>? known = null)
    {
        if (known is not null)
            _known = known;
        foreach (var variable in DwgHeaderVariable.All)
        {
            if (!fields.Since(variable.Since) || fields.Version > variable.Until)
                continue;
            // The plot style of new entities has a handle only where it is of its own.
            if (variable.Name == "@CEPSN" && drawing.Header.Number("$CEPSNTYPE") != 3)
                continue;
            One(variable);
        }
    }

    private void One(DwgHeaderVariable variable)
    {
        switch (variable.Kind)
        {
            case VariableKind.Handle:
                _known[variable.Name] =
                    fields.Version < CadVersion.AC1021 || variable.Name != "@SEED"
                        ? fields.Handle(Value(variable), variable.Hold)
                        : Seed();
                break;
            case VariableKind.Style
            or VariableKind.Block
            or VariableKind.LineType
            or VariableKind.Layer
            or VariableKind.DimensionStyle
            or VariableKind.Ucs:
                var symbol = fields.Handle(fields.Reading ? default : Symbol(variable), variable.Hold);
                Symbols.Add((variable, symbol));
                break;
            default:
                Plain(variable);
                break;
        }
    }

    private Handle Value(DwgHeaderVariable variable) =>
        fields.Reading ? default : _known.GetValueOrDefault(variable.Name);

    // The next handle is among the data also where handles have a stream of their own.
    private Handle Seed()
    {
        var seed = _known.GetValueOrDefault("@SEED");
        if (fields is DwgReadFields read)
            return new Handle(read.Data.Handle().Value);
        ((DwgWriteFields)fields).Data.Handle(HandleKind.Plain, seed);
        return seed;
    }

    private void Plain(DwgHeaderVariable variable)
    {
        bool named = variable.Name[0] == '$';
        var groups = named && !fields.Reading ? drawing.Header[variable.Name] : [];
        object value = groups.Count > 0 ? FromGroups(variable.Kind, groups) : Initial(variable);
        object found = variable.Kind switch
        {
            VariableKind.Time => Time((double)value),
            VariableKind.LongLong => fields.LongLong((long)value),
            VariableKind.Bit => fields.Bit((long)value != 0) ? 1L : 0L,
            VariableKind.Colour => (long)fields.Colour(62, new CadColour((short)(long)value)).Index,
            _ => Variables.Exchange(fields, variable.Kind, variable.Code, value),
        };
        if (named && fields.Reading)
            drawing.Header[variable.Name] = ToGroups(variable, found);
    }

    private double Time(double days)
    {
        int day = fields.Long((int)Math.Floor(days));
        return day + (fields.Long((int)Math.Round((days - Math.Floor(days)) * MillisecondsADay)) / MillisecondsADay);
    }

    private static object FromGroups(VariableKind kind, IReadOnlyList<CadGroup> groups) =>
        kind switch
        {
            VariableKind.Point => new Vec3(
                groups[0].Number,
                groups.Count > 1 ? groups[1].Number : 0,
                groups.Count > 2 ? groups[2].Number : 0
            ),
            VariableKind.Flat => new Vec2(groups[0].Number, groups.Count > 1 ? groups[1].Number : 0),
            VariableKind.Angle => groups[0].Code == 50 ? groups[0].Number * (Math.PI / 180) : groups[0].Number,
            VariableKind.Double or VariableKind.Time => groups[0].Number,
            VariableKind.Text => groups[0].Text,
            _ => (long)groups[0].Number,
        };

    private static IReadOnlyList<CadGroup> ToGroups(DwgHeaderVariable variable, object value) =>
        value switch
        {
            Vec3 p => [new(variable.Code, p.X), new(variable.Code + 10, p.Y), new(variable.Code + 20, p.Z)],
            Vec2 p => [new(variable.Code, p.X), new(variable.Code + 10, p.Y)],
            double angle when variable is { Kind: VariableKind.Angle, Code: 50 } =>
            [
                new(variable.Code, DxfWriteFields.Degrees(angle)),
            ],
            _ => [new(variable.Code, variable.Code == 290 ? (long)value != 0 : value)],
        };

    private static object Initial(DwgHeaderVariable variable)
    {
        string[] parts = variable.Initial.Split(',');
        double Part(int i) =>
            i < parts.Length
            && double.TryParse(parts[i], NumberStyles.Float, CultureInfo.InvariantCulture, out double v)
                ? v
                : 0;
        return variable.Kind switch
        {
            VariableKind.Point => new Vec3(Part(0), Part(1), Part(2)),
            VariableKind.Flat => new Vec2(Part(0), Part(1)),
            VariableKind.Double or VariableKind.Angle or VariableKind.Time => Part(0),
            VariableKind.Text => variable.Name == "-" ? "" : variable.Initial,
            _ => (long)Part(0),
        };
    }

    private Handle Symbol(DwgHeaderVariable variable)
    {
        string name = drawing.Header.Text(variable.Name) is { Length: > 0 } given ? given : variable.Initial;
        if (name.Length == 0)
            return default;
        var table = drawing.Table(Variables.Table(variable.Kind));
        // The blocks of arrow heads begin with an underscore, which DXF may leave out.
        return (table.Named(name) ?? (variable.Kind == VariableKind.Block ? table.Named("_" + name) : null))?.Handle
            ?? default;
    }
}
