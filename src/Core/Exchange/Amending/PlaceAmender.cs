using SteadyLintel.Geometry;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Moves and rotates elements, with what belongs to them.</summary>
/// <param name="editor">The model.</param>
internal sealed class PlaceAmender(ModelEditor editor)
{
    private const int MaxDepth = 200;
    private readonly IfcModel _model = editor.Model;
    private Dictionary<int, List<int>>? _products,
        _children;

    /// <summary>The move of an amendment in the world of the model: a rotation about the vertical through the element's origin, then a
    /// translation, metres.</summary>
    public static Frame MoveOf(Amendment amendment, Frame element)
    {
        var about = element.Origin;
        var turn = Sweep.Turn(about, Vec3.AxisZ, (amendment.Turn ?? 0) * Math.PI / 180);
        return turn with { Origin = turn.Origin + new Vec3(amendment.X ?? 0, amendment.Y ?? 0, amendment.Z ?? 0) };
    }

    /// <summary>What moves with an element: its openings and projections, what fills them, and its parts.</summary>
    public static IReadOnlyList<int> MovedWith(ModelSnapshot snapshot, int element)
    {
        var model = snapshot.Model;
        var all = new List<int> { element };
        var seen = new HashSet<int>(all);
        var fills = model
            .OfType("IfcRelFillsElement")
            .Select(r =>
                (Opening: model.Ref(r, "RelatingOpeningElement"), Element: model.Ref(r, "RelatedBuildingElement"))
            )
            .ToLookup(f => f.Opening, f => f.Element);
        var parts = model
            .OfType("IfcRelAggregates")
            .SelectMany(r =>
                model.Refs(r, "RelatedObjects").Select(p => (Whole: model.Ref(r, "RelatingObject"), Part: p))
            )
            .ToLookup(p => p.Whole, p => p.Part);
        for (int n = 0; n < all.Count; n++)
            foreach (
                int next in snapshot
                    .Relations.Openings[all[n]]
                    .ToArray()
                    .Concat(snapshot.Relations.Projections[all[n]].ToArray())
                    .Concat(fills[all[n]])
                    .Concat(parts[all[n]])
            )
                if (next >= 0 && model.Is(next, "IfcProduct") && seen.Add(next))
                    all.Add(next);
        return all;
    }

    /// <summary>Moves an element.</summary>
    public void Apply(int element, Amendment by)
    {
        var placements = editor.Snapshot.Shapes.Placements;
        Frame world;
        try
        {
            world = placements.Product(element);
        }
        catch (ShapeException e)
        {
            throw new AmendmentException($"Its place cannot be read: {e.Message}");
        }

        var move = MoveOf(by, world);
        var moved = new List<(int Product, int Placement)>();
        foreach (int product in MovedWith(editor.Snapshot, element))
        {
            int placement = _model.Ref(product, "ObjectPlacement");
            if (placement < 0 && product == element && _model.Ref(product, "Representation") >= 0)
                throw new AmendmentException("It has no placement of its own, so it cannot be moved alone.");
            if (placement < 0 || Chain(placement).Any(p => moved.Exists(m => m.Placement == p)))
                continue;
            Check(product, placement);
            moved.Add((product, placement));
        }

        foreach (var (product, placement) in moved)
            Move(product, placement, move);
    }

    private void Check(int product, int placement)
    {
        if (!_model.Is(placement, "IfcLocalPlacement"))
            throw new AmendmentException(
                $"It is placed by an {_model.ClassName(placement)}, along a curve or a grid; move the curve or the grid in the sender's program."
            );
        if (IsShared(product, placement) && _children!.ContainsKey(placement))
            throw new AmendmentException(
                $"It shares its placement with {_products![placement].Count - 1} other elements and others are placed by it; ask the sender to give it a placement of its own."
            );
    }

    private bool IsShared(int product, int placement)
    {
        Index();
        return _products![placement].Exists(p => p != product);
    }

    private void Move(int product, int placement, Frame move)
    {
        var placements = editor.Snapshot.Shapes.Placements;
        int parent = _model.Ref(placement, "PlacementRelTo");
        var above = parent < 0 ? Frame.Identity : World(parent);
        var own = above
            .Inverse()
            .Compose(move)
            .Compose(above)
            .Compose(placements.Axes(_model.Ref(placement, "RelativePlacement")));
        string axes = Axes(own);
        if (!IsShared(product, placement))
        {
            editor.Text(placement)["RelativePlacement"] = axes;
            return;
        }

        var text = editor.Blank("IfcLocalPlacement");
        if (parent >= 0)
            text["PlacementRelTo"] = editor.Ref(parent);
        text["RelativePlacement"] = axes;
        editor.Text(product)["ObjectPlacement"] = editor.Add(text);
    }

    // The world of a placement that no product need have.
    private Frame World(int placement)
    {
        var frame = Frame.Identity;
        foreach (int link in Chain(placement))
            frame = editor.Snapshot.Shapes.Placements.Axes(_model.Ref(link, "RelativePlacement")).Compose(frame);
        return frame;
    }

    private IEnumerable<int> Chain(int placement)
    {
        for (int depth = 0; placement >= 0 && depth < MaxDepth; depth++)
        {
            yield return placement;
            placement = _model.Ref(placement, "PlacementRelTo");
        }
    }

    private void Index()
    {
        if (_products is not null)
            return;
        (_products, _children) = ([], []);
        foreach (int product in _model.OfType("IfcProduct"))
            if (_model.Ref(product, "ObjectPlacement") is >= 0 and var placement)
                (_products.TryGetValue(placement, out var list) ? list : _products[placement] = []).Add(product);
        foreach (int placement in _model.OfType("IfcObjectPlacement"))
            if (_model.Ref(placement, "PlacementRelTo") is >= 0 and var parent)
                (_children.TryGetValue(parent, out var list) ? list : _children[parent] = []).Add(placement);
    }

    private string Axes(Frame frame)
    {
        var text = editor.Blank("IfcAxis2Placement3D");
        text["Location"] = Point(frame.Origin * (1 / editor.Snapshot.Units.Metres));
        text["Axis"] = Direction(frame.Z);
        text["RefDirection"] = Direction(frame.X);
        return editor.Add(text);
    }

    /// <summary>A point in the units of the file: a reference.</summary>
    public string Point(Vec3 point)
    {
        var text = editor.Blank("IfcCartesianPoint");
        text["Coordinates"] = Triple(point);
        return editor.Once(text);
    }

    private string Direction(Vec3 direction)
    {
        var text = editor.Blank("IfcDirection");
        text["DirectionRatios"] = Triple(direction);
        return editor.Once(text);
    }

    private static string Triple(Vec3 v) => $"({N(v.X)},{N(v.Y)},{N(v.Z)})";

    // No dust where a turn by a quarter leaves some.
    private static string N(double value) => StepNumber.Format(Math.Abs(value) < 1e-15 ? 0 : StepNumber.Rounded(value));
}
