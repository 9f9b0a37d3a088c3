namespace SteadyLintel.Ifc;

/// <summary>A material as an element uses it.</summary>
/// <param name="Name">The material's name.</param>
/// <param name="Thickness">Of its layer, metres; null when it is not in a layer.</param>
/// <param name="Role">The profile, constituent or layer name, empty when none.</param>
/// <param name="Placed">How a usage places the set: from where layers lie, at which cardinal point a profile hangs; null when nothing says
/// so.</param>
public sealed record MaterialUse(string Name, double? Thickness, string Role, string? Placed = null);

/// <summary>Reads materials: single, lists, layer sets, profile sets, constituent sets, and usages of these.</summary>
/// <param name="model">The model.</param>
/// <param name="relations">Its relationships.</param>
/// <param name="units">Its units.</param>
public sealed class MaterialReader(IfcModel model, IfcRelations relations, IfcUnits units)
{
    // IfcCardinalPointReference of ISO 16739-1, the nine points of the bounding box and the first of the others.
    private static readonly string[] CardinalPoints =
    [
        "",
        "bottom left",
        "bottom centre",
        "bottom right",
        "mid-depth left",
        "mid-depth centre",
        "mid-depth right",
        "top left",
        "top centre",
        "top right",
        "centroid",
        "bottom in line with the centroid",
        "left in line with the centroid",
        "right in line with the centroid",
        "top in line with the centroid",
        "shear centre",
    ];

    /// <summary>The materials of an element, of its type when it has none of its own.</summary>
    /// <param name="element">Its position among the instances of the file.</param>
    public IReadOnlyList<MaterialUse> Of(int element)
    {
        var uses = new List<MaterialUse>();
        foreach (int select in relations.Material[element])
            Add(select, uses, 0);
        if (uses.Count == 0 && relations.Type.First(element) is >= 0 and var type)
            foreach (int select in relations.Material[type])
                Add(select, uses, 0);
        return uses;
    }

    /// <summary>The section of a member by its profile set, or its type's, and the cardinal point at which the profile hangs (ISO 16739-1,
    /// IfcMaterialProfileSetUsage).</summary>
    /// <param name="element">Its position among the instances of the file.</param>
    /// <returns>An empty name and 0 where nothing says so.</returns>
    public (string Section, int CardinalPoint) ProfileOf(int element)
    {
        string section = "";
        int[] selects = [.. relations.Material[element], .. relations.Material[relations.Type.First(element)]];
        foreach (int select in selects)
        {
            bool usage = model.Is(select, "IfcMaterialProfileSetUsage");
            int set = usage ? model.Ref(select, "ForProfileSet") : select;
            int profile = model.Is(set, "IfcMaterialProfile")
                ? set
                : model.Refs(set, "MaterialProfiles").Append(-1).First();
            if (!model.Is(profile, "IfcMaterialProfile"))
                continue;
            string name = model.Text(model.Ref(profile, "Profile"), "ProfileName") ?? "";
            if (section.Length == 0)
                section = name.Length > 0 ? name : model.Name(profile);
            if (
                usage
                && model.Get(select, "CardinalPoint").Integer is var point
                && point > 0
                && point < CardinalPoints.Length
            )
                return (section, (int)point);
        }

        return (section, 0);
    }

    private void Add(int select, List<MaterialUse> uses, int depth)
    {
        if (select < 0 || depth > 5)
            return;
        switch (model.ClassName(select))
        {
            case "IfcMaterial":
                uses.Add(new MaterialUse(model.Name(select), null, ""));
                break;
            case "IfcMaterialLayerSetUsage":
                Used(model.Ref(select, "ForLayerSet"), Layers(select), uses, depth);
                break;
            case "IfcMaterialProfileSetUsage" or "IfcMaterialProfileSetUsageTapering":
                Used(model.Ref(select, "ForProfileSet"), Cardinal(select), uses, depth);
                break;
            case "IfcMaterialList":
                foreach (int m in model.Refs(select, "Materials"))
                    Add(m, uses, depth + 1);
                break;
            case "IfcMaterialLayerSet":
                foreach (int layer in model.Refs(select, "MaterialLayers"))
                    Add(layer, uses, depth + 1);
                break;
            case "IfcMaterialProfileSet":
                foreach (int profile in model.Refs(select, "MaterialProfiles"))
                    Add(profile, uses, depth + 1);
                break;
            case "IfcMaterialConstituentSet":
                foreach (int constituent in model.Refs(select, "MaterialConstituents"))
                    Add(constituent, uses, depth + 1);
                break;
            case "IfcMaterialLayer" or "IfcMaterialLayerWithOffsets":
                double thickness = model.Get(select, "LayerThickness").Real * units.Metres;
                uses.Add(
                    new MaterialUse(Material(select), double.IsFinite(thickness) ? thickness : null, model.Name(select))
                );
                break;
            case "IfcMaterialProfile" or "IfcMaterialProfileWithOffsets":
                string section = model.Text(model.Ref(select, "Profile"), "ProfileName") ?? "";
                uses.Add(new MaterialUse(Material(select), null, section.Length > 0 ? section : model.Name(select)));
                break;
            case "IfcMaterialConstituent":
                uses.Add(new MaterialUse(Material(select), null, model.Name(select)));
                break;
        }
    }

    private void Used(int set, string? placed, List<MaterialUse> uses, int depth)
    {
        int first = uses.Count;
        Add(set, uses, depth + 1);
        for (int i = first; i < uses.Count; i++)
            uses[i] = uses[i] with { Placed = placed };
    }

    private string? Layers(int usage)
    {
        double offset = model.Get(usage, "OffsetFromReferenceLine").Real * units.Metres;
        string axis = model.Get(usage, "LayerSetDirection").Enumeration switch
        {
            "AXIS1" => "X",
            "AXIS3" => "Z",
            _ => "Y",
        };
        string sense = model.Get(usage, "DirectionSense").Enumeration == "NEGATIVE" ? "-" : "+";
        return double.IsFinite(offset)
            ? FormattableString.Invariant($"layers run to {sense}{axis} from {offset:+0.000;-0.000;0.000} m")
            : null;
    }

    private string? Cardinal(int usage) =>
        model.Get(usage, "CardinalPoint").Integer is var n && n > 0 && n < CardinalPoints.Length
            ? FormattableString.Invariant($"hangs at cardinal point {n}, {CardinalPoints[n]}")
            : null;

    private string Material(int holder) =>
        model.Ref(holder, "Material") is >= 0 and var material ? model.Name(material) : "";
}
