using System.Security.Cryptography;

namespace SteadyLintel.Exchange;

/// <summary>Carries out orders: writes the files, reads them again, and balances.</summary>
public static class HandoverRunner
{
    /// <summary>Runs an order.</summary>
    /// <param name="run">What is run.</param>
    /// <param name="cancel">Stops between elements.</param>
    /// <exception cref="OrderException">The order cannot be carried out.</exception>
    public static HandoverResult Run(HandoverRun run, CancellationToken cancel = default)
    {
        var (order, target, levels, progress) = (run.Order, run.Target, run.Levels, run.Progress);
        var (job, timeStamp, transmittal) = (run.Job, run.TimeStamp, run.Transmittal);
        var amended = AmendedSources.Of(
            run,
            order.Models ? [.. run.Sources.Select(s => AsFine(s, order, cancel))] : [],
            cancel
        );
        var sources = amended.Sources;
        IReadOnlyList<HandoverDrawing> drawings = order.Drawings is null ? [] : run.Drawings;
        DrawingHandover.Check(order, drawings);
        var names = new FileNames(
            order.NameTemplate,
            job,
            order.Unit?.Code ?? "",
            order.To,
            run.Date ?? timeStamp.Split('T')[0]
        );
        var plan = HandoverPlan.Of(order, sources, levels, job, transmittal);
        if (drawings.Count == 0 && order.Models && plan.Decisions.All(d => d.All(r => r is not null)))
            throw new OrderException(Nothing(plan));
        void Say(string what, double share) => progress?.Invoke(what, order.Together ? share / 2 : share);
        var (written, reconciler) = Models(plan, names, timeStamp, target, Say, cancel);
        (IReadOnlyList<WrittenFile> Files, Reconciliation Balance)? all = null;
        if (order is { Together: true, Models: true })
        {
            var whole = HandoverPlan.Of(order.InOne(), sources, levels, job, transmittal);
            var (files, again) = Models(
                whole,
                names,
                timeStamp,
                target,
                (what, share) => progress?.Invoke($"{what}, all in one", 0.4 + (share / 2)),
                cancel
            );
            all = (files, again.Balance());
        }

        (string Name, int Elements, ReconciliationCheck Check)? table = null;
        if (order is { PropertyTable: not null, Models: true })
        {
            progress?.Invoke("property table", 0.78);
            table = PropertySheet.Write(plan, reconciler, names, target, cancel);
        }

        var sheets = new List<(HandoverFile File, DrawingBalance Balance)>();
        foreach (var drawing in drawings)
        {
            progress?.Invoke($"drawing {drawing.Label}", 0.8 + (0.15 * sheets.Count / drawings.Count));
            sheets.Add(DrawingHandover.Write(order, drawing, names, target, cancel));
        }

        progress?.Invoke("balancing", 0.95);
        var balance = reconciler.Balance();
        if (all is { } one)
            balance = one.Balance.AddedTo(balance);
        if (table is { } beside)
            balance = balance with { Checks = [.. balance.Checks, beside.Check] };
        balance = amended.AddTo(balance);
        return new HandoverResult(
            [
                .. written.Concat(all?.Files ?? []).Select(w => FileOf(w.Name, w.Elements.Count, target)),
                .. table is { } t ? [FileOf(t.Name, t.Elements, target)] : Array.Empty<HandoverFile>(),
                .. sheets.Select(s => s.File),
            ],
            balance
        )
        {
            Drawings = [.. sheets.Select(s => s.Balance)],
            Unmatched = Unmatched(plan),
        };
    }

    private const int MaxReasons = 3;

    // An empty file would look like a hand-over.
    private static string Nothing(HandoverPlan plan)
    {
        var reasons = plan
            .Decisions.SelectMany(d => d)
            .CountBy(r => r!)
            .OrderByDescending(r => r.Value)
            .Take(MaxReasons)
            .ToList();
        return reasons.Count == 0
            ? "The order chooses nothing: the models hold no elements. Nothing was written."
            : $"The order chooses nothing, and nothing was written: {string.Join(", ", reasons.Select(r => $"{r.Value} × {r.Key}"))}. Change the rules of the order.";
    }

    // Writes the files of models and reads them again.
    private static (IReadOnlyList<WrittenFile> Files, Reconciler Rows) Models(
        HandoverPlan plan,
        FileNames names,
        string timeStamp,
        IFileSet target,
        Action<string, double> progress,
        CancellationToken cancel
    )
    {
        var form = Target.Of(plan.Order);
        var reconciler = new Reconciler(plan, form.NewLedger(plan));
        progress("writing", 0);
        var written = form.Write(plan, names, timeStamp, target, reconciler, cancel);
        progress("reading again", 0.5);
        foreach (var file in written)
        {
            cancel.ThrowIfCancellationRequested();
            reconciler.Read(file, target.Read(file.Name), cancel);
        }

        return (written, reconciler);
    }

    // Shapes are read as finely as the order says, however finely whoever opened the model did.
    private static HandoverSource AsFine(HandoverSource source, HandoverOrder order, CancellationToken cancel) =>
        source.Snapshot.Tolerance == order.Fineness
            ? source
            : source with
            {
                Snapshot = ModelSnapshot.Open(source.Snapshot.Model, cancel, order.Fineness),
            };

    private static HandoverFile FileOf(string name, int elements, IFileSet target)
    {
        var bytes = target.Read(name);
        return new HandoverFile(name, bytes.Length, Convert.ToHexStringLower(SHA256.HashData(bytes.Span)), elements);
    }

    // What the order's tables have no row for; it goes as it is.
    private static List<UnmatchedName> Unmatched(HandoverPlan plan)
    {
        var found = new Dictionary<(string Table, string Name), int>();
        void Add(string table, string name) => found[(table, name)] = found.GetValueOrDefault((table, name)) + 1;
        var layers = plan.Order.Layers is null ? null : new DrawingLayerNames(plan);
        for (int s = 0; s < plan.Sources.Count; s++)
        {
            var snapshot = plan.Sources[s].Snapshot;
            foreach (var element in plan.Going(s))
            {
                if (layers is not null && layers.Row(s, element) is null)
                    Add("layer table", element.Class);
                if (plan.Order.Names is not { } names)
                    continue;
                foreach (string material in snapshot.MaterialNames(element))
                    if (material.Length > 0 && names.Find(NameKind.Material, material) is null)
                        Add("name table, material", material);
                if (snapshot.TypeName(element) is { Length: > 0 } type && names.Find(NameKind.Type, type) is null)
                    Add("name table, type", type);
                if (
                    snapshot.StoreyName(element.Storey) is { Length: > 0 } storey
                    && names.Find(NameKind.Storey, storey) is null
                )
                    Add("name table, storey", storey);
            }
        }

        return
        [
            .. found
                .OrderBy(f => f.Key.Table, StringComparer.Ordinal)
                .ThenByDescending(f => f.Value)
                .ThenBy(f => f.Key.Name, StringComparer.Ordinal)
                .Select(f => new UnmatchedName(f.Key.Table, f.Key.Name, f.Value)),
        ];
    }
}
