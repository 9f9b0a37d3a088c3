using System.CommandLine;
using System.Globalization;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Cli;

/// <summary><c>lintel fit</c>: a setting-out from control points, or from the grids of two models.</summary>
internal static class FitCommand
{
    public static Command Create()
    {
        var files = new Argument<string[]>("FILE")
        {
            Description = "A CSV of name,sx,sy,sz,jx,jy,jz in metres; with --grids the source and the reference.",
            Arity = new ArgumentArity(1, 2),
        };
        var grids = new Option<bool>("--grids") { Description = "Fit to the grid tags that two models share." };
        var scale = new Option<string>("--scale")
        {
            Description = "free fits the scale too; held keeps 1.",
            DefaultValueFactory = _ => "held",
        }.AcceptOnlyFromAmong("held", "free");
        var setting = new Option<string?>("--setting")
        {
            Description = "Writes the setting-out as a file, for handover --setting.",
        };
        var json = new Option<bool>("--json") { Description = "Machine output." };
        var command = new Command(
            "fit",
            "Fits a setting-out, with a residual for each point, and says what is missing."
        )
        {
            files,
            grids,
            scale,
            setting,
            json,
        };
        command.SetAction(parsed =>
            Output.Guard(() =>
                Run(
                    parsed.GetValue(files)!,
                    parsed.GetValue(grids),
                    parsed.GetValue(scale) == "free",
                    parsed.GetValue(setting),
                    parsed.GetValue(json)
                )
            )
        );
        return command;
    }

    private static int Run(string[] files, bool grids, bool freeScale, string? setting, bool json)
    {
        if (files.Length != (grids ? 2 : 1))
            throw new OrderException(
                grids
                    ? "--grids wants the source and the reference."
                    : "Give one CSV of points, or --grids with two models."
            );
        IReadOnlyList<string> notes = [];
        IReadOnlyList<ControlPoint> points;
        if (grids)
        {
            var match = GridMatch.Of(Axes(files[0]), Axes(files[1]), freeScale);
            (points, notes) = (match.Points, match.Notes);
        }
        else
            points = PointTable.Read(File.ReadAllText(files[0]));

        if (!points.Any(p => p.Used))
            throw new OrderException(
                $"There is no fit: nothing says where the source is located. {string.Join(" ", notes)}".TrimEnd()
            );
        var fit = SettingOutFit.Fit(points, freeScale);
        if (setting is not null)
            File.WriteAllText(
                setting,
                SettingOutDocument.Of(fit, points, grids ? EvidenceKind.Grids : EvidenceKind.Points).Write()
            );
        if (json)
            Output.WritePage(Machine(fit, notes));
        else
            Human(fit, notes);
        return ExitCodes.Done;
    }

    private static IReadOnlyList<PlanAxis> Axes(string path)
    {
        using var delivered = DeliveredFile.Open(path);
        return PlanAxis.Of(ModelSnapshot.Open(delivered.Bytes));
    }

    private static object Machine(FitResult fit, IReadOnlyList<string> notes) =>
        new
        {
            Shift = new[] { fit.Shift.X, fit.Shift.Y, fit.Shift.Z },
            fit.TurnDegrees,
            fit.Scale,
            fit.FreeScale,
            fit.Rms,
            fit.Largest,
            Points = fit.Points.Select(p => new
            {
                p.Name,
                Residual = new[] { p.Residual.X, p.Residual.Y, p.Residual.Z },
                p.Length,
                p.Outlier,
            }),
            fit.Undetermined,
            fit.Doubt,
            Notes = notes,
        };

    private static void Human(FitResult fit, IReadOnlyList<string> notes)
    {
        Console.Out.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"translation {fit.Shift.X:0.0000}, {fit.Shift.Y:0.0000}, {fit.Shift.Z:0.0000} m, rotation {fit.TurnDegrees:0.000000}°, scale {fit.Scale:0.########}"
            )
        );
        Console.Out.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"RMS {fit.Rms * 1000:0.0} mm, largest {fit.Largest * 1000:0.0} mm"
            )
        );
        foreach (var p in fit.Points)
            Console.Out.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  {p.Name, -14} {p.Length * 1000, 8:0.0} mm{(p.Outlier ? "  outlier" : "")}"
                )
            );
        foreach (string note in notes.Append(fit.Undetermined).Append(fit.Doubt).OfType<string>())
            Console.Out.WriteLine("  ! " + note);
    }
}
