using System.Text;

namespace SteadyLintel.Step;

/// <summary>Writes an exchange structure. Text in, text out: the same calls give the same bytes.</summary>
/// <param name="target">Where to; it is left open.</param>
/// <remarks>Lines end in LF. The stream is left open; <see cref="End"/> closes the structure.</remarks>
public sealed class StepWriter(Stream target)
{
    /// <summary>How many instances were written.</summary>
    public int Count { get; private set; }

    /// <summary>Writes the header and opens the DATA section.</summary>
    /// <param name="header">What the file says of itself.</param>
    public void Begin(StepHeader header)
    {
        Line("ISO-10303-21;");
        Line("HEADER;");
        Line($"FILE_DESCRIPTION({List(header.Description)},{String(header.ImplementationLevel)});");
        Line(
            $"FILE_NAME({String(header.Name)},{String(header.TimeStamp)},{List(header.Author)},{List(header.Organization)},{String(header.PreprocessorVersion)},{String(header.OriginatingSystem)},{String(header.Authorization)});"
        );
        Line($"FILE_SCHEMA(({String(header.Schema)}));");
        Line("ENDSEC;");
        Line("DATA;");
    }

    /// <summary>Writes an instance byte for byte as it came, semicolon included.</summary>
    /// <param name="raw">From its <c>#</c> to its semicolon.</param>
    public void Copy(ReadOnlySpan<byte> raw)
    {
        target.Write(raw);
        target.WriteByte((byte)'\n');
        Count++;
    }

    /// <summary>Writes an instance from its keyword and the text between the parentheses.</summary>
    /// <param name="id">The number behind <c>#</c>.</param>
    /// <param name="keyword">The entity, in capital letters.</param>
    /// <param name="inside">Parameters as they are written, with commas.</param>
    public void Instance(int id, string keyword, string inside) =>
        Copy(Encoding.ASCII.GetBytes($"#{id}={keyword}({inside});"));

    /// <summary>Closes the DATA section and the exchange structure.</summary>
    public void End()
    {
        Line("ENDSEC;");
        Line("END-ISO-10303-21;");
    }

    /// <summary>A string parameter; null gives <c>$</c>.</summary>
    /// <param name="text">Any text.</param>
    public static string String(string? text) => text is null ? "$" : $"'{StepText.Encode(text)}'";

    private static string List(IReadOnlyList<string> texts) =>
        "(" + (texts.Count == 0 ? "''" : string.Join(",", texts.Select(String))) + ")";

    private void Line(string text) => target.Write(Encoding.ASCII.GetBytes(text + "\n"));
}
