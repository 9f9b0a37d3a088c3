namespace SteadyLintel.Cad;

/// <summary>What kind of value follows, in ACIS data in their binary form.</summary>
internal enum SabTag : byte
{
    /// <summary>A whole number.</summary>
    Integer = 4,

    /// <summary>A double.</summary>
    Double = 6,

    /// <summary>Text behind its length in a byte.</summary>
    Text = 7,

    /// <summary>The first of two words: reversed, finite, double-sided.</summary>
    True = 10,

    /// <summary>The second of two words: forward, infinite, single.</summary>
    False = 11,

    /// <summary>The number of another record, -1 for none.</summary>
    Link = 12,

    /// <summary>The last or only part of a record's kind.</summary>
    Name = 13,

    /// <summary>A part of a record's kind, with more behind it.</summary>
    NamePart = 14,

    /// <summary>The beginning of a record within a record.</summary>
    SubtypeBegin = 15,

    /// <summary>Its end.</summary>
    SubtypeEnd = 16,

    /// <summary>The end of a record.</summary>
    Record = 17,

    /// <summary>Text behind its length in four bytes.</summary>
    LongText = 18,

    /// <summary>A point.</summary>
    Position = 19,

    /// <summary>A direction.</summary>
    Direction = 20,

    /// <summary>One word of a list, by number.</summary>
    Enumeration = 21,

    /// <summary>A double of another use.</summary>
    OtherDouble = 23,
}
