namespace SteadyLintel.Geometry;

/// <summary>Finds out whether edges of a region cross each other within.</summary>
internal static class CrossingEdges
{
    // Loops that touch within rounding do not cross: a share of the product of the edges' lengths.
    private const double Slack = 1e-9;

    private readonly record struct Edge(Vec2 From, Vec2 To)
    {
        public double Left => Math.Min(From.X, To.X);

        public double Right => Math.Max(From.X, To.X);
    }

    /// <summary>Whether two edges of a region cross in their inner parts; touching at an end or lying in each other is no
    /// crossing.</summary>
    /// <param name="region">The region, metres.</param>
    /// <remarks>Edges are taken by their left ends, each against those that still reach it: about n log n for what is built, n² where all
    /// edges are as long as the region.</remarks>
    public static bool In(Region region)
    {
        var edges = new List<Edge>();
        foreach (var loop in region.Loops)
            for (int i = 0; i < loop.Length; i++)
                edges.Add(new Edge(loop[i], loop[(i + 1) % loop.Length]));
        edges.Sort((a, b) => a.Left.CompareTo(b.Left));
        var open = new List<Edge>();
        foreach (var edge in edges)
        {
            WorkBudget.Spend(1 + open.Count);
            int kept = 0;
            for (int i = 0; i < open.Count; i++)
            {
                if (open[i].Right < edge.Left)
                    continue;
                if (Cross(open[i], edge))
                    return true;
                open[kept++] = open[i];
            }

            open.RemoveRange(kept, open.Count - kept);
            open.Add(edge);
        }

        return false;
    }

    private static bool Cross(Edge a, Edge b) =>
        Math.Max(a.From.Y, a.To.Y) >= Math.Min(b.From.Y, b.To.Y)
        && Math.Max(b.From.Y, b.To.Y) >= Math.Min(a.From.Y, a.To.Y)
        && Parts(a, b)
        && Parts(b, a);

    // Whether the ends of an edge lie on both sides of the line of another, clearly.
    private static bool Parts(Edge line, Edge edge)
    {
        Vec2 along = line.To - line.From,
            from = edge.From - line.From,
            to = edge.To - line.From;
        double slack = Slack * along.Length * (edge.To - edge.From).Length,
            a = along.Cross(from),
            b = along.Cross(to);
        return (a > slack && b < -slack) || (a < -slack && b > slack);
    }
}
