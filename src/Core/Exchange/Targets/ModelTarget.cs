using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>IFC: one file a source, or one a source and storey; merged, one in all or one a storey.</summary>
public sealed class ModelTarget : Target
{
    private const string File = "ifc",
        Compressed = "ifczip";

    /// <inheritdoc/>
    public override string Family => "IFC";

    /// <inheritdoc/>
    public override IReadOnlyDictionary<string, string> Files { get; } =
        new Dictionary<string, string> { [File] = ".ifc", [Compressed] = ".ifczip" };

    /// <inheritdoc/>
    public override IReadOnlyList<FormChoice> Choices { get; } =
    [
        new("ifc", "IFC, the source's schema", "Models", "IFC, the source's schema", new OrderInto()),
        .. OrderOptions.Schema.Words.Select(s => new FormChoice(
            $"ifc-{s[3..].ToLowerInvariant()}",
            s,
            "Models",
            s,
            new OrderInto { Schema = s }
        )),
    ];

    /// <inheritdoc/>
    public override FormOptions Takes =>
        FormOptions.Boxes | FormOptions.Names | FormOptions.Schema | FormOptions.Changes | FormOptions.OtherClasses;

    /// <inheritdoc/>
    public override bool CarriesStructure => true;

    /// <inheritdoc/>
    public override bool KeepsSourcesApart => true;

    /// <inheritdoc/>
    internal override HandoverOrder Read(OrderInto into, HandoverOrder order) =>
        order with
        {
            Zip = into.File == Compressed,
        };

    /// <inheritdoc/>
    public override string? CannotHold(bool shaped, bool drawn) => null;

    /// <inheritdoc/>
    internal override ILedger NewLedger(HandoverPlan plan) => new ModelLedger(plan);

    /// <inheritdoc/>
    internal override IReadOnlyList<WrittenFile> Write(
        HandoverPlan plan,
        FileNames names,
        string timeStamp,
        IFileSet files,
        Reconciler reconciler,
        CancellationToken cancel
    ) =>
        plan.Order.Merge && plan.Sources.Count > 1
            ? Merged(plan, names, timeStamp, files, cancel)
            : Apart(plan, names, timeStamp, files, cancel);

    private List<WrittenFile> Apart(
        HandoverPlan plan,
        FileNames names,
        string timeStamp,
        IFileSet target,
        CancellationToken cancel
    )
    {
        var files = new List<WrittenFile>();
        foreach (var group in FileGroups.Of(plan, true))
        {
            var part = group.Parts[0];
            var (s, elements) = (part.Source, part.Elements);
            var source = plan.Sources[s];
            var options = Options(plan, part, plan.Order.Unit, plan.Order.Schema, cancel);
            var subset = Subset(plan, part, options);
            var rewrites = new RewriteSet(source.Snapshot, subset, options);
            string name = names.Next(
                group.Name with
                {
                    Storey = rewrites.StoreyName(group.Name.Storey),
                },
                Extension(plan)
            );
            var made = new MadeInstances();
            using (var stream = Create(target, name))
                SubsetWriter.Write(source.Snapshot, subset, rewrites, name, timeStamp, stream, made, cancel);
            files.Add(
                new WrittenFile(
                    name,
                    [
                        .. elements.Select(e => new WrittenElement(
                            s,
                            e,
                            source.Snapshot.Model.File.Id(e.Index),
                            e.GlobalId
                        )),
                    ],
                    [new WrittenPart(s, rewrites, null, 0, subset is null)],
                    made
                )
            );
        }

        return files;
    }

    private List<WrittenFile> Merged(
        HandoverPlan plan,
        FileNames names,
        string timeStamp,
        IFileSet target,
        CancellationToken cancel
    )
    {
        var files = new List<WrittenFile>();
        var first = plan.Sources[0].Snapshot;
        string schema = plan.Order.Schema ?? first.Model.Schema.Name;
        var unit = plan.Order.Unit
            ?? (
                plan.Sources.All(s => Math.Abs(s.Snapshot.Units.Metres - first.Units.Metres) < 1e-12)
                    ? null
                    : LengthUnit.Nearest(first.Units.Metres)
            );
        foreach (var (words, parts) in FileGroups.Of(plan, false))
        {
            var sources = parts.Select(p => plan.Sources[p.Source].Snapshot).ToList();
            var options = parts.Select(p => Options(plan, p, unit, schema, cancel)).ToList();
            var subsets = parts.Select((p, n) => Subset(plan, p, options[n])).ToList();
            var sets = parts
                .Select(
                    (p, n) =>
                        new RewriteSet(
                            sources[n],
                            subsets[n],
                            options[n],
                            n > 0 ? sources[0] : null,
                            plan.Sources[p.Source].Label
                        )
                )
                .ToList();
            var merge = new MergePlan(
                sources,
                [
                    .. subsets.Select(
                        (subset, n) => (Func<int, bool>)(i => (subset is null || subset.Has(i)) && sets[n].Keeps(i))
                    ),
                ]
            );
            string name = names.Next(words with { Storey = sets[0].StoreyName(words.Storey) }, Extension(plan));
            var made = new MadeInstances();
            using (var stream = Create(target, name))
            {
                var writer = new StepWriter(stream);
                writer.Begin(
                    sources[0].Model.File.Header with
                    {
                        Name = name,
                        TimeStamp = timeStamp,
                        PreprocessorVersion = "Steady Lintel",
                        Schema = sets[0].Schema ?? sources[0].Model.File.Header.Schema,
                    }
                );
                for (int n = 0; n < sources.Count; n++)
                    SubsetWriter.Instances(
                        sources[n],
                        subsets[n],
                        sets[n],
                        new MergedInstances(merge, n, sources[n], writer, made),
                        cancel
                    );
                writer.End();
            }

            var written = parts.SelectMany(
                (p, n) =>
                    p.Elements.Select(e => new WrittenElement(
                        p.Source,
                        e,
                        merge.Id(n, sources[n].Model.File.Id(e.Index)),
                        merge.NewGlobalId(n, e.Index) ?? e.GlobalId
                    ))
            );
            files.Add(
                new WrittenFile(
                    name,
                    [.. written],
                    [.. parts.Select((p, n) => new WrittenPart(p.Source, sets[n], merge, n, subsets[n] is null))],
                    made
                )
            );
        }

        return files;
    }

    private string Extension(HandoverPlan plan) => Files[plan.Order.Zip ? Compressed : File];

    // An archive of one model (ISO 16739-1, annex on .ifcZIP: one file, compressed as in ZIP).
    private static Stream Create(IFileSet target, string name) =>
        name.EndsWith(".ifczip", StringComparison.Ordinal)
            ? new ZippedModel(target.Create(name), name)
            : target.Create(name);

    private static RewriteOptions Options(
        HandoverPlan plan,
        FilePart part,
        LengthUnit? unit,
        string? schema,
        CancellationToken cancel
    )
    {
        var order = plan.Order;
        var snapshot = plan.Sources[part.Source].Snapshot;
        return new()
        {
            Unit = unit,
            Move = plan.Moves[part.Source],
            Map = order.Frame.Kind == FrameKind.Map ? order.Frame.OnMap(plan.Sources)[part.Source] : null,
            Edits = [.. order.Edits, .. NameEdits(plan, part.Source)],
            Schema = schema,
            Classes = plan.Classes[part.Source],
            Properties = order.ChoosesProperties
                ? new PropertyWish(order.Properties ?? PropertyList.All, order.BlanksOut)
                : null,
            WithoutFillets = order.Detail == DetailLevel.Coarse,
            Boxes =
                order.Detail == DetailLevel.Boxes
                    ? new BoxRewrite(
                        snapshot,
                        part.Elements,
                        (unit ?? LengthUnit.Metre with { Metres = snapshot.Units.Metres }).Metres,
                        schema ?? snapshot.Model.Schema.Name,
                        cancel
                    )
                    : null,
            Left = LeftShapes(plan, part.Source),
            Computed = order.Computed ? ComputedQuantities.Of(snapshot, part.Elements, cancel) : null,
        };
    }

    // Spatial structure goes with what is on it; its own shape, such as a site's terrain, only where a rule lets it.
    private static Dictionary<int, string> LeftShapes(HandoverPlan plan, int source)
    {
        var snapshot = plan.Sources[source].Snapshot;
        var left = new Dictionary<int, string>();
        foreach (var element in snapshot.Elements)
            if (
                snapshot.IsStructure(element.Index)
                && plan.Decisions[source][element.Number] is { } reason
                && snapshot.Model.Ref(element.Index, "Representation") is >= 0 and var shape
            )
                left[shape] = reason;
        return left;
    }

    // The job's names of storeys, then the receiver's names; what the order itself renames comes before both.
    private static IEnumerable<ModelEdit> NameEdits(HandoverPlan plan, int source)
    {
        var order = plan.Order;
        var said = order
            .Edits.Where(e => e.Kind == EditKind.RenameStorey)
            .Select(e => e.From)
            .ToHashSet(StringComparer.OrdinalIgnoreCase);
        var storeys = plan.Sources[source].Snapshot.Structure.Storeys;
        for (int n = 0; n < storeys.Count && (order.JobStoreys || order.Names is not null); n++)
        {
            if (said.Contains(storeys[n].Name))
                continue;
            string job = plan.Levels.RungOf(source, n) is >= 0 and var rung
                ? plan.Levels.Rungs[rung].Name
                : storeys[n].Name;
            string to = order.StoreyName(storeys[n].Name, job);
            if (to != storeys[n].Name)
                yield return new ModelEdit(EditKind.RenameStorey, storeys[n].Name, to);
        }

        foreach (var row in order.Names?.Rows ?? [])
            if (row.From.Length > 0 && row.To.Length > 0 && row.From != row.To && KindOf(row.Kind) is { } kind)
                yield return new ModelEdit(kind, row.From, row.To);
    }

    private static EditKind? KindOf(NameKind kind) =>
        kind switch
        {
            NameKind.Material => EditKind.RenameMaterial,
            NameKind.Type => EditKind.RenameType,
            NameKind.Section => EditKind.RenameSection,
            NameKind.Layer => EditKind.MoveLayer,
            _ => null,
        };

    private static SubsetPlan? Subset(HandoverPlan plan, FilePart part, RewriteOptions options) =>
        options.Boxes is null && plan.Order.Splits.Count == 0 && plan.Decisions[part.Source].All(d => d is null)
            ? null
            : SubsetPlan.Of(
                plan.Sources[part.Source].Snapshot,
                part.Elements,
                Storeys(plan, part.Source, part.Storey),
                options.Boxes?.Strip
            );

    // Storeys the order asks for stay even when nothing on them goes.
    private static IEnumerable<int> Storeys(HandoverPlan plan, int source, int storey)
    {
        if (plan.Order.SplitByStorey)
            return storey < 0 ? [] : [storey];
        if (plan.Order.Splits.Count > 0)
            return [];
        var all = Enumerable.Range(0, plan.Sources[source].Snapshot.Structure.Storeys.Count);
        var rule = plan.Selection.Rules.FirstOrDefault(r =>
            r.Verb == SelectionVerb.Only && r.Field == RuleField.Storey
        );
        return all.Where(n => rule?.Storeys?.Contains((source, n)) != false);
    }
}
