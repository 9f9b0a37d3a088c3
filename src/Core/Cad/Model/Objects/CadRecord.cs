namespace SteadyLintel.Cad;

/// <summary>XRECORD: groups of a program's own.</summary>
public sealed class CadRecord : CadObject
{
    /// <inheritdoc/>
    public override string Type => "XRECORD";

    /// <summary>The groups in order.</summary>
    public List<CadGroup> Groups { get; } = [];

    /// <summary>What becomes of doubles when copied (280).</summary>
    public int Cloning { get; set; } = 1;

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbXrecord");
        if (f.Dwg is null)
            Cloning = f.Byte(280, Cloning);
        f.Groups(Groups);
        if (f.Dwg is { } d && d.Since(CadVersion.AC1015))
            Cloning = d.Short(Cloning);
    }
}
