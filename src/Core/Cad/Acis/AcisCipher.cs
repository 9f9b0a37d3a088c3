namespace SteadyLintel.Cad;

/// <summary>The disguise ACIS text wears in drawings: every character above the space is turned around in its range.</summary>
internal static class AcisCipher
{
    private const int Sum = 159;

    /// <summary>Puts it on or takes it off: it is its own opposite.</summary>
    public static char Turn(char c) => c is > ' ' and <= (char)(Sum - 33) ? (char)(Sum - c) : c;

    /// <summary>The groups of DXF for text: 1 for each line, 3 for what is longer than a group.</summary>
    public static IEnumerable<CadGroup> ToGroups(string text)
    {
        const int Longest = 255;
        foreach (string line in text.TrimEnd('\n').Split('\n'))
        {
            // A caret is the sign of control characters in DXF, and is written with a space behind it.
            string turned = string.Concat(line.Select(c => Turn(c) == '^' ? "^ " : Turn(c).ToString()));
            for (int at = 0; at == 0 || at < turned.Length; at += Longest)
                yield return new CadGroup(at == 0 ? 1 : 3, turned[at..Math.Min(turned.Length, at + Longest)]);
        }
    }

    /// <summary>Text from the groups of DXF; empty when there are none.</summary>
    public static string FromGroups(IEnumerable<CadGroup> groups)
    {
        var lines = new List<string>();
        foreach (var group in groups)
        {
            if (group.Code == 1)
                lines.Add(group.Text);
            else if (group.Code == 3 && lines.Count > 0)
                lines[^1] += group.Text;
        }

        return lines.Count == 0
            ? ""
            : string.Concat(
                lines.Select(l => string.Concat(l.Replace("^ ", "^", StringComparison.Ordinal).Select(Turn)) + "\n")
            );
    }
}
