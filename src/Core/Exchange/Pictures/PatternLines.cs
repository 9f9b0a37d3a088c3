using System.Globalization;
using System.Text;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A family of parallel lines of a hatch as a pattern of SVG: a tile of one by one whose sides are a length along the lines and
/// the way from one line to the next.</summary>
/// <param name="Transform">The six numbers that take the tile to the picture.</param>
/// <param name="Data">The dashes of a line in the middle of the tile, as path data.</param>
/// <param name="Spacing">The distance between lines in steps of the picture: what a stroke as wide as the tile is wide in it.</param>
internal sealed record PatternLines(string Transform, string Data, double Spacing)
{
    // Continuous lines get a tile many times longer than high, for every tile has an edge to be drawn over.
    private const double LongTile = 40,
        Dot = 0.02;

    /// <summary>The pattern of a family of lines; null when they lie on one another.</summary>
    /// <param name="line">The family, in object coordinates of its hatch.</param>
    /// <param name="hatch">The hatch.</param>
    /// <param name="at">Where its block is.</param>
    /// <param name="corner">The corner the picture counts from.</param>
    /// <param name="unit">The length of a step of the picture.</param>
    public static PatternLines? Of(HatchLine line, Hatch hatch, InsertTransform at, Vec2 corner, double unit)
    {
        double period = line.Dashes.Sum(Math.Abs);
        Vec2 along = Step(new Vec2(Math.Cos(line.Angle), Math.Sin(line.Angle))),
            next = Step(line.Offset);
        double spacing = Math.Abs(along.Cross(next)) / along.Length;
        if (!double.IsFinite(spacing) || spacing < 1e-3 || along.Length == 0)
            return null;
        bool dashed = period > 0 && line.Dashes.Exists(d => d < 0);
        var side = along * (dashed ? period : LongTile * spacing / along.Length);
        var begin = at.Apply(
            ObjectCoordinates.ToWorld(new Vec3(line.Base.X, line.Base.Y, hatch.Elevation), hatch.Normal)
        );
        var origin = new Vec2((begin.X - corner.X) / unit, (corner.Y - begin.Y) / unit);
        // Of all tiles that begin the same way the one next to the corner: hatches of one pattern share it then.
        double area = side.Cross(next),
            p = dashed ? Fraction(origin.Cross(next) / area) : 0,
            q = Fraction(side.Cross(origin) / area);
        var place = (side * p) + (next * (q - 0.5));
        string transform = string.Join(
            ' ',
            new[] { side.X, side.Y, next.X, next.Y, place.X, place.Y }.Select(n =>
                n.ToString("G6", CultureInfo.InvariantCulture)
            )
        );
        return new PatternLines(transform, dashed ? Dashes(line.Dashes, period) : "M0 .5H1", spacing);

        Vec2 Step(Vec2 v)
        {
            var world = at.Turn(ObjectCoordinates.ToWorld(new Vec3(v.X, v.Y, 0), hatch.Normal));
            return new Vec2(world.X / unit, -world.Y / unit);
        }
    }

    private static double Fraction(double value) => value - Math.Floor(value);

    private static string Dashes(List<double> dashes, double period)
    {
        var data = new StringBuilder();
        double at = 0;
        foreach (double dash in dashes)
        {
            if (dash >= 0)
                data.Append(
                    CultureInfo.InvariantCulture,
                    $"M{at / period:0.####} .5h{Math.Max(dash / period, Dot):0.####}"
                );
            at += Math.Abs(dash);
        }

        return data.ToString();
    }
}
