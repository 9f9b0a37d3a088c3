using System.Text;
using System.Text.RegularExpressions;

namespace SteadyLintel.Tests;

/// <summary>The instances of an IFC file, read line by line with no help of ours: what was asked for is checked by another hand than the
/// one that wrote it. Enough for files with an instance a line and texts without line ends.</summary>
internal sealed partial class PlainIfc
{
    private PlainIfc(Dictionary<int, (string Class, string[] Arguments)> records) => Records = records;

    /// <summary>Class and arguments as they are written, by number.</summary>
    public Dictionary<int, (string Class, string[] Arguments)> Records { get; }

    public static PlainIfc Read(ReadOnlySpan<byte> bytes) =>
        new(
            Line()
                .Matches(Encoding.Latin1.GetString(bytes))
                .ToDictionary(
                    m => int.Parse(m.Groups[1].Value, System.Globalization.CultureInfo.InvariantCulture),
                    m => (m.Groups[2].Value, Split(m.Groups[3].Value))
                )
        );

    /// <summary>Instances of a class.</summary>
    public IEnumerable<string[]> Of(string type) => Records.Values.Where(r => r.Class == type).Select(r => r.Arguments);

    /// <summary>The numbers that a list or a reference names.</summary>
    public static IEnumerable<int> Numbers(string argument) =>
        Reference()
            .Matches(argument)
            .Select(m => int.Parse(m.Groups[1].Value, System.Globalization.CultureInfo.InvariantCulture));

    /// <summary>A text without its quotes, letters beyond ASCII as letters (ISO 10303-21, 6.4.3.3).</summary>
    public static string Text(string argument) =>
        Letters()
            .Replace(argument.Trim('\''), m =>
                string.Concat(m.Groups[1].Value.Chunk(4).Select(c => (char)System.Convert.ToInt32(new string(c), 16)))
            );

    /// <summary>Set, property and value of every single value that elements have themselves, by GlobalId.</summary>
    public ILookup<string, (string Set, string Property, string Value)> Properties() =>
        (
            from relation in Of("IFCRELDEFINESBYPROPERTIES")
            let set = Records[Numbers(relation[5]).Single()]
            where set.Class == "IFCPROPERTYSET"
            from element in Numbers(relation[4])
            from number in Numbers(set.Arguments[4])
            let property = Records[number]
            where property.Class == "IFCPROPERTYSINGLEVALUE"
            select (
                Id: Text(Records[element].Arguments[0]),
                Fact: (Text(set.Arguments[2]), Text(property.Arguments[0]), property.Arguments[2])
            )
        ).ToLookup(f => f.Id, f => f.Fact);

    /// <summary>Class of every instance of some classes, by GlobalId; those that share one are left out.</summary>
    public Dictionary<string, string> Classes(ICollection<string> types) =>
        Records
            .Values.Where(r => types.Contains(r.Class))
            .GroupBy(r => Text(r.Arguments[0]))
            .Where(g => g.Count() == 1)
            .ToDictionary(g => g.Key, g => g.First().Class);

    private static string[] Split(string arguments)
    {
        var parts = new List<string>();
        var (depth, quoted, start) = (0, false, 0);
        for (int at = 0; at < arguments.Length; at++)
        {
            char c = arguments[at];
            if (c == '\'')
                quoted = !quoted;
            if (quoted)
                continue;
            if (c == '(')
                depth++;
            if (c == ')')
                depth--;
            if (c != ',' || depth != 0)
                continue;
            parts.Add(arguments[start..at].Trim());
            start = at + 1;
        }

        parts.Add(arguments[start..].Trim());
        return [.. parts];
    }

    [GeneratedRegex(@"^#(\d+) ?= ?(IFC\w+)\((.*)\);\r?$", RegexOptions.Multiline)]
    private static partial Regex Line();

    [GeneratedRegex(@"\\X2\\([0-9A-F]+)\\X0\\")]
    private static partial Regex Letters();

    [GeneratedRegex(@"#(\d+)")]
    private static partial Regex Reference();
}
