using SteadyLintel.Cad;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Puts elements into one drawing, as meshes or as plan lines.</summary>
internal sealed class DrawingBuilder(HandoverPlan plan, LengthUnit unit, Reconciler reconciler)
{
    private readonly Drawing _drawing = new() { Units = unit.DxfUnits };
    private readonly SortedDictionary<string, Layer> _layers = new(StringComparer.OrdinalIgnoreCase);

    public List<WrittenElement> Written { get; } = [];

    public void Add(int source, IReadOnlyList<ModelElement> elements, CancellationToken cancel)
    {
        var snapshot = plan.Sources[source].Snapshot;
        snapshot.ForEachShape(elements, (element, shape) =>
        {
            int before = _drawing.Entities.Count;
            if (plan.Order.Format == HandoverFormat.DxfPlan) AddPlan(source, element, shape);
            else AddMeshes(source, element, shape);
            if (_drawing.Entities.Count > before) Written.Add(new WrittenElement(source, element, 0, element.GlobalId));
            else reconciler.LeaveOut(source, element, shape is null || shape.Parts.Count == 0 ? DxfHandover.NoShape : DxfHandover.NoLine);
        }, 0, cancel);
    }

    public Drawing Finish()
    {
        _drawing.Layers.AddRange(_layers.Values);
        return _drawing;
    }

    private void AddMeshes(int source, ModelElement element, Shape? shape)
    {
        foreach (var part in shape?.Parts ?? [])
        {
            if (part.Mesh.TriangleCount == 0) continue;
            var world = part.Mesh.Map(shape!.World.Then(part.Frame));
            string layer = LayerFor(element, part.Colour, "");
            _drawing.Entities.Add(new MeshEntity(layer, Data(source, element), [.. world.Points.Select(p => p * (1 / unit.Metres))], world.Triangles, Rgb(part.Colour)));
        }
    }

    private void AddPlan(int source, ModelElement element, Shape? shape)
    {
        if (shape is null || shape.Parts.Count == 0) return;
        double level = PlanLines.Level(plan.Sources[source].Snapshot, element.Storey);
        var lines = PlanLines.Of(shape, level + PlanLines.CutHeight);
        var colour = shape.Parts[0].Colour;
        foreach (var line in lines.Cut)
        {
            bool closed = line.Count > 3 && (line[0] - line[^1]).Length < 1e-6;
            var points = (closed ? line.SkipLast(1) : line).Select(p => Scaled(p, level));
            _drawing.Entities.Add(new PolylineEntity(LayerFor(element, colour, "_CUT"), Data(source, element), [.. points], closed));
        }

        AddLines(lines.Below, "_BELOW");
        AddLines(lines.Above, "_ABOVE");

        void AddLines(IReadOnlyList<(Vec2 A, Vec2 B)> segments, string suffix)
        {
            foreach (var (a, b) in segments)
                _drawing.Entities.Add(new LineEntity(LayerFor(element, colour, suffix), Data(source, element), [Scaled(a, level), Scaled(b, level)]));
        }
    }

    private Vec3 Scaled(Vec2 p, double level) => new Vec3(p.X, p.Y, level) * (1 / unit.Metres);

    private string LayerFor(ModelElement element, Colour colour, string suffix)
    {
        string name = LayerNames.Clean((element.Layers.Count > 0 ? element.Layers[0] : element.Class) + suffix);
        _layers.TryAdd(name, new Layer(name, Rgb(colour), suffix == "_ABOVE"));
        return _layers[name].Name;
    }

    // Enough to find the element again: instance name, GlobalId, class, storey, source.
    private List<string> Data(int source, ModelElement element)
    {
        var snapshot = plan.Sources[source].Snapshot;
        return ["#" + snapshot.Model.File.Id(element.Index), element.GlobalId, element.Class, snapshot.StoreyName(element.Storey), source.ToString(System.Globalization.CultureInfo.InvariantCulture)];
    }

    private static int Rgb(Colour colour) => (colour.R << 16) | (colour.G << 8) | colour.B;
}
