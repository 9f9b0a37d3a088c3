using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>The forms of a drawing's file, by the words that pages and orders have for them.</summary>
public static class DrawingFiles
{
    /// <summary>The forms a received drawing can be forwarded in: <c>dwg-2010</c>, <c>dxf-2007</c>.</summary>
    public static IReadOnlyDictionary<string, (string Name, CadForm Form)> All { get; } = Make();

    /// <summary>The word for what drawings are written into; empty for the form that came.</summary>
    public static string WordOf(OrderDrawings drawings) =>
        drawings.File is null
            ? ""
            : All.FirstOrDefault(f =>
                f.Value.Form.Dwg == (drawings.File == "dwg") && f.Value.Form.Version.ToString() == drawings.Version
            ).Key
                ?? "";

    /// <summary>The year that a version is known by.</summary>
    internal static int Year(CadVersion version) =>
        version switch
        {
            CadVersion.AC1015 => 2000,
            CadVersion.AC1018 => 2004,
            CadVersion.AC1021 => 2007,
            CadVersion.AC1024 => 2010,
            CadVersion.AC1027 => 2013,
            _ => 2018,
        };

    /// <summary>The form of a file as people say it: <c>DWG 2010</c>.</summary>
    internal static string Name(CadForm form) => $"{(form.Dwg ? "DWG" : "DXF")} {Year(form.Version)}";

    private static Dictionary<string, (string Name, CadForm Form)> Make()
    {
        var files = new Dictionary<string, (string, CadForm)>();
        foreach (bool dwg in (bool[])[true, false])
        foreach (var version in new CadForm(dwg, CadVersion.AC1024).Versions)
        {
            var form = new CadForm(dwg, version);
            files[$"{(dwg ? "dwg" : "dxf")}-{Year(version)}"] = (Name(form), form);
        }

        return files;
    }
}
