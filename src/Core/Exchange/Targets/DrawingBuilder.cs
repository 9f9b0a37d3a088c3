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
    private readonly FileViews? _views;
    private readonly Drawing _drawing;
    private readonly RepeatedShapes _repeated;
    private readonly OutgoingProperties? _properties;

    /// <summary>Starts a drawing.</summary>
    /// <param name="plan">The order.</param>
    /// <param name="unit">The drawing's unit.</param>
    /// <param name="layers">The layers of elements.</param>
    /// <param name="views">What its views show; null for bodies.</param>
    public DrawingBuilder(HandoverPlan plan, LengthUnit unit, DrawingLayerNames layers, FileViews? views)
    {
        (_plan, _unit, _layers, _views) = (plan, unit, layers, views);
        _drawing = Start(unit, plan.Order.Form.Version, plan.Order.Scale);
        _repeated = new RepeatedShapes(_drawing, unit, BodiesOf);
        _properties = plan.Order.DrawsProperties ? new OutgoingProperties(plan) : null;
    }

    public List<WrittenElement> Written { get; } = [];

    /// <summary>Elements that are not in the drawing, with the reason.</summary>
    public List<(int Source, ModelElement Element, string Reason)> Missing { get; } = [];

    public void Add(int source, IReadOnlyList<ModelElement> elements, CancellationToken cancel)
    {
        PlacedShapes.ForEach(
            _plan,
            source,
            elements,
            (element, shape) =>
            {
                int before = _drawing.Model.Entities.Count;
                bool taken = false;
                _goes = _properties?.Of(source, element, shape) ?? [];
                _into = _plan.Order.Attributes ? ElementBlock.Add(_drawing, element.GlobalId) : null;
                int inside = _into?.Entities.Count ?? 0;
                if (_views is not null)
                    AddLines(source, element, _views.Elements[(source, element.Number)]);
                else
                    taken = AddMeshes(source, element, shape);
                if (_into is not null && (taken || _into.Entities.Count > inside))
                    PutBlock(source, element, shape);
                if (taken || _drawing.Model.Entities.Count > before)
                    Written.Add(new WrittenElement(source, element, 0, element.GlobalId));
                else
                    Missing.Add(
                        (
                            source,
                            element,
                            shape is null || shape.Parts.Count == 0 ? DrawingTarget.NoShape : DrawingTarget.NoLine
                        )
                    );
            },
            cancel
        );
    }

    // The properties of the element that is being drawn; each of its entities has them.
    private IReadOnlyList<OutgoingProperty> _goes = [];

    // The block that the element becomes, where properties go as attributes; null where its entities are in model space.
    private BlockRecord? _into;

    private void PutBlock(int source, ModelElement element, Shape? shape)
    {
        // Attributes are where the element is, so that they do not stretch the drawing to its origin.
        var at = _views is null
            ? shape!.Bounds().Min * (1 / _unit.Metres)
            : _drawing.ExtentsOf(_into!.Entities).Aggregate(Box.Empty, (all, box) => all.Add(box)).Min;
        var insert = ElementBlock.Insert(
            _drawing,
            _into!,
            element,
            _goes,
            at,
            0.001 * _plan.Order.Scale / _unit.Metres
        );
        var layer = LayerFor(
            source,
            element,
            shape is { Parts.Count: > 0 } ? shape.Parts[0].Colour : Colour.Default,
            ""
        );
        foreach (var attribute in insert.Attributes)
            attribute.Layer = layer.Handle;
        _into = null;
        Add(source, element, insert, layer);
    }

    /// <summary>The drawing, with shapes that wait for a second use put in.</summary>
    public Drawing Finish()
    {
        _repeated.Finish();
        return _drawing;
    }

    private static Drawing Start(LengthUnit unit, CadVersion version, int scale)
    {
        var drawing = Drawing.Create(version);
        drawing.Units = unit.DxfUnits;
        var dashed = new LineType
        {
            Name = "DASHED",
            Description = "Dashed __ __ __",
            Handle = drawing.NextHandle(),
            Owner = drawing.LineTypes.Handle,
            Length = 0.006 * scale / unit.Metres,
        };
        // Dashes of 4 mm on paper.
        dashed.Dashes.AddRange([new Dash(0.004 * scale / unit.Metres), new Dash(-0.002 * scale / unit.Metres)]);
        drawing.LineTypes.Add(dashed);
        return drawing;
    }

    // Whether some piece waits for a second use of its shape, and so is not in the drawing yet.
    private bool AddMeshes(int source, ModelElement element, Shape? shape)
    {
        bool taken = false;
        foreach (var part in shape?.Parts ?? [])
        {
            if (part.Mesh.TriangleCount == 0)
                continue;
            var place = shape!.World.Compose(part.Frame);
            var layer = LayerFor(source, element, part.Colour, "");
            var (goes, into) = (_goes, _into);
            void Put(Entity body)
            {
                body.Colour = _layers.Row(source, element)?.Colour is null
                    ? CadColour.True(Rgb(part.Colour))
                    : CadColour.ByLayer;
                // Transparency (440): 0x02000000 and the alpha, 255 for opaque (DXF reference, common group codes).
                if (part.Colour.A < 255 && _plan.Order.Form.Version >= CadVersion.AC1018)
                    body.Extras.Transparency = 0x02000000 | part.Colour.A;
                Add(source, element, body, layer, goes, into);
            }

            if (_repeated.Take(source, part, place, Put))
                taken = true;
            else
                foreach (var body in BodiesOf(part.Mesh.Map(place)))
                    Put(body);
        }

        return taken;
    }

    private IEnumerable<Entity> BodiesOf(Mesh mesh)
    {
        if (_plan.Order.Solids && Bodies.Solid(mesh, 1 / _unit.Metres, _plan.Order.Form.Version) is { } solid)
            return [solid];
        return Bodies.Of(mesh, 1 / _unit.Metres, _plan.Order.Form.Version);
    }

    private void AddLines(int source, ModelElement element, ElementLines shown)
    {
        var view = shown.View;
        var layers = ViewLayers.Of(view);
        Layer On(string suffix) => LayerFor(source, element, shown.Colour, suffix);
        // Faces first: what is drawn later covers them.
        foreach (var (face, hatch) in shown.Faces)
            Add(
                source,
                element,
                hatch.Entity(face, 1 / _unit.Metres, view.Height, _plan.Order.Scale),
                On(layers.Hatch)
            );
        foreach (var line in shown.Cut)
            Add(source, element, Outline(line, view), On(layers.Cut));
        foreach (var line in shown.Symbols)
            Add(source, element, Outline(line, view), On(""));
        foreach (
            var (lines, suffix) in new[]
            {
                (shown.Beyond, layers.Beyond),
                (shown.Hidden, layers.Hidden),
                (shown.Before, layers.Before),
            }
        )
        foreach (var (a, b) in lines)
            Add(source, element, new Line { Start = Scaled(a, view.Height), End = Scaled(b, view.Height) }, On(suffix));
        foreach (var (middle, radius) in shown.Bubbles)
            Add(
                source,
                element,
                new Circle { Centre = Scaled(middle, view.Height), Radius = radius / _unit.Metres },
                On("")
            );
        foreach (var text in shown.Texts)
            Add(source, element, TextOf(text, view), On(shown.IsRoom ? layers.Text : ""));
    }

    /// <summary>Marks the levels of views.</summary>
    public void AddMarks(IEnumerable<ViewLevel> marks)
    {
        foreach (var mark in marks)
        {
            var layer = _drawing.AddLayer(ViewLayers.Marks);
            foreach (
                Entity entity in new Entity[]
                {
                    new Line { Start = Scaled(mark.From, mark.View.Height), End = Scaled(mark.To, mark.View.Height) },
                    TextOf(mark.Text, mark.View),
                }
            )
            {
                entity.Layer = layer.Handle;
                ElementData.Put(_drawing, entity, ["", "", ViewLevel.Kind, mark.Storey, ViewLayers.NoSource]);
                _drawing.Add(entity);
            }
        }
    }

    private LightPolyline Outline(IReadOnlyList<Vec2> line, PlanView view)
    {
        bool closed = line.Count > 3 && (line[0] - line[^1]).Length < 1e-6;
        var outline = new LightPolyline { Closed = closed, Elevation = view.Height / _unit.Metres };
        outline.Vertices.AddRange(
            (closed ? line.SkipLast(1) : line).Select(p => new LightVertex(p * (1 / _unit.Metres)))
        );
        return outline;
    }

    private Text TextOf(ViewText text, PlanView view)
    {
        var entity = new Text
        {
            Value = text.Content,
            Insertion = Scaled(text.At, view.Height),
            Height = text.Height / _unit.Metres,
            Rotation = text.Rotation,
        };
        if (!text.Centred)
            return entity;
        // Middle, by what it is justified to; the start is a guess for those who do not look at it.
        (entity.Horizontal, entity.Vertical, entity.Alignment) = (1, 2, entity.Insertion);
        entity.Insertion -= new Vec3(text.Content.Length * 0.4, 0.5, 0) * entity.Height;
        return entity;
    }

    private Vec3 Scaled(Vec2 p, double height) => new Vec3(p.X, p.Y, height) * (1 / _unit.Metres);

    private Layer LayerFor(int source, ModelElement element, Colour colour, string suffix)
    {
        var layer = _drawing.AddLayer(
            _layers.Of(source, element, suffix),
            Rgb(colour),
            ViewLayers.IsDashed(suffix) ? _drawing.LineTypes["DASHED"] : null
        );
        if (_layers.Row(source, element) is not { } row)
            return layer;
        if (row.Colour is { } given)
            layer.Colour = given;
        if (row.LineType.Length > 0 && !ViewLayers.IsDashed(suffix))
            layer.LineType = LineTypeOf(row.LineType).Handle;
        if (row.Weight is { } weight)
            layer.LineWeight = (short)Math.Round(weight * 100);
        return layer;
    }

    // Line types of a table are forwarded paper.
    private LineType LineTypeOf(string name)
    {
        if (_drawing.LineTypes[name] is { } known)
            return known;
        double[] dashes = [.. LayerTable.LineTypes[name].Select(d => d * _plan.Order.Scale / 1000 / _unit.Metres)];
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

    private void Add(int source, ModelElement element, Entity entity, Layer layer) =>
        Add(source, element, entity, layer, _goes, _into);

    private void Add(
        int source,
        ModelElement element,
        Entity entity,
        Layer layer,
        IReadOnlyList<OutgoingProperty> properties,
        BlockRecord? into
    )
    {
        entity.Layer = layer.Handle;
        // In a block it is the insert that says which element it is.
        if (into is null)
        {
            ElementData.Put(_drawing, entity, Data(source, element));
            DrawnProperties.Put(_drawing, entity, properties);
        }

        _drawing.Add(entity, into);
    }

    // Enough to find the element again: instance name, GlobalId, class, storey, source.
    private List<string> Data(int source, ModelElement element)
    {
        var snapshot = _plan.Sources[source].Snapshot;
        return
        [
            "#" + snapshot.Model.File.Id(element.Index),
            element.GlobalId,
            element.Class,
            snapshot.StoreyName(element.Storey),
            source.ToString(System.Globalization.CultureInfo.InvariantCulture),
        ];
    }

    private static int Rgb(Colour colour) => (colour.R << 16) | (colour.G << 8) | colour.B;
}
