using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>The dashes that an entity's line type draws it with.</summary>
internal static class LineDashes
{
    // A finer pattern on a longer line cannot be seen as one.
    private const int MostOnPath = 2_000;

    /// <summary>Dashes positive, gaps negative, dots 0, in drawing units; empty for a continuous line.</summary>
    /// <param name="drawing">The drawing.</param>
    /// <param name="entity">The entity.</param>
    /// <param name="layer">The layer it is seen on, whose line type it has where it has none of its own.</param>
    public static IReadOnlyList<double> Of(Drawing drawing, Entity entity, Handle layer)
    {
        var type =
            entity.LineType == drawing.ByBlock && !entity.LineType.IsNull
                ? null
                : drawing.LineTypes[
                    entity.LineType.IsNull ? drawing.Layers[layer]?.LineType ?? default : entity.LineType
                ];
        if (type is null || type.Dashes.Count < 2)
            return [];
        double scale = entity.LineTypeScale * drawing.Header.Number("$LTSCALE", 1);
        return [.. type.Dashes.Select(d => d.Length * scale)];
    }

    /// <summary>The parts of a path that are drawn, in the units of the dashes; the path itself where its pattern is too fine.</summary>
    /// <param name="path">Its points.</param>
    /// <param name="dashes">See <see cref="Of"/>.</param>
    public static IEnumerable<(Vec3 A, Vec3 B)> Along(IReadOnlyList<Vec3> path, IReadOnlyList<double> dashes)
    {
        double length = 0,
            pattern = dashes.Sum(Math.Abs);
        for (int i = 1; i < path.Count; i++)
            length += (path[i] - path[i - 1]).Length;
        if (pattern <= 0 || !(length / pattern * dashes.Count < MostOnPath))
        {
            for (int i = 1; i < path.Count; i++)
                yield return (path[i - 1], path[i]);
            yield break;
        }

        int dash = 0;
        double left = Math.Abs(dashes[0]);
        for (int i = 1; i < path.Count; i++)
        {
            Vec3 from = path[i - 1],
                whole = path[i] - from;
            double size = whole.Length,
                at = 0;
            while (at < size)
            {
                double step = Math.Min(left, size - at);
                if (dashes[dash] >= 0)
                    yield return (from + (whole * (at / size)), from + (whole * ((at + step) / size)));
                (at, left) = (at + step, left - step);
                if (left > 0)
                    continue;
                dash = (dash + 1) % dashes.Count;
                left = Math.Abs(dashes[dash]);
                // A dot takes no room on the line; where all are dots the sum above is 0.
            }
        }
    }
}
