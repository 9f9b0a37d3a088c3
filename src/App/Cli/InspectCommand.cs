using System.CommandLine;
using System.Globalization;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Cli;

/// <summary><c>lintel inspect FILE [--json]</c>: the intake report.</summary>
internal static class InspectCommand
{
    public static Command Create()
    {
        var file = new Argument<string>("FILE") { Description = "An .ifc, .ifczip, .dwg or .dxf file." };
        var json = new Option<bool>("--json") { Description = "Machine output." };
        var command = new Command("inspect", "Shows what a model or drawing holds and what is wrong with it.")
        {
            file,
            json,
        };
        command.SetAction(parsed => Output.Guard(() => Run(parsed.GetValue(file)!, parsed.GetValue(json))));
        return command;
    }

    private static int Run(string path, bool json)
    {
        if (DrawingInspection.IsDrawing(path))
            return DrawingInspection.Run(path, json);
        using var delivered = DeliveredFile.Open(path);
        var report = IntakeReader.Read(ModelSnapshot.Open(delivered.Bytes));
        if (json)
            Output.WritePage(Machine(path, delivered.Format, report));
        else
            Human(path, report);
        return ExitCodes.Done;
    }

    private static object Machine(string path, string format, IntakeReport r) =>
        new
        {
            File = Path.GetFileName(path),
            Format = format,
            r.Schema,
            r.Application,
            LengthUnit = new { Name = r.LengthUnit, r.Metres },
            r.Project,
            Storeys = r.Storeys.Select(s => new
            {
                s.Name,
                s.GlobalId,
                s.Elevation,
                s.Elements,
            }),
            Classes = r.Classes.Select(c => new { c.Name, c.Count }),
            r.Products,
            Layers = r.Layers.Select(l => new { l.Name, l.Count }),
            PropertySets = r.PropertySets.Select(p => new
            {
                p.Name,
                p.Elements,
                p.Values,
            }),
            BoundingBox = r.Bounds.IsEmpty
                ? null
                : new { Min = Output.Numbers(r.Bounds.Min), Max = Output.Numbers(r.Bounds.Max) },
            Findings = r.Findings.Select(f => new
            {
                f.Code,
                Severity = f.Severity.ToString().ToLowerInvariant(),
                f.Message,
                f.Count,
            }),
        };

    private static void Human(string path, IntakeReport r)
    {
        var o = Console.Out;
        o.WriteLine($"{Path.GetFileName(path)}: {r.Schema}, {r.LengthUnit}, {r.Application}");
        o.WriteLine($"{r.Project} / {r.Site} / {r.Building}: {r.Products} products, {r.Elements} elements");
        foreach (var s in Enumerable.Reverse(r.Storeys))
            o.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  {s.Elevation, 9:+0.000;-0.000;±0.000}  {s.Name, -20} {s.Elements, 7} elements"
                )
            );
        foreach (var f in r.Findings)
            o.WriteLine($"  {f.Severity.ToString().ToLowerInvariant(), -8} {f.Code, -24} {f.Message}");
    }
}
