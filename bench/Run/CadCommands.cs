using System.Diagnostics;
using System.Text.Json;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Bench;

/// <summary>Benchmarks of the drawing codecs: makes a large drawing in every form, measures reading and writing one form a
/// process.</summary>
internal static class CadCommands
{
    // Until the runtime has compiled what is hot for good; after three seconds of the sheet it has not.
    private static readonly TimeSpan WarmUp = TimeSpan.FromSeconds(8);

    /// <summary>200 000 lines, 20 000 polylines of twenty vertices and 10 000 inserts, or a share of that.</summary>
    public static int Generate(string folder, double share)
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        drawing.Units = 4;
        var random = new Random(7);
        var layers = Enumerable
            .Range(0, 40)
            .Select(i => drawing.AddLayer($"A-LAYER-{i:00}", random.Next(0xFFFFFF)).Handle)
            .ToArray();
        var door = drawing.AddBlock("Door");
        for (int i = 0; i < 8; i++)
            drawing.Add(
                new Line
                {
                    Layer = layers[0],
                    Start = At(1000),
                    End = At(1000),
                },
                door
            );
        for (int i = 0; i < 200_000 * share; i++)
            drawing.Add(
                new Line
                {
                    Layer = layers[i % 40],
                    Start = At(1e5),
                    End = At(1e5),
                }
            );
        for (int i = 0; i < 20_000 * share; i++)
        {
            var line = new LightPolyline { Layer = layers[i % 40], Closed = i % 2 == 0 };
            for (int k = 0; k < 20; k++)
                line.Vertices.Add(new LightVertex(At(1e5).XY, k % 5 == 0 ? 0.5 : 0));
            drawing.Add(line);
        }

        for (int i = 0; i < 10_000 * share; i++)
            drawing.Add(
                new Insert
                {
                    Layer = layers[i % 40],
                    Block = door.Handle,
                    Location = At(1e5),
                    Rotation = random.NextDouble(),
                }
            );
        Directory.CreateDirectory(folder);
        Save(
            SheetDrawing.Create((int)(5200 * share)),
            Path.Combine(folder, "sheet-AC1024.dwg"),
            new CadForm(true, CadVersion.AC1024)
        );
        foreach (
            var form in (CadForm[])
                [
                    new(false, CadVersion.AC1024),
                    new(false, CadVersion.AC1024, true),
                    new(true, CadVersion.AC1015),
                    new(true, CadVersion.AC1024),
                ]
        )
            Save(
                drawing,
                Path.Combine(folder, $"drawing-{form.Version}{(form.Binary ? "-binary" : "")}{form.Extension}"),
                form
            );

        return 0;

        Vec3 At(double size) =>
            new(Math.Round(random.NextDouble() * size, 4), Math.Round(random.NextDouble() * size, 4), 0);
    }

    private static void Save(Drawing drawing, string path, CadForm form)
    {
        using var file = File.Create(path);
        CadFile.Write(drawing, file, form);
    }

    /// <summary>Makes the picture of model space several times.</summary>
    public static int Picture(string path, int times)
    {
        var (drawing, _) = CadFile.Read(File.ReadAllBytes(path));
        string picture = PlanPicture.Of(drawing)!;
        var seconds = new List<double>();
        for (int i = 0; i < times; i++)
        {
            var watch = Stopwatch.StartNew();
            picture = PlanPicture.Of(drawing)!;
            seconds.Add(watch.Elapsed.TotalSeconds);
        }

        seconds.Sort();
        Console.WriteLine(
            JsonSerializer.Serialize(
                new
                {
                    what = "picture " + Path.GetFileName(path),
                    median = seconds[seconds.Count / 2],
                    entities = drawing.Blocks.Sum(b => b.Entities.Count),
                    mb = picture.Length / 1e6,
                }
            )
        );
        return 0;
    }

    /// <summary>What the desk does with a drawing: the scale, the steps, the points that catch, the lines of the combined view. The median of
    /// three after one that warms up; each has two seconds.</summary>
    public static int Desk(string path)
    {
        byte[] bytes = File.ReadAllBytes(path);
        var times = new Dictionary<string, List<double>>();
        for (int pass = 0; pass < 4; pass++)
        {
            if (pass == 1)
                times.Clear();
            DeskPass(bytes, times);
        }

        bool all = true;
        foreach (var (what, seconds) in times)
        {
            double median = seconds.Order().ElementAt(seconds.Count / 2);
            all &= median <= 2;
            Console.WriteLine(
                JsonSerializer.Serialize(
                    new
                    {
                        what,
                        seconds = median,
                        limit = 2.0,
                        ok = median <= 2,
                    }
                )
            );
        }

        return all ? 0 : 1;
    }

    private static void DeskPass(byte[] bytes, Dictionary<string, List<double>> times)
    {
        var (drawing, _) = Timed("read", () => CadFile.Read(bytes));
        var box = Timed("extents", drawing.Extents);
        Timed("scale", () => ScaleReader.Read(drawing));
        Timed("snap points", () => SnapPoints.Of(drawing, 200_000).Count);
        Vec2 middle = ((box.Min + box.Max) * 0.5).XY,
            high = box.Max.XY;
        var steps = new PreparationDocument
        {
            Steps =
            [
                new PreparationStep
                {
                    Do = "window",
                    Corners =
                    [
                        [middle.X, middle.Y],
                        [high.X, high.Y],
                    ],
                },
                new PreparationStep { Do = "origin" },
                new PreparationStep { Do = "explode" },
                new PreparationStep { Do = "purge" },
            ],
        };
        Timed("lines", () => SheetLines.Of(drawing, Frame.Identity).Length);
        Timed("steps", () => DrawingPreparation.Run(drawing, steps));
        Timed("place", () => DrawingPlacement.Apply(drawing, DrawingPlacement.Map(0.001, 0.5, new Vec3(10, 20, 3))));

        T Timed<T>(string what, Func<T> work)
        {
            var watch = Stopwatch.StartNew();
            var result = work();
            if (!times.TryGetValue(what, out var list))
                times[what] = list = [];
            list.Add(watch.Elapsed.TotalSeconds);
            return result;
        }
    }

    private static double PeakMb() =>
        File.ReadLines("/proc/self/status")
            .Where(l => l.StartsWith("VmHWM", StringComparison.Ordinal))
            .Select(l =>
                long.Parse(
                    l.Split(' ', StringSplitOptions.RemoveEmptyEntries)[1],
                    System.Globalization.CultureInfo.InvariantCulture
                )
            )
            .First() / 1024.0;

    /// <summary>Reads a file, or writes it again, several times.</summary>
    public static int Measure(bool write, string path, int times)
    {
        byte[] bytes = File.ReadAllBytes(path);
        var (drawing, form) = CadFile.Read(bytes);
        int counted = drawing.Model.Entities.Count;
        // Of one reading: repetitions would leave garbage that has nothing to do with it.
        double peak = PeakMb();
        if (!write)
            drawing = new Drawing();
        var watch = Stopwatch.StartNew();
        while (watch.Elapsed < WarmUp)
            Once();
        var seconds = new List<double>();
        for (int i = 0; i < times; i++)
        {
            GC.Collect();
            watch.Restart();
            Once();
            seconds.Add(watch.Elapsed.TotalSeconds);
        }

        seconds.Sort();
        Console.WriteLine(
            JsonSerializer.Serialize(
                new
                {
                    what = (write ? "write " : "read ") + Path.GetFileName(path),
                    median = seconds[seconds.Count / 2],
                    counted,
                    peakMb = peak,
                    mb = bytes.Length / 1e6,
                }
            )
        );
        return 0;

        void Once()
        {
            if (write)
                CadFile.Write(drawing, Stream.Null, form);
            else
                CadFile.Read(bytes);
        }
    }
}
