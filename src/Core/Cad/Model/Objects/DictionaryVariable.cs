namespace SteadyLintel.Cad;

/// <summary>DICTIONARYVAR: a setting of the drawing kept in a dictionary.</summary>
public sealed class DictionaryVariable : CadObject
{
    /// <inheritdoc/>
    public override string Type => "DICTIONARYVAR";

    /// <summary>The value (1).</summary>
    public string Value { get; set; } = "";

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("DictionaryVariables");
        f.Byte(280, 0);
        Value = f.Text(1, Value);
    }
}
