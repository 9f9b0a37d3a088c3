using System.Globalization;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Gathers what a model declares of its frame and what it looks like, while its shapes are built.</summary>
/// <param name="snapshot">The model.</param>
public sealed class FrameReader(ModelSnapshot snapshot)
{
    // Heights of one storey that differ by more do not agree, metres.
    private const double Agree = 0.01;

    // A thing may be this far below its storey, metres: slabs, foundations of the lowest. Common practice.
    private const double Below = 3;

    // Sentences with their codes; the codes of those that the intake report finds by itself are its own.
    private readonly List<(string Code, string Sentence)> _disagreements = [];

    private readonly List<double> _doors = [],
        _walls = [];
    private readonly Box[] _storeys = [.. Enumerable.Repeat(Box.Empty, snapshot.Structure.Storeys.Count)];
    private Box _extent = Box.Empty;

    /// <summary>Reads a model alone; every shape is built.</summary>
    public static FrameFacts Read(ModelSnapshot snapshot, CancellationToken cancel = default)
    {
        var reader = new FrameReader(snapshot);
        snapshot.ForEachShape(
            snapshot.Elements,
            (_, shape) => ShapeFacts.Of(shape),
            (element, _, facts) => reader.Add(element, facts),
            0,
            cancel
        );
        return reader.Finish();
    }

    /// <summary>Adds an element.</summary>
    public void Add(ModelElement element, ShapeFacts? facts)
    {
        var model = snapshot.Model;
        bool door = model.Is(element.Index, "IfcDoor");
        if (
            door
            && model.Get(element.Index, "OverallHeight").Real is var height
            && double.IsFinite(height)
            && height > 0
        )
            _doors.Add(height * snapshot.Units.Metres);
        if (facts is not { Box: { IsEmpty: false } box })
            return;
        _extent = _extent.Add(box);
        if (element.Storey >= 0)
            _storeys[element.Storey] = _storeys[element.Storey].Add(box);
        if (door && _doors.Count == 0)
            _doors.Add(box.Size.Z);
        // In its own frame a wall runs along an axis, whichever way the building is turned.
        if (model.Is(element.Index, "IfcWall") && facts.Local.Box.Size is var size)
            _walls.Add(Math.Min(size.X, size.Y));
    }

    /// <summary>What was found.</summary>
    public FrameFacts Finish()
    {
        var model = snapshot.Model;
        var storeys = snapshot.Structure.Storeys;
        var heights = storeys
            .Select(
                (s, n) =>
                    new StoreyHeights(
                        s.Name,
                        s.Elevation,
                        s.PlacementZ,
                        _storeys[n].IsEmpty ? null : _storeys[n].Min.Z,
                        _storeys[n].IsEmpty ? null : _storeys[n].Max.Z
                    )
            )
            .ToList();
        var steps = storeys.Zip(storeys.Skip(1), (a, b) => b.Level - a.Level).Where(d => d > 0).ToList();
        Measured doors = Measured.Of(_doors),
            walls = Measured.Of(_walls),
            floors = Measured.Of(steps);
        var units = snapshot.Units;
        double across = _extent.IsEmpty ? 0 : Math.Max(_extent.Size.X, _extent.Size.Y);
        var scores = UnitEvidence.Score(
            units.Metres,
            units.LengthName,
            doors.Median,
            floors.Median,
            walls.Median,
            across
        );
        int site = snapshot.Structure.Sites.Append(-1).First();
        var place = GeoReference.Read(model, snapshot.Structure, units);
        double[] origin = WorldOrigin();
        return new FrameFacts(
            units.LengthName,
            units.LengthDeclared,
            units.Metres,
            place,
            Angle(site, "RefLatitude"),
            Angle(site, "RefLongitude"),
            Length(site, "RefElevation"),
            origin,
            North(),
            heights,
            _extent.IsEmpty
                ? null
                : [_extent.Min.X, _extent.Min.Y, _extent.Min.Z, _extent.Max.X, _extent.Max.Y, _extent.Max.Z],
            _extent.IsEmpty ? 0 : FromZero(),
            doors,
            floors,
            walls,
            Disagreements(scores, heights, place)
        )
        {
            UnitEvidence = scores,
            Axes = PlanAxis.Of(snapshot),
        };
    }

    /// <summary>Adds what does not agree to the findings of intake, as far as nothing there says it already; after
    /// <see cref="Finish"/>.</summary>
    internal void AddTo(FindingList findings)
    {
        foreach (var (code, sentence) in _disagreements)
            if (code.StartsWith("SET-", StringComparison.Ordinal))
                findings.Add(
                    code,
                    Severity.Warning,
                    n =>
                        n == 1
                            ? sentence
                            : string.Join(" ", _disagreements.Where(d => d.Code == code).Select(d => d.Sentence)),
                    null
                );
    }

    private List<string> Disagreements(IReadOnlyList<UnitScore> scores, List<StoreyHeights> heights, GeoReference place)
    {
        var found = _disagreements;
        var units = snapshot.Units;
        if (
            UnitEvidence.Disagreement(
                scores,
                units.LengthDeclared ? units.LengthName : "nothing, so metre is assumed",
                units.Metres
            ) is
            { } unit
        )
            found.Add(("SET-UNIT", unit));
        else
            found.AddRange(UnitEvidence.Implausible(scores, units.Metres).Select(s => ("SET-SIZE-ODD", s)));
        foreach (var storey in heights)
        {
            if (storey is { Said: { } said, Placed: { } placed } && Math.Abs(said - placed) > Agree)
                found.Add(
                    (
                        "IFC-STOREY-ELEVATION",
                        $"Storey {storey.Name} says {Text(said)} but is placed at {Text(placed)}: {Text(placed - said)} apart."
                    )
                );
            if (
                (storey.Placed ?? storey.Said) is { } at
                && storey.Lowest is { } lowest
                && storey.Highest is { } highest
                && (lowest < at - (10 * Below) || highest < at - Below)
            )
                found.Add(
                    (
                        "SET-STOREY-STANDS",
                        $"On storey {storey.Name} at {Text(at)} everything is between {Text(lowest)} and {Text(highest)}."
                    )
                );
        }

        double far = _extent.IsEmpty
            ? 0
            : new[] { _extent.Min.X, _extent.Min.Y, _extent.Max.X, _extent.Max.Y }.Max(Math.Abs);
        if (far > SinglePrecision.Far)
            found.Add(
                (
                    "IFC-FAR-FROM-ORIGIN",
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"The model reaches {SinglePrecision.Reach(far)} from zero; programs that calculate in single precision place elements there to {SinglePrecision.SpacingText(far)} at best."
                    )
                )
            );
        if (
            place.Kind == "IfcMapConversion"
            && FromZero() > SinglePrecision.Far
            && new Vec2(place.Eastings, place.Northings).Length > SinglePrecision.Far
        )
            found.Add(
                (
                    "SET-MAP-TWICE",
                    "It has a map conversion and is at map coordinates already: applied again, it would be placed twice as far away."
                )
            );
        return found.ConvertAll(f => f.Sentence);
    }

    private double FromZero()
    {
        double x = Math.Max(0, Math.Max(_extent.Min.X, -_extent.Max.X)),
            y = Math.Max(0, Math.Max(_extent.Min.Y, -_extent.Max.Y));
        return _extent.IsEmpty ? 0 : Math.Sqrt((x * x) + (y * y));
    }

    // IfcCompoundPlaneAngleMeasure: degrees, minutes, seconds, and millionths of a second (ISO 16739-1).
    private double? Angle(int site, string attribute)
    {
        if (site < 0)
            return null;
        Span<double> parts = stackalloc double[4];
        int count = snapshot.Model.Get(site, attribute).Reals(parts);
        return count < 3 ? null : parts[0] + (parts[1] / 60) + (parts[2] / 3600) + (count > 3 ? parts[3] / 3.6e9 : 0);
    }

    private double? Length(int site, string attribute) =>
        site >= 0 && snapshot.Model.Get(site, attribute).Real is var v && double.IsFinite(v)
            ? v * snapshot.Units.Metres
            : null;

    private int Context =>
        snapshot
            .Model.OfType("IfcGeometricRepresentationContext")
            .Where(c => !snapshot.Model.Is(c, "IfcGeometricRepresentationSubContext"))
            .Append(-1)
            .First();

    private double[] WorldOrigin()
    {
        try
        {
            var origin = snapshot.Shapes.Placements.Axes(snapshot.Model.Ref(Context, "WorldCoordinateSystem")).Origin;
            return [origin.X, origin.Y, origin.Z];
        }
        catch (ShapeException)
        {
            return [0, 0, 0];
        }
    }

    private double North()
    {
        int north = snapshot.Model.Ref(Context, "TrueNorth");
        if (north < 0)
            return 0;
        var d = snapshot.Shapes.Placements.Direction(north, Vec3.AxisY);
        return SettingOutDocument.Degrees(Math.Atan2(-d.X, d.Y));
    }

    private static string Text(double metres) =>
        metres.ToString("+0.000;−0.000;0.000", CultureInfo.InvariantCulture) + " m";
}
