using SteadyLintel.Cad;
using SteadyLintel.Exchange;

namespace SteadyLintel.Cli;

/// <summary>The form of a drawing as the command line gives it.</summary>
internal static class DrawingForm
{
    /// <summary>The form of a file to write, by its extension.</summary>
    /// <exception cref="OrderException">It is none of a drawing.</exception>
    public static CadForm Of(string path, string? version, bool binary = false)
    {
        bool dwg = Path.GetExtension(path).Equals(".dwg", StringComparison.OrdinalIgnoreCase);
        if (!dwg && !Path.GetExtension(path).Equals(".dxf", StringComparison.OrdinalIgnoreCase))
            throw new OrderException($"A drawing is written as .dwg or .dxf, not '{Path.GetExtension(path)}'.");
        if (dwg && binary)
            throw new OrderException("--binary is for .dxf.");
        return Parse(dwg, version, binary);
    }

    /// <summary>The form; without a version 2013 for DXF and 2010 for DWG.</summary>
    /// <exception cref="OrderException">The version is not written in that format.</exception>
    public static CadForm Parse(bool dwg, string? version, bool binary)
    {
        var form = new CadForm(dwg, dwg ? CadVersion.AC1024 : CadVersion.AC1027, binary);
        if (version is null)
            return form;
        if (!Enum.TryParse(version, out CadVersion known) || !form.Versions.Contains(known))
            throw new OrderException(
                $"--version takes {string.Join(", ", form.Versions)} for {(dwg ? "DWG" : "DXF")}, not '{version}'."
            );
        return form with { Version = known };
    }
}
