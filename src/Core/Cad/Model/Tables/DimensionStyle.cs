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
        set =>
            _values[Index(name)] =
                value.GetType() == _values[Index(name)].GetType()
                    ? value
                    : throw new ArgumentException($"{name} takes {_values[Index(name)].GetType().Name}.");
    }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        int flags = Start(f, "AcDbDimStyleTableRecord", 0);
        if (f.Dwg is { } d && !d.Since(CadVersion.AC1015))
            ExchangeOld(d);
        else
            ExchangeAll(f);
        f.Dwg?.Bit(flags != 0);
    }

    /// <summary>Names of the blocks of arrow heads, as release 13 and 14 have them: both, the first, the second.</summary>
    internal string[] Heads { get; } = ["", "", ""];

    /// <summary>Finds the blocks of arrow heads that were read as names.</summary>
    internal void Resolve(SymbolTable<BlockRecord> blocks)
    {
        for (int i = 0; i < Heads.Length; i++)
            if (Heads[i].Length > 0 && blocks[Heads[i]] is { } block)
                this[HeadNames[i]] = block.Handle;
    }

    private static readonly string[] HeadNames = ["DIMBLK", "DIMBLK1", "DIMBLK2"];

    /// <summary>The variable of a group code that versions before another do not have; null where they have it.</summary>
    /// <param name="code">The group code.</param>
    /// <param name="version">The version that is written.</param>
    public static string? NewerVariable(int code, CadVersion version) =>
        Array.Find(DimensionVariable.All, v => v.Code == code && v.Since > version)?.Name;

    private void ExchangeOld(DwgFields d)
    {
        foreach (var variable in OldDimensionVariables.All)
        {
            switch (variable.Name)
            {
                case "DIMFIT":
                    var fit = OldDimensionVariables.OfFit(
                        d.RawByte((int)OldDimensionVariables.Fit((long)this["DIMATFIT"], (long)this["DIMTMOVE"]))
                    );
                    (this["DIMATFIT"], this["DIMTMOVE"]) = (fit.Fit, fit.Move);
                    break;
                case "DIMUNIT":
                    var unit = OldDimensionVariables.OfUnit(
                        d.Short((int)OldDimensionVariables.Unit((long)this["DIMLUNIT"], (long)this["DIMFRAC"]))
                    );
                    (this["DIMLUNIT"], this["DIMFRAC"]) = (unit.Unit, unit.Fraction);
                    break;
                case var name when Array.IndexOf(HeadNames, name) is >= 0 and var head:
                    Heads[head] = d.Text(variable.Code, Heads[head]);
                    break;
                default:
                    this[variable.Name] = Variables.Exchange(d, variable.Kind, variable.Code, this[variable.Name]);
                    break;
            }
        }
    }

    private void ExchangeAll(Fields f)
    {
        for (int i = 0; i < _values.Length; i++)
        {
            var variable = DimensionVariable.All[i];
            if (variable.Code == 0 && f.Dwg is null)
                continue;
            // A drawing of an older form may carry newer variables in DXF; DWG has just those of its version.
            if (f.Dwg is null && f.Reading || f.Since(variable.Since))
                _values[i] = Variables.Exchange(f, variable.Kind, variable.Code, _values[i]);
        }
    }

    private static int Index(string name)
    {
        int at = Array.FindIndex(DimensionVariable.All, v => v.Name == name);
        return at >= 0 ? at : throw new KeyNotFoundException($"There is no dimension variable {name}.");
    }
}
