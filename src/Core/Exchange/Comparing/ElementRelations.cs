using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What each element is related to, by the relationships between elements (ISO 16739-1, IfcRelationship): its whole, its parts,
/// the
/// wall that a door is in, what a pipe is connected to, the rooms that a wall bounds.</summary>
/// <remarks>What has a word of its own in a comparison is left out: properties, type, material, classification, groups and the storey.
/// Openings and ports mean their hosts.</remarks>
public sealed class ElementRelations
{
    /// <summary>Parts the word of a relationship and the GlobalId at its other end.</summary>
    public const char Separator = '\t';

    private static readonly string[] ToldElsewhere =
    [
        "IfcRelDefines",
        "IfcRelAssociatesMaterial",
        "IfcRelAssociatesClassification",
        "IfcRelAssignsToGroup",
        "IfcRelContainedInSpatialStructure",
        "IfcRelVoidsElement",
        "IfcRelProjectsElement",
        "IfcRelDeclares",
    ];

    private readonly Dictionary<int, HashSet<string>> _of = [];

    /// <summary>Reads the relationships of a model.</summary>
    public ElementRelations(ModelSnapshot snapshot)
    {
        var model = snapshot.Model;
        foreach (int relation in model.OfType(e => e.Is("IfcRelationship") && !Array.Exists(ToldElsewhere, e.Is)))
        {
            var (one, many) = Ends(model, relation);
            string word = model.ClassName(relation);
            foreach (int a in one)
            {
                foreach (int b in many)
                {
                    Add(snapshot, word, a, b);
                    Add(snapshot, word, b, a);
                }
            }
        }
    }

    /// <summary>The relations of an element, sorted, each <c>IfcRelFillsElement⇥GlobalId</c>.</summary>
    /// <param name="element">The element's instance.</param>
    public string[] Of(int element) =>
        _of.TryGetValue(element, out var set) ? [.. set.Order(StringComparer.Ordinal)] : [];

    private void Add(ModelSnapshot snapshot, string word, int from, int to)
    {
        (from, to) = (Host(snapshot, from), Host(snapshot, to));
        if (from == to || !snapshot.Model.Is(from, "IfcProduct") || snapshot.IsStructure(from))
            return;
        string id = snapshot.Model.GlobalId(to);
        if (id.Length == 0 || snapshot.IsStructure(to))
            return;
        (_of.TryGetValue(from, out var set) ? set : _of[from] = []).Add($"{word}{Separator}{id}");
    }

    private static int Host(ModelSnapshot snapshot, int product)
    {
        var relations = snapshot.Relations;
        foreach (var links in (Links[])[relations.Voided, relations.Projected, relations.Host])
            if (links.First(product) is >= 0 and var host)
                return host;
        return snapshot.Model.Is(product, "IfcPort") && relations.Nest.First(product) is >= 0 and var nest
            ? nest
            : product;
    }

    // The attributes of every relationship are called Relating… and Related… (ISO 16739-1, IfcRelationship).
    private static (int[] One, int[] Many) Ends(IfcModel model, int relation)
    {
        int[] one = [],
            many = [];
        foreach (var attribute in model.Entity(relation)!.Attributes)
        {
            if (attribute.Name.StartsWith("Relating", StringComparison.Ordinal))
                one = [.. one, .. All(model, relation, attribute.Name)];
            else if (attribute.Name.StartsWith("Related", StringComparison.Ordinal))
                many = [.. many, .. All(model, relation, attribute.Name)];
        }

        return (one, many);
    }

    private static int[] All(IfcModel model, int relation, string attribute) =>
        model.Ref(relation, attribute) is >= 0 and var single ? [single] : model.Refs(relation, attribute);
}
