using System.CommandLine;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Cli;

/// <summary><c>lintel validate FILE [--json]</c>: the rule check.</summary>
internal static class ValidateCommand
{
    public static Command Create()
    {
        var file = new Argument<string>("FILE") { Description = "An .ifc or .ifczip file." };
        var json = new Option<bool>("--json") { Description = "Machine output." };
        var command = new Command("validate", "Checks a model against its schema and the rules between instances.")
        {
            file,
            json,
        };
        command.SetAction(parsed => Output.Guard(() => Run(parsed.GetValue(file)!, parsed.GetValue(json))));
        return command;
    }

    private static int Run(string path, bool json)
    {
        using var delivered = DeliveredFile.Open(path);
        var snapshot = ModelSnapshot.Open(delivered.Bytes);
        var findings = RuleCheck.Read(snapshot);
        if (json)
        {
            Output.WritePage(
                new
                {
                    File = Path.GetFileName(path),
                    Schema = snapshot.Model.File.Header.Schema,
                    Instances = snapshot.Model.File.Count,
                    Errors = findings.Where(f => f.Severity == Severity.Error).Sum(f => f.Count),
                    Findings = findings.Select(f => new
                    {
                        f.Code,
                        Severity = f.Severity.ToString().ToLowerInvariant(),
                        f.Message,
                        f.Count,
                        Elements = f.Elements.Select(e => new
                        {
                            Id = e.StepId,
                            e.GlobalId,
                            e.Class,
                            e.Name,
                            e.Detail,
                        }),
                    }),
                }
            );
            return ExitCodes.Done;
        }

        Console.Out.WriteLine(
            $"{Path.GetFileName(path)}: {snapshot.Model.File.Header.Schema}, {snapshot.Model.File.Count} instances, {(findings.Count == 0 ? "no findings" : $"{findings.Count} kinds of findings")}"
        );
        foreach (var f in findings)
        {
            Console.Out.WriteLine($"  {f.Severity.ToString().ToLowerInvariant(), -8} {f.Code, -24} {f.Message}");
            foreach (var e in f.Elements.Take(3))
                Console.Out.WriteLine($"           #{e.StepId} {e.Class} {e.Detail}");
        }

        return ExitCodes.Done;
    }
}
