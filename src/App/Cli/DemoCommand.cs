using System.CommandLine;
using SteadyLintel.Demo;

namespace SteadyLintel.Cli;

/// <summary><c>lintel demo --out DIR</c>: the demo job's deliveries as files.</summary>
internal static class DemoCommand
{
    public static Command Create()
    {
        var folder = new Option<string>("--out") { Description = "The folder to write to.", Required = true };
        var command = new Command("demo", "Writes the demo job's deliveries (Heron Wharf, invented).") { folder };
        command.SetAction(parsed => Output.Guard(() => Run(parsed.GetValue(folder)!)));
        return command;
    }

    private static int Run(string folder)
    {
        Directory.CreateDirectory(folder);
        foreach (var delivery in HeronWharf.Deliveries)
        {
            using var file = File.Create(Path.Combine(folder, delivery.FileName));
            delivery.Write(file);
            Console.Out.WriteLine($"{delivery.FileName}: {file.Length} bytes");
        }

        return ExitCodes.Done;
    }
}
