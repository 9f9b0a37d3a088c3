namespace SteadyLintel.Cad;

/// <summary>The kind of a variable of the header or of a dimension style.</summary>
internal enum VariableKind
{
    /// <summary>BD.</summary>
    Double,

    /// <summary>BD; degrees in DXF.</summary>
    Angle,

    /// <summary>BS.</summary>
    Short,

    /// <summary>BL.</summary>
    Long,

    /// <summary>RC.</summary>
    Byte,

    /// <summary>B.</summary>
    Bit,

    /// <summary>T.</summary>
    Text,

    /// <summary>CMC; a number.</summary>
    Colour,

    /// <summary>3BD.</summary>
    Point,

    /// <summary>2RD.</summary>
    Flat,

    /// <summary>Days and milliseconds.</summary>
    Time,

    /// <summary>BLL.</summary>
    LongLong,

    /// <summary>H of any object.</summary>
    Handle,

    /// <summary>H of a text style, by name in DXF.</summary>
    Style,

    /// <summary>H of a block, by name in DXF.</summary>
    Block,

    /// <summary>H of a line type, by name in DXF.</summary>
    LineType,

    /// <summary>H of a layer, by name in DXF.</summary>
    Layer,

    /// <summary>H of a dimension style, by name in DXF.</summary>
    DimensionStyle,

    /// <summary>H of a user coordinate system, by name in DXF.</summary>
    Ucs,
}
