using SteadyLintel.Cad;
using SteadyLintel.Exchange;

namespace SteadyLintel.Web;

/// <summary>The forms of DWG an order can have, by the word that is saved.</summary>
public static class DrawingForms
{
    /// <summary>Meshes and plans in each version that is written: <c>dwg-plan-2010</c>.</summary>
    public static IReadOnlyDictionary<string, (string Name, HandoverFormat Format, CadForm Form)> All { get; } = Make();

    private static Dictionary<string, (string, HandoverFormat, CadForm)> Make()
    {
        var forms = new Dictionary<string, (string, HandoverFormat, CadForm)>();
        foreach (var (format, word) in new[] { (HandoverFormat.DrawingMeshes, "meshes"), (HandoverFormat.DrawingPlan, "plan") })
            foreach (var (version, year) in new[] { (CadVersion.AC1015, 2000), (CadVersion.AC1018, 2004), (CadVersion.AC1024, 2010), (CadVersion.AC1027, 2013), (CadVersion.AC1032, 2018) })
                forms[$"dwg-{word}-{year}"] = ($"DWG {year}, {(word == "plan" ? "plans" : word)}", format, new CadForm(true, version));
        return forms;
    }
}
