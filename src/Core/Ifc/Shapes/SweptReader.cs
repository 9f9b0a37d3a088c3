using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Solids swept along or around something other than a straight line, and those between cross-sections.</summary>
internal sealed class SweptReader(
    IfcModel model,
    IfcPlacements placements,
    CurveReader curves,
    ProfileReader profiles,
    SurfaceReader surfaces,
    Tolerance tolerance
)
{
    /// <summary>The bodies, one for each region of the profile.</summary>
    /// <param name="item">Its position among the instances of the file.</param>
    /// <exception cref="ShapeException">A part of the solid is missing or broken.</exception>
    public IReadOnlyList<Mesh> Read(int item) =>
        model.ClassName(item) switch
        {
            "IfcExtrudedAreaSolidTapered" => Tapered(item),
            "IfcRevolvedAreaSolid" or "IfcRevolvedAreaSolidTapered" => Revolved(item),
            "IfcSweptDiskSolid" or "IfcSweptDiskSolidPolygonal" => [Disk(item)],
            "IfcSectionedSpine" => Spine(item),
            "IfcSectionedSolidHorizontal" => Sectioned(item),
            _ => Directrix(item),
        };

    private Frame Position(int item) => placements.Axes(model.Ref(item, "Position"));

    private IEnumerable<(Region Start, Region End)> Pairs(int start, int end)
    {
        var from = profiles.Regions(start);
        var to = end < 0 ? from : profiles.Regions(end);
        return from.Count == to.Count
            ? from.Zip(to)
            : throw new ShapeException("The two ends of a tapered body do not match.");
    }

    private List<Mesh> Tapered(int item)
    {
        var frame = Position(item);
        var sweep =
            placements.Direction(model.Ref(item, "ExtrudedDirection"), Vec3.AxisZ).Unit()
            * curves.Length(item, "Depth");
        var top = frame with { Origin = frame.Point(sweep) };
        return
        [
            .. Pairs(model.Ref(item, "SweptArea"), model.Ref(item, "EndSweptArea"))
                .Select(p =>
                    Loft.Through(
                        [LoftSection.Of(p.Start, frame), LoftSection.Of(Sweep.Between(p.Start, p.End, 1), top)],
                        p.Start
                    )
                ),
        ];
    }

    private List<Mesh> Revolved(int item)
    {
        var frame = Position(item);
        int axis = model.Ref(item, "Axis");
        var origin = frame.Point(placements.Point(model.Ref(axis, "Location")));
        var direction = frame.Direction(placements.Direction(model.Ref(axis, "Axis"), Vec3.AxisZ));
        double angle = model.Get(item, "Angle").Real * curves.Radians;
        if (!double.IsFinite(angle) || angle == 0)
            throw new ShapeException("A revolved solid has no angle.");
        return
        [
            .. Pairs(model.Ref(item, "SweptArea"), model.Ref(item, "EndSweptArea"))
                .Select(p => Sweep.Around(p.Start, p.End, frame, origin, direction, angle, tolerance)),
        ];
    }

    private Mesh Disk(int item)
    {
        double radius = curves.Length(item, "Radius"),
            inner = curves.Optional(item, "InnerRadius");
        var (path, ring) = Path(item);
        if (curves.Optional(item, "FilletRadius") is > 0 and var fillet)
            path = Fillets.Round(path, fillet, tolerance with { FullCircle = Sweep.FullCircle });
        var region =
            inner > 0
                ? Region.Of(Arc.Circle(radius, tolerance), [Arc.Circle(inner, tolerance)])
                : Region.Of(Arc.Circle(radius, tolerance));
        return Sweep.Along(path, ring, region, Sweep.Untwisted());
    }

    // The directrix between its parameters, in the frame of the solid; a closed one once around.
    private (List<Vec3> Points, bool Ring) Path(int item)
    {
        int curve = model.Ref(item, "Directrix");
        double start = model.Get(item, "StartParam").Real,
            end = model.Get(item, "EndParam").Real;
        if (!double.IsFinite(start) && !double.IsFinite(end))
        {
            var points = curves.Points(curve);
            bool ring = curves.IsClosed(curve) || (points.Count > 3 && (points[0] - points[^1]).Length < 1e-6);
            return (points, ring);
        }

        var samples = model.Is(curve, "IfcLine") ? Line(curve, start, end) : curves.Samples(curve);
        var part = samples.Between(
            double.IsFinite(start) ? start : samples.Parameters[0],
            double.IsFinite(end) ? end : samples.Parameters[^1]
        );
        return (part, part.Count > 3 && (part[0] - part[^1]).Length < 1e-6);
    }

    private CurveSamples Line(int line, double start, double end)
    {
        var (origin, along) = curves.Line(line);
        return new CurveSamples([start, end], [origin + (along * start), origin + (along * end)]);
    }

    // The profile's X follows a fixed direction, or the normal of a surface that the directrix lies on.
    private List<Mesh> Directrix(int item)
    {
        var frame = Position(item);
        var (path, ring) = Path(item);
        var reference = placements.Direction(model.Ref(item, "FixedReference"), Vec3.AxisX);
        Func<int, Vec3, Vec3> side = (_, _) => reference;
        if (model.Is(item, "IfcSurfaceCurveSweptAreaSolid"))
        {
            var surface = surfaces.Read(model.Ref(item, "ReferenceSurface"));
            side = (stretch, _) => Normal(surface, (path[stretch] + path[(stretch + 1) % path.Count]) * 0.5);
        }

        return
        [
            .. profiles.Regions(model.Ref(item, "SweptArea")).Select(r => Sweep.Along(path, ring, r, side).Map(frame)),
        ];
    }

    private static Vec3 Normal(Surface surface, Vec3 at)
    {
        var uv = surface.Uv(at, null);
        const double Step = 1e-4;
        return (surface.Point(uv.X + Step, uv.Y) - surface.Point(uv.X - Step, uv.Y)).Cross(
            surface.Point(uv.X, uv.Y + Step) - surface.Point(uv.X, uv.Y - Step)
        );
    }

    private List<Mesh> Spine(int item)
    {
        var frames = model.Refs(item, "CrossSectionPositions").Select(placements.Axes).ToList();
        var sections = model.Refs(item, "CrossSections").Select(p => profiles.Regions(p)).ToList();
        return Between(sections, frames);
    }

    private static List<Mesh> Between(List<IReadOnlyList<Region>> sections, List<Frame> frames)
    {
        if (sections.Count < 2 || sections.Count != frames.Count || sections.Any(s => s.Count != sections[0].Count))
            throw new ShapeException("A sectioned solid's cross-sections do not match each other or their positions.");
        return
        [
            .. Enumerable
                .Range(0, sections[0].Count)
                .Select(r =>
                    Loft.Through([.. sections.Select((s, i) => LoftSection.Of(s[r], frames[i]))], sections[0][r])
                ),
        ];
    }

    // Between the given positions the solid follows the directrix; X of a section points to its left, Y up (value from memory, ISO
    // 16739-1:2024 IfcSectionedSolidHorizontal).
    private List<Mesh> Sectioned(int item)
    {
        int directrix = model.Ref(item, "Directrix");
        var along = model.Is(directrix, "IfcGradientCurve")
            ? curves.Alignment.Samples(directrix, 0)
            : curves.Alignment.Plan(directrix, 0);
        var given = model
            .Refs(item, "CrossSectionPositions")
            .Select(p => curves.Length(model.Ref(p, "Location"), "DistanceAlong"))
            .ToList();
        var sections = model.Refs(item, "CrossSections").Select(p => profiles.Regions(p)).ToList();
        if (given.Count < 2 || sections.Count != given.Count)
            throw new ShapeException("A sectioned solid's cross-sections do not match each other or their positions.");
        var frames = new List<Frame>();
        var all = new List<IReadOnlyList<Region>>();
        for (int i = 0; i + 1 < given.Count; i++)
        {
            var stations = along
                .Parameters.Where(s => s > given[i] + 1e-6 && s < given[i + 1] - 1e-6)
                .Prepend(given[i]);
            foreach (double station in i + 2 < given.Count ? stations : stations.Append(given[i + 1]))
            {
                double share = (station - given[i]) / Math.Max(1e-12, given[i + 1] - given[i]);
                all.Add([.. sections[i].Zip(sections[i + 1], (a, b) => Sweep.Between(a, b, share))]);
                frames.Add(Upright(along, station));
            }
        }

        return Between(all, frames);
    }

    // At a corner of the chords the section halves the angle between them and is as much wider, so that the body keeps its width.
    private static Frame Upright(CurveSamples along, double station)
    {
        double step = 1e-6 * Math.Max(1, along.Parameters[^1]);
        Vec3 Stretch(double from, double to)
        {
            var d = along.Point(to) - along.Point(from);
            return d.Length > 0 ? (d with { Z = 0 }).Unit() : Vec3.Zero;
        }

        Vec3 before = Stretch(Math.Max(along.Parameters[0], station - step), station),
            after = Stretch(station, Math.Min(along.Parameters[^1], station + step));
        var forward = (before + after).Unit();
        double widen = 1 / Math.Max(0.1, forward.Dot(after.Length > 0 ? after : before));
        return new Frame(along.Point(station), Vec3.AxisZ.Cross(forward) * widen, Vec3.AxisZ, forward);
    }
}
