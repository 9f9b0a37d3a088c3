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
        Console.Error.WriteLine("generate MB FILE | elements N FILE | measure scan|index|open|mesh1|mesh2|subset FILE TIMES | drawing FOLDER SHARE | cad read|write FILE TIMES");
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
        long counted = Once(what, delivered.Bytes);
        double first = warm.Elapsed.TotalSeconds;
        while (warm.Elapsed < WarmUp) Once(what, delivered.Bytes);
        var seconds = new List<double>();
        for (int i = 0; i < times; i++)
        {
            GC.Collect();
            var watch = Stopwatch.StartNew();
            counted = Once(what, delivered.Bytes);
            seconds.Add(watch.Elapsed.TotalSeconds);
        }

        seconds.Sort();
        Console.WriteLine(JsonSerializer.Serialize(new { what, median = seconds[seconds.Count / 2], first, seconds, counted, peakMb = Peak(), sum }));
        return 0;
    }

    private static long Once(string what, ReadOnlyMemory<byte> bytes)
    {
        switch (what)
        {
            case "scan": return bytes.Span.Count((byte)';');
            case "index": return StepFile.Read(bytes).Count;
            case "open": return Open(bytes);
            case "mesh1": return Mesh(bytes, 1);
            case "mesh2": return Mesh(bytes, 2);
            case "subset": return Subset(bytes);
            default: throw new ArgumentException(what);
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
        snapshot.ForEachShape(snapshot.Elements, (_, shape) => triangles += shape?.Parts.Sum(p => (long)p.Mesh.TriangleCount) ?? 0, threads);
        return triangles;
    }

    private static long Subset(ReadOnlyMemory<byte> bytes)
    {
        var snapshot = ModelSnapshot.Open(bytes);
        var chosen = snapshot.Elements.Where(e => e.Storey == 3).ToList();
        using var target = new CountingStream();
        SubsetWriter.Write(snapshot, SubsetPlan.Of(snapshot, chosen, [3]), null, "storey.ifc", "", target);
        return target.Length;
    }

    private static long Touch(ReadOnlySpan<byte> bytes)
    {
        long sum = 0;
        for (int i = 0; i < bytes.Length; i += 4096) sum += bytes[i];
        return sum;
    }

    // Resident pages of the mapped file count, as the peer's copy of it does.
    private static double Peak()
    {
        string line = File.ReadLines("/proc/self/status").First(l => l.StartsWith("VmHWM", StringComparison.Ordinal));
        return double.Parse(line.Split(' ', StringSplitOptions.RemoveEmptyEntries)[1], System.Globalization.CultureInfo.InvariantCulture) / 1024;
    }

    private sealed class CountingStream : Stream
    {
        private long _length;

        public override bool CanRead => false;

        public override bool CanSeek => false;

        public override bool CanWrite => true;

        public override long Length => _length;

        public override long Position { get => _length; set => throw new NotSupportedException(); }

        public override void Flush() { }

        public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => _length += count;

        public override void Write(ReadOnlySpan<byte> buffer) => _length += buffer.Length;

        public override void WriteByte(byte value) => _length++;
    }
}
