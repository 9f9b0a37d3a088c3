using SteadyLintel.Geometry;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Measures shapes again where their instances were not carried byte for byte: boxes, volumes, colours.</summary>
/// <remarks>All shapes that are written in another form are measured, and of the others a few of every kind, so that a rule that is wrong
/// for a kind of item shows.</remarks>
internal sealed class ShapeCheck
{
    private const int SamplesOfAKind = 3,
        MaxSamples = 400;
    private readonly CheckTally _boxes = new("boxes (mm)"),
        _volumes = new("volumes (%)"),
        _colours = new("colours");

    /// <summary>What was compared.</summary>
    public IEnumerable<ReconciliationCheck> Checks =>
        new[] { _boxes, _volumes, _colours }.Where(c => c.Any).Select(c => c.ToCheck());

    /// <summary>Measures what the rewrites of a source can have touched.</summary>
    public void Check(
        SourceAccounts accounts,
        ModelSnapshot again,
        IReadOnlyList<int> found,
        RewriteSet rewrites,
        Frame? move,
        Action<string> differ,
        CancellationToken cancel
    )
    {
        if (rewrites.All.Count == 0)
            return;
        var source = accounts.Snapshot;
        var elements = Samples(source, found, rewrites);
        var after = new Shape?[elements.Count];
        Parallel.For(0, elements.Count, new ParallelOptions { CancellationToken = cancel }, n =>
            after[n] = again.Shapes.Read(found[elements[n].Index])
        );
        int at = 0;
        source.ForEachShape(
            elements,
            (element, shape) =>
            {
                var now = after[at++];
                if (shape is { Parts.Count: > 0 } && move is { } moved)
                    shape = shape with { World = moved.Compose(shape.World) };
                if (rewrites.Boxes?.Of(source.Shapes.BodyRepresentation(element.Index)) is var (box, colour))
                    shape = PlacedShapes.Boxed(shape!, box, colour);
                if (Problem(shape, now) is not { } problem)
                    return;
                accounts.Reshaped.Add(element.Index);
                differ($"{accounts.Label(element.Index)}: {problem}.");
            },
            0,
            cancel
        );
    }

    private string? Problem(Shape? before, Shape? after)
    {
        if (before is not { Parts.Count: > 0 })
            return after is { Parts.Count: > 0 } ? "it had no shape and has one now" : null;
        if (after is not { Parts.Count: > 0 })
            return "its shape is gone";
        MassProperties was = before.Measure(),
            now = after.Measure();
        double off = Math.Max(Off(was.Bounds.Min, now.Bounds.Min), Off(was.Bounds.Max, now.Bounds.Max)) * 1000;
        _boxes.Add(off <= 1, off);
        if (!(off <= 1))
            return FormattableString.Invariant($"its box is off by {off:0.0} mm");
        if (was.Closed)
        {
            double percent =
                was.Volume == now.Volume
                    ? 0
                    : 100 * Math.Abs(was.Volume - now.Volume) / Math.Max(Math.Abs(was.Volume), 1e-12);
            _volumes.Add(percent <= 0.1, percent);
            if (percent > 0.1)
                return FormattableString.Invariant($"its volume was {was.Volume:G6} and is {now.Volume:G6} m³");
        }

        bool coloured = before
            .Parts.Select(p => p.Colour)
            .Distinct()
            .ToHashSet()
            .SetEquals(after.Parts.Select(p => p.Colour));
        _colours.Add(coloured, 0);
        return coloured ? null : "its colours are others";
    }

    private static double Off(Vec3 a, Vec3 b) =>
        Math.Max(Math.Abs(a.X - b.X), Math.Max(Math.Abs(a.Y - b.Y), Math.Abs(a.Z - b.Z)));

    private static List<ModelElement> Samples(ModelSnapshot source, IReadOnlyList<int> found, RewriteSet rewrites)
    {
        var samples = new List<ModelElement>();
        var taken = new Dictionary<string, int>(StringComparer.Ordinal);
        foreach (var element in source.Elements)
        {
            if (
                found[element.Index] < 0
                || source.Shapes.BodyRepresentation(element.Index) is not (>= 0 and var body)
                || rewrites.DropOf(body) is { Kind: DropKind.LeftOut }
            )
                continue;
            bool reshaped = rewrites.Boxes is not null;
            string kind = Signature(source.Model, body, rewrites, ref reshaped);
            int count = taken[kind] = taken.GetValueOrDefault(kind) + 1;
            if (reshaped || (count <= SamplesOfAKind && samples.Count < MaxSamples))
                samples.Add(element);
        }

        return samples;
    }

    // The entities of the items of a representation, those of mapped representations included.
    private static string Signature(IfcModel model, int representation, RewriteSet rewrites, ref bool reshaped)
    {
        var kinds = new SortedSet<string>(StringComparer.Ordinal);
        var seen = new HashSet<int>();
        var open = new Stack<int>([representation]);
        while (open.TryPop(out int index))
        {
            if (!seen.Add(index) || seen.Count > 2000)
                continue;
            reshaped |= rewrites.Reshapes(index);
            if (
                model.Is(index, "IfcRepresentationItem")
                && !model.Is(index, "IfcPoint")
                && !model.Is(index, "IfcPlacement")
                && !model.Is(index, "IfcDirection")
            )
                kinds.Add(model.ClassName(index));
            if (model.Is(index, "IfcFace") || model.Is(index, "IfcPoint") || model.Is(index, "IfcPolyLoop"))
                continue;
            var raw = model.File.Raw(index);
            for (int at = 1; StepReferences.Next(raw, ref at, out int id, out _); )
                if (model.File.IndexOf(id) is >= 0 and var target && !model.Is(target, "IfcRepresentationContext"))
                    open.Push(target);
        }

        return string.Join(" ", kinds);
    }
}
