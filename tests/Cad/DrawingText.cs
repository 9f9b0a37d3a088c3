using System.Text;
using SteadyLintel.Cad;

namespace SteadyLintel.Tests;

/// <summary>A drawing as the text of one DXF version, so that drawings can be compared value by value.</summary>
internal static class DrawingText
{
    public static string Of(Drawing drawing, CadVersion version = CadVersion.AC1032)
    {
        using var stream = new MemoryStream();
        // What is older is not written; 2000 has all that it has.
        DxfWriter.Write(drawing, stream, version < CadVersion.AC1015 ? CadVersion.AC1015 : version);
        return Encoding.UTF8.GetString(stream.ToArray());
    }

    /// <summary>The objects' groups by handle, without header and classes: what differs names its object.</summary>
    public static SortedDictionary<string, string> ByHandle(Drawing drawing, CadVersion version = CadVersion.AC1032)
    {
        var objects = new SortedDictionary<string, string>(StringComparer.Ordinal);
        string text = Of(drawing, version);
        string[] lines = text[text.IndexOf("TABLES\r\n", StringComparison.Ordinal)..].Split("\r\n");
        var current = new List<string>();
        for (int i = 1; i + 1 < lines.Length; i += 2)
        {
            if (lines[i] == "  0" && current.Count > 0)
            {
                Keep();
                current.Clear();
            }

            current.Add(lines[i].Trim() + "=" + lines[i + 1]);
        }

        Keep();
        return objects;

        void Keep() =>
            objects[
                current.FirstOrDefault(c =>
                    c.StartsWith("5=", StringComparison.Ordinal) || c.StartsWith("105=", StringComparison.Ordinal)
                ) ?? current[0]
            ] = string.Join("\n", current);
    }

    private static string Difference(string a, string b)
    {
        var (first, second) = (a.Split('\n'), b.Split('\n'));
        var apart = Enumerable
            .Range(0, Math.Max(first.Length, second.Length))
            .Where(i => first.ElementAtOrDefault(i) != second.ElementAtOrDefault(i));
        return string.Join("; ", first.Take(2))
            + ": "
            + string.Join(
                ", ",
                apart.Take(5).Select(i => $"{first.ElementAtOrDefault(i)} | {second.ElementAtOrDefault(i)}")
            );
    }

    /// <summary>Both drawings have the same objects with the same groups.</summary>
    public static void Same(Drawing expected, Drawing actual, CadVersion version = CadVersion.AC1032)
    {
        var (a, b) = (ByHandle(expected, version), ByHandle(actual, version));
        Assert.Equal(
            "",
            string.Join(
                "\n\n",
                a.Where(x => !b.ContainsKey(x.Key)).Concat(b.Where(x => !a.ContainsKey(x.Key))).Select(x => x.Value)
            )
        );
        string differences = string.Join(
            "\n",
            a.Where(x => x.Value != b[x.Key]).Take(6).Select(x => Difference(x.Value, b[x.Key]))
        );
        if (differences.Length > 0)
            Assert.Fail(differences);
    }
}
