using System.Text.Json.Serialization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>What tells where a member's axis runs.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<AxisEvidence>))]
public enum AxisEvidence
{
    /// <summary>It is drawn: a representation of its own, <c>Axis</c> (ISO 16739-1, IfcBeam).</summary>
    Drawn,

    /// <summary>It runs through the origin of the placement, as the body's section is extruded.</summary>
    Placed,

    /// <summary>It runs through the origin of the section that is extruded.</summary>
    Extruded,

    /// <summary>Nothing says so: the middle of the body along its longest edge.</summary>
    Found,
}

/// <summary>A beam, a column or a brace: its axis and how the body lies about it. Metres.</summary>
/// <param name="GlobalId">As written.</param>
/// <param name="Class">The class.</param>
/// <param name="Name">The name.</param>
/// <param name="Section">The name of its profile, else of its type; empty when nothing says so.</param>
/// <param name="Storey">The storey's number, -1 for none.</param>
/// <param name="From">What tells where the axis runs.</param>
/// <param name="CardinalPoint">Where the profile is said to hang (ISO 16739-1, IfcCardinalPointReference); 0 when nothing says so.</param>
/// <param name="Start">The axis' start.</param>
/// <param name="End">Its end.</param>
/// <param name="Up">A unit vector square to the axis: upward; along the section's own Y where the member is upright.</param>
/// <param name="Aside">The body's reach to the right of the axis as one looks from start to end, least and most.</param>
/// <param name="Above">Its reach along <paramref name="Up"/>, least and most.</param>
/// <param name="Heavy">To which side the section is the heavier: the cube roots of its third moments about the centroid, as a share of its
/// size; zero where half a turn about the axis changes nothing.</param>
/// <param name="Bottom">The lowest point of the body.</param>
/// <param name="Top">The highest.</param>
public sealed record Member(
    string GlobalId,
    string Class,
    string Name,
    string Section,
    int Storey,
    AxisEvidence From,
    int CardinalPoint,
    [property: JsonConverter(typeof(PointJson))] Vec3 Start,
    [property: JsonConverter(typeof(PointJson))] Vec3 End,
    [property: JsonConverter(typeof(PointJson))] Vec3 Up,
    Reach Aside,
    Reach Above,
    [property: JsonConverter(typeof(PointJson))] Vec3 Heavy,
    double Bottom,
    double Top
)
{
    // A section that is less one-sided can be turned half round and nobody sees it.
    private const double Symmetric = 0.05;

    // Steeper than this it is upright: 2.5° from the vertical.
    private const double Upright = 0.999;

    /// <summary>From start to end, a unit vector.</summary>
    [JsonIgnore]
    public Vec3 Along => (End - Start).Unit();

    /// <summary>To the right as one looks from start to end.</summary>
    [JsonIgnore]
    public Vec3 Right => Along.Cross(Up);

    /// <summary>The length of the axis.</summary>
    public double Length => (End - Start).Length;

    /// <summary>Whether it is upright.</summary>
    public bool IsUpright => Math.Abs(Along.Z) > Upright;

    /// <summary>Whether half a turn about the axis makes another member of it.</summary>
    public bool IsOneSided => Heavy.Length > Symmetric;

    /// <summary>Where the axis lies in the body, in words: <c>top</c>, <c>centre</c>, <c>bottom left</c>, <c>0.050 m below the
    /// top</c>.</summary>
    public string AxisAt => AxisPlace.Say(this);

    /// <summary>The top of the body above the axis' start and end: the top of steel of a beam, whichever way it slopes.</summary>
    public Reach TopAtEnds =>
        IsUpright ? new(Top, Top) : new((Start + (Up * Above.Most)).Z, (End + (Up * Above.Most)).Z);

    /// <summary>The middle of the body at the axis' start.</summary>
    [JsonIgnore]
    public Vec3 MiddleStart => Start + Middle;

    /// <summary>The middle of the body at its end.</summary>
    [JsonIgnore]
    public Vec3 MiddleEnd => End + Middle;

    private Vec3 Middle => (Right * Aside.Middle) + (Up * Above.Middle);

    /// <summary>The member in another frame, which turns about the vertical and shifts.</summary>
    public Member In(Frame frame) =>
        this with
        {
            Start = frame.Point(Start),
            End = frame.Point(End),
            Up = frame.Direction(Up).Unit(),
            Heavy = frame.Direction(Heavy),
            Bottom = (Bottom * frame.Z.Z) + frame.Origin.Z,
            Top = (Top * frame.Z.Z) + frame.Origin.Z,
        };

    /// <summary>Whether an element is one: a beam, a column, or any other member of a frame.</summary>
    public static bool Is(ModelSnapshot snapshot, ModelElement element) =>
        snapshot.Model.Is(element.Index, "IfcBeam")
        || snapshot.Model.Is(element.Index, "IfcColumn")
        || snapshot.Model.Is(element.Index, "IfcMember");
}

/// <summary>From the least to the most, metres.</summary>
/// <param name="Least">The least.</param>
/// <param name="Most">The most.</param>
[JsonConverter(typeof(ReachJson))]
public readonly record struct Reach(double Least, double Most)
{
    /// <summary>From one to the other.</summary>
    [JsonIgnore]
    public double Size => Most - Least;

    /// <summary>Between them.</summary>
    [JsonIgnore]
    public double Middle => (Least + Most) / 2;
}
