using System.CommandLine;
using System.Globalization;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;

namespace SteadyLintel.Cli;

/// <summary><c>lintel scale DRAWING [--known x1,y1,x2,y2,LENGTH]... [--json]</c>: what a unit of a drawing may be, with the
/// evidence.</summary>
internal static class ScaleCommand
{
    public static Command Create()
    {
        var file = new Argument<string>("DRAWING") { Description = "A .dwg or .dxf file." };
        var known = new Option<string[]>("--known")
        {
            Description =
                "x1,y1,x2,y2,LENGTH: two points in the drawing's units and their true distance (15.521 m, 15521, 16'-2 3/4\"); may be repeated.",
            AllowMultipleArgumentsPerToken = true,
        };
        var json = new Option<bool>("--json") { Description = "Machine output." };
        var command = new Command("scale", "Shows what a unit of a drawing may be, with the evidence side by side.")
        {
            file,
            known,
            json,
        };
        command.SetAction(parsed =>
            Output.Guard(() =>
            {
                var lengths = (parsed.GetValue(known) ?? []).Select(KnownLength.Read).ToList();
                var found = ScaleReader.Read(CadFile.Read(File.ReadAllBytes(parsed.GetValue(file)!)).Drawing, lengths);
                if (parsed.GetValue(json))
                    Output.WritePage(
                        new
                        {
                            found.Unit,
                            found.Candidates,
                            found.Best,
                            found.Known,
                            found.NoPlan,
                        }
                    );
                else
                    Human(found);
                return ExitCodes.Done;
            })
        );
        return command;
    }

    private static void Human(ScaleFindings found)
    {
        Console.Out.WriteLine($"declared unit: {found.Unit}");
        foreach (var c in found.Candidates)
            Console.Out.WriteLine(
                $"{(c == found.Best ? "→" : " ")} {c.Evidence, -14} 1 unit = {N(c.MetresPerUnit)} m, ± {N(c.PlusMinus)} m over all: {c.Detail}{(c.Doubt is null ? "" : "; but " + c.Doubt)}"
            );
        foreach (var k in found.Known)
            Console.Out.WriteLine($"    known {N(k.True)} m, drawn {N(k.Drawn)}: true − drawn {N(k.Residual)} m");
        if (found.NoPlan is { } noPlan)
            Console.Out.WriteLine(noPlan);
        if (found.Best is null && found.Candidates.Count > 0)
            Console.Out.WriteLine("None of this can be proposed; measure one length and give it with --known.");
        if (found.Candidates.Count == 0)
            Console.Out.WriteLine("There is no evidence; measure one length and give it with --known.");
    }

    private static string N(double value) => value.ToString("0.######", CultureInfo.InvariantCulture);
}
