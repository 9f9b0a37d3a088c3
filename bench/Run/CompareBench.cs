using System.Diagnostics;
using System.Globalization;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Bench;

/// <summary>Comparing two revisions with very many elements, from their prints on: all of them moved by a jump of the frame, some changed
/// beside.
/// </summary>
internal static class CompareBench
{
    /// <summary>Compares, and prints the median.</summary>
    /// <param name="count">How many elements.</param>
    /// <param name="times">How often.</param>
    public static int Measure(int count, int times)
    {
        var random = new Random(1);
        var sets = Enumerable
            .Range(0, 2000)
            .Select(n => new PrintedSet(
                "Set",
                [
                    new PrintedProperty("A", n.ToString(CultureInfo.InvariantCulture), "mm"),
                    new PrintedProperty("B", "True", ""),
                ]
            ))
            .ToList();
        var old = Enumerable
            .Range(0, count)
            .Select(n =>
            {
                var at = new Vec3(random.NextDouble() * 200, random.NextDouble() * 100, random.NextDouble() * 80);
                return new ElementFingerprint(
                    $"{n:D22}",
                    "IfcWall",
                    $"Type {n % 50}",
                    $"Wall {n}",
                    $"Storey {n % 12}",
                    "A-WALL",
                    new ElementPlace(at, at, Vec3.AxisX, Vec3.AxisZ),
                    new ShapeMeasure(1 + (n % 7), 3, 2, 1, default),
                    [n % 2000]
                );
            })
            .ToList();
        var jump = new SettingOutDocument { Shift = [512_345, 5_412_345, -30.48], TurnDegrees = 12 }.Frame;
        var now = old.Select(
                (e, n) =>
                    e with
                    {
                        Place = e.Place!.Value.In(n % 100 == 0 ? jump.Compose(Frame.At(new Vec3(0.1, 0, 0))) : jump),
                        Name = n % 250 == 0 ? e.Name + " b" : e.Name,
                        Sets = [n % 500 == 0 ? (n + 1) % 2000 : n % 2000],
                    }
            )
            .ToList();
        var spans = new List<double>();
        RevisionChanges changes = null!;
        for (int i = 0; i < times; i++)
        {
            var clock = Stopwatch.StartNew();
            changes = RevisionComparer.Compare(new RevisionFingerprint(old, sets), new RevisionFingerprint(now, sets));
            spans.Add(clock.Elapsed.TotalSeconds);
        }

        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{count} elements compared in {spans.Order().ElementAt(times / 2):0.00} s (cold {spans[0]:0.00} s): "
                    + $"{changes.Same} the same, {changes.Moved.Count} moved, {changes.Renamed.Count} renamed, {changes.PropertiesChanged.Count} properties; "
                    + $"jump {changes.FrameJump?.TurnDegrees:0.000000}° shared by {changes.FrameJump?.Elements}"
            )
        );
        return 0;
    }
}
