namespace SteadyLintel.Cad;

/// <summary>ACDBPLACEHOLDER: is in a dictionary for a name that needs no more.</summary>
public sealed class Placeholder : CadObject
{
    /// <inheritdoc/>
    public override string Type => "ACDBPLACEHOLDER";

    /// <inheritdoc/>
    internal override void Exchange(Fields f) { }
}
