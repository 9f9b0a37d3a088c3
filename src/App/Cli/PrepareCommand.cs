using System.CommandLine;
using SteadyLintel.Exchange;

namespace SteadyLintel.Cli;

/// <summary><c>lintel prepare DRAWING STEPS.json OUT [--json]</c>: the steps of a preparation, run over a drawing.</summary>
internal static class PrepareCommand
{
    public static Command Create()
    {
        var from = new Argument<string>("DRAWING") { Description = "A .dwg or .dxf file; it is not changed." };
        var steps = new Argument<string>("STEPS") { Description = "The steps, see docs/preparation.schema.json." };
        var to = new Argument<string>("OUT") { Description = "The .dwg or .dxf file to write." };
        var version = new Option<string?>("--version") { Description = "As for convert." };
        var details = Details();
        var json = new Option<bool>("--json") { Description = "Machine output." };
        var command = new Command(
            "prepare",
            "Runs the steps of a preparation over a drawing and accounts for every entity."
        )
        {
            from,
            steps,
            to,
            version,
            details,
            json,
        };
        command.SetAction(parsed =>
            Output.Guard(() =>
            {
                string target = parsed.GetValue(to)!;
                var document = PreparationDocument.Read(File.ReadAllText(parsed.GetValue(steps)!)) with
                {
                    Details = Read(parsed.GetValue(details)),
                };
                var result = DrawingConverter.Convert(
                    File.ReadAllBytes(parsed.GetValue(from)!),
                    DrawingForm.Of(target, parsed.GetValue(version)),
                    preparation: document
                );
                File.WriteAllBytes(target, result.Bytes);
                if (parsed.GetValue(json))
                    Output.WritePage(Machine(target, result));
                else
                    Human(target, result);
                return result.Balanced ? ExitCodes.Done : ExitCodes.NotBalanced;
            })
        );
        return command;
    }

    /// <summary>The option that names details.</summary>
    internal static Option<string[]> Details() =>
        new("--detail")
        {
            Description =
                "NAME=FILE: the drawing of a detail that steps place, its zero the insertion point; may be repeated.",
            AllowMultipleArgumentsPerToken = true,
        };

    /// <summary>The details that were named.</summary>
    internal static Dictionary<string, byte[]> Read(string[]? named) =>
        (named ?? [])
            .Select(n => n.Split('=', 2))
            .Select(n =>
                n.Length == 2 ? n : throw new OrderException($"--detail cannot read '{n[0]}': write NAME=FILE.")
            )
            .DistinctBy(n => n[0])
            .ToDictionary(n => n[0], n => File.ReadAllBytes(n[1]));

    private static object Machine(string to, ConversionResult r) =>
        new
        {
            File = Path.GetFileName(to),
            Bytes = r.Bytes.Length,
            In = r.Rows.Sum(x => x.In),
            Steps = r.Steps.Select(s => new
            {
                s.Number,
                s.Do,
                s.Off,
                s.Dropped,
                s.Changed,
                s.Finding,
            }),
            Dropped = r.Rows.Sum(x => x.LeftOut),
            Changed = r.Steps.Sum(s => s.Changed),
            TakenApart = r.Rows.Sum(x => x.TakenApart),
            Made = r.Rows.Sum(x => x.Made),
            Written = r.Rows.Sum(x => x.In + x.Made - x.LeftOut - x.TakenApart - x.LeftBehind),
            FoundAgain = r.Rows.Sum(x => x.Found),
            r.Differences,
            Findings = r.Findings.Select(f => new
            {
                f.Code,
                f.Place,
                f.Message,
            }),
            r.Unaccounted,
            r.Balanced,
        };

    private static void Human(string to, ConversionResult r)
    {
        Console.Out.WriteLine($"{Path.GetFileName(to)}: {r.Bytes.Length} bytes, {r.Rows.Sum(x => x.In)} entities came");
        foreach (var s in r.Steps)
        {
            string did = s.Off ? "off" : $"out {s.Dropped, 6}, changed {s.Changed, 6}",
                found = s.Finding is null ? "" : " ! " + s.Finding;
            Console.Out.WriteLine($"  {s.Number, 3} {s.Do, -14} {did}{found}");
        }

        foreach (string difference in r.Differences.Take(20))
            Console.Out.WriteLine("  " + difference);
        Console.Out.WriteLine($"{r.Rows.Sum(x => x.Found)} entities written and confirmed in the file");
        Console.Out.WriteLine(r.Balanced ? "balanced" : $"NOT BALANCED: {r.Unaccounted} unaccounted for");
    }
}
