namespace SteadyLintel.Cad;

/// <summary>PDFDEFINITION, DWFDEFINITION, DGNDEFINITION: the file of an underlay.</summary>
public sealed class UnderlayDefinition(string type) : CadObject
{
    /// <inheritdoc/>
    public override string Type { get; } = type;

    /// <summary>The path (1).</summary>
    public string Path { get; set; } = "";

    /// <summary>The page or sheet (2).</summary>
    public string Page { get; set; } = "";

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbUnderlayDefinition");
        Path = f.Text(1, Path);
        Page = f.Text(2, Page);
    }
}
