using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>The density of materials, kg/m³.</summary>
/// <remarks>What the model declares; where it declares none, what is common for the material of that name: steel 7850 (EN 10365 gives the
/// masses of sections by it), reinforced concrete 2500 and aluminium 2700 (EN 1991-1-1, annex A, from memory), glass 2500 (EN 572-1, from
/// memory).</remarks>
/// <param name="model">The model.</param>
internal sealed class Density(IfcModel model)
{
    private static readonly (string Word, double Density)[] Common =
    [
        ("steel", 7850),
        ("stahl", 7850),
        ("concrete", 2500),
        ("beton", 2500),
        ("alumin", 2700),
        ("glass", 2500),
        ("glas", 2500),
    ];

    private readonly Dictionary<string, double> _declared = Declared(model);

    /// <summary>The density of a material and who says so; null where nobody does.</summary>
    public (double Value, string By)? Of(string material)
    {
        if (_declared.TryGetValue(material, out double declared))
            return (declared, "declared");
        foreach (var (word, density) in Common)
            if (material.Contains(word, StringComparison.OrdinalIgnoreCase))
                return (density, "by the material's name");
        return null;
    }

    private static Dictionary<string, double> Declared(IfcModel model)
    {
        var found = new Dictionary<string, double>(StringComparer.OrdinalIgnoreCase);
        // In a unit of its own a density would have to be converted; then nothing is declared as far as this goes.
        if (model.OfType("IfcDerivedUnit").Any(u => model.Get(u, "UnitType").Enumeration == "MASSDENSITYUNIT"))
            return found;
        foreach (int set in model.OfType("IfcMaterialProperties"))
        {
            string material = model.Name(model.Ref(set, "Material"));
            if (model.Get(set, "MassDensity") is { Kind: Step.StepKind.Number } old)
                found.TryAdd(material, old.Real);
            foreach (int property in model.Refs(set, "Properties").Concat(model.Refs(set, "ExtendedProperties")))
            {
                if (model.Name(property) != "MassDensity" || model.Ref(property, "Unit") >= 0)
                    continue;
                var value = model.Get(property, "NominalValue");
                if (value.Kind == Step.StepKind.Typed && value.Inner.Kind == Step.StepKind.Number)
                    found.TryAdd(material, value.Inner.Real);
            }
        }

        return found;
    }
}
