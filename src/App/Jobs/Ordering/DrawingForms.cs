using SteadyLintel.Cad;
using SteadyLintel.Exchange;

namespace SteadyLintel.Jobs;

/// <summary>A form of drawing an order can have.</summary>
/// <param name="Year">The year its version is known by.</param>
/// <param name="As">What it shows, the word of an order: <c>meshes</c>, <c>solids</c>, <c>skins</c>, <c>plan</c>, <c>section</c>.</param>
/// <param name="Form">DXF or DWG, and the version.</param>
public sealed record DrawingChoice(int Year, string As, CadForm Form)
{
    /// <summary>The file, as people say it: <c>DWG 2010</c>.</summary>
    public string File => $"{(Form.Dwg ? "DWG" : "DXF")} {Year}";

    /// <summary>What it carries, as a heading.</summary>
    public string Content =>
        As switch
        {
            "plan" => "Plans",
            "section" => "Sections",
            "solids" => "Solids",
            "skins" => "Outer surfaces only",
            _ => "Meshes",
        };

    /// <summary>Both in a sentence: <c>DWG 2010, plans</c>.</summary>
    public string Name => $"{File}, {Content.ToLowerInvariant()}";
}

/// <summary>The forms of drawings an order can have, by the word that is saved.</summary>
public static class DrawingForms
{
    /// <summary><c>dxf-meshes</c> and so on, one for each word of <see cref="Contents"/>, and the same of DWG in each version:
    /// <c>dwg-plan-2010</c>.</summary>
    public static IReadOnlyDictionary<string, DrawingChoice> All { get; } = Make();

    /// <summary>What drawings can show, by the word of an order.</summary>
    public static IReadOnlyList<string> Contents => ["meshes", "solids", "skins", "plan", "section"];

    /// <summary>The forms a received drawing can be forwarded in: <c>dwg-2010</c>, <c>dxf-2007</c>.</summary>
    public static IReadOnlyDictionary<string, (string Name, CadForm Form)> Files { get; } = MakeFiles();

    /// <summary>The word of an order that gives no model.</summary>
    public const string None = "none";

    /// <summary>The forms that are no drawings, by the word that is saved: models by schema, and bare triangles.</summary>
    public static IReadOnlyDictionary<string, (string Name, string Content, OrderInto Into)> Others { get; } =
        new Dictionary<string, (string, string, OrderInto)>
        {
            ["ifc"] = ("IFC, the source's schema", "Models", new OrderInto()),
            ["ifc-2x3"] = ("IFC2X3", "Models", new OrderInto { Schema = "IFC2X3" }),
            ["ifc-4"] = ("IFC4", "Models", new OrderInto { Schema = "IFC4" }),
            ["ifc-4x3"] = ("IFC4X3", "Models", new OrderInto { Schema = "IFC4X3" }),
            ["glb"] = ("glTF, to look at", "Triangles", new OrderInto { File = "glb" }),
            ["obj"] = ("OBJ", "Triangles", new OrderInto { File = "obj" }),
            ["stl"] = ("STL, binary", "Triangles", new OrderInto { File = "stl" }),
            ["stl-text"] = ("STL, text", "Triangles", new OrderInto { File = "stl", As = "text" }),
        };

    /// <summary>The word for what an order is written into.</summary>
    public static string WordOf(OrderInto into)
    {
        if (into.File == None)
            return None;
        string file = into.File == "ifczip" ? "ifc" : into.File;
        if (
            Others
                .FirstOrDefault(o =>
                    o.Value.Into.File == file
                    && o.Value.Into.Schema == into.Schema
                    && (o.Value.Into.As ?? "binary") == (into.As ?? "binary")
                )
                .Key is
            { } other
        )
            return other;
        string content = into.As ?? "meshes";
        return All.FirstOrDefault(f =>
            f.Value.Form.Dwg == (into.File == "dwg")
            && f.Value.As == content
            && (into.Version is null || f.Value.Form.Version.ToString() == into.Version)
        ).Key
            ?? $"{into.File}-{content}";
    }

    /// <summary>What a word means in an order.</summary>
    public static OrderInto IntoOf(string word)
    {
        if (word == None)
            return new OrderInto { File = None };
        if (Others.TryGetValue(word, out var other))
            return other.Into;
        if (!All.TryGetValue(word, out var drawing))
            return new OrderInto();
        return new OrderInto
        {
            File = drawing.Form.Dwg ? "dwg" : "dxf",
            Version = drawing.Form.Version.ToString(),
            As = drawing.As,
        };
    }

    /// <summary>The word for what drawings are written into; empty for the form that came.</summary>
    public static string WordOf(OrderDrawings drawings) =>
        drawings.File is null
            ? ""
            : Files
                .FirstOrDefault(f =>
                    f.Value.Form.Dwg == (drawings.File == "dwg") && f.Value.Form.Version.ToString() == drawings.Version
                )
                .Key
                ?? "";

    private static Dictionary<string, (string Name, CadForm Form)> MakeFiles()
    {
        var files = new Dictionary<string, (string, CadForm)>();
        foreach (bool dwg in (bool[])[true, false])
        foreach (var version in new CadForm(dwg, CadVersion.AC1024).Versions)
            files[$"{(dwg ? "dwg" : "dxf")}-{Year(version)}"] = (
                $"{(dwg ? "DWG" : "DXF")} {Year(version)}",
                new CadForm(dwg, version)
            );
        return files;
    }

    private static int Year(CadVersion version) =>
        version switch
        {
            CadVersion.AC1015 => 2000,
            CadVersion.AC1018 => 2004,
            CadVersion.AC1021 => 2007,
            CadVersion.AC1024 => 2010,
            CadVersion.AC1027 => 2013,
            _ => 2018,
        };

    private static Dictionary<string, DrawingChoice> Make()
    {
        var forms = new Dictionary<string, DrawingChoice>();
        // Saved orders mean 2010 by solids in DXF, where they are text.
        foreach (string word in Contents)
            forms[$"dxf-{word}"] =
                word == "solids"
                    ? new DrawingChoice(2010, word, new CadForm(false, ModelerEntity.LastText))
                    : new DrawingChoice(2013, word, CadForm.Default);
        foreach (string word in Contents)
        foreach (var version in DwgWriter.Versions)
            forms[$"dwg-{word}-{Year(version)}"] = new DrawingChoice(Year(version), word, new CadForm(true, version));
        return forms;
    }
}
