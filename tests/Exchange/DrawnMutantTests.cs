using System.Text;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>Damages drawings that were made of models, one thing at a time, and asks the ledger.</summary>
public class DrawnMutantTests(DemoModels demo, ITestOutputHelper output) : IClassFixture<DemoModels>
{
    private static readonly OrderLibrary Library = new()
    {
        Layers = new Dictionary<string, LayerTable>
        {
            ["Office"] = LayerTable.Read(
                TableFile.Read(
                    Encoding.UTF8.GetBytes(
                        "class,layer,colour,line type,weight\nIfcWall,X-WALL,3,HIDDEN,0.35\nIfcDoor,X-DOOR,#123456,,0.18\n"
                    )
                )
            ),
        },
    };

    [Theory]
    [InlineData("meshes")]
    [InlineData("plan", Traits = ["Slow", "yes"])]
    public void Every_damage_to_a_drawing_is_caught(string content)
    {
        var order = new OrderDocument
        {
            Rules =
            [
                new OrderRule { What = "storey", Are = ["Concourse"] },
                new OrderRule { What = "class", Are = ["IfcWall", "IfcDoor", "IfcSpace"] },
            ],
            Into = new OrderInto { File = "dxf", As = content },
            Tables = new OrderTables { Layers = "Office" },
            Properties = new OrderProperties { Blanks = "out" },
            Unit = "mm",
            Name = "x",
        }.ToOrder(Library);
        var plan = HandoverPlan.Of(order, [.. demo.Sources.Where(s => s.Party == "ARC")]);
        var files = new MemoryFiles();
        var written = Target
            .Of(order)
            .Write(
                plan,
                new FileNames("x", "HW", ""),
                "",
                files,
                new Reconciler(plan, Target.Of(order).NewLedger(plan)),
                default
            );
        string text = Encoding.UTF8.GetString(files.Read(written[0].Name).Span);
        var whole = Balance(plan, written, text);
        Assert.True(whole.Balanced, string.Join("\n", whole.Differences));
        var missed = new List<string>();
        int caught = 0;
        foreach (var (name, damaged) in Mutants(text, content))
        {
            if (damaged == text)
                continue;
            if (Balance(plan, written, damaged).Balanced)
                missed.Add(name);
            else
                caught++;
        }

        output.WriteLine($"{content}: {caught} of {caught + missed.Count} mutants caught");
        Assert.True(missed.Count == 0, string.Join("\n", missed));
        Assert.True(caught > 25, $"only {caught} mutants");
    }

    private static Reconciliation Balance(HandoverPlan plan, IReadOnlyList<WrittenFile> written, string text)
    {
        var reconciler = new Reconciler(plan, Target.Of(plan.Order).NewLedger(plan));
        reconciler.Read(written[0], Encoding.UTF8.GetBytes(text), default);
        return reconciler.Balance();
    }

    // Group codes and values of an ASCII DXF, two lines each.
    private static IEnumerable<(string Name, string Text)> Mutants(string text, string content)
    {
        string[] lines = text.Replace("\r", "", StringComparison.Ordinal).Split('\n');
        int entities = Array.FindIndex(lines, l => l == "ENTITIES"),
            tables = Array.FindIndex(lines, l => l == "TABLES");
        string Replaced(int at, string value) => string.Join('\n', lines.Select((l, n) => n == at ? value : l));
        var starts = Enumerable
            .Range(0, (lines.Length - entities) / 2)
            .Select(n => entities + 1 + (2 * n))
            .Where(n => n + 1 < lines.Length && lines[n].Trim() == "0")
            .ToList();
        int found = 0;
        foreach (int start in starts.Where((_, n) => n % Math.Max(1, starts.Count / 4) == 0).Take(4))
        {
            int end = starts.Find(s => s > start);
            if (end <= start)
                continue;
            string kind = lines[start + 1];
            yield return ($"drop {kind}", string.Join('\n', lines[..start].Concat(lines[end..])));
            var codes = new HashSet<string>();
            for (int n = start + 2; n + 1 < end; n += 2)
            {
                string code = lines[n].Trim();
                if (
                    code is "10" or "62" or "420" or "8" or "1000" or "1040" or "1070" or "1"
                    && !(kind == "MESH" && code == "10" && found > 40)
                )
                {
                    // Of the doubled texts each: the identity first, then the properties.
                    if (code is not ("1000" or "1040" or "1070") && !codes.Add(code))
                        continue;
                    found++;
                    yield return (
                        $"{code} of {kind}: {lines[n + 1]}",
                        Replaced(
                            n + 1,
                            code switch
                            {
                                "8" => "0",
                                "62" => "5",
                                "420" => "65280",
                                "1070" => lines[n + 1].Trim() == "1" ? "0" : "1",
                                "10" or "1040" => "12345.5",
                                _ => "~" + lines[n + 1],
                            }
                        )
                    );
                    if (code == "1000")
                        yield return ($"blank {lines[n + 1]}", Replaced(n + 1, ""));
                }
            }
        }

        foreach (string layer in content == "plan" ? (string[])["X-WALL_CUT", "X-DOOR_CUT"] : ["X-WALL", "X-DOOR"])
        {
            int at = Array.FindIndex(lines, tables, l => l == layer);
            if (at < 0)
                continue;
            for (int n = at + 1; n + 1 < lines.Length && lines[n].Trim() != "0"; n += 2)
                if (lines[n].Trim() is "62" or "6" or "370" or "420")
                    yield return (
                        $"{lines[n].Trim()} of layer {layer}",
                        Replaced(
                            n + 1,
                            lines[n].Trim() switch
                            {
                                "62" => "6",
                                "6" => "DASHED",
                                "370" => "100",
                                _ => "255",
                            }
                        )
                    );
        }
    }
}
