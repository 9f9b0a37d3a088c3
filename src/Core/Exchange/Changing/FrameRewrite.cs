using SteadyLintel.Geometry;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Moves a model: its placement roots, its true north and its map conversion, so that it stays where it was on the map.</summary>
/// <remarks>
/// A root is a local placement that hangs on nothing; whatever hangs on it follows. Products with a shape and no placement get one.
/// Elevations of storeys stay: they count
/// from the building's own zero (ISO 16739-1, IfcBuildingStorey). A change of unit comes before this one.
/// </remarks>
public sealed class FrameRewrite : IRewrite
{
    private readonly ModelSnapshot _snapshot;
    private readonly Frame _move;
    private readonly double _metres;
    private readonly MapPlace? _map;
    private readonly HashSet<int> _roots = [];
    private readonly HashSet<int> _norths = [];
    private readonly HashSet<int> _unplaced = [];

    /// <summary>Prepares to move a model.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="move">From where it is to where it shall are, metres: a turn about Z and a shift.</param>
    /// <param name="metres">Metres in the unit that is written.</param>
    /// <param name="map">Where it is on the map when it has moved there: a map conversion that it has adds nothing then.</param>
    public FrameRewrite(ModelSnapshot snapshot, Frame move, double metres, MapPlace? map = null)
    {
        (_snapshot, _move, _metres, _map) = (snapshot, move, metres, map);
        var model = snapshot.Model;
        foreach (int placement in model.OfType("IfcObjectPlacement"))
            if (model.Ref(placement, "PlacementRelTo") < 0)
                _roots.Add(placement);
        foreach (int context in model.OfType("IfcGeometricRepresentationContext"))
            if (!model.Is(context, "IfcGeometricRepresentationSubContext"))
                _norths.Add(context);
        foreach (int product in model.OfType("IfcProduct"))
            if (model.Ref(product, "ObjectPlacement") < 0 && model.Ref(product, "Representation") >= 0)
                _unplaced.Add(product);
    }

    /// <summary>A turn about the vertical through the origin, then a shift.</summary>
    /// <param name="shift">Metres.</param>
    /// <param name="degrees">Counter-clockwise.</param>
    public static Frame Move(Vec3 shift, double degrees)
    {
        double angle = degrees * Math.PI / 180;
        return Sweep.Turn(Vec3.Zero, Vec3.AxisZ, angle) with { Origin = shift };
    }

    /// <inheritdoc/>
    public bool Touches(int index) =>
        _roots.Contains(index)
        || _norths.Contains(index)
        || _unplaced.Contains(index)
        || _snapshot.Model.Is(index, "IfcMapConversion");

    /// <inheritdoc/>
    public void Apply(InstanceText text, NewInstances fresh)
    {
        if (_roots.Contains(text.Index))
            Root(text, fresh);
        else if (_norths.Contains(text.Index))
            North(text, fresh);
        else if (_unplaced.Contains(text.Index))
            text["ObjectPlacement"] = "#" + fresh.Once("IFCLOCALPLACEMENT", $"$,#{Placement(_move, fresh)}");
        else
            MapConversion(text);
    }

    /// <summary>The rule's name in the ledger.</summary>
    public const string Rule = "frame";

    /// <inheritdoc/>
    /// <remarks>The frame is checked by what it does: every product's place, true north, and the way to the map.</remarks>
    public void Expect(ExpectedInstance expected)
    {
        if (_roots.Contains(expected.Index))
            expected.ExpectAnything(
                _snapshot.Model.Is(expected.Index, "IfcLocalPlacement") ? "RelativePlacement" : "PlacementRelTo",
                Rule
            );
        else if (_norths.Contains(expected.Index))
            expected.ExpectAnything("TrueNorth", Rule);
        else if (_unplaced.Contains(expected.Index))
            expected.ExpectAnything("ObjectPlacement", Rule);
        else
            foreach (
                string attribute in (string[])
                    [
                        "Eastings",
                        "Northings",
                        "OrthogonalHeight",
                        "XAxisAbscissa",
                        "XAxisOrdinate",
                        .. _map is null ? (string[])[] : ["Scale"],
                    ]
            )
                expected.ExpectAnything(attribute, Rule);
    }

    private void Root(InstanceText text, NewInstances fresh)
    {
        // A placement on a curve or grid keeps its place by hanging on a root of its own.
        if (!_snapshot.Model.Is(text.Index, "IfcLocalPlacement"))
        {
            text["PlacementRelTo"] = "#" + fresh.Once("IFCLOCALPLACEMENT", $"$,#{Placement(_move, fresh)}");
            return;
        }

        var own = _snapshot.Shapes.Placements.Axes(_snapshot.Model.Ref(text.Index, "RelativePlacement"));
        text["RelativePlacement"] = "#" + Placement(_move.Compose(own), fresh);
    }

    private int Placement(Frame frame, NewInstances fresh) =>
        Axes(frame with { Origin = frame.Origin * (1 / _metres) }, fresh);

    private static int Axes(Frame frame, NewInstances fresh) =>
        fresh.Add(
            "IFCAXIS2PLACEMENT3D",
            $"#{fresh.Add("IFCCARTESIANPOINT", Triple(frame.Origin))},#{fresh.Once("IFCDIRECTION", Triple(frame.Z))},#{fresh.Once("IFCDIRECTION", Triple(frame.X))}"
        );

    private void North(InstanceText text, NewInstances fresh)
    {
        int north = _snapshot.Model.Ref(text.Index, "TrueNorth");
        if (north < 0 && Math.Abs(_move.X.Y) < 1e-15)
            return;
        var direction = _move.Direction(new IfcPlacements(_snapshot.Model, 1).Direction(north, Vec3.AxisY));
        text["TrueNorth"] = "#" + fresh.Once("IFCDIRECTION", $"({N(direction.X)},{N(direction.Y)})");
    }

    // The point that was at p is at move(p) now, and must come to the same place on the map: the conversion takes the way back first.
    private void MapConversion(InstanceText text)
    {
        var model = _snapshot.Model;
        int system = model.Ref(text.Index, "TargetCRS"),
            unit = model.Ref(system, "MapUnit");
        double mapMetres =
            unit >= 0 && double.IsFinite(_snapshot.Units.Factor(unit))
                ? _snapshot.Units.Factor(unit)
                : _snapshot.Units.Metres;
        // Without a unit of its own the map is measured in the file's, and that is the new one.
        double written = unit >= 0 ? mapMetres : _metres;
        if (_map is not null)
        {
            Write(text, Frame.At(_map.Shift), 1, written);
            text["Scale"] = N(_map.Scale * _metres / written);
            return;
        }

        double Value(string name, double fallback) =>
            model.Get(text.Index, name).Real is var v && double.IsFinite(v) ? v : fallback;
        double x = Value("XAxisAbscissa", 1),
            y = Value("XAxisOrdinate", 0),
            length = Math.Sqrt((x * x) + (y * y)),
            scale = Value("Scale", 1);
        (x, y) = length > 0 ? (x / length, y / length) : (1, 0);
        // Metres on the map for a metre of the model.
        double grow = scale * mapMetres / _snapshot.Units.Metres;
        var map = new Frame(
            new Vec3(Value("Eastings", 0), Value("Northings", 0), Value("OrthogonalHeight", 0)) * mapMetres,
            new Vec3(x, y, 0) * grow,
            new Vec3(-y, x, 0) * grow,
            Vec3.AxisZ * grow
        );
        Write(text, map.Compose(_move.Inverse()), grow, written);
    }

    private static void Write(InstanceText text, Frame after, double grow, double written)
    {
        text["Eastings"] = N(after.Origin.X / written);
        text["Northings"] = N(after.Origin.Y / written);
        text["OrthogonalHeight"] = N(after.Origin.Z / written);
        text["XAxisAbscissa"] = N(after.X.X / grow);
        text["XAxisOrdinate"] = N(after.X.Y / grow);
    }

    private static string Triple(Vec3 v) => $"({N(v.X)},{N(v.Y)},{N(v.Z)})";

    // Fifteen digits, and no dust where a turn by a quarter leaves some.
    private static string N(double value) =>
        StepNumber.Format(
            Math.Abs(value) < 1e-15
                ? 0
                : double.Parse(
                    value.ToString("G15", System.Globalization.CultureInfo.InvariantCulture),
                    System.Globalization.CultureInfo.InvariantCulture
                )
        );
}
