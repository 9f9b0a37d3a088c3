using System.Globalization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Reads the plane faces of ACIS text, versions 1.6 to 7.0 and later as far as their records are alike.</summary>
public static class SatReader
{
    private const int HeaderLines = 3;

    /// <summary>The points and faces of a body; null when a face is not plane, an edge not straight, or a reference leads
    /// nowhere.</summary>
    public static (IReadOnlyList<Vec3> Points, IReadOnlyList<PlanarFace> Faces)? Read(string text) =>
        AcisFaces.Of(Records(text));

    private static List<AcisRecord> Records(string text)
    {
        var records = new List<AcisRecord>();
        string[] lines = text.Split('\n');
        int skipped = Version(lines[0]) >= AcisRecord.PatternVersion ? 2 : 1;
        // A record may go on over lines.
        foreach (string record in string.Join(' ', lines.Skip(HeaderLines)).Split('#'))
        {
            string[] words = record.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
            if (
                words.Length == 0
                || words[0].StartsWith("End-of", StringComparison.Ordinal)
                || records.Count >= AcisRecord.Most
            )
                break;
            // Numbered records begin with their number.
            records.Add(Record(words[0].StartsWith('-') ? words[1..] : words, skipped));
        }

        return records;
    }

    private static int Version(string line) =>
        int.TryParse(
            line.TrimStart().Split(' ')[0],
            NumberStyles.Integer,
            CultureInfo.InvariantCulture,
            out int version
        )
            ? version
            : 0;

    private static AcisRecord Record(string[] words, int skipped)
    {
        var links = new List<int>();
        var numbers = new List<double>();
        foreach (string word in words.Skip(1))
        {
            if (word[0] == '$')
                links.Add(
                    int.TryParse(word.AsSpan(1), NumberStyles.Integer, CultureInfo.InvariantCulture, out int link)
                        ? link
                        : int.MaxValue
                );
            else if (double.TryParse(word, NumberStyles.Float, CultureInfo.InvariantCulture, out double number))
                numbers.Add(number);
        }

        return new AcisRecord(
            words.Length > 0 ? words[0] : "",
            [.. links.Skip(skipped)],
            [.. numbers],
            words.Contains("reversed")
        );
    }
}
