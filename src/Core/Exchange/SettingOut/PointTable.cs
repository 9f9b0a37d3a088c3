using System.Globalization;
using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Control points as a table: <c>name,sx,sy,sz,jx,jy,jz</c>, the source's side and the job's, one point a line.</summary>
/// <remarks>Numbers are metres; a length with a unit is taken as it says. Where both heights are left out, a point counts in plan only;
/// where
/// all four plan coordinates are, it counts in height only. A first line without numbers is a heading; fields may be parted by tabs or
/// semicolons.</remarks>
public static class PointTable
{
    private const int MaxPoints = 10_000,
        MaxName = 80;

    /// <summary>Reads a table.</summary>
    /// <exception cref="OrderException">A line is no point; the message names it.</exception>
    public static IReadOnlyList<ControlPoint> Read(string text)
    {
        var points = new List<ControlPoint>();
        string[] lines = text.TrimStart('\uFEFF').Split('\n');
        for (int n = 0; n < lines.Length; n++)
        {
            string line = lines[n].Trim();
            if (line.Length == 0)
                continue;
            char parted =
                line.Contains('\t', StringComparison.Ordinal) ? '\t'
                : line.Contains(';', StringComparison.Ordinal) ? ';'
                : ',';
            string[] fields = [.. line.Split(parted).Select(f => f.Trim().Trim('"'))];
            if (n == 0 && fields.Skip(1).All(f => !LengthText.TryRead(f, LengthNotation.Metres, out _)))
                continue;
            if (fields.Length != 7)
                throw new OrderException(
                    $"Line {n + 1} has {fields.Length} fields; a point has seven: name,sx,sy,sz,jx,jy,jz."
                );
            if (points.Count == MaxPoints)
                throw new OrderException($"More than {MaxPoints} points; the best few hundred are enough.");
            points.Add(Point(fields, n + 1));
        }

        return points;
    }

    /// <summary>Writes a table.</summary>
    public static string Write(IEnumerable<ControlPoint> points)
    {
        var text = new StringBuilder("name,sx,sy,sz,jx,jy,jz\r\n");
        foreach (var p in points)
        {
            string[] plan = p.HasPlan ? [N(p.Source.X), N(p.Source.Y), N(p.Job.X), N(p.Job.Y)] : ["", "", "", ""];
            string[] height = p.HasHeight ? [N(p.Source.Z), N(p.Job.Z)] : ["", ""];
            text.Append(
                CultureInfo.InvariantCulture,
                $"{Name(p.Name)},{plan[0]},{plan[1]},{height[0]},{plan[2]},{plan[3]},{height[1]}\r\n"
            );
        }

        return text.ToString();
    }

    private static ControlPoint Point(string[] f, int line)
    {
        string name = f[0].TrimStart('\'');
        if (name.Length > MaxName)
            throw new OrderException($"The name in line {line} is longer than {MaxName} characters.");
        bool plan = f[1].Length + f[2].Length + f[4].Length + f[5].Length > 0,
            height = f[3].Length + f[6].Length > 0;
        if (!plan && !height)
            throw new OrderException($"Line {line} has no numbers.");
        double At(int field, bool counts) =>
            !counts ? 0
            : LengthText.TryRead(f[field], LengthNotation.Metres, out double v) ? v
            : throw new OrderException($"'{f[field]}' in line {line} is no length; write it as 4.964 or 16'-2 3/4\".");
        return new ControlPoint(
            name.Length == 0 ? $"{line}" : name,
            new Vec3(At(1, plan), At(2, plan), At(3, height)),
            new Vec3(At(4, plan), At(5, plan), At(6, height)),
            plan,
            height
        );
    }

    // No field begins a formula, and none has a comma.
    private static string Name(string name)
    {
        string plain = name.Replace(',', ' ').Replace('"', ' ').Replace('\n', ' ').Replace('\r', ' ');
        return plain.Length > 0 && plain[0] is '=' or '+' or '-' or '@' or '\t' ? "'" + plain : plain;
    }

    private static string N(double value) => value.ToString("R", CultureInfo.InvariantCulture);
}
