namespace SteadyLintel.Cad;

/// <summary>An object whose kind has no fields here: kept as it came, to be written back to the same format.</summary>
public sealed class OpaqueObject(string type) : CadObject
{
    /// <inheritdoc/>
    public override string Type { get; } = type;

    /// <summary>The bits it had in DWG behind what all objects share.</summary>
    public OpaqueBits? Bits { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f) { }
}
