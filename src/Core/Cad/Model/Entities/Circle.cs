namespace SteadyLintel.Cad;

/// <summary>CIRCLE.</summary>
public sealed class Circle : RoundEntity
{
    /// <inheritdoc/>
    public override string Type => "CIRCLE";
}
