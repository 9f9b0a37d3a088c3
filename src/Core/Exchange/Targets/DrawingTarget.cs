using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>Drawings: all sources in one, or one a storey; elements as bodies, or as the lines of a plan.</summary>
/// <param name="plan">Whether they are plans.</param>
public sealed class DrawingTarget(bool plan) : Target
{
    /// <summary>The reason an element without a shape stays when drawings are made.</summary>
    public const string NoShape = "no shape";

    /// <summary>The reason an element cannot go into a plan.</summary>
    public const string NoLine = "no line in plan";

    /// <inheritdoc/>
    public override string? CannotHold(bool shaped, bool drawn) => shaped || (drawn && plan) ? null : NoShape;

    /// <inheritdoc/>
    internal override ILedger NewLedger(HandoverPlan order) => new DrawnLedger(order);

    /// <inheritdoc/>
    internal override IReadOnlyList<WrittenFile> Write(HandoverPlan order, FileNames names, string timeStamp, IFileSet files,
        Reconciler reconciler, CancellationToken cancel)
    {
        var unit = order.Order.Unit ?? LengthUnit.Nearest(order.Sources.Count > 0 ? order.Sources[0].Snapshot.Units.Metres : 1);
        var written = new List<WrittenFile>();
        var layers = new DrawingLayerNames(order);
        foreach (var group in FileGroups.Of(order, false))
        {
            var drawing = new DrawingBuilder(order, unit, layers, plan, reconciler);
            foreach (var part in group.Parts) drawing.Add(part.Source, part.Elements, cancel);
            if (drawing.Written.Count == 0) continue;
            string name = names.Next(group.Name, order.Order.Form.Extension);
            using (var stream = files.Create(name)) CadFile.Write(drawing.Finish(), stream, order.Order.Form, cancel);
            written.Add(new WrittenFile(name, drawing.Written, [], new MadeInstances()));
        }

        return written;
    }
}
