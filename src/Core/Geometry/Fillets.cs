namespace SteadyLintel.Geometry;

/// <summary>Rounds the corners of a path.</summary>
public static class Fillets
{
    /// <summary>The path with an arc of a radius at each inner corner; as large as its stretches allow where they are short.</summary>
    /// <param name="path">Corners, metres.</param>
    /// <param name="radius">Of the arcs, metres.</param>
    /// <param name="tolerance">How finely the arcs become chords.</param>
    public static List<Vec3> Round(IReadOnlyList<Vec3> path, double radius, Tolerance tolerance)
    {
        var round = new List<Vec3> { path[0] };
        for (int i = 1; i + 1 < path.Count; i++)
        {
            Vec3 back = path[i - 1] - path[i],
                on = path[i + 1] - path[i];
            double half = Math.Acos(Math.Clamp(back.Unit().Dot(on.Unit()), -1, 1)) / 2;
            if (half < 1e-6 || half > (Math.PI / 2) - 1e-6)
            {
                round.Add(path[i]);
                continue;
            }

            double reach = Math.Min(radius / Math.Tan(half), Math.Min(back.Length, on.Length) / 2),
                r = reach * Math.Tan(half);
            Vec3 a = path[i] + (back.Unit() * reach),
                b = path[i] + (on.Unit() * reach);
            var toCentre = (back.Unit() + on.Unit()).Unit();
            var middle = path[i] + (toCentre * ((r / Math.Sin(half)) - r));
            round.AddRange(Arc.Through(a, middle, b, tolerance));
        }

        round.Add(path[^1]);
        return round;
    }
}
