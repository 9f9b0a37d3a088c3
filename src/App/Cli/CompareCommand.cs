using System.CommandLine;
using System.Globalization;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Cli;

/// <summary><c>lintel compare OLD NEW [--json]</c>: what became of each element of a model, or each entity of a drawing.</summary>
internal static class CompareCommand
{
    public static Command Create()
    {
        var old = new Argument<string>("OLD") { Description = "The older revision." };
        var now = new Argument<string>("NEW") { Description = "The newer revision." };
        var json = new Option<bool>("--json") { Description = "Machine output." };
        var command = new Command(
            "compare",
            "Lists what changed, element by element, from one revision of a model or a drawing to another."
        )
        {
            old,
            now,
            json,
        };
        command.SetAction(parsed =>
            Output.Guard(() =>
            {
                string[] paths = [parsed.GetValue(old)!, parsed.GetValue(now)!];
                if (paths.All(IsDrawing))
                    return Drawings(paths[0], paths[1], parsed.GetValue(json));
                if (paths.Any(IsDrawing))
                    throw new OrderException("A drawing and a model cannot be compared.");
                var changes = RevisionComparer.Compare(Print(parsed.GetValue(old)!), Print(parsed.GetValue(now)!));
                if (parsed.GetValue(json))
                    Output.WritePage(changes.Machine());
                else
                    Human(changes);
                return ExitCodes.Done;
            })
        );
        return command;
    }

    private static bool IsDrawing(string path)
    {
        byte[] head = new byte[FileRecognition.HeadLength];
        using var file = File.OpenRead(path);
        return FileRecognition.Recognise(head[..file.ReadAtLeast(head, head.Length, false)]).Kind
            == DeliveredKind.Drawing;
    }

    private static int Drawings(string old, string now, bool json)
    {
        var c = DrawingComparer.Compare(
            CadFile.Read(File.ReadAllBytes(old)).Drawing,
            CadFile.Read(File.ReadAllBytes(now)).Drawing
        );
        if (json)
        {
            Output.WritePage(c);
            return ExitCodes.Done;
        }

        if (c.PairedByGeometry)
            Console.Out.WriteLine("All handles are new; entities are paired by layer, kind and geometry.");
        Console.Out.WriteLine(
            $"  {c.Same, 7}  same\n  {c.Added.Count, 7}  added\n  {c.Removed.Count, 7}  removed\n  {c.Changed.Count, 7}  changed"
        );
        foreach (var change in c.Changed.Take(50))
            Console.Out.WriteLine(
                $"           {change.Kind} {change.Handle} on {change.Layer}: {string.Join(", ", change.What)}"
            );
        return ExitCodes.Done;
    }

    private static RevisionFingerprint Print(string path)
    {
        using var delivered = DeliveredFile.Open(path);
        return RevisionFingerprint.Of(ModelSnapshot.Open(delivered.Bytes));
    }

    private static void Human(RevisionChanges c)
    {
        var o = Console.Out;
        if (c.FrameJump is { } j)
            o.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"The frame jumped by {j.Shift.X:0.0000}, {j.Shift.Y:0.0000}, {j.Shift.Z:0.0000} m and {j.TurnDegrees:0.000000}°: {j.Elements} elements share it."
                )
            );
        if (c.PairedByShape)
            o.WriteLine("All GlobalIds are new; elements are paired by class, place and shape.");
        foreach (
            var (what, count) in new[]
            {
                ("same", c.Same),
                ("added", c.Added.Count),
                ("removed", c.Removed.Count),
                ("moved", c.Moved.Count),
                ("reshaped", c.Reshaped.Count),
                ("of another class", c.Reclassed.Count),
                ("of another type", c.Retyped.Count),
                ("on other layers", c.Relayered.Count),
                ("in another storey", c.Restoreyed.Count),
                ("renamed", c.Renamed.Count),
                ("of other materials", c.Rematerialed.Count),
                ("of another predefined type", c.Repredefined.Count),
                ("in other systems or zones", c.Regrouped.Count),
                ("classified differently", c.Reclassified.Count),
                ("related differently", c.Related.Count),
                ("given a new GlobalId", c.Reidentified.Count),
                ("groups of elements that are ambiguous", c.Ambiguous.Count),
                ("storeys changed", c.Storeys.Count),
                ("properties changed", c.PropertiesChanged.Count),
            }
        )
            o.WriteLine($"  {count, 7}  {what}");
    }
}
