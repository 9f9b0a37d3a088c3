using SteadyLintel.Cad;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>An element as a drawing shows it, gathered from its entities.</summary>
internal sealed class DrawnElement(string globalId, string type, string storey)
{
    private bool _any;

    /// <summary>The GlobalId its entities name.</summary>
    public string GlobalId => globalId;

    /// <summary>The class they name.</summary>
    public string Class => type;

    /// <summary>The storey they name.</summary>
    public string Storey => storey;

    /// <summary>Whether some of its entities name another GlobalId, class or storey.</summary>
    public bool IsMixed { get; private set; }

    /// <summary>Its bodies, metres.</summary>
    public List<Mesh> Bodies { get; } = [];

    /// <summary>Whether all of them are solids; true when it has none.</summary>
    public bool IsSolid { get; private set; } = true;

    /// <summary>The layers it is on.</summary>
    public HashSet<string> Layers { get; } = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>Its colours: 0xRRGGBB, or numbers of the colour table where the version has no true colours.</summary>
    public HashSet<int> Colours { get; } = [];

    /// <summary>Its alphas below 255.</summary>
    public HashSet<int> Transparencies { get; } = [];

    /// <summary>Its properties, as each of its entities has them; null where they differ from entity to entity.</summary>
    public IReadOnlyList<(string Key, object? Value)>? Properties { get; private set; }

    /// <summary>Its texts.</summary>
    public List<string> Texts { get; } = [];

    /// <summary>Its attributes; null where it is no block.</summary>
    public IReadOnlyList<(string Tag, string Value)>? Attributes { get; private set; }

    /// <summary>The box of its lines, circles and hatches in plan, metres.</summary>
    public Box Lines { get; private set; } = Box.Empty;

    /// <summary>The area of its hatches, square metres.</summary>
    public double HatchedArea { get; private set; }

    /// <summary>The patterns of its hatches.</summary>
    public HashSet<string> Patterns { get; } = [];

    /// <summary>The length of its lines, metres.</summary>
    public double Length { get; private set; }

    /// <summary>Reads a drawing that was made of models.</summary>
    /// <param name="drawing">The drawing.</param>
    /// <param name="strangers">How many entities name no element.</param>
    /// <returns>The elements by source and instance name.</returns>
    public static Dictionary<(string Source, string Id), DrawnElement> Read(Drawing drawing, out int strangers)
    {
        double metres = LengthUnit.All.FirstOrDefault(u => u.DxfUnits == drawing.Units)?.Metres ?? double.NaN;
        var meshes = new BodyMeshes(drawing, metres);
        var elements = new Dictionary<(string Source, string Id), DrawnElement>();
        strangers = 0;
        foreach (var entity in drawing.Model.Entities)
        {
            if (ElementData.Of(drawing, entity) is not [var number, var id, var type, var storey, var origin])
            {
                strangers++;
                continue;
            }

            if (!elements.TryGetValue((origin, number), out var element))
                elements[(origin, number)] = element = new DrawnElement(id, type, storey);
            if (element.GlobalId != id || element.Class != type || element.Storey != storey)
                element.IsMixed = true;
            if (ElementBlock.Of(drawing, entity) is not { } block)
            {
                element.Add(drawing, entity, meshes, metres, DrawnProperties.Of(drawing, entity));
                continue;
            }

            var insert = (Insert)entity;
            element.IsMixed |= element.Attributes is not null || !ElementBlock.IsPlain(insert);
            element.Attributes = [.. insert.Attributes.Select(a => (a.Tag, a.Value))];
            element.Layers.Add(drawing.LayerName(insert.Layer));
            var properties = DrawnProperties.Of(drawing, insert);
            foreach (var inner in block.Entities.Where(e => e is not AttributeDefinition))
                element.Add(drawing, inner, meshes, metres, properties);
        }

        return elements;
    }

    /// <summary>Measures bodies together.</summary>
    public static MassProperties Measure(List<Mesh> bodies) =>
        new Shape(
            Frame.Identity,
            [.. bodies.Select(b => new ShapePart(b, Frame.Identity, Colour.Default, -1))],
            []
        ).Measure();

    private void Add(
        Drawing drawing,
        Entity entity,
        BodyMeshes meshes,
        double metres,
        IReadOnlyList<(string Key, object? Value)> properties
    )
    {
        if (!_any)
            (_any, Properties) = (true, properties);
        else if (Properties?.SequenceEqual(properties) == false)
            Properties = null;
        Layers.Add(drawing.LayerName(entity.Layer));
        if (entity.Colour != CadColour.ByLayer)
            Colours.Add(entity.Colour.Rgb ?? entity.Colour.Index);
        // Readers without true colours go by the number, which must be that of the nearest.
        if (entity.Colour.Rgb is { } rgb && CadColour.True(rgb).Index != entity.Colour.Index)
            Colours.Add(-1);
        if (entity.HasExtras && entity.Extras.Transparency != 0)
            Transparencies.Add(entity.Extras.Transparency & 0xFF);
        var bodies = meshes.Of(entity);
        Bodies.AddRange(bodies);
        if (bodies.Count > 0)
            IsSolid &= meshes.IsSolid(entity);
        if (entity is Text text)
            Texts.Add(text.Value);
        if (entity is Line line)
        {
            Length += (line.End - line.Start).Length * metres;
            Reach(metres, line.Start.XY, line.End.XY);
        }

        if (entity is Circle circle)
        {
            Length += 2 * Math.PI * circle.Radius * metres;
            var r = new Vec2(circle.Radius, circle.Radius);
            Reach(metres, circle.Centre.XY - r, circle.Centre.XY + r);
        }

        if (entity is Hatch hatch)
            AddHatch(hatch, metres);
        if (entity is not LightPolyline outline)
            return;
        var points = outline.Vertices.ConvertAll(v => v.Point);
        Reach(metres, [.. points]);
        if (outline.Closed && points.Count > 0)
            points.Add(points[0]);
        for (int i = 1; i < points.Count; i++)
            Length += (points[i] - points[i - 1]).Length * metres;
    }

    private void Reach(double metres, params ReadOnlySpan<Vec2> points)
    {
        foreach (var p in points)
            Lines = Lines.Add(new Vec3(p.X, p.Y, 0) * metres);
    }

    private void AddHatch(Hatch hatch, double metres)
    {
        // Alternate areas are filled: holes run the other way round.
        HatchedArea +=
            Math.Abs(hatch.Paths.Sum(p => Region.SignedArea([.. p.Vertices.Select(v => v.Point)]))) * metres * metres;
        Patterns.Add(hatch.Pattern);
        Reach(metres, [.. hatch.Paths.SelectMany(p => p.Vertices).Select(v => v.Point)]);
    }
}
