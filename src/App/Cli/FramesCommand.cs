using System.CommandLine;
using System.Globalization;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Cli;

/// <summary><c>lintel frames FILE... [--json]</c>: what each file declares of its frame, and what it looks like.</summary>
internal static class FramesCommand
{
    public static Command Create()
    {
        var files = new Argument<string[]>("FILE")
        {
            Description = "Models: .ifc or .ifczip.",
            Arity = ArgumentArity.OneOrMore,
        };
        var json = new Option<bool>("--json") { Description = "Machine output." };
        var command = new Command("frames", "Shows what models state about their frame, and what was measured.")
        {
            files,
            json,
        };
        command.SetAction(parsed =>
            Output.Guard(() =>
            {
                var all = parsed.GetValue(files)!.Select(f => (File: Path.GetFileName(f), Facts: Read(f))).ToList();
                if (parsed.GetValue(json))
                    Output.WritePage(all.Select(a => new { a.File, Frame = a.Facts }));
                else
                    all.ForEach(a => Human(a.File, a.Facts));
                return ExitCodes.Done;
            })
        );
        return command;
    }

    private static FrameFacts Read(string path)
    {
        using var delivered = DeliveredFile.Open(path);
        return FrameReader.Read(ModelSnapshot.Open(delivered.Bytes));
    }

    private static void Human(string file, FrameFacts f)
    {
        var o = Console.Out;
        o.WriteLine($"{file}");
        Line("declared unit", f.UnitDeclared ? $"{f.Unit} = {N(f.Metres)} m" : "none, metre assumed");
        Line(
            "place",
            f.Place.Kind == "none"
                ? "none"
                : $"{f.Place.Kind} {f.Place.System} {N(f.Place.Eastings)}, {N(f.Place.Northings)}, {N(f.Place.Height)} m, {N(f.Place.RotationDegrees)}°"
        );
        if (f.Latitude is { } latitude && f.Longitude is { } longitude)
            Line("site", $"{N(latitude)}, {N(longitude)}");
        Line("true north", $"{N(f.NorthDegrees)}°");
        if (f.Extent is { } e)
            Line(
                "extent",
                $"{N(e[0])}, {N(e[1])}, {N(e[2])} to {N(e[3])}, {N(e[4])}, {N(e[5])} m; {N(f.FromZero)} m from zero"
            );
        Line("looks like", $"doors {Many(f.Doors)}, storeys {Many(f.StoreyHeight)}, walls {Many(f.Walls)}");
        foreach (var s in f.Storeys.Reverse())
            Line("storey", $"{s.Name}: says {M(s.Said)}, placed {M(s.Placed)}, holds {M(s.Lowest)} to {M(s.Highest)}");
        foreach (string sentence in f.Disagreements)
            o.WriteLine($"  ! {sentence}");

        void Line(string what, string value) => o.WriteLine($"  {what, -14} {value}");
    }

    private static string Many(Measured m) => m.Count == 0 ? "none" : $"{N(m.Median)} m ({m.Count})";

    private static string M(double? metres) => metres is { } m ? N(m) : "–";

    private static string N(double value) => Math.Round(value, 4).ToString("0.####", CultureInfo.InvariantCulture);
}
