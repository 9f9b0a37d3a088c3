namespace SteadyLintel.Cad;

/// <summary>ATTDEF: asks an insert for a value.</summary>
public sealed class AttributeDefinition : AttributeEntity
{
    /// <inheritdoc/>
    public override string Type => "ATTDEF";

    /// <summary>What is asked (3).</summary>
    public string Prompt { get; set; } = "";

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        ExchangeText(f);
        f.Subclass("AcDbAttributeDefinition");
        if (f.Dwg is null)
            Prompt = f.Text(3, Prompt);
        ExchangeAttribute(f);
        if (f.Dwg is not { } d)
            return;
        if (d.Since(CadVersion.AC1024) && !(d.Since(CadVersion.AC1032) && Paragraphs.Length > 0))
            d.RawByte(0);
        Prompt = d.Text(3, Prompt);
    }
}
