using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>A text of a view.</summary>
/// <param name="Content">The text.</param>
/// <param name="At">Where it begins, or its middle, metres in the view.</param>
/// <param name="Height">The height of its letters, metres.</param>
/// <param name="Rotation">Radians.</param>
/// <param name="Centred">Whether <paramref name="At"/> is its middle.</param>
internal readonly record struct ViewText(
    string Content,
    Vec2 At,
    double Height,
    double Rotation = 0,
    bool Centred = false
);

/// <summary>What a view shows of an element, metres in the view.</summary>
/// <param name="View">The view.</param>
/// <param name="Colour">The colour of its first piece.</param>
internal sealed record ElementLines(PlanView View, Colour Colour)
{
    /// <summary>Where the plane cuts it; closed lines repeat their first point.</summary>
    public List<IReadOnlyList<Vec2>> Cut { get; } = [];

    /// <summary>Edges behind the cut that are seen.</summary>
    public List<(Vec2 A, Vec2 B)> Beyond { get; } = [];

    /// <summary>Edges behind the cut that others hide.</summary>
    public List<(Vec2 A, Vec2 B)> Hidden { get; } = [];

    /// <summary>Edges before the cut.</summary>
    public List<(Vec2 A, Vec2 B)> Before { get; } = [];

    /// <summary>Cut faces.</summary>
    public List<(Region Face, CutHatch Hatch)> Faces { get; } = [];

    /// <summary>Lines that were drawn for plans; closed ones repeat their first point.</summary>
    public List<IReadOnlyList<Vec2>> Symbols { get; } = [];

    /// <summary>Bubbles of grid axes: middle and radius.</summary>
    public List<(Vec2 Middle, double Radius)> Bubbles { get; } = [];

    /// <summary>Texts, those of rooms first.</summary>
    public List<ViewText> Texts { get; } = [];

    /// <summary>Whether the texts are the name and area of a room.</summary>
    public bool IsRoom { get; init; }

    /// <summary>Whether nothing is shown.</summary>
    public bool IsEmpty =>
        Cut.Count + Beyond.Count + Hidden.Count + Before.Count + Symbols.Count + Bubbles.Count + Texts.Count == 0;

    /// <summary>The length of all its lines, metres.</summary>
    public double Length =>
        Cut.Sum(Along)
        + Symbols.Sum(Along)
        + Beyond.Concat(Hidden).Concat(Before).Sum(l => (l.B - l.A).Length)
        + Bubbles.Sum(b => 2 * Math.PI * b.Radius);

    /// <summary>The box of all its lines and faces, metres in the view.</summary>
    public Box Bounds()
    {
        var box = Box.Empty;
        foreach (var line in Cut.Concat(Symbols).Concat(Faces.Select(f => f.Face.Outer)))
        foreach (var p in line)
            box = box.Add(new Vec3(p.X, p.Y, 0));
        foreach (var (a, b) in Beyond.Concat(Hidden).Concat(Before))
            box = box.Add(new Vec3(a.X, a.Y, 0)).Add(new Vec3(b.X, b.Y, 0));
        foreach (var (middle, r) in Bubbles)
            box = box.Add(new Vec3(middle.X - r, middle.Y - r, 0)).Add(new Vec3(middle.X + r, middle.Y + r, 0));
        return box;
    }

    /// <summary>The area of its hatched faces, m².</summary>
    public double HatchedArea => Faces.Sum(f => f.Face.Area);

    private static double Along(IReadOnlyList<Vec2> line) =>
        Enumerable.Range(1, Math.Max(0, line.Count - 1)).Sum(i => (line[i] - line[i - 1]).Length);
}
