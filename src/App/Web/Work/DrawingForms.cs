using SteadyLintel.Cad;
using SteadyLintel.Exchange;

namespace SteadyLintel.Web;

/// <summary>A form of drawing an order can have.</summary>
/// <param name="Name">What it is called on the screen.</param>
/// <param name="Format">Bodies or plans.</param>
/// <param name="Form">DXF or DWG, and the version.</param>
/// <param name="Solids">Whether bodies are solids.</param>
public sealed record DrawingChoice(string Name, HandoverFormat Format, CadForm Form, bool Solids);

/// <summary>The forms of drawings an order can have, by the word that is saved.</summary>
public static class DrawingForms
{
    /// <summary><c>dxf-meshes</c>, <c>dxf-plan</c>, <c>dxf-solids</c>, and meshes, solids and plans of DWG in each version that has them: <c>dwg-plan-2010</c>.</summary>
    public static IReadOnlyDictionary<string, DrawingChoice> All { get; } = Make();

    private static Dictionary<string, DrawingChoice> Make()
    {
        var forms = new Dictionary<string, DrawingChoice>
        {
            ["dxf-meshes"] = new("DXF 2013, meshes", HandoverFormat.DrawingMeshes, CadForm.Default, false),
            ["dxf-solids"] = new("DXF 2010, solids", HandoverFormat.DrawingMeshes, new CadForm(false, ModelerEntity.LastText), true),
            ["dxf-plan"] = new("DXF 2013, plans", HandoverFormat.DrawingPlan, CadForm.Default, false),
        };
        foreach (string word in (string[])["meshes", "solids", "plan"])
            foreach (var (version, year) in new[] { (CadVersion.AC1015, 2000), (CadVersion.AC1018, 2004), (CadVersion.AC1024, 2010), (CadVersion.AC1027, 2013), (CadVersion.AC1032, 2018) })
                if (word != "solids" || version <= ModelerEntity.LastText)
                    forms[$"dwg-{word}-{year}"] = new DrawingChoice($"DWG {year}, {(word == "plan" ? "plans" : word)}", word == "plan" ? HandoverFormat.DrawingPlan : HandoverFormat.DrawingMeshes, new CadForm(true, version), word == "solids");
        return forms;
    }
}
