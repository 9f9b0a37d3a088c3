namespace SteadyLintel.Cad;

/// <summary>What few objects carry.</summary>
public sealed class ObjectExtras
{
    /// <summary>Objects that are notified of changes (102 {ACAD_REACTORS).</summary>
    public List<Handle> Reactors { get; } = [];

    /// <summary>The extension dictionary (102 {ACAD_XDICTIONARY).</summary>
    public Handle Dictionary { get; set; }

    /// <summary>Extended data, by application (1001).</summary>
    public List<ExtendedData> Data { get; } = [];

    /// <summary>Groups of other applications in front of the fields, in DXF (102 {…}).</summary>
    public List<CadGroup> Braced { get; } = [];

    /// <summary>Groups of DXF that the kind has no field for; written back as they came.</summary>
    public List<CadGroup> Unread { get; } = [];

    /// <summary>The material (347); null by layer.</summary>
    public Handle Material { get; set; }

    /// <summary>The plot style (390); null by layer.</summary>
    public Handle PlotStyle { get; set; }

    /// <summary>Transparency (440): 0x02000000 + alpha, 0 by layer.</summary>
    public int Transparency { get; set; }

    /// <summary>How shadows fall (284).</summary>
    public int Shadow { get; set; }

    /// <summary>A picture for readers that do not know the kind (310).</summary>
    public byte[]? Preview { get; set; }
}
