using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What a merge of several sources leads one to expect of an instance.</summary>
internal static class MergeExpectation
{
    /// <summary>Adds to what is expected: new GlobalIds, the contexts that the first project gains, parts that an earlier source has put
    /// under their whole.</summary>
    public static void Add(ExpectedInstance expected, WrittenPart part, IfcModel model)
    {
        if (part.Merge is not { } merge)
            return;
        if (merge.NewGlobalId(part.Number, expected.Index) is { } id)
        {
            expected.Expect("GlobalId", $"'{id}'", "");
            expected.Lose("a GlobalId that another source uses was replaced");
        }

        if (part.Number == 0 && merge.Contexts.Count > 0 && model.Is(expected.Index, "IfcProject"))
            Lengthen(expected, "RepresentationContexts", "contexts of the other sources added");
        if (
            part.Number == 0
            || !model.Is(expected.Index, "IfcRelAggregates")
            || !merge.IsShared(part.Number, model.Ref(expected.Index, "RelatingObject"))
        )
            return;
        var kept = model
            .Refs(expected.Index, "RelatedObjects")
            .Where(o => !merge.IsShared(part.Number, o))
            .Select(o => "#" + model.File.Id(o))
            .ToList();
        if (kept.Count < model.Refs(expected.Index, "RelatedObjects").Length)
            expected.Expect("RelatedObjects", $"({string.Join(",", kept)})", "");
    }

    private static void Lengthen(ExpectedInstance expected, string attribute, string rule)
    {
        int p = expected.Entity!.Position(attribute);
        var value = expected.Values[p];
        expected.Values[p] = value with { Text = value.Text == "$" ? "()" : value.Text, Longer = true };
        expected.Change(rule);
    }
}
