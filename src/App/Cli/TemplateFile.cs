using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Cli;

/// <summary>Property set templates out of a file of any of their forms.</summary>
internal static class TemplateFile
{
    public static TemplateDocument Read(string path) =>
        Path.GetExtension(path).ToLowerInvariant() switch
        {
            ".json" => TemplateDocument.Read(File.ReadAllText(path)),
            ".ifc" => TemplateModel.Read(IfcModel.Open(File.ReadAllBytes(path))),
            _ => TemplateTable.Read(TableFile.Read(File.ReadAllBytes(path))),
        };
}
