using System.Diagnostics;
using System.Text.Json;
using SteadyLintel.Exchange;
using SteadyLintel.Files;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Bench;

/// <summary>What the benchmark script calls: makes files, measures one thing a process so that peak memory is that thing's.</summary>
internal static class Commands
{
    private static readonly TimeSpan WarmUp = TimeSpan.FromSeconds(3);

    public static int Generate(string path, long bytes)
    {
        using var file = new FileStream(path, FileMode.Create, FileAccess.Write, FileShare.None, 1 << 20);
        Console.WriteLine(TowerWriter.WriteBytes(file, bytes));
        return 0;
    }

    public static int GenerateElements(string path, int elements)
    {
        using var file = new FileStream(path, FileMode.Create, FileAccess.Write, FileShare.None, 1 << 20);
        Console.WriteLine(TowerWriter.WriteElements(file, elements));
        return 0;
    }

    public static int Usage()
    {
        Console.Error.WriteLine(
            "generate MB FILE | elements N FILE | measure scan|index|open|mesh1|mesh2|subset|copy FILE TIMES | drawing FOLDER SHARE | cad read|write|picture FILE TIMES"
        );
        return 2;
    }

    /// <summary>Repeats one thing and prints its times, the median, what it counted and the process's peak memory.</summary>
    public static int Measure(string what, string path, int times)
    {
        using var delivered = DeliveredFile.Open(path);
        // The file is in the page cache before the clock starts, for us and for the peer.
        long sum = Touch(delivered.Bytes.Span);
        // A server lives long: what counts is the compiled code. The first run is told too.
        var warm = Stopwatch.StartNew();
        long counted = Once(what, path, delivered.Bytes);
        double first = warm.Elapsed.TotalSeconds;
        while (warm.Elapsed < WarmUp)
            Once(what, path, delivered.Bytes);
        var seconds = new List<double>();
        for (int i = 0; i < times; i++)
        {
            GC.Collect();
            var watch = Stopwatch.StartNew();
            counted = Once(what, path, delivered.Bytes);
            seconds.Add(watch.Elapsed.TotalSeconds);
        }

        seconds.Sort();
        Console.WriteLine(
            JsonSerializer.Serialize(
                new
                {
                    what,
                    median = seconds[seconds.Count / 2],
                    first,
                    seconds,
                    counted,
                    peakMb = Peak(),
                    sum,
                }
            )
        );
        return 0;
    }

    private static long Once(string what, string path, ReadOnlyMemory<byte> bytes)
    {
        switch (what)
        {
            case "scan":
                return bytes.Span.Count((byte)';');
            case "index":
                return StepFile.Read(bytes).Count;
            case "open":
                return Open(bytes);
            case "mesh1":
                return Mesh(bytes, 1);
            case "mesh2":
                return Mesh(bytes, 2);
            case "subset":
                return Subset(bytes, path + ".out");
            case "copy":
                return Copy(path, path + ".out");
            default:
                throw new ArgumentException(what);
        }
    }

    // Index, spatial structure, elements and every property value.
    private static long Open(ReadOnlyMemory<byte> bytes)
    {
        return PropertyFacts.Read(ModelSnapshot.Open(bytes)).Sum(s => (long)s.Values);
    }

    private static long Mesh(ReadOnlyMemory<byte> bytes, int threads)
    {
        var snapshot = ModelSnapshot.Open(bytes);
        long triangles = 0;
        snapshot.ForEachShape(
            snapshot.Elements,
            (_, shape) => triangles += shape?.Parts.Sum(p => (long)p.Mesh.TriangleCount) ?? 0,
            threads
        );
        return triangles;
    }

    private static long Subset(ReadOnlyMemory<byte> bytes, string target)
    {
        var snapshot = ModelSnapshot.Open(bytes);
        var chosen = snapshot.Elements.Where(e => e.Storey == 3).ToList();
        using var file = new FileStream(target, FileMode.Create, FileAccess.Write, FileShare.None, 1 << 16);
        SubsetWriter.Write(snapshot, SubsetPlan.Of(snapshot, chosen, [3]), null, "storey.ifc", "", file);
        return file.Length;
    }

    // Reads the file and writes it again.
    private static long Copy(string path, string target)
    {
        using var source = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, 1);
        using var file = new FileStream(target, FileMode.Create, FileAccess.Write, FileShare.None, 1);
        source.CopyTo(file, 1 << 20);
        return file.Length;
    }

    private static long Touch(ReadOnlySpan<byte> bytes)
    {
        long sum = 0;
        for (int i = 0; i < bytes.Length; i += 4096)
            sum += bytes[i];
        return sum;
    }

    // Resident pages of the mapped file count, as the peer's copy of it does.
    private static double Peak()
    {
        string line = File.ReadLines("/proc/self/status").First(l => l.StartsWith("VmHWM", StringComparison.Ordinal));
        return double.Parse(
                line.Split(' ', StringSplitOptions.RemoveEmptyEntries)[1],
                System.Globalization.CultureInfo.InvariantCulture
            ) / 1024;
    }
}
