using System.CommandLine;
using System.Globalization;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Cli;

/// <summary><c>lintel compare OLD NEW [--json]</c>: what became of each element.</summary>
internal static class CompareCommand
{
    public static Command Create()
    {
        var old = new Argument<string>("OLD") { Description = "The older revision." };
        var now = new Argument<string>("NEW") { Description = "The newer revision." };
        var json = new Option<bool>("--json") { Description = "Machine output." };
        var command = new Command("compare", "Tells what became of each element from one revision of a model to another.") { old, now,
            json };
        command.SetAction(parsed => Output.Guard(() =>
        {
            var changes = RevisionComparer.Compare(Print(parsed.GetValue(old)!), Print(parsed.GetValue(now)!));
            if (parsed.GetValue(json)) Output.WritePage(changes.Machine());
            else Human(changes);
            return ExitCodes.Done;
        }));
        return command;
    }

    private static RevisionPrint Print(string path)
    {
        using var delivered = DeliveredFile.Open(path);
        return RevisionPrint.Of(ModelSnapshot.Open(delivered.Bytes));
    }

    private static void Human(RevisionChanges c)
    {
        var o = Console.Out;
        if (c.FrameJump is { } j)
            o.WriteLine(string.Create(CultureInfo.InvariantCulture,
                $"The frame jumped by {j.Shift.X:0.0000}, {j.Shift.Y:0.0000}, {j.Shift.Z:0.0000} m and {j.TurnDegrees:0.000000}°: {j.Elements} elements share it."));
        if (c.PairedByShape) o.WriteLine("All GlobalIds are new; elements are paired by class, place and shape.");
        foreach (var (what, count) in new[] { ("same", c.Same), ("added", c.Added.Count), ("removed", c.Removed.Count), ("moved",
            c.Moved.Count),
            ("reshaped", c.Reshaped.Count), ("of another class", c.Reclassed.Count), ("of another type", c.Retyped.Count), (
                "on other layers", c.Relayered.Count),
            ("in another storey", c.Restoreyed.Count), ("renamed", c.Renamed.Count), ("properties changed", c.PropertiesChanged.Count) })
            o.WriteLine($"  {count,7}  {what}");
    }
}
