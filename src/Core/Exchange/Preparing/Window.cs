using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A window over a drawing: a polygon, its edge included.</summary>
public sealed class Window
{
    private readonly Vec2[] _corners;

    /// <summary>A window.</summary>
    /// <param name="corners">In the drawing's units; two are opposite corners of a rectangle.</param>
    /// <exception cref="OrderException">It has no area.</exception>
    public Window(IReadOnlyList<Vec2> corners)
    {
        _corners = Around(corners);
        if (Problem(corners) is { } problem)
            throw new OrderException(problem);
    }

    /// <summary>Why corners make no window, as a sentence; null where they do.</summary>
    public static string? Problem(IReadOnlyList<Vec2> corners)
    {
        var around = Around(corners);
        double area = 0;
        for (int i = 2; i < around.Length; i++)
            area += (around[i - 1] - around[0]).Cross(around[i] - around[0]);
        return around.Length < 3 || !double.IsFinite(area) || (area == 0 && around.Length < 5)
            ? "a window needs two opposite corners, or three corners and more that are not in a line."
            : null;
    }

    private static Vec2[] Around(IReadOnlyList<Vec2> corners) =>
        corners is [var a, var b] ? [a, new(b.X, a.Y), b, new(a.X, b.Y)] : [.. corners];

    /// <summary>Whether a point lies in the window or on its edge.</summary>
    public bool Holds(Vec2 p)
    {
        bool inside = false;
        for (int i = 0, j = _corners.Length - 1; i < _corners.Length; j = i++)
        {
            Vec2 a = _corners[i],
                b = _corners[j];
            if ((b - a).Cross(p - a) == 0 && (p - a).Dot(p - b) <= 0)
                return true;
            if (a.Y > p.Y != b.Y > p.Y && p.X < a.X + ((b.X - a.X) * (p.Y - a.Y) / (b.Y - a.Y)))
                inside = !inside;
        }

        return inside;
    }

    /// <summary>Whether anything of a piece lies in the window.</summary>
    public bool Touches(DrawnPiece piece)
    {
        if (Holds(piece.Ends.Start))
            return true;
        for (int i = 0, j = _corners.Length - 1; i < _corners.Length; j = i++)
            if (piece.Meets(_corners[j], _corners[i]))
                return true;
        return false;
    }

    /// <summary>Whether anything of an area lies in the window.</summary>
    /// <param name="loops">Closed; what an odd number of them surround belongs to the area.</param>
    public bool TouchesArea(IReadOnlyList<IReadOnlyList<Vec2>> loops)
    {
        bool around = false;
        foreach (var loop in loops)
        {
            for (int i = 0, j = loop.Count - 1; i < loop.Count; j = i++)
            {
                if (Touches(DrawnPiece.Segment(loop[j], loop[i])))
                    return true;
                Vec2 a = loop[i],
                    b = loop[j],
                    p = _corners[0];
                if (a.Y > p.Y != b.Y > p.Y && p.X < a.X + ((b.X - a.X) * (p.Y - a.Y) / (b.Y - a.Y)))
                    around = !around;
            }
        }

        // No edge meets the window: it lies in the area as a whole, or not at all.
        return around;
    }
}
