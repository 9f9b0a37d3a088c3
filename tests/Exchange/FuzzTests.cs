using System.Diagnostics;
using System.Text;
using System.Text.RegularExpressions;
using SteadyLintel.Exchange;
using SteadyLintel.Step;

namespace SteadyLintel.Tests;

public class FuzzTests(DemoModels demo) : IClassFixture<DemoModels>
{
    // 300 mutations as a rule; LINTEL_FUZZ=10000 for a long run.
    private static readonly int Rounds = int.TryParse(Environment.GetEnvironmentVariable("LINTEL_FUZZ"), out int n)
        ? n
        : 300;

    [Fact]
    public void Mutated_models_are_read_or_refused_in_time()
    {
        var seed = Small();
        var random = new Random(20261123);
        for (int round = 0; round < Rounds; round++)
        {
            var bytes = Mutate(seed, random);
            var watch = Stopwatch.StartNew();
            long before = GC.GetAllocatedBytesForCurrentThread();
            try
            {
                IntakeReader.Read(ModelSnapshot.Open(bytes));
            }
            catch (StepFormatException)
            {
                continue;
            }

            Assert.True(watch.Elapsed < TimeSpan.FromSeconds(5), $"round {round} took {watch.Elapsed}");
            Assert.True(
                GC.GetAllocatedBytesForCurrentThread() - before < 1 << 30,
                $"round {round} took too much memory"
            );
        }
    }

    // References that lead in circles, to instances of other kinds, to themselves; lists a thousand times as long.
    [Theory]
    [InlineData("ARC")]
    [InlineData("STR")]
    [InlineData("SRV")]
    public void Rewired_models_are_read_in_time_and_memory(string party)
    {
        string seed = Encoding.ASCII.GetString(Small(party));
        var references = Regex.Matches(seed, @"(?<=[(,])#\d+").ToList();
        string[] names = [.. Regex.Matches(seed, @"(?<=\n)#\d+").Select(m => m.Value)];
        var random = new Random(20261126);
        for (int round = 0; round < Rounds / 20; round++)
        {
            var text = new StringBuilder(seed);
            foreach (var place in references.OrderByDescending(r => r.Index).Where(_ => random.Next(200) == 0))
            {
                string other = names[random.Next(names.Length)];
                text.Remove(place.Index, place.Length)
                    .Insert(
                        place.Index,
                        random.Next(20) == 0 ? string.Join(",", Enumerable.Repeat(other, 1000)) : other
                    );
            }

            byte[] bytes = Encoding.ASCII.GetBytes(text.ToString());
            var watch = Stopwatch.StartNew();
            var snapshot = ModelSnapshot.Open(bytes);
            IntakeReader.Read(snapshot);
            SubsetPlan.Of(snapshot, [.. snapshot.Elements.Take(3)], []);
            Assert.True(watch.Elapsed < TimeSpan.FromSeconds(5), $"round {round} took {watch.Elapsed}");
            long limit = MemoryLimit(bytes.Length),
                held = GC.GetTotalMemory(false);
            // What other tests have let go of is no memory that this one holds.
            if (held >= limit)
                held = GC.GetTotalMemory(true);
            Assert.True(held < limit, $"round {round} holds {held / 1e6:0} MB");
        }
    }

    // Twenty times the input and 200 MB, beside what the demo's own snapshots hold.
    private long MemoryLimit(long bytes) => (20 * bytes) + 200_000_000 + _held;

    private readonly long _held = GC.GetTotalMemory(true);

    // A few elements of the demo with all that hangs on them.
    private byte[] Small(string party = "ARC")
    {
        var snapshot = demo.Snapshots[party];
        using var stream = new MemoryStream();
        SubsetWriter.Write(
            snapshot,
            SubsetPlan.Of(snapshot, [.. snapshot.Elements.Where((_, i) => i % 40 == 0)], [0]),
            null,
            "x",
            "",
            stream
        );
        return stream.ToArray();
    }

    // Swaps digits of references and numbers, keywords and punctuation: most mutations are still well-formed lines.
    private static byte[] Mutate(byte[] seed, Random random)
    {
        var bytes = (byte[])seed.Clone();
        for (int k = random.Next(1, 40); k > 0; k--)
        {
            int at = random.Next(bytes.Length);
            if (random.Next(6) == 0)
                bytes[at] = (byte)random.Next(256);
            else
            {
                while (at < bytes.Length && bytes[at] is < (byte)'0' or > (byte)'9')
                    at++;
                if (at < bytes.Length)
                    bytes[at] = (byte)('0' + random.Next(10));
            }
        }

        if (random.Next(8) == 0)
            Array.Resize(ref bytes, random.Next(bytes.Length));
        if (random.Next(8) == 0)
            bytes = Encoding.Latin1.GetBytes(
                Encoding.Latin1.GetString(bytes).Replace("IFCPOLYLINE", "IFCCIRCLE", StringComparison.Ordinal)
            );
        return bytes;
    }
}
