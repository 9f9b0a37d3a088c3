namespace SteadyLintel.Cad;

/// <summary>The kinds of POLYLINE.</summary>
public enum PolylineKind
{
    /// <summary>Lines and arcs in a plane.</summary>
    Flat,

    /// <summary>Lines in space (70, bit 8).</summary>
    Space,

    /// <summary>A mesh of m × n points (bit 16).</summary>
    Mesh,

    /// <summary>Points and faces between them (bit 64).</summary>
    Polyface,
}
