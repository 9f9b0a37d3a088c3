namespace SteadyLintel.Cad;

/// <summary>The parts of a DWG file, whatever holds them: header variables, classes, the map of objects, and the objects.</summary>
/// <param name="Header">The header variables, between their sentinels.</param>
/// <param name="Classes">The classes, between their sentinels.</param>
/// <param name="Map">The map of handles to places.</param>
/// <param name="Objects">The bytes that places of the map count in.</param>
/// <param name="Template">The template: whether the drawing is metric.</param>
/// <param name="Store">Data of objects that lie apart from them, from 2013 on.</param>
internal sealed record DwgSections(
    byte[] Header,
    byte[] Classes,
    byte[] Map,
    byte[] Objects,
    byte[] Template,
    byte[] Store
)
{
    /// <summary>The names of these parts among the sections of a file; others hold nothing of the drawing.</summary>
    public static readonly IReadOnlyList<string> Wanted =
    [
        "AcDb:Header",
        "AcDb:Classes",
        "AcDb:Handles",
        "AcDb:AcDbObjects",
        "AcDb:Template",
        StoreName,
    ];

    /// <summary>The name of the store.</summary>
    public const string StoreName = "AcDb:AcDsPrototype_1b";

    /// <summary>The sentinel before the header variables.</summary>
    public static ReadOnlySpan<byte> HeaderStart =>
        [0xCF, 0x7B, 0x1F, 0x23, 0xFD, 0xDE, 0x38, 0xA9, 0x5F, 0x7C, 0x68, 0xB8, 0x4E, 0x6D, 0x33, 0x5F];

    /// <summary>The sentinel before the classes.</summary>
    public static ReadOnlySpan<byte> ClassesStart =>
        [0x8D, 0xA1, 0xC4, 0xB8, 0xC4, 0xA9, 0xF8, 0xC5, 0xC0, 0xDC, 0xF4, 0x5F, 0xE7, 0xCF, 0xB6, 0x8A];

    /// <summary>The end sentinel: every bit of the start turned over.</summary>
    public static byte[] End(ReadOnlySpan<byte> start)
    {
        byte[] end = start.ToArray();
        for (int i = 0; i < end.Length; i++)
            end[i] = (byte)~end[i];
        return end;
    }
}
