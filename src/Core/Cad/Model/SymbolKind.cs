namespace SteadyLintel.Cad;

/// <summary>The symbol tables.</summary>
public enum SymbolKind
{
    /// <summary>Block records.</summary>
    Block,

    /// <summary>Layers.</summary>
    Layer,

    /// <summary>Text styles.</summary>
    Style,

    /// <summary>Line types.</summary>
    LineType,

    /// <summary>Views.</summary>
    View,

    /// <summary>User coordinate systems.</summary>
    Ucs,

    /// <summary>Viewports of the model tab.</summary>
    Viewport,

    /// <summary>Application ids.</summary>
    Application,

    /// <summary>Dimension styles.</summary>
    DimensionStyle,
}
