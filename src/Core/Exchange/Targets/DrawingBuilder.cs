using SteadyLintel.Cad;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Puts elements into one drawing, as meshes or as plan lines.</summary>
internal sealed class DrawingBuilder
{
    private readonly HandoverPlan _plan;
    private readonly LengthUnit _unit;
    private readonly DrawingLayerNames _layers;
    private readonly bool _asPlan;
    private readonly Reconciler _reconciler;
    private readonly Drawing _drawing;
    private readonly RepeatedShapes _repeated;

    public DrawingBuilder(HandoverPlan plan, LengthUnit unit, DrawingLayerNames layers, bool asPlan, Reconciler reconciler)
    {
        (_plan, _unit, _layers, _asPlan, _reconciler) = (plan, unit, layers, asPlan, reconciler);
        _drawing = Start(unit, plan.Order.Form.Version);
        _repeated = new RepeatedShapes(_drawing, unit, BodiesOf);
    }

    public List<WrittenElement> Written { get; } = [];

    public void Add(int source, IReadOnlyList<ModelElement> elements, CancellationToken cancel)
    {
        var snapshot = _plan.Sources[source].Snapshot;
        snapshot.ForEachShape(elements, (element, shape) =>
        {
            int before = _drawing.Model.Entities.Count;
            bool taken = false;
            if (_asPlan) AddPlan(source, element, shape);
            else taken = AddMeshes(source, element, shape);
            if (taken || _drawing.Model.Entities.Count > before) Written.Add(new WrittenElement(source, element, 0, element.GlobalId));
            else _reconciler.LeaveOut(source, element, shape is null || shape.Parts.Count == 0
                ? DrawingTarget.NoShape : DrawingTarget.NoLine);
        }, 0, cancel);
    }

    public Drawing Finish()
    {
        _repeated.Finish();
        return _drawing;
    }

    private static Drawing Start(LengthUnit unit, CadVersion version)
    {
        var drawing = Drawing.Create(version);
        drawing.Units = unit.DxfUnits;
        var dashed = new LineType
        {
            Name = "DASHED",
            Description = "Dashed __ __ __",
            Handle = drawing.NextHandle(),
            Owner = drawing.LineTypes.Handle,
            Length = 0.6 / unit.Metres
        };
        // Dashes of 400 mm in the building: 4 mm on a sheet of 1:100.
        dashed.Dashes.AddRange([new Dash(0.4 / unit.Metres), new Dash(-0.2 / unit.Metres)]);
        drawing.LineTypes.Add(dashed);
        return drawing;
    }

    // Whether some piece waits for a second use of its shape, and so is not in the drawing yet.
    private bool AddMeshes(int source, ModelElement element, Shape? shape)
    {
        bool taken = false;
        foreach (var part in shape?.Parts ?? [])
        {
            if (part.Mesh.TriangleCount == 0) continue;
            var place = shape!.World.Compose(part.Frame);
            var layer = LayerFor(element, part.Colour, "");
            void Put(Entity body)
            {
                body.Colour = CadColour.True(Rgb(part.Colour));
                // Transparency (440): 0x02000000 and the alpha, 255 for opaque (DXF reference, common group codes).
                if (part.Colour.A < 255 && _plan.Order.Form.Version >= CadVersion.AC1018)
                    body.Extras.Transparency = 0x02000000 | part.Colour.A;
                Add(source, element, body, layer);
            }

            if (_repeated.Take(source, part, place, Put)) taken = true;
            else
                foreach (var body in BodiesOf(part.Mesh.Map(place))) Put(body);
        }

        return taken;
    }

    private IEnumerable<Entity> BodiesOf(Mesh mesh)
    {
        if (_plan.Order.Solids && Bodies.Solid(mesh, 1 / _unit.Metres, _plan.Order.Form.Version) is { } solid) return [solid];
        return Bodies.Of(mesh, 1 / _unit.Metres, _plan.Order.Form.Version);
    }

    private void AddPlan(int source, ModelElement element, Shape? shape)
    {
        double level = PlanLines.Level(_plan.Sources[source].Snapshot, element.Storey);
        if (shape is null || shape.Parts.Count == 0)
        {
            AddDrawn(source, element, _plan.Sources[source].Snapshot.Shapes.ForPlan(element.Index), level);
            return;
        }

        var lines = PlanLines.Of(shape, level + PlanLines.CutHeight);
        var colour = shape.Parts[0].Colour;
        foreach (var line in lines.Cut)
        {
            bool closed = line.Count > 3 && (line[0] - line[^1]).Length < 1e-6;
            var outline = new LightPolyline { Closed = closed, Elevation = level / _unit.Metres };
            outline.Vertices.AddRange((closed ? line.SkipLast(1) : line).Select(p => new LightVertex(Scaled(p, level).XY)));
            Add(source, element, outline, LayerFor(element, colour, "_CUT"));
        }

        AddLines(lines.Below, "_BELOW");
        AddLines(lines.Above, "_ABOVE");

        void AddLines(IReadOnlyList<(Vec2 A, Vec2 B)> segments, string suffix)
        {
            foreach (var (a, b) in segments)
                Add(source, element, new Line { Start = Scaled(a, level), End = Scaled(b, level) }, LayerFor(element, colour, suffix));
        }
    }

    // Grids, annotations, and what has only an outline or an axis.
    private void AddDrawn(int source, ModelElement element, Drawn drawn, double level)
    {
        foreach (var points in drawn.Lines)
        {
            bool closed = points.Count > 3 && (points[0] - points[^1]).Length < 1e-6;
            var line = new LightPolyline { Closed = closed, Elevation = level / _unit.Metres };
            line.Vertices.AddRange((closed ? points.SkipLast(1) : points).Select(p => new LightVertex(Scaled(p.XY, level).XY)));
            Add(source, element, line, LayerFor(element, Colour.Default, ""));
        }

        foreach (var text in drawn.Texts)
        {
            var entity = new Text
            {
                Value = text.Content,
                Insertion = Scaled(text.Place.Origin.XY, level),
                Height = text.Height / _unit.Metres,
                Rotation = Math.Atan2(text.Place.X.Y, text.Place.X.X)
            };
            Add(source, element, entity, LayerFor(element, Colour.Default, ""));
        }
    }

    private Vec3 Scaled(Vec2 p, double level) => new Vec3(p.X, p.Y, level) * (1 / _unit.Metres);

    private Layer LayerFor(ModelElement element, Colour colour, string suffix) =>
        _drawing.AddLayer(_layers.Of(element, suffix), Rgb(colour), suffix == "_ABOVE" ? _drawing.LineTypes["DASHED"] : null);

    private void Add(int source, ModelElement element, Entity entity, Layer layer)
    {
        entity.Layer = layer.Handle;
        ElementData.Put(_drawing, entity, Data(source, element));
        _drawing.Add(entity);
    }

    // Enough to find the element again: instance name, GlobalId, class, storey, source.
    private List<string> Data(int source, ModelElement element)
    {
        var snapshot = _plan.Sources[source].Snapshot;
        return ["#" + snapshot.Model.File.Id(element.Index), element.GlobalId, element.Class, snapshot.StoreyName(element.Storey),
            source.ToString(System.Globalization.CultureInfo.InvariantCulture)];
    }

    private static int Rgb(Colour colour) => (colour.R << 16) | (colour.G << 8) | colour.B;
}
