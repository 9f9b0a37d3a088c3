using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>IFC: one file a source, or one a source and storey; merged, one in all or one a storey.</summary>
public sealed class ModelTarget : Target
{
    /// <inheritdoc/>
    public override string? CannotHold(bool shaped, bool drawn) => null;

    /// <inheritdoc/>
    internal override ILedger NewLedger(HandoverPlan plan) => new ModelLedger(plan);

    /// <inheritdoc/>
    internal override IReadOnlyList<WrittenFile> Write(HandoverPlan plan, FileNames names, string timeStamp, IFileSet files,
        Reconciler reconciler, CancellationToken cancel) =>
        plan.Order.Merge && plan.Sources.Count > 1
            ? Merged(plan, names, timeStamp, files, cancel) : Apart(plan, names, timeStamp, files, cancel);

    private static List<WrittenFile> Apart(HandoverPlan plan, FileNames names, string timeStamp, IFileSet target,
        CancellationToken cancel)
    {
        var files = new List<WrittenFile>();
        for (int s = 0; s < plan.Sources.Count; s++)
        {
            var source = plan.Sources[s];
            foreach (var (storey, elements) in plan.Groups(s))
            {
                var subset = Subset(plan, s, storey, elements);
                var rewrites = new RewriteSet(source.Snapshot, subset, Options(plan, s, plan.Order.Unit, plan.Order.Schema));
                string label = plan.Order.SplitByStorey ? (storey < 0 ? "no storey" : source.Snapshot.StoreyName(storey)) : "all";
                string name = names.Next(source.Party, source.Label, rewrites.StoreyName(label), ".ifc");
                var made = new MadeInstances();
                using (var stream = target.Create(name))
                    SubsetWriter.Write(source.Snapshot, subset, rewrites, name, timeStamp, stream, made, cancel);
                files.Add(
                    new WrittenFile(name,
                    [.. elements.Select(e => new WrittenElement(s, e, source.Snapshot.Model.File.Id(e.Index), e.GlobalId))],
                    [new WrittenPart(s, rewrites, null, 0, subset is null)], made));
            }
        }

        return files;
    }

    private static List<WrittenFile> Merged(HandoverPlan plan, FileNames names, string timeStamp, IFileSet target,
        CancellationToken cancel)
    {
        var files = new List<WrittenFile>();
        var first = plan.Sources[0].Snapshot;
        string schema = plan.Order.Schema ?? first.Model.Schema.Name;
        var unit = plan.Order.Unit ?? (plan.Sources.All(s => Math.Abs(s.Snapshot.Units.Metres - first.Units.Metres) < 1e-12)
            ? null : LengthUnit.Nearest(first.Units.Metres));
        foreach (var (label, parts) in StoreyGroups.Of(plan))
        {
            var sources = parts.Select(p => plan.Sources[p.Source].Snapshot).ToList();
            var subsets = parts.Select(p => Subset(plan, p.Source, p.Storey, p.Elements)).ToList();
            var sets = parts.Select((p, n) => new RewriteSet(sources[n], subsets[n], Options(plan, p.Source, unit, schema), n > 0
                ? sources[0] : null, plan.Sources[p.Source].Label)).ToList();
            var merge = new MergePlan(sources,
                [.. subsets.Select((subset, n) => (Func<int, bool>)(i => (subset is null || subset.Has(i)) && sets[n].Keeps(i)))]);
            string name = names.Next(string.Join("+", parts.Select(p => plan.Sources[p.Source].Party).Distinct()),
                string.Join("+", parts.Select(p => plan.Sources[p.Source].Label).Distinct()), sets[0].StoreyName(label), ".ifc");
            var made = new MadeInstances();
            using (var stream = target.Create(name))
            {
                var writer = new StepWriter(stream);
                writer.Begin(sources[0].Model.File.Header with
                {
                    Name = name,
                    TimeStamp = timeStamp,
                    PreprocessorVersion = "Steady Lintel",
                    Schema = sets[0].Schema ?? sources[0].Model.File.Header.Schema
                });
                for (int n = 0; n < sources.Count; n++)
                    SubsetWriter.Instances(sources[n], subsets[n], sets[n],
                        new MergedInstances(merge, n, sources[n], writer, made), cancel);
                writer.End();
            }

            var written = parts.SelectMany((p, n) => p.Elements.Select(
                e => new WrittenElement(p.Source, e, merge.Id(n, sources[n].Model.File.Id(e.Index)),
                    merge.NewGlobalId(n, e.Index) ?? e.GlobalId)));
            files.Add(new WrittenFile(name, [.. written],
                [.. parts.Select((p, n) => new WrittenPart(p.Source, sets[n], merge, n, subsets[n] is null))], made));
        }

        return files;
    }

    private static RewriteOptions Options(HandoverPlan plan, int source, LengthUnit? unit, string? schema) =>
        new()
        {
            Unit = unit,
            Move = plan.Moves[source],
            Map = plan.Order.Frame.Kind == FrameKind.Map ? plan.Order.Frame.OnMap(plan.Sources)[source] : null,
            Edits = plan.Order.Edits,
            Schema = schema,
        };

    private static SubsetPlan? Subset(HandoverPlan plan, int source, int storey, IReadOnlyList<ModelElement> elements) =>
        !plan.Order.SplitByStorey && plan.Order.Selection.Rules.Count == 0
            ? null : SubsetPlan.Of(plan.Sources[source].Snapshot, elements, Storeys(plan, source, storey));

    // Storeys the order asks for stay even when nothing on them goes.
    private static IEnumerable<int> Storeys(HandoverPlan plan, int source, int storey)
    {
        if (plan.Order.SplitByStorey) return storey < 0 ? [] : [storey];
        var all = Enumerable.Range(0, plan.Sources[source].Snapshot.Structure.Storeys.Count);
        var rule = plan.Selection.Rules.FirstOrDefault(r => r is { Field: SelectionField.Storey, Verb: SelectionVerb.Only });
        return all.Where(n => rule?.Storeys?.Contains((source, n)) != false);
    }
}
