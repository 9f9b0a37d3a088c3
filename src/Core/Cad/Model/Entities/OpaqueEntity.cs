namespace SteadyLintel.Cad;

/// <summary>An entity whose kind has no fields here: kept as it came, to be written back to the same format.</summary>
public sealed class OpaqueEntity(string type) : Entity
{
    /// <inheritdoc/>
    public override string Type { get; } = type;

    /// <summary>The bits it had in DWG behind what all entities share.</summary>
    public OpaqueBits? Bits { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f) { }
}
