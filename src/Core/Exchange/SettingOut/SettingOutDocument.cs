using System.Text.Json;
using System.Text.Json.Serialization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>What a setting-out rests on.</summary>
[JsonConverter(typeof(EvidenceWords))]
public enum EvidenceKind
{
    /// <summary>Numbers that somebody typed.</summary>
    Typed,

    /// <summary>What the file and the job declare: map conversions of both.</summary>
    Declared,

    /// <summary>Control points.</summary>
    Points,

    /// <summary>Shared tags of grids.</summary>
    Grids,

    /// <summary>Levels alone, for the height.</summary>
    Levels,

    /// <summary>The setting-out of another source of the same party.</summary>
    Source,

    /// <summary>A jump of the frame between two revisions, taken back.</summary>
    Jump,

    /// <summary>It is the source that the job's frame was taken from.</summary>
    Reference,
}

/// <summary>A control point as it is kept: both places in metres, and whether it took part.</summary>
public sealed record KeptPoint(
    string Name,
    double[] Source,
    double[] Job,
    bool HasPlan = true,
    bool HasHeight = true,
    bool Used = true
)
{
    /// <summary>The point.</summary>
    [JsonIgnore]
    public ControlPoint Point =>
        new(
            Name,
            new Vec3(Source[0], Source[1], Source[2]),
            new Vec3(Job[0], Job[1], Job[2]),
            HasPlan,
            HasHeight,
            Used
        );

    /// <summary>Keeps a point.</summary>
    public static KeptPoint Of(ControlPoint p) =>
        new(p.Name, [p.Source.X, p.Source.Y, p.Source.Z], [p.Job.X, p.Job.Y, p.Job.Z], p.HasPlan, p.HasHeight, p.Used);
}

/// <summary>A setting-out with its evidence, as it is kept, shown and handed on: the transform from a source's own frame into the job's.
/// </summary>
/// <remarks>X_job = shift + scale · Rz(turn) · X_source, metres and degrees, counter-clockwise. The JSON Schema is
/// docs/setting-out.schema.json.
/// </remarks>
public sealed record SettingOutDocument
{
    internal static DocumentFormat<SettingOutDocument> Format { get; } = new("setting-out");

    /// <summary>The version of the document.</summary>
    public int Version { get; init; } = 1;

    /// <summary>x, y, z, metres.</summary>
    public double[] Shift { get; init; } = [0, 0, 0];

    /// <summary>Degrees, counter-clockwise.</summary>
    public double TurnDegrees { get; init; }

    /// <summary>1 unless somebody released it.</summary>
    public double Scale { get; init; } = 1;

    /// <summary>What it rests on.</summary>
    public EvidenceKind Evidence { get; init; } = EvidenceKind.Typed;

    /// <summary>What people say about it.</summary>
    public string Why { get; init; } = "";

    /// <summary>The control points, intersections of grids or levels that it was fitted to.</summary>
    public IReadOnlyList<KeptPoint> Points { get; init; } = [];

    /// <summary>Of a drawing: the job's storey it lies at, by its number in the level schedule; its height is the level's then. Null where
    /// it
    /// lies as high as the shift says.</summary>
    public int? Level { get; init; }

    /// <summary>Of a drawing: further storeys that it is shown with, by their numbers in the level schedule; null for its own
    /// alone.</summary>
    public IReadOnlyList<int>? ShownWith { get; init; }

    /// <summary>Of a drawing: whether it is upright, a section or an elevation: its Y is up, its X runs in plan along the turn, and
    /// its zero lies at the shift.</summary>
    public bool? Upright { get; init; }

    /// <summary>Of a drawing: what the scale rests on, in words. Its source's frame is in drawing units, so the scale is metres in a
    /// unit.</summary>
    public string? ScaleEvidence { get; init; }

    /// <summary>The setting-out that moves nothing.</summary>
    public static SettingOutDocument Identity { get; } = new() { Evidence = EvidenceKind.Reference };

    /// <summary>The transform, from the source's frame into the job's.</summary>
    [JsonIgnore]
    public Frame Frame
    {
        get
        {
            var (x, y) = Axes(TurnDegrees, Scale);
            var origin = new Vec3(Shift[0], Shift[1], Shift[2]);
            return Upright == true
                ? new Frame(origin, x, Vec3.AxisZ * Scale, new Vec3(x.Y, -x.X, 0))
                : new Frame(origin, x, y, Vec3.AxisZ * Scale);
        }
    }

    /// <summary>Whether it moves nothing.</summary>
    [JsonIgnore]
    public bool IsIdentity => Shift.All(s => s == 0) && TurnDegrees == 0 && Scale == 1;

    /// <summary>A setting-out from a fit.</summary>
    public static SettingOutDocument Of(
        FitResult fit,
        IEnumerable<ControlPoint> points,
        EvidenceKind evidence,
        string why = ""
    ) =>
        new()
        {
            Shift = [fit.Shift.X, fit.Shift.Y, fit.Shift.Z],
            TurnDegrees = fit.TurnDegrees,
            Scale = fit.Scale,
            Evidence = evidence,
            Why = why,
            Points = [.. points.Select(KeptPoint.Of)],
        };

    /// <summary>A setting-out from a frame that turns about the vertical, shifts, and may scale.</summary>
    public static SettingOutDocument Of(Frame frame, EvidenceKind evidence, string why = "") =>
        new()
        {
            Shift = [frame.Origin.X, frame.Origin.Y, frame.Origin.Z],
            TurnDegrees = Degrees(Math.Atan2(frame.X.Y, frame.X.X)),
            Scale = frame.Z.Length is var s && Math.Abs(s - 1) < 1e-12 ? 1 : s,
            Evidence = evidence,
            Why = why,
        };

    /// <summary>Reads a document.</summary>
    /// <exception cref="OrderException">It is none; the message says why.</exception>
    public static SettingOutDocument Read(string json)
    {
        var document = Format.Read(json);
        if (document.Shift.Length != 3 || document.Shift.Append(document.TurnDegrees).Any(v => !double.IsFinite(v)))
            throw new OrderException(
                "A setting-out has a translation (shift) of three numbers in metres and a rotation (turnDegrees) in degrees."
            );
        if (document.Scale is not (> 1e-6 and < 1e6))
            throw new OrderException("The scale of a setting-out is a positive number, as a rule 1.");
        if (document.Points.Any(p => p.Source.Length != 3 || p.Job.Length != 3))
            throw new OrderException("A control point has three numbers on each side.");
        return document;
    }

    /// <summary>The document as text.</summary>
    public string Write() => Format.Write(this);

    /// <summary>The axes of a turn about the vertical; a quarter is exact.</summary>
    public static (Vec3 X, Vec3 Y) Axes(double degrees, double scale)
    {
        double turn = degrees % 360;
        var (s, c) = turn switch
        {
            0 => (0, 1),
            90 or -270 => (1, 0),
            180 or -180 => (0, -1),
            270 or -90 => (-1, 0),
            _ => Math.SinCos(turn * Math.PI / 180),
        };
        return (new Vec3(c * scale, s * scale, 0), new Vec3(-s * scale, c * scale, 0));
    }

    /// <summary>Radians as degrees, −180 exclusive … 180, without dust.</summary>
    internal static double Degrees(double radians)
    {
        double degrees = radians * 180 / Math.PI;
        if (Math.Abs(degrees - Math.Round(degrees)) < 1e-12)
            degrees = Math.Round(degrees);
        return degrees <= -180 ? degrees + 360 : degrees;
    }
}

/// <summary>Kinds of evidence as words: <c>points</c>.</summary>
internal sealed class EvidenceWords() : JsonStringEnumConverter<EvidenceKind>(JsonNamingPolicy.CamelCase);
