namespace SteadyLintel.Cad;

/// <summary>The form of a drawing's file.</summary>
/// <param name="Dwg">DWG, or DXF.</param>
/// <param name="Version">The version.</param>
/// <param name="Binary">With DXF: the binary form.</param>
public sealed record CadForm(bool Dwg, CadVersion Version, bool Binary = false)
{
    /// <summary>DXF of 2013, as text.</summary>
    public static CadForm Default { get; } = new(false, CadVersion.AC1027);

    /// <summary>The extension of its files.</summary>
    public string Extension => Dwg ? ".dwg" : ".dxf";

    /// <summary>The versions that can be written.</summary>
    public IReadOnlyList<CadVersion> Versions =>
        Dwg
            ? DwgWriter.Versions
            :
            [
                CadVersion.AC1015,
                CadVersion.AC1018,
                CadVersion.AC1021,
                CadVersion.AC1024,
                CadVersion.AC1027,
                CadVersion.AC1032,
            ];
}
