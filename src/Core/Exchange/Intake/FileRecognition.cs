using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>What a delivered file is, distinguished from its first bytes.</summary>
public enum DeliveredKind
{
    /// <summary>An ISO 10303-21 exchange structure.</summary>
    Step,

    /// <summary>A ZIP archive, such as .ifczip.</summary>
    Zip,

    /// <summary>A DWG or DXF drawing.</summary>
    Drawing,

    /// <summary>Something that cannot be received.</summary>
    Refused,
}

/// <summary>Recognises deliveries by content, never by name, and says what to ask for when one cannot be read.</summary>
public static class FileRecognition
{
    /// <summary>How many first bytes <see cref="Recognise"/> wants.</summary>
    public const int HeadLength = 512;

    /// <summary>Tells what the first bytes begin.</summary>
    /// <param name="head">The first <see cref="HeadLength"/> bytes, or the whole file when it is shorter.</param>
    /// <returns>The kind and, when refused, one sentence for the sender.</returns>
    public static (DeliveredKind Kind, string Sentence) Recognise(ReadOnlySpan<byte> head)
    {
        if (head.IsEmpty)
            return (DeliveredKind.Refused, "The file is empty (0 bytes); ask for it to be sent again.");
        // First: an archive may hold its files as they are, and the words of one are then among its first bytes.
        if (head.StartsWith("PK\u0003\u0004"u8))
            return (DeliveredKind.Zip, "");
        var text = head.StartsWith("\uFEFF"u8) ? head[3..] : head;
        text = text.TrimStart(" \t\r\n"u8);
        if (text.StartsWith("ISO-10303-21"u8) || text.IndexOf("ISO-10303-21;"u8) >= 0)
            return (DeliveredKind.Step, "");
        if (CadFile.Looks(text))
            return (DeliveredKind.Drawing, "");
        if (text.StartsWith("<"u8))
            return Refuse("This is XML; ask for the model as IFC in the STEP form (.ifc).");
        if (head.StartsWith("%PDF"u8))
            return Refuse("This is a PDF; ask for the model as IFC.");
        if (head.StartsWith(new byte[] { 0xD0, 0xCF, 0x11, 0xE0 }))
            return Refuse(
                "This is a file in a program's private format; ask the sender to export IFC from that program."
            );
        if (text.StartsWith("{"u8))
            return Refuse("This is JSON; ask for the model as IFC in the STEP form (.ifc).");
        return Refuse(
            "The file is neither IFC nor a drawing: it begins with neither ISO-10303-21 nor the mark of DWG or DXF. Ask the sender to export IFC."
        );
    }

    private static (DeliveredKind, string) Refuse(string sentence) => (DeliveredKind.Refused, sentence);
}
