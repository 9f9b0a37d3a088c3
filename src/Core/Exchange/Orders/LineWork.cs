using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>What becomes of edges that lie behind others in a plan or section.</summary>
public enum HiddenStyle
{
    /// <summary>They are drawn like those that are seen.</summary>
    Shown,

    /// <summary>They are drawn dashed, on a layer of their own.</summary>
    Dashed,

    /// <summary>They are left out.</summary>
    Out,
}

/// <summary>How plans, sections and elevations are drawn.</summary>
public sealed record LineWork
{
    /// <summary>With plans: how far above each storey's level it is cut, metres; 1.2 is common practice.</summary>
    public double Cut { get; init; } = 1.2;

    /// <summary>How far behind the cut is drawn, metres; null for all that is there.</summary>
    public double? Depth { get; init; }

    /// <summary>Whether what lies before the cut is drawn, dashed: in a plan what lies above it.</summary>
    public bool Before { get; init; } = true;

    /// <summary>What becomes of hidden edges.</summary>
    public HiddenStyle Hidden { get; init; }

    /// <summary>Whether cut faces are hatched by their material.</summary>
    public bool Hatch { get; init; }

    /// <summary>With plans: whether an element that has a drawing of its own for plans (a door's swing, a basin) shows it in place of its
    /// edges.</summary>
    public bool Symbols { get; init; }

    /// <summary>Whether levels are marked, and the ends of grid axes have bubbles.</summary>
    public bool Marks { get; init; }

    /// <summary>Along which lines it is cut; none for plans.</summary>
    public IReadOnlyList<SectionLine> Lines { get; init; } = [];
}

/// <summary>The line of a section, or of an elevation where it runs outside the building.</summary>
/// <param name="Name">What the section is called; it is in names of files for {section}.</param>
/// <param name="From">Where it begins, metres in the frame of the order.</param>
/// <param name="To">Where it ends. One looks to the left of the way from its start to its end, and sees the start on the left.</param>
/// <param name="Depth">How far one looks, metres; null for as far as the order's other views.</param>
public sealed record SectionLine(string Name, Vec2 From, Vec2 To, double? Depth = null);
