namespace SteadyLintel.Cad;

/// <summary>The measures of the data store of DWG, in bytes (Open Design specification, chapter 24, from memory).</summary>
internal static class DwgStoreLayout
{
    /// <summary>The head of the store; its numbers are those from the places below.</summary>
    public const int Head = 0x80,
        IndexAt = 0x18,
        IndexCountAt = 0x20,
        DataIndexAt = 0x28;

    /// <summary>The head of a segment, and where it says how far behind its beginning, in units of 16 bytes, the data of its records
    /// begin.</summary>
    public const int SegmentHead = 0x30,
        ObjectAlignmentAt = 0x24;

    /// <summary>The head of a record: its size, a one, the handle, and the place of its data.</summary>
    public const int RecordHead = 0x14;

    /// <summary>Segments begin at multiples of this.</summary>
    public const int Alignment = 0x40;

    /// <summary>In the place of a size: the data lie in pages.</summary>
    public const uint Pages = 0xBB106BB1;

    /// <summary>What the store begins with.</summary>
    public static ReadOnlySpan<byte> Signature => "jard"u8;

    /// <summary>The names of schemas that are known.</summary>
    public static IReadOnlyList<string> Schemas { get; } =
    [
        StoredData.Pictures,
        StoredData.Bodies,
        "AcDbDs::TreatedAsObjectDataSchema",
        "AcDbDs::LegacySchema",
        "AcDbDs::IndexedPropertySchema",
        "AcDbDs::HandleAttributeSchema",
    ];
}
