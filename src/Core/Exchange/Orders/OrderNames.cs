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
            Check(rule, sources, levels);

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

    // A pattern may find nothing, and what was kept may name what has gone since.
    private static void Check(SelectionRule rule, IReadOnlyList<HandoverSource> sources, LevelSchedule? levels)
    {
        var field = rule.Field;
        if (rule.Test == RuleTest.Like || (field.Kind == RuleFieldKind.Names && rule.Test == RuleTest.Exactly))
            return;
        if (field.Kind == RuleFieldKind.Class)
        {
            foreach (string value in rule.Values)
                Class(value);
            return;
        }

        if (field.Names is null || rule.Storeys is not null)
            return;
        var known = sources.SelectMany(s => field.Names(new NamedSource(s.Snapshot, s.Party, s.Label)));
        if (field == RuleField.Storey)
            known = known.Concat(levels?.Rungs.Select(r => r.Name) ?? []);
        Each(
            field.Kind == RuleFieldKind.Property ? [rule.Key] : rule.Values,
            field.NameWord.Length > 0 ? field.NameWord : field.Word,
            known
        );
    }

    /// <summary>Checks the names in rules over a drawing.</summary>
    /// <exception cref="OrderException">The drawing has no such name, or drawings have nothing of that kind.</exception>
    public static void Check(Selection selection, DrawingSnapshot snapshot)
    {
        foreach (var rule in selection.Rules)
        {
            if (rule.Field.InDrawings is not var (word, names))
                throw new OrderException($"Entities of a drawing are not chosen by {rule.Field.Word}.");
            Each(rule.Field.Kind == RuleFieldKind.Property ? [rule.Key] : rule.Values, word, names(snapshot));
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
}
