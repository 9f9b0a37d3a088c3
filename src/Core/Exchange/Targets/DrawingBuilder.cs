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
    private readonly OutgoingProperties? _properties;

    public DrawingBuilder(HandoverPlan plan, LengthUnit unit, DrawingLayerNames layers, bool asPlan, Reconciler reconciler)
    {
        (_plan, _unit, _layers, _asPlan, _reconciler) = (plan, unit, layers, asPlan, reconciler);
        _drawing = Start(unit, plan.Order.Form.Version);
        _repeated = new RepeatedShapes(_drawing, unit, BodiesOf);
        _properties = plan.Order.DrawsProperties ? new OutgoingProperties(plan) : null;
    }

    public List<WrittenElement> Written { get; } = [];

    public void Add(int source, IReadOnlyList<ModelElement> elements, CancellationToken cancel)
    {
        PlacedShapes.ForEach(_plan, source, elements, (element, shape) =>
        {
            int before = _drawing.Model.Entities.Count;
            bool taken = false;
            _goes = _properties?.Of(source, element, shape) ?? [];
            if (_asPlan) AddPlan(source, element, shape);
            else taken = AddMeshes(source, element, shape);
            if (taken || _drawing.Model.Entities.Count > before) Written.Add(new WrittenElement(source, element, 0, element.GlobalId));
            else _reconciler.LeaveOut(source, element, shape is null || shape.Parts.Count == 0
                ? DrawingTarget.NoShape : DrawingTarget.NoLine);
        }, cancel);
    }

    // The properties of the element that is being drawn; each of its entities has them.
    private IReadOnlyList<OutgoingProperty> _goes = [];

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
            var layer = LayerFor(source, element, part.Colour, "");
            var goes = _goes;
            void Put(Entity body)
            {
                body.Colour = _layers.Row(source, element)?.Colour is null ? CadColour.True(Rgb(part.Colour)) : CadColour.ByLayer;
                // Transparency (440): 0x02000000 and the alpha, 255 for opaque (DXF reference, common group codes).
                if (part.Colour.A < 255 && _plan.Order.Form.Version >= CadVersion.AC1018)
                    body.Extras.Transparency = 0x02000000 | part.Colour.A;
                Add(source, element, body, layer, goes);
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
        double level = PlacedShapes.Level(_plan, source, element.Storey);
        if (shape is null || shape.Parts.Count == 0)
        {
            AddDrawn(source, element, PlacedShapes.Drawn(_plan, source, element), level);
            return;
        }

        var lines = PlanLines.Of(shape, level + _plan.Order.Cut);
        if (_plan.Sources[source].Snapshot.Model.Is(element.Index, "IfcSpace")) AddRoom(source, element, lines.Cut, level);
        var colour = shape.Parts[0].Colour;
        foreach (var line in lines.Cut)
        {
            bool closed = line.Count > 3 && (line[0] - line[^1]).Length < 1e-6;
            var outline = new LightPolyline { Closed = closed, Elevation = level / _unit.Metres };
            outline.Vertices.AddRange((closed ? line.SkipLast(1) : line).Select(p => new LightVertex(Scaled(p, level).XY)));
            Add(source, element, outline, LayerFor(source, element, colour, "_CUT"));
        }

        AddLines(lines.Below, "_BELOW");
        AddLines(lines.Above, "_ABOVE");

        void AddLines(IReadOnlyList<(Vec2 A, Vec2 B)> segments, string suffix)
        {
            foreach (var (a, b) in segments)
                Add(source, element, new Line { Start = Scaled(a, level), End = Scaled(b, level) }, LayerFor(source, element, colour,
                    suffix));
        }
    }

    // A room's name and its area in the cut, in the middle of its largest outline.
    private void AddRoom(int source, ModelElement element, IReadOnlyList<IReadOnlyList<Vec2>> outlines, double level)
    {
        if (RoomText.Of(_plan.Sources[source].Snapshot, element, outlines) is not var (words, at)) return;
        var text = new Text { Value = words, Insertion = Scaled(at, level), Height = RoomText.Height / _unit.Metres };
        Add(source, element, text, LayerFor(source, element, Colour.Default, "_TEXT"));
    }

    // Grids, annotations, and what has only an outline or an axis.
    private void AddDrawn(int source, ModelElement element, Drawn drawn, double level)
    {
        foreach (var points in drawn.Lines)
        {
            bool closed = points.Count > 3 && (points[0] - points[^1]).Length < 1e-6;
            var line = new LightPolyline { Closed = closed, Elevation = level / _unit.Metres };
            line.Vertices.AddRange((closed ? points.SkipLast(1) : points).Select(p => new LightVertex(Scaled(p.XY, level).XY)));
            Add(source, element, line, LayerFor(source, element, Colour.Default, ""));
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
            Add(source, element, entity, LayerFor(source, element, Colour.Default, ""));
        }
    }

    private Vec3 Scaled(Vec2 p, double level) => new Vec3(p.X, p.Y, level) * (1 / _unit.Metres);

    private Layer LayerFor(int source, ModelElement element, Colour colour, string suffix)
    {
        var layer = _drawing.AddLayer(_layers.Of(source, element, suffix), Rgb(colour), suffix == "_ABOVE" ? _drawing.LineTypes["DASHED"] : null);
        if (_layers.Row(source, element) is not { } row) return layer;
        if (row.Colour is { } given) layer.Colour = given;
        if (row.LineType.Length > 0) layer.LineType = LineTypeOf(row.LineType).Handle;
        if (row.Weight is { } weight) layer.LineWeight = (short)Math.Round(weight * 100);
        return layer;
    }

    // Line types of a table are given on paper of 1:100.
    private LineType LineTypeOf(string name)
    {
        if (_drawing.LineTypes[name] is { } known) return known;
        double[] dashes = [.. LayerTable.LineTypes[name].Select(d => d * 0.1 / _unit.Metres)];
        var made = new LineType
        {
            Name = name,
            Description = name,
            Handle = _drawing.NextHandle(),
            Owner = _drawing.LineTypes.Handle,
            Length = dashes.Sum(Math.Abs),
        };
        made.Dashes.AddRange(dashes.Select(d => new Dash(d)));
        _drawing.LineTypes.Add(made);
        return made;
    }

    private void Add(int source, ModelElement element, Entity entity, Layer layer) => Add(source, element, entity, layer, _goes);

    private void Add(int source, ModelElement element, Entity entity, Layer layer, IReadOnlyList<OutgoingProperty> properties)
    {
        entity.Layer = layer.Handle;
        ElementData.Put(_drawing, entity, Data(source, element));
        DrawnProperties.Put(_drawing, entity, properties);
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
