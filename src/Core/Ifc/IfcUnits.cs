using System.Collections.Concurrent;
using System.Globalization;
using SteadyLintel.Step;

namespace SteadyLintel.Ifc;

/// <summary>The units a project declares (IfcUnitAssignment, ISO 16739-1 clause 8.11).</summary>
public sealed class IfcUnits
{
    private static readonly Dictionary<string, double> Prefixes = new()
    {
        ["EXA"] = 1e18,
        ["PETA"] = 1e15,
        ["TERA"] = 1e12,
        ["GIGA"] = 1e9,
        ["MEGA"] = 1e6,
        ["KILO"] = 1e3,
        ["HECTO"] = 1e2,
        ["DECA"] = 10,
        ["DECI"] = 1e-1,
        ["CENTI"] = 1e-2,
        ["MILLI"] = 1e-3,
        ["MICRO"] = 1e-6,
        ["NANO"] = 1e-9,
        ["PICO"] = 1e-12,
        ["FEMTO"] = 1e-15,
        ["ATTO"] = 1e-18,
    };

    private static readonly Dictionary<string, string> Symbols = new()
    {
        ["METRE"] = "m",
        ["SQUARE_METRE"] = "m²",
        ["CUBIC_METRE"] = "m³",
        ["GRAM"] = "g",
        ["SECOND"] = "s",
        ["KELVIN"] = "K",
        ["DEGREE_CELSIUS"] = "°C",
        ["RADIAN"] = "rad",
        ["NEWTON"] = "N",
        ["PASCAL"] = "Pa",
        ["WATT"] = "W",
        ["JOULE"] = "J",
        ["HERTZ"] = "Hz",
        ["VOLT"] = "V",
        ["AMPERE"] = "A",
        ["LUX"] = "lx",
        ["LUMEN"] = "lm",
        ["CANDELA"] = "cd",
        ["STERADIAN"] = "sr",
        ["OHM"] = "Ω",
    };

    private static readonly Dictionary<string, string> PrefixSymbols = new()
    {
        ["KILO"] = "k",
        ["MEGA"] = "M",
        ["GIGA"] = "G",
        ["CENTI"] = "c",
        ["MILLI"] = "m",
        ["DECI"] = "d",
        ["MICRO"] = "µ",
    };

    private readonly Dictionary<string, int> _byKind = [];
    private readonly ConcurrentDictionary<string, string> _symbols = new();
    private readonly IfcModel _model;

    /// <summary>Reads the assignment of the project, or the first one in the file when the project names none.</summary>
    /// <param name="model">The model.</param>
    public IfcUnits(IfcModel model)
    {
        _model = model;
        int assignment = model.OfType("IfcProject").Select(p => model.Ref(p, "UnitsInContext")).Append(-1).First();
        if (assignment < 0)
            assignment = model.OfType("IfcUnitAssignment").Append(-1).First();
        Assignment = assignment;
        foreach (int unit in model.Refs(assignment, "Units"))
            if (
                (
                    model.Get(unit, "UnitType").Enumeration
                    ?? (model.Is(unit, "IfcMonetaryUnit") ? MeasureKinds.Money : null)
                )
                    is { } kind
                && kind != "USERDEFINED"
            )
                _byKind.TryAdd(kind, unit);
        LengthUnit = _byKind.GetValueOrDefault("LENGTHUNIT", -1);
        LengthDeclared = LengthUnit >= 0 && double.IsFinite(Factor(LengthUnit));
        Metres = LengthDeclared ? Factor(LengthUnit) : 1;
        LengthName = LengthDeclared ? Name(LengthUnit) : "metre";
        double angle = _byKind.TryGetValue("PLANEANGLEUNIT", out int plane) ? Factor(plane) : 1;
        Radians = double.IsFinite(angle) && angle > 0 ? angle : 1;
    }

    /// <summary>The IfcUnitAssignment, -1 when there is none.</summary>
    public int Assignment { get; }

    /// <summary>The unit instance for lengths, -1 when there is none.</summary>
    public int LengthUnit { get; }

    /// <summary>The unit instance assigned to each kind, <c>AREAUNIT</c> and so on.</summary>
    public IReadOnlyDictionary<string, int> ByKind => _byKind;

    /// <summary>Whether a usable length unit is declared; without one metres are assumed.</summary>
    public bool LengthDeclared { get; }

    /// <summary>Metres in one length unit of the file.</summary>
    public double Metres { get; }

    /// <summary>The length unit's name in lower case: <c>millimetre</c>, <c>foot</c>.</summary>
    public string LengthName { get; }

    /// <summary>Radians in one plane angle unit of the file; 1 when none is declared.</summary>
    public double Radians { get; }

    /// <summary>The size of a named unit in its SI base unit (metre, square metre, radian …); NaN when it is unknown.</summary>
    /// <param name="unit">Its position among the instances of the file.</param>
    public double Factor(int unit) => Factor(unit, 0);

    /// <summary>A unit's name in lower case; empty when unknown.</summary>
    /// <param name="unit">Its position among the instances of the file.</param>
    public string Name(int unit)
    {
        if (!_model.Is(unit, "IfcSIUnit"))
            return (_model.Text(unit, "Name") ?? "").ToLowerInvariant();
        string prefix = _model.Get(unit, "Prefix").Enumeration?.ToLowerInvariant() ?? "";
        return prefix + (_model.Get(unit, "Name").Enumeration ?? "").ToLowerInvariant().Replace('_', ' ');
    }

    /// <summary>A unit's symbol as people write it: <c>mm</c>, <c>m²</c>, <c>kg/m³</c>; its name when there is no common symbol.</summary>
    /// <param name="unit">Its position among the instances of the file.</param>
    public string Symbol(int unit) => Symbol(unit, false);

    private string Symbol(int unit, bool within)
    {
        if (_model.Is(unit, "IfcSIUnit"))
        {
            string name = _model.Get(unit, "Name").Enumeration ?? "",
                prefix = _model.Get(unit, "Prefix").Enumeration ?? "";
            return PrefixSymbols.GetValueOrDefault(prefix, prefix.ToLowerInvariant())
                + Symbols.GetValueOrDefault(name, name.ToLowerInvariant());
        }

        if (_model.Is(unit, "IfcConversionBasedUnit"))
            return Name(unit) switch
            {
                "foot" => "ft",
                "inch" => "in",
                "degree" => "°",
                var other => other,
            };
        if (_model.Is(unit, "IfcMonetaryUnit"))
            return _model.Get(unit, "Currency").Enumeration ?? _model.Text(unit, "Currency") ?? "";
        // A derived unit is made of named ones (ISO 16739-1, IfcDerivedUnitElement); one within another may well be itself.
        if (within || !_model.Is(unit, "IfcDerivedUnit"))
            return Name(unit);
        var over = new List<string>();
        var under = new List<string>();
        foreach (int element in _model.Refs(unit, "Elements"))
        {
            int exponent = _model.Get(element, "Exponent").Integer;
            string symbol = Symbol(_model.Ref(element, "Unit"), true);
            string power = Math.Abs((long)exponent) switch
            {
                1 => "",
                2 => "²",
                3 => "³",
                var n => "^" + n,
            };
            (exponent < 0 ? under : over).Add(symbol + power);
        }

        string top = over.Count == 0 ? "1" : string.Join("·", over);
        return under.Count == 0 ? top : top + "/" + string.Join("·", under);
    }

    /// <summary>The symbol that values of a measure type carry when they name no unit of their own; empty for a measure without
    /// unit.</summary>
    /// <param name="measure">The defined type, in capital letters.</param>
    public string SymbolFor(string measure) =>
        _symbols.GetOrAdd(
            measure,
            static (m, units) =>
                MeasureKinds.UnitKind(m) is { } kind && units._byKind.TryGetValue(kind, out int unit)
                    ? units.Symbol(unit)
                    : "",
            this
        );

    /// <summary>The size of the unit assigned to a kind (<c>AREAUNIT</c>) in SI; NaN when none is assigned.</summary>
    /// <param name="kind">As the standard spells it.</param>
    public double Assigned(string kind) => _byKind.TryGetValue(kind, out int unit) ? Factor(unit) : double.NaN;

    /// <summary>What a unit is, so that units of two models can be compared: its base units with their powers, and its size in
    /// them.</summary>
    /// <param name="unit">Its position among the instances of the file.</param>
    /// <returns>Equal texts for equal units: a kilopascal of one file and of another, a conversion-based foot whatever it is called. Money
    /// goes by its currency.</returns>
    public string Signature(int unit)
    {
        if (_model.Is(unit, "IfcMonetaryUnit"))
            return _model.Get(unit, "Currency").Enumeration ?? _model.Text(unit, "Currency") ?? "";
        if (!_model.Is(unit, "IfcDerivedUnit"))
            return string.Create(CultureInfo.InvariantCulture, $"{Base(unit, 0)} {Factor(unit):G9}");
        var powers = new SortedDictionary<string, int>(StringComparer.Ordinal);
        foreach (int element in _model.Refs(unit, "Elements"))
        {
            string name = Base(_model.Ref(element, "Unit"), 0);
            powers[name] = powers.GetValueOrDefault(name) + _model.Get(element, "Exponent").Integer;
        }

        return string.Join(" ", powers.Select(p => $"{p.Key}^{p.Value}"))
            + string.Create(CultureInfo.InvariantCulture, $" {Factor(unit):G9}");
    }

    // The SI unit that a unit is a multiple of, or its own name.
    private string Base(int unit, int depth)
    {
        if (depth > 8 || _model.Is(unit, "IfcContextDependentUnit"))
            return _model.Text(unit, "Name") ?? "";
        return _model.Is(unit, "IfcConversionBasedUnit")
            ? Base(_model.Ref(_model.Ref(unit, "ConversionFactor"), "UnitComponent"), depth + 1)
            : _model.Get(unit, "Name").Enumeration ?? "";
    }

    private double Factor(int unit, int depth, bool within = false)
    {
        if (depth > 8)
            return double.NaN;
        if (_model.Is(unit, "IfcSIUnit"))
        {
            string name = _model.Get(unit, "Name").Enumeration ?? "";
            double prefix = _model.Get(unit, "Prefix").Enumeration is { } p
                ? Prefixes.GetValueOrDefault(p, double.NaN)
                : 1;
            return name switch
            {
                "SQUARE_METRE" => prefix * prefix,
                "CUBIC_METRE" => prefix * prefix * prefix,
                _ => prefix,
            };
        }

        // As for its symbol: a derived unit within another has no size, and asking it a hundred times a hundred times has no end.
        if (_model.Is(unit, "IfcDerivedUnit"))
            return within
                ? double.NaN
                : _model
                    .Refs(unit, "Elements")
                    .Aggregate(1.0, (size, e) =>
                        size
                        * Math.Pow(Factor(_model.Ref(e, "Unit"), depth + 1, true), _model.Get(e, "Exponent").Integer)
                    );
        if (!_model.Is(unit, "IfcConversionBasedUnit"))
            return double.NaN;
        int factor = _model.Ref(unit, "ConversionFactor");
        double value = _model.Get(factor, "ValueComponent").Real;
        return value * Factor(_model.Ref(factor, "UnitComponent"), depth + 1, within);
    }
}
