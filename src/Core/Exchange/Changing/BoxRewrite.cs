using SteadyLintel.Geometry;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Puts a box in place of each body, along the element's own axes. Openings go with the shapes that they cut.</summary>
/// <remarks>Made after a change of schema, in the form of the schema that is written: an extruded rectangle with a colour of its own
/// (ISO 16739-1, IfcExtrudedAreaSolid, IfcRectangleProfileDef).</remarks>
internal sealed class BoxRewrite : IRewrite
{
    /// <summary>The ledger's name of the rule.</summary>
    public const string Rule = "a box in place of the shape";

    // What is flat gets this thickness, metres: an extrusion has to have one.
    private const double Thinnest = 5e-4;
    private readonly IfcModel _model;
    private readonly double _metres;
    private readonly bool _old;
    private readonly Dictionary<int, (Box Box, Colour Colour, IReadOnlyList<string> Layers)> _bodies = [];
    private readonly HashSet<int> _types = [],
        _stays = [];

    /// <summary>Measures the boxes.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="elements">The elements that go.</param>
    /// <param name="metres">Metres in the unit that is written.</param>
    /// <param name="schema">The schema that is written.</param>
    /// <param name="cancel">Stops between elements.</param>
    public BoxRewrite(
        ModelSnapshot snapshot,
        IReadOnlyList<ModelElement> elements,
        double metres,
        string schema,
        CancellationToken cancel
    )
    {
        (_model, _metres, _old) = (snapshot.Model, metres, schema == "IFC2X3");
        var hosts = new HashSet<int>();
        snapshot.ForEachShape(
            elements,
            (element, shape) =>
            {
                int body = snapshot.Shapes.BodyRepresentation(element.Index);
                if (body < 0 || shape is not { Parts.Count: > 0 })
                    return;
                var box = (shape with { World = Frame.Identity }).Bounds();
                if (box.IsEmpty)
                    return;
                // Where elements share a representation, the box holds what each of them shows.
                _bodies[body] = (
                    _bodies.TryGetValue(body, out var known) ? known.Box.Add(box) : box,
                    shape.Parts[0].Colour,
                    element.Layers
                );
                hosts.Add(element.Index);
            },
            0,
            cancel
        );
        foreach (int body in _bodies.Keys)
        foreach (int item in _model.Refs(body, "Items"))
            _stays.Add(item);
        foreach (int type in _model.OfType("IfcTypeProduct"))
            if (_model.Refs(type, "RepresentationMaps").Length > 0)
                _types.Add(type);
        foreach (int map in _types.SelectMany(t => _model.Refs(t, "RepresentationMaps")))
            _stays.Add(map);
        foreach (
            var (relation, host, feature) in new[]
            {
                ("IfcRelVoidsElement", "RelatingBuildingElement", "RelatedOpeningElement"),
                ("IfcRelProjectsElement", "RelatingElement", "RelatedFeatureElement"),
            }
        )
        foreach (int cut in _model.OfType(relation))
            if (hosts.Contains(_model.Ref(cut, host)))
                _stays.UnionWith([cut, _model.Ref(cut, feature)]);
    }

    /// <summary>What of the model is not written: the shapes, the openings, the maps of types.</summary>
    public ShapeStrip Strip =>
        new(
            _bodies
                .Keys.Select(b => (Instance: b, List: "Items"))
                .Concat(_types.Select(t => (Instance: t, List: "RepresentationMaps")))
                .ToDictionary(s => s.Instance, s => s.List),
            _stays
        );

    /// <summary>Why an instance is not written; null when it is.</summary>
    public string? DropOf(int index) => _stays.Contains(index) ? Rule : null;

    /// <summary>The box in place of a body, in the element's own frame; null where the body stays.</summary>
    public (Box Box, Colour Colour)? Of(int body) =>
        _bodies.TryGetValue(body, out var made) ? (made.Box, made.Colour) : null;

    /// <inheritdoc/>
    public bool Touches(int index) => _bodies.ContainsKey(index) || _types.Contains(index);

    /// <inheritdoc/>
    public void Apply(InstanceText text, NewInstances fresh)
    {
        if (_types.Contains(text.Index))
        {
            text["RepresentationMaps"] = "$";
            return;
        }

        var (box, colour, layers) = _bodies[text.Index];
        Vec3 size = box.Size,
            middle = (box.Min + box.Max) * 0.5;
        int centre = fresh.Once("IFCCARTESIANPOINT", "(0.,0.)"),
            flat = fresh.Once("IFCAXIS2PLACEMENT2D", $"#{centre},$");
        int profile = fresh.Once(
            "IFCRECTANGLEPROFILEDEF",
            $".AREA.,$,#{flat},{N(Math.Max(size.X, Thinnest))},{N(Math.Max(size.Y, Thinnest))}"
        );
        int at = fresh.Once("IFCCARTESIANPOINT", $"({N(middle.X)},{N(middle.Y)},{N(box.Min.Z)})");
        int place = fresh.Once("IFCAXIS2PLACEMENT3D", $"#{at},$,$"),
            up = fresh.Once("IFCDIRECTION", "(0.,0.,1.)");
        int solid = fresh.Add("IFCEXTRUDEDAREASOLID", $"#{profile},#{place},#{up},{N(Math.Max(size.Z, Thinnest))}");
        (text["Items"], text["RepresentationType"]) = ($"(#{solid})", "'SweptSolid'");
        fresh.Add("IFCSTYLEDITEM", $"#{solid},(#{Style(colour, fresh)}),$");
        foreach (string layer in layers)
            fresh.Add("IFCPRESENTATIONLAYERASSIGNMENT", $"{StepWriter.String(layer)},$,(#{solid}),$");
    }

    /// <inheritdoc/>
    /// <remarks>The items are checked by their boxes and colours.</remarks>
    public void Expect(ExpectedInstance expected)
    {
        if (_types.Contains(expected.Index))
            expected.Expect("RepresentationMaps", "$", Rule);
        else
        {
            expected.ExpectAnything("Items", Rule);
            expected.Expect("RepresentationType", "'SweptSolid'", Rule);
        }
    }

    private int Style(Colour colour, NewInstances fresh)
    {
        int rgb = fresh.Once("IFCCOLOURRGB", $"$,{Part(colour.R)},{Part(colour.G)},{Part(colour.B)}");
        int look = fresh.Once(
            "IFCSURFACESTYLERENDERING",
            $"#{rgb},{StepNumber.Format(1 - (colour.A / 255.0))},$,$,$,$,$,$,.NOTDEFINED."
        );
        int style = fresh.Once("IFCSURFACESTYLE", $"$,.BOTH.,(#{look})");
        return _old ? fresh.Once("IFCPRESENTATIONSTYLEASSIGNMENT", $"(#{style})") : style;
    }

    private static string Part(byte part) => StepNumber.Format(part / 255.0);

    private string N(double metres) => StepNumber.Format(metres / _metres);
}
