namespace SteadyLintel.Cad;

/// <summary>TEXT.</summary>
public sealed class Text : TextEntity
{
    /// <inheritdoc/>
    public override string Type => "TEXT";

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        ExchangeText(f);
        if (f.Dwg is not null)
            return;
        f.Subclass("AcDbText");
        Vertical = f.Short(73, Vertical, 0);
    }
}
