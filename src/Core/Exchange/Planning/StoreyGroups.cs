namespace SteadyLintel.Exchange;

/// <summary>Which elements of which sources go into a file together.</summary>
internal static class StoreyGroups
{
    /// <summary>Sources share a file where their storeys are one level of the building, whatever each party calls it; levels from the
    /// lowest, no storey last.</summary>
    public static List<(string Label, List<(int Source, int Storey, IReadOnlyList<ModelElement> Elements)> Parts)> Of(HandoverPlan plan)
    {
        var levels = plan.Levels;
        var groups = new SortedDictionary<int, List<(int, int, IReadOnlyList<ModelElement>)>>();
        for (int s = 0; s < plan.Sources.Count; s++)
        {
            foreach (var (storey, elements) in plan.Groups(s))
            {
                int rung = levels.RungOf(s, storey);
                if (!groups.TryGetValue(rung, out var list)) groups[rung] = list = [];
                list.Add((s, storey, elements));
            }
        }

        string Label(int rung) => !plan.Order.SplitByStorey ? "all" : rung < 0 ? "no storey" : levels.Rungs[rung].Name;
        return [.. groups.OrderBy(g => g.Key < 0 ? int.MaxValue : g.Key).Select(g => (Label(g.Key), g.Value))];
    }
}
