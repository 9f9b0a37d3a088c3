using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Finds the axes of beams, columns and braces, and how their bodies lie about them.</summary>
/// <remarks>In this order: an axis that is drawn; the line along which the section is extruded, through the origin of the placement where
/// that lies in the body, else through the section's own origin; else the longest edge's direction, through the middle of the body.
/// </remarks>
public sealed class MemberReader(ModelSnapshot snapshot)
{
    // A drawn axis that leaves its chord by more is a curve; curved members have no one direction. Metres.
    private const double Straight = 0.001;

    // What rounding to whole millimetres takes an axis out of its body, metres.
    private const double Beside = 0.002;

    private const int MaxClippings = 64;

    /// <summary>Reads every member of a model; shapes are built.</summary>
    public static IReadOnlyList<Member> ReadAll(ModelSnapshot snapshot, CancellationToken cancel = default)
    {
        var reader = new MemberReader(snapshot);
        var members = new List<Member>();
        snapshot.ForEachShape(
            [.. snapshot.Elements.Where(e => Member.Is(snapshot, e))],
            (element, shape) =>
            {
                if (reader.Read(element, shape) is { } member)
                    members.Add(member);
            },
            0,
            cancel
        );
        return members;
    }

    /// <summary>Reads a member, in its source's frame.</summary>
    /// <returns>Null where the element is none, has no body, or is curved.</returns>
    public Member? Read(ModelElement element, Shape? shape)
    {
        if (shape is not { Parts.Count: > 0 } || !Member.Is(snapshot, element))
            return null;
        var body = shape.ToWorld();
        if (body.Points.Length == 0)
            return null;
        var extrusion = Extrusion(shape);
        if (Axis(element, shape, body, extrusion) is not { } axis)
            return null;
        var along = (axis.End - axis.Start).Unit();
        if (along == Vec3.Zero)
            return null;
        var up = Upward(along, extrusion?.SectionY ?? shape.World.Y);
        // Right, up, and towards whoever looks along the axis: right-handed.
        var frame = new Frame(axis.Start, along.Cross(up), up, -along);
        var local = body.Map(frame.Inverse());
        var box = local.Bounds();
        var world = body.Bounds();
        var (section, point) = snapshot.Materials.ProfileOf(element.Index);
        var heavy = SectionMoments.Heavy(Section.Cut(local, (box.Min.Z + box.Max.Z) / 2));
        var member = new Member(
            element.GlobalId,
            element.Class,
            element.Name,
            Named(section, extrusion?.Section, snapshot.TypeName(element)),
            element.Storey,
            axis.From,
            point,
            axis.Start,
            axis.End,
            up,
            new Reach(box.Min.X, box.Max.X),
            new Reach(box.Min.Y, box.Max.Y),
            (frame.X * heavy.X) + (frame.Y * heavy.Y),
            world.Min.Z,
            world.Max.Z
        );
        return IsFinite(member) ? member : null;
    }

    // Numbers of strangers may have no end; such a member says nothing.
    private static bool IsFinite(Member m)
    {
        double places = m.Start.Length + m.End.Length + m.Up.Length + m.Heavy.Length + m.Bottom + m.Top;
        return double.IsFinite(places + m.Aside.Least + m.Aside.Most + m.Above.Least + m.Above.Most);
    }

    private static string Named(params string?[] names) => names.FirstOrDefault(n => !string.IsNullOrEmpty(n)) ?? "";

    private (Vec3 Start, Vec3 End, AxisEvidence From)? Axis(
        ModelElement element,
        Shape shape,
        Mesh body,
        SectionLine? extrusion
    )
    {
        if (snapshot.Shapes.Drawn(element.Index, "Axis").Lines is [{ Count: > 1 } drawn, ..])
        {
            var chord = (drawn[^1] - drawn[0]).Unit();
            if (chord != Vec3.Zero)
                return drawn.Any(p => (p - drawn[0]).Cross(chord).Length > Straight)
                    ? null
                    : (drawn[0], drawn[^1], AxisEvidence.Drawn);
        }

        if (extrusion is { } line && LongEnough(line, body))
        {
            bool placed = Inside(shape.World.Origin, line.Along, body);
            var (start, end) = Ends(body, placed ? shape.World.Origin : line.Origin, line.Along);
            return (start, end, placed ? AxisEvidence.Placed : AxisEvidence.Extruded);
        }

        if (LongestEdge(body) is not { } edge)
            return null;
        if (Inside(shape.World.Origin, edge, body) && Ends(body, shape.World.Origin, edge) is var ends)
            return (ends.Start, ends.End, AxisEvidence.Placed);
        var (from, to) = Ends(body, Middle(body, edge), edge);
        return (from, to, AxisEvidence.Found);
    }

    // The line along which the section of the longest extruded piece runs, in the world.
    private SectionLine? Extrusion(Shape shape)
    {
        SectionLine? longest = null;
        foreach (var part in shape.Parts)
        {
            int item = part.Item;
            for (int n = 0; n < MaxClippings && snapshot.Model.Is(item, "IfcBooleanResult"); n++)
                item = snapshot.Model.Ref(item, "FirstOperand");
            if (!snapshot.Model.Is(item, "IfcExtrudedAreaSolid"))
                continue;
            double depth = snapshot.Model.Get(item, "Depth").Real * snapshot.Units.Metres;
            if (!(depth > (longest?.Depth ?? 0)))
                continue;
            try
            {
                var placements = snapshot.Shapes.Placements;
                var own = placements.Axes(snapshot.Model.Ref(item, "Position"));
                // A piece with openings is cut in the product's frame; the item lies in it either way.
                var world = shape.World.Compose(part.Frame).Compose(own);
                var along = world
                    .Direction(placements.Direction(snapshot.Model.Ref(item, "ExtrudedDirection"), Vec3.AxisZ))
                    .Unit();
                longest = new SectionLine(
                    world.Origin,
                    along,
                    world.Y,
                    depth,
                    snapshot.Model.Text(snapshot.Model.Ref(item, "SweptArea"), "ProfileName") ?? ""
                );
            }
            catch (ShapeException)
            {
                // Without a place the piece tells nothing; the body's edges may.
                continue;
            }
        }

        return longest;
    }

    // A plate that is extruded by its thickness, or a beam by its width, does not run that way.
    private static bool LongEnough(SectionLine line, Mesh body)
    {
        var (right, up) = Square(line.Along);
        return Spread(body, right).Size <= line.Depth && Spread(body, up).Size <= line.Depth;
    }

    private static bool Inside(Vec3 origin, Vec3 along, Mesh body)
    {
        var (right, up) = Square(along);
        return Holds(right) && Holds(up);

        bool Holds(Vec3 direction) =>
            Spread(body, direction) is var s
            && origin.Dot(direction) is var at
            && at >= s.Least - Beside
            && at <= s.Most + Beside;
    }

    private static Vec3 Middle(Mesh body, Vec3 along)
    {
        var (right, up) = Square(along);
        return (right * Spread(body, right).Middle) + (up * Spread(body, up).Middle);
    }

    private static (Vec3 Start, Vec3 End) Ends(Mesh body, Vec3 through, Vec3 along)
    {
        var (least, most) = Spread(body, along);
        double at = through.Dot(along);
        return (through + (along * (least - at)), through + (along * (most - at)));
    }

    private static Reach Spread(Mesh body, Vec3 direction)
    {
        double least = double.MaxValue,
            most = double.MinValue;
        foreach (var p in body.Points)
            (least, most) = (Math.Min(least, p.Dot(direction)), Math.Max(most, p.Dot(direction)));
        return new Reach(least, most);
    }

    private static (Vec3 Right, Vec3 Up) Square(Vec3 along) =>
        Upward(along, Vec3.AxisY) is var up ? (along.Cross(up), up) : default;

    // Upward and square to the axis; along the section's own Y where the member is upright.
    private static Vec3 Upward(Vec3 along, Vec3 sectionY)
    {
        var wanted = Math.Abs(along.Z) > 0.999 ? sectionY : Vec3.AxisZ;
        var up = wanted - (along * wanted.Dot(along));
        if (up.Length < 1e-6)
            up = Vec3.AxisX - (along * along.X);
        return up.Unit();
    }

    private static Vec3? LongestEdge(Mesh body)
    {
        var (length, direction) = (0.0, Vec3.Zero);
        foreach (var (a, b) in Section.FeatureEdges(body))
            if ((b - a).Length is var l && l > length)
                (length, direction) = (l, (b - a) * (1 / l));
        if (length == 0)
            return null;
        // One way or the other by the numbers alone, so that two files agree.
        return
            direction.X < -1e-9
            || (
                Math.Abs(direction.X) <= 1e-9
                && (direction.Y < -1e-9 || (Math.Abs(direction.Y) <= 1e-9 && direction.Z < 0))
            )
            ? -direction
            : direction;
    }

    private readonly record struct SectionLine(Vec3 Origin, Vec3 Along, Vec3 SectionY, double Depth, string Section);
}
