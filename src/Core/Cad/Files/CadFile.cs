namespace SteadyLintel.Cad;

/// <summary>Reads and writes drawings, whichever of the two formats they have.</summary>
public static class CadFile
{
    /// <summary>Whether bytes begin like a drawing.</summary>
    public static bool Looks(ReadOnlySpan<byte> head) => DwgReader.Looks(head) || DxfReader.Looks(head);

    /// <summary>Reads a drawing, and says in what form it came.</summary>
    /// <exception cref="CadFormatException">It is no drawing, or damaged beyond reading; the message says what to do.</exception>
    public static (Drawing Drawing, CadForm Form) Read(byte[] bytes, CancellationToken cancel = default)
    {
        bool dwg = DwgReader.Looks(bytes);
        var drawing = dwg ? DwgReader.Read(bytes, cancel) : DxfReader.Read(bytes, cancel);
        return (drawing, new CadForm(dwg, drawing.Version, !dwg && bytes.AsSpan().StartsWith("AutoCAD Binary DXF"u8)));
    }

    /// <summary>Writes a drawing; the stream is left open.</summary>
    /// <returns>What was left behind.</returns>
    public static IReadOnlyList<CadFinding> Write(
        Drawing drawing,
        Stream target,
        CadForm form,
        CancellationToken cancel = default
    )
    {
        if (form.Dwg)
            return DwgWriter.Write(drawing, target, form.Version, cancel);
        return DxfWriter.Write(drawing, target, form.Version, form.Binary, cancel);
    }
}
