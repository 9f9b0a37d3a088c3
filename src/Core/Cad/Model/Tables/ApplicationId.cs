namespace SteadyLintel.Cad;

/// <summary>An application that keeps extended data.</summary>
public sealed class ApplicationId : SymbolRecord
{
    /// <inheritdoc/>
    public override string Type => "APPID";

    /// <inheritdoc/>
    internal override SymbolKind Table => SymbolKind.Application;

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        Start(f, "AcDbRegAppTableRecord", 0);
        f.Dwg?.RawByte(0);
    }
}
