using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Values of variables whose kind is known at run time.</summary>
internal static class Variables
{
    /// <summary>Reads or writes a value; in DWG handles are hard pointers.</summary>
    public static object Exchange(Fields f, VariableKind kind, int code, object value) =>
        kind switch
        {
            VariableKind.Double => f.Double(code, (double)value),
            VariableKind.Angle => f.Angle(code, (double)value),
            VariableKind.Short => (long)f.Short(code, (int)(long)value),
            VariableKind.Long => (long)f.Long(code, (int)(long)value),
            VariableKind.Byte => (long)f.Byte(code, (int)(long)value),
            VariableKind.Bit => f.Dwg is { } d
                ? (d.Bit((long)value != 0) ? 1L : 0L)
                : (long)f.Short(code, (int)(long)value),
            VariableKind.Text => f.Text(code, (string)value),
            VariableKind.Colour => f.Dwg is { } d
                ? (long)d.Colour(code, new CadColour((short)(long)value)).Index
                : (long)f.Short(code, (int)(long)value),
            VariableKind.Point => f.Point(code, (Vec3)value),
            VariableKind.Flat => f.Flat(code, (Vec2)value),
            VariableKind.Handle => f.Reference(code, (Handle)value),
            _ => code >= 340 || f.Dwg is not null
                ? f.Reference(code, (Handle)value)
                : f.Symbol(code, (Handle)value, Table(kind)),
        };

    /// <summary>The table a kind of handle points into.</summary>
    public static SymbolKind Table(VariableKind kind) =>
        kind switch
        {
            VariableKind.Style => SymbolKind.Style,
            VariableKind.Block => SymbolKind.Block,
            VariableKind.LineType => SymbolKind.LineType,
            VariableKind.Layer => SymbolKind.Layer,
            VariableKind.Ucs => SymbolKind.Ucs,
            _ => SymbolKind.DimensionStyle,
        };
}
