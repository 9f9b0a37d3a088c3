using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>Drawings: all sources in one, or split as the order says; elements as bodies, as the lines of a plan, or of sections, each of
/// which is a file.</summary>
public sealed class DrawingTarget : Target
{
    /// <summary>The reason an element without a shape stays when drawings are made.</summary>
    public const string NoShape = "no shape";

    /// <summary>The reason an element cannot go into a plan or section.</summary>
    public const string NoLine = "nothing of it is seen in the view";

    private readonly bool _views,
        _plan;

    /// <summary>Makes drawings of a format.</summary>
    public DrawingTarget(HandoverFormat format) =>
        (_views, _plan) = (format != HandoverFormat.DrawingMeshes, format == HandoverFormat.DrawingPlan);

    /// <inheritdoc/>
    public override string? CannotHold(bool shaped, bool drawn) => shaped || (drawn && _plan) ? null : NoShape;

    /// <inheritdoc/>
    internal override ILedger NewLedger(HandoverPlan plan) => new DrawnLedger(plan);

    /// <summary>The unit of an order's drawings: what it says, else the nearest to the first source's.</summary>
    internal static LengthUnit UnitOf(HandoverPlan plan) =>
        plan.Order.Unit ?? LengthUnit.Nearest(plan.Sources.Count > 0 ? plan.Sources[0].Snapshot.Units.Metres : 1);

    /// <inheritdoc/>
    internal override IReadOnlyList<WrittenFile> Write(
        HandoverPlan plan,
        FileNames names,
        string timeStamp,
        IFileSet files,
        Reconciler reconciler,
        CancellationToken cancel
    )
    {
        var unit = UnitOf(plan);
        var written = new List<WrittenFile>();
        var layers = new DrawingLayerNames(plan);
        var missing = new List<(int Source, ModelElement Element, string Reason)>();
        var sheets = new List<DrawnSheet>();
        IReadOnlyList<SectionLine?> sections =
            plan.Order.Format == HandoverFormat.DrawingSection ? [.. plan.Order.LineWork.Lines] : [null];
        foreach (var group in FileGroups.Of(plan, false))
        foreach (var line in sections)
        {
            var views = _views ? FileViews.Of(plan, group.Parts, line, cancel) : null;
            var builder = new DrawingBuilder(plan, unit, layers, views);
            foreach (var part in group.Parts)
                builder.Add(part.Source, part.Elements, cancel);
            missing.AddRange(builder.Missing);
            if (builder.Written.Count == 0)
                continue;
            if (views is not null)
                builder.AddMarks(views.Marks);
            var drawing = builder.Finish();
            var values = group.Name with { Section = line?.Name ?? "" };
            string name = names.Next(values, plan.Order.Form.Extension);
            var own = SheetSet.Of(plan, values, name, timeStamp, drawing, unit);
            sheets.AddRange(own);
            if (plan.Order.Sheet is { References: false })
                foreach (var sheet in own)
                    sheet.Put(drawing, unit.Metres, []);
            using (var stream = files.Create(name))
                CadFile.Write(drawing, stream, plan.Order.Form, cancel);
            written.Add(
                new WrittenFile(name, builder.Written, [], new MadeInstances())
                {
                    Drawn = new DrawnFile(group.Parts, line, plan.Order.Sheet is { References: false } ? own : []),
                }
            );
        }

        if (plan.Order.Sheet is { References: true } && sheets.Count > 0)
            written.Add(SheetSet.Write(plan, sheets, names, files, unit, cancel));
        // What one section misses another may show.
        var gone = written.SelectMany(w => w.Elements).Select(e => (e.Source, e.Element.Number)).ToHashSet();
        foreach (var (source, element, reason) in missing)
            if (!gone.Contains((source, element.Number)))
                reconciler.LeaveOut(source, element, reason);
        return written;
    }
}
