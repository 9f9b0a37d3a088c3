using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>A grid axis in plan: straight, or an arc; both are taken to go on beyond their ends.</summary>
/// <param name="Tag">As written.</param>
/// <param name="Start">Its first point, metres.</param>
/// <param name="End">Its last point, metres.</param>
/// <param name="Centre">The centre of an arc; null for a straight axis.</param>
/// <param name="Radius">The radius of an arc, metres; 0 for a straight axis.</param>
public sealed record PlanAxis(string Tag, Vec2 Start, Vec2 End, Vec2? Centre = null, double Radius = 0)
{
    /// <summary>How far an axis goes on beyond the model in pictures and files: 10 ft, common practice, metres.</summary>
    public const double Overrun = 10 * 0.3048;

    // How far points of a drawn axis may lie off their line or arc, metres.
    private const double Flat = 1e-3;

    /// <summary>The tag as it is compared: without blanks, case, and zeros in front of numbers.</summary>
    public string Key => KeyOf(Tag);

    /// <summary>The axes of a model in its own frame, metres; those without a tag or a length are left out.</summary>
    public static IReadOnlyList<PlanAxis> Of(ModelSnapshot snapshot) =>
        [.. GridReader.Read(snapshot.Model, snapshot.Units).Select(Of).OfType<PlanAxis>()];

    /// <summary>A tag as it is compared.</summary>
    public static string KeyOf(string tag)
    {
        string plain = string.Concat(tag.Where(c => !char.IsWhiteSpace(c))).ToUpperInvariant();
        return plain.TrimStart('0') is { Length: > 0 } rest ? rest
            : plain.Length > 0 ? "0"
            : "";
    }

    /// <summary>Where two axes meet when they go on far enough: none, one or two places.</summary>
    public IReadOnlyList<Vec2> Meet(PlanAxis other)
    {
        if (Centre is null && other.Centre is null)
            return Lines(this, other);
        if (Centre is { } a && other.Centre is { } b)
            return Circles(a, Radius, b, other.Radius);
        return Centre is null
            ? LineAndCircle(this, other.Centre!.Value, other.Radius)
            : LineAndCircle(other, Centre.Value, Radius);
    }

    /// <summary>The axis in another frame.</summary>
    public PlanAxis In(Frame frame)
    {
        return this with
        {
            Start = At(Start),
            End = At(End),
            Centre = Centre is { } c ? At(c) : null,
            Radius = Radius * frame.X.Length,
        };
        Vec2 At(Vec2 p) => frame.Point(new Vec3(p.X, p.Y, 0)) is var q ? new Vec2(q.X, q.Y) : default;
    }

    /// <summary>How far a place lies off the axis, metres.</summary>
    public double Off(Vec2 p) =>
        Centre is { } c ? Math.Abs((p - c).Length - Radius) : Math.Abs((End - Start).Unit().Cross(p - Start));

    private static PlanAxis? Of(GridAxis axis)
    {
        if (axis.Tag.Trim().Length == 0 || axis.Points.Count < 2)
            return null;
        var points = axis.Points.Select(p => new Vec2(p.X, p.Y)).ToList();
        Vec2 start = points[0],
            end = points[^1],
            middle = points[points.Count / 2];
        var straight = new PlanAxis(axis.Tag, start, end);
        if ((end - start).Length > Flat && points.All(p => straight.Off(p) < Flat))
            return straight;
        if (CircleThrough(start, middle, end == start ? points[points.Count / 4] : end) is not { } circle)
            return null;
        var arc = new PlanAxis(axis.Tag, start, end, circle.Centre, circle.Radius);
        return points.All(p => arc.Off(p) < Flat) ? arc : null;
    }

    private static (Vec2 Centre, double Radius)? CircleThrough(Vec2 a, Vec2 b, Vec2 c)
    {
        Vec2 ab = b - a,
            ac = c - a;
        double d = 2 * ab.Cross(ac);
        if (Math.Abs(d) < 1e-12)
            return null;
        double bb = ab.Dot(ab),
            cc = ac.Dot(ac);
        var centre = new Vec2(a.X + (((ac.Y * bb) - (ab.Y * cc)) / d), a.Y + (((ab.X * cc) - (ac.X * bb)) / d));
        return (centre, (a - centre).Length);
    }

    private static IReadOnlyList<Vec2> Lines(PlanAxis a, PlanAxis b)
    {
        Vec2 u = (a.End - a.Start).Unit(),
            v = (b.End - b.Start).Unit();
        double cross = u.Cross(v);
        // Axes that meet at less than a degree or so say little about where.
        if (Math.Abs(cross) < 0.02)
            return [];
        return [a.Start + (u * ((b.Start - a.Start).Cross(v) / cross))];
    }

    private static IReadOnlyList<Vec2> LineAndCircle(PlanAxis line, Vec2 centre, double radius)
    {
        var u = (line.End - line.Start).Unit();
        var foot = line.Start + (u * (centre - line.Start).Dot(u));
        double half = (radius * radius) - ((foot - centre).Dot(foot - centre));
        if (half <= 0)
            return [];
        double along = Math.Sqrt(half);
        return [foot - (u * along), foot + (u * along)];
    }

    private static IReadOnlyList<Vec2> Circles(Vec2 a, double ra, Vec2 b, double rb)
    {
        double d = (b - a).Length;
        if (d == 0 || d >= ra + rb || d <= Math.Abs(ra - rb))
            return [];
        double along = ((ra * ra) - (rb * rb) + (d * d)) / (2 * d),
            half = Math.Sqrt(Math.Max(0, (ra * ra) - (along * along)));
        Vec2 u = (b - a).Unit(),
            foot = a + (u * along),
            side = new(-u.Y, u.X);
        return [foot - (side * half), foot + (side * half)];
    }
}
