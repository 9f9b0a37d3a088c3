namespace SteadyLintel.Exchange;

/// <summary>Writes the IFC files of a hand-over: one a source, or one a source and storey.</summary>
internal static class IfcHandover
{
    public static IReadOnlyList<WrittenFile> Write(HandoverPlan plan, FileNames names, string timeStamp, IFileSet target, CancellationToken cancel)
    {
        var files = new List<WrittenFile>();
        for (int s = 0; s < plan.Sources.Count; s++)
        {
            var source = plan.Sources[s];
            foreach (var (storey, elements) in plan.Groups(s))
            {
                bool whole = !plan.Order.SplitByStorey && plan.Order.Selection.Rules.Count == 0;
                var subset = whole ? null : SubsetPlan.Of(source.Snapshot, elements, Storeys(plan, s, storey));
                string label = plan.Order.SplitByStorey ? (storey < 0 ? "no storey" : source.Snapshot.StoreyName(storey)) : "all";
                string name = names.Next(source.Party, source.Label, label, ".ifc");
                using (var stream = target.Create(name)) SubsetWriter.Write(source.Snapshot, subset, plan.Order.Unit, name, timeStamp, stream, cancel);
                files.Add(new WrittenFile(name, [.. elements.Select(e => new WrittenElement(s, e))]));
            }
        }

        return files;
    }

    // Storeys the order asks for stay even when nothing on them goes.
    private static IEnumerable<int> Storeys(HandoverPlan plan, int source, int storey)
    {
        if (plan.Order.SplitByStorey) return storey < 0 ? [] : [storey];
        var snapshot = plan.Sources[source].Snapshot;
        var rule = plan.Order.Selection.Rules.FirstOrDefault(r => r is { Field: SelectionField.Storey, Keep: true });
        return Enumerable.Range(0, snapshot.Structure.Storeys.Count).Where(n => rule is null || rule.Values.Contains(snapshot.StoreyName(n), StringComparer.OrdinalIgnoreCase));
    }
}
