using System.Text;
using SteadyLintel.Cad;

namespace SteadyLintel.Tests;

/// <summary>DXF written by hand in short: <c>10=1 20=2 1=text~with~spaces</c>.</summary>
internal static class GroupText
{
    /// <summary>A drawing with one entity in model space, as a stranger might write it.</summary>
    public static Drawing Entity(string kind, string groups, string version = "AC1027") =>
        Read(Section("ENTITIES", $"0={kind} 8=W {groups}"), version);

    /// <summary>A drawing with one record in a table.</summary>
    public static Drawing Record(string table, string groups, string version = "AC1027") =>
        Read(Section("TABLES", $"0=TABLE 2={table} 70=1 0={table} {groups} 0=ENDTAB"), version);

    /// <summary>A drawing with one object beside those every drawing has.</summary>
    public static Drawing Object(string kind, string groups, string version = "AC1027") =>
        Read(Section("OBJECTS", $"0={kind} {groups}"), version);

    public static Drawing Read(string sections, string version) =>
        DxfReader.Read(
            Encoding.UTF8.GetBytes(Section("HEADER", $"9=$ACADVER 1={version}") + sections + Groups("0=EOF"))
        );

    public static string Section(string name, string groups) => Groups($"0=SECTION 2={name} {groups} 0=ENDSEC");

    /// <summary>The groups of an object as we write them, in the same short form, without handles, owners and markers.</summary>
    public static string Of(Drawing drawing, CadObject item, CadVersion version = CadVersion.AC1027)
    {
        var lines = DrawingText.ByHandle(drawing, version);
        string text = lines.Single(l => l.Key.EndsWith("=" + item.Handle, StringComparison.Ordinal)).Value;
        return string.Join(
            ' ',
            text.Split('\n')
                .Where(l => l.Split('=')[0] is not ("5" or "105" or "330" or "100"))
                .Select(l => l.Trim().Replace(' ', '~'))
        );
    }

    private static string Groups(string text)
    {
        var lines = new StringBuilder();
        foreach (string group in text.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            int at = group.IndexOf('=', StringComparison.Ordinal);
            lines.Append(group[..at]).Append('\n').Append(group[(at + 1)..].Replace('~', ' ')).Append('\n');
        }

        return lines.ToString();
    }
}
