namespace SteadyLintel.Ifc;

/// <summary>Which of a product's representations serves which purpose, by RepresentationIdentifier (ISO 16739-1,
/// IfcShapeRepresentation).</summary>
public static class Representations
{
    /// <summary>What a representation item costs of a shape's <see cref="Geometry.WorkBudget"/> before anything of it is built: mapped
    /// items may
    /// lead to one another, ten each time.</summary>
    public const int ItemCost = 1000;

    private static readonly string[] Bodies = ["Body", "Facetation", "Tessellation", "Surface", "Body-Fallback"];
    private static readonly HashSet<string> NotABody =
    [
        "Axis",
        "Box",
        "FootPrint",
        "Annotation",
        "Clearance",
        "Profile",
        "CoG",
        "Lighting",
        "Reference",
        "Plan",
    ];

    /// <summary>For plans, the best first: what was drawn for them, the outline, the axis.</summary>
    public static readonly IReadOnlyList<string> ForPlans = ["Annotation", "Plan", "FootPrint", "Axis"];

    /// <summary>The representation that shows a product's body, -1 when it has none.</summary>
    /// <param name="model">The model.</param>
    /// <param name="product">Its position among the instances of the file.</param>
    public static int Body(IfcModel model, int product) =>
        Best(model, model.Refs(model.Ref(product, "Representation"), "Representations"));

    /// <summary>The representation of a product for a purpose, such as <c>Axis</c>, <c>FootPrint</c>, <c>Box</c>, <c>Annotation</c>,
    /// <c>Clearance</c>; -1 when it has none.</summary>
    /// <param name="model">The model.</param>
    /// <param name="product">Its position among the instances of the file.</param>
    /// <param name="purpose">As the representation is identified: <c>Axis</c>, <c>FootPrint</c>.</param>
    public static int For(IfcModel model, int product, string purpose)
    {
        foreach (int representation in model.Refs(model.Ref(product, "Representation"), "Representations"))
            if (model.Text(representation, "RepresentationIdentifier") == purpose)
                return representation;
        return -1;
    }

    /// <summary>The representation maps of a type object that show its body.</summary>
    internal static IEnumerable<int> MapsOfType(IfcModel model, int type)
    {
        foreach (int map in model.Refs(type, "RepresentationMaps"))
            if (Best(model, [model.Ref(map, "MappedRepresentation")]) >= 0)
                yield return map;
    }

    private static int Best(IfcModel model, int[] representations)
    {
        int best = -1,
            rank = int.MaxValue;
        foreach (int representation in representations)
        {
            if (representation < 0)
                continue;
            string name = model.Text(representation, "RepresentationIdentifier") ?? "";
            int found = Array.IndexOf(Bodies, name);
            if (found < 0)
                found = NotABody.Contains(name) ? int.MaxValue : Bodies.Length;
            if (found < rank)
                (best, rank) = (representation, found);
        }

        return best;
    }
}
