using F23.StringSimilarity;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Whether the names in an order exist: a misspelt one would give an empty or unchanged file and no word about it.</summary>
internal static class OrderNames
{
    /// <summary>Checks the names in rules and changes against what the sources hold.</summary>
    /// <exception cref="OrderException">A name is in none of them; the message has the nearest there are.</exception>
    public static void Check(HandoverOrder order, IReadOnlyList<HandoverSource> sources, LevelSchedule? levels)
    {
        var models = sources.Select(s => s.Snapshot).ToList();
        foreach (var rule in order.Selection.Rules)
        {
            // A pattern may find nothing, and what was kept may name what has gone since.
            if (rule.Test == RuleTest.Like)
                continue;
            switch (rule.Field)
            {
                case SelectionField.Storey when rule.Storeys is null:
                    Each(rule.Values, "storey", Storeys(models, levels));
                    break;
                case SelectionField.Class:
                    foreach (string value in rule.Values)
                        Class(value);
                    break;
                case SelectionField.Layer when rule.Test == RuleTest.Exactly:
                    break;
                case SelectionField.Layer:
                    Each(rule.Values, "layer", Layers(models));
                    break;
                case SelectionField.Type:
                    Each(
                        rule.Values,
                        "type",
                        models.SelectMany(m => m.Model.OfType("IfcTypeObject").Select(m.Model.Name))
                    );
                    break;
                case SelectionField.Material:
                    Each(
                        rule.Values,
                        "material",
                        models.SelectMany(m => m.Model.OfType("IfcMaterial").Select(m.Model.Name))
                    );
                    break;
                case SelectionField.Source:
                    Each(rule.Values, "name", sources.SelectMany(s => (string[])[s.Label, $"{s.Party} {s.Label}"]));
                    break;
                case SelectionField.Classification:
                    Each(
                        rule.Values,
                        "classification",
                        models.SelectMany(m => m.Elements.SelectMany(m.ClassificationNames))
                    );
                    break;
                case SelectionField.Group:
                    Each(rule.Values, "group", models.SelectMany(m => m.Model.OfType("IfcGroup").Select(m.Model.Name)));
                    break;
                case SelectionField.Party:
                    Each(rule.Values, "party", sources.Select(s => s.Party));
                    break;
                case SelectionField.GlobalId:
                    Each(rule.Values, "element", models.SelectMany(m => m.Elements).Select(e => e.GlobalId));
                    break;
                case SelectionField.Property:
                    One(rule.Key, "property", Properties(models));
                    break;
            }
        }

        foreach (var edit in order.Edits)
        {
            switch (edit.Kind)
            {
                case EditKind.RenameStorey:
                    One(edit.From, "storey", Storeys(models, levels));
                    break;
                case EditKind.MoveLayer:
                    One(edit.From, "layer", Layers(models));
                    break;
                case EditKind.ChangeClass:
                    Class(edit.From);
                    Class(edit.To);
                    break;
                default:
                    if (edit.From.Length > 0)
                        Class(edit.From);
                    NearlyASet(edit.Set, models);
                    break;
            }
        }
    }

    /// <summary>Checks the names in rules over a drawing.</summary>
    /// <exception cref="OrderException">The drawing has no such name, or drawings have nothing of that kind.</exception>
    public static void Check(Selection selection, DrawingSnapshot snapshot)
    {
        foreach (var rule in selection.Rules)
        {
            switch (rule.Field)
            {
                case SelectionField.Layer:
                    Each(rule.Values, "layer", snapshot.Drawing.Layers.Select(l => l.Name));
                    break;
                case SelectionField.Class:
                    Each(rule.Values, "kind", snapshot.Items.Select(i => i.Class));
                    break;
                case SelectionField.Type:
                    Each(rule.Values, "block", snapshot.Drawing.Blocks.Select(b => b.Name));
                    break;
                case SelectionField.GlobalId:
                    Each(rule.Values, "handle", snapshot.Items.Select(i => i.Id));
                    break;
                case SelectionField.Property:
                    var tags = snapshot
                        .Items.SelectMany(snapshot.PropertySets)
                        .SelectMany(s => s.Properties)
                        .Select(p => $"{DrawingSnapshot.Attributes}.{p.Name}");
                    Each([rule.Key], "attribute", tags);
                    break;
                default:
                    throw new OrderException(
                        $"Entities of a drawing are not chosen by {rule.Field.ToString().ToLowerInvariant()}."
                    );
            }
        }
    }

    private static void Each(IEnumerable<string> names, string what, IEnumerable<string> known)
    {
        var all = known.ToHashSet(StringComparer.OrdinalIgnoreCase);
        foreach (string name in names)
            if (name.Length > 0 && !all.Contains(name))
                throw Unknown(name, what, all);
    }

    private static void One(string name, string what, IEnumerable<string> known) => Each([name], what, known);

    private static OrderException Unknown(string name, string what, IEnumerable<string> known) =>
        new($"No source has the {what} '{name}'.{NearestNames.Of(name, known)}");

    private static void Class(string name)
    {
        if (ClassWords.Problem(name) is { } problem)
            throw new OrderException(problem);
    }

    // A set that no source has is a new one, unless it is a slip of the pen away from one that is there.
    private static void NearlyASet(string name, List<ModelSnapshot> models)
    {
        var sets = models
            .SelectMany(m => m.Model.OfType("IfcPropertySet").Select(m.Model.Name))
            .ToHashSet(StringComparer.Ordinal);
        if (sets.Contains(name))
            return;
        var distance = new Damerau();
        if (
            sets.Where(s => distance.Distance(s.ToLowerInvariant(), name.ToLowerInvariant()) <= 2)
                .OrderBy(s => distance.Distance(s, name))
                .FirstOrDefault() is
            { } near
        )
            throw new OrderException($"No source has the property set '{name}'. Nearest: '{near}'.");
    }

    private static IEnumerable<string> Storeys(List<ModelSnapshot> models, LevelSchedule? levels) =>
        models.SelectMany(m => m.Structure.Storeys).Select(s => s.Name).Concat(levels?.Rungs.Select(r => r.Name) ?? []);

    private static IEnumerable<string> Layers(List<ModelSnapshot> models) => models.SelectMany(m => m.Layers.Names);

    private static IEnumerable<string> Properties(List<ModelSnapshot> models)
    {
        foreach (var model in models)
        {
            foreach (int set in model.Model.OfType("IfcPropertySetDefinition"))
            foreach (var property in model.Properties.Set(set).Properties)
                yield return $"{model.Properties.Set(set).Name}.{property.Name}";
        }
    }
}
