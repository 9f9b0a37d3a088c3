namespace SteadyLintel.Cad;

/// <summary>A dimension style.</summary>
public sealed class DimensionStyle : SymbolRecord
{
    private readonly object[] _values = [.. DimensionVariable.All.Select(v => v.Initial)];

    /// <inheritdoc/>
    public override string Type => "DIMSTYLE";

    /// <inheritdoc/>
    internal override SymbolKind Table => SymbolKind.DimensionStyle;

    /// <summary>The value of a variable by its name, <c>DIMTXT</c>: double, long, text or <see cref="Cad.Handle"/>.</summary>
    /// <exception cref="KeyNotFoundException">There is no such variable.</exception>
    public object this[string name]
    {
        get => _values[Index(name)];
        set => _values[Index(name)] = value.GetType() == _values[Index(name)].GetType() ? value : throw new ArgumentException($"{name} takes {_values[Index(name)].GetType().Name}.");
    }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        int flags = Start(f, "AcDbDimStyleTableRecord", 0);
        for (int i = 0; i < _values.Length; i++)
        {
            var variable = DimensionVariable.All[i];
            if (variable.Code == 0 && f.Dwg is null) continue;
            // A drawing of an older form may carry newer variables in DXF; DWG has just those of its version.
            if (f.Dwg is null && f.Reading || f.Since(variable.Since)) _values[i] = Variables.Exchange(f, variable.Kind, variable.Code, _values[i]);
        }

        f.Dwg?.Bit(flags != 0);
    }

    private static int Index(string name)
    {
        int at = Array.FindIndex(DimensionVariable.All, v => v.Name == name);
        return at >= 0 ? at : throw new KeyNotFoundException($"There is no dimension variable {name}.");
    }
}
