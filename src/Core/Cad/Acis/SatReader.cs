using System.Globalization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Reads the plane faces of ACIS text, versions 1.6 to 7.0 and later as far as their records are alike.</summary>
public sealed class SatReader
{
    private const int MostRecords = 5_000_000, PatternVersion = 700;
    private readonly List<string[]> _records = [];
    private readonly int _version;

    private SatReader(string text)
    {
        string[] lines = text.Split('\n');
        _version = lines.Length > 0 && int.TryParse(lines[0].TrimStart().Split(' ')[0], NumberStyles.Integer, CultureInfo.InvariantCulture, out int v) ? v : 0;
        // Three lines of header; a record may go on over lines.
        foreach (string record in string.Join(' ', lines.Skip(3)).Split('#'))
        {
            string[] words = record.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
            if (words.Length == 0 || words[0].StartsWith("End-of", StringComparison.Ordinal) || _records.Count >= MostRecords) break;
            // Numbered records begin with their number.
            _records.Add(words[0].StartsWith('-') ? words[1..] : words);
        }
    }

    /// <summary>The points and faces of a body; null when a face is not plane, an edge not straight, or a reference leads nowhere.</summary>
    public static (IReadOnlyList<Vec3> Points, IReadOnlyList<PlanarFace> Faces)? Read(string text)
    {
        try
        {
            return new SatReader(text).Faces();
        }
        catch (Exception e) when (e is FormatException or ArgumentOutOfRangeException or IndexOutOfRangeException)
        {
            return null;
        }
    }

    private (IReadOnlyList<Vec3>, IReadOnlyList<PlanarFace>)? Faces()
    {
        var points = new List<Vec3>();
        var numbers = new Dictionary<int, int>();
        var faces = new List<PlanarFace>();
        for (int r = 0; r < _records.Count; r++)
        {
            if (_records[r][0] != "face") continue;
            var links = Links(r);
            if (_records[links[4]][0] != "plane-surface") return null;
            var loops = new List<int[]>();
            for (int loop = links[1]; loop >= 0; loop = Links(loop)[0])
            {
                if (Corners(loop) is not { } corners || loops.Count > _records.Count) return null;
                loops.Add([.. corners.Select(Number)]);
            }

            if (loops.Count > 0) faces.Add(new PlanarFace(loops));
        }

        return faces.Count > 0 ? (points, faces) : null;

        int Number(int point)
        {
            if (numbers.TryGetValue(point, out int known)) return known;
            string[] words = _records[point];
            points.Add(new Vec3(Real(words[^3]), Real(words[^2]), Real(words[^1])));
            return numbers[point] = points.Count - 1;
        }
    }

    // The points at which the edges of a loop begin; null when one is not straight.
    private List<int>? Corners(int loop)
    {
        var corners = new List<int>();
        int first = Links(loop)[1];
        for (int at = first; ;)
        {
            var coedge = Links(at);
            var edge = Links(coedge[3]);
            if (edge[3] < 0 || _records[edge[3]][0] != "straight-curve" || corners.Count > _records.Count) return null;
            bool reversed = _records[at].Contains("reversed") != (_records[coedge[3]].Contains("reversed"));
            corners.Add(Links(edge[reversed ? 1 : 0])[1]);
            at = coedge[0];
            if (at == first) return corners;
        }
    }

    // References behind the attribute and, from 7.0 on, the pattern.
    private int[] Links(int record)
    {
        var all = _records[record].Where(w => w.StartsWith('$')).Select(w => int.Parse(w.AsSpan(1), NumberStyles.Integer, CultureInfo.InvariantCulture));
        return [.. all.Skip(_version >= PatternVersion ? 2 : 1)];
    }

    private static double Real(string word) => double.Parse(word, NumberStyles.Float, CultureInfo.InvariantCulture);
}
