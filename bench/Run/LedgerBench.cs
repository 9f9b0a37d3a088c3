using System.Diagnostics;
using System.Text.Json;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Bench;

/// <summary>What a ledger costs: a hand-over with its balance against writing and re-reading the same files alone, in one run.</summary>
internal static class LedgerBench
{
    /// <summary>Measures whole, by storey and in feet; prints seconds and ratios.</summary>
    public static int Measure(string path, int times)
    {
        using var delivered = DeliveredFile.Open(path);
        var everything = new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null, "{storey}");
        foreach (
            var (what, order) in new[]
            {
                ("whole", everything),
                ("storeys", everything with { SplitByStorey = true }),
                ("feet", everything with { Unit = LengthUnit.Foot }),
            }
        )
        {
            var alone = new List<double>();
            var balanced = new List<double>();
            for (int n = 0; n < times; n++)
            {
                alone.Add(Seconds(() => WriteAndRead(delivered.Bytes, order)));
                balanced.Add(Seconds(() => Balance(delivered.Bytes, order)));
            }

            Console.WriteLine(
                JsonSerializer.Serialize(
                    new
                    {
                        what,
                        alone = alone.Min(),
                        balanced = balanced.Min(),
                        ratio = Math.Round(balanced.Min() / alone.Min(), 2),
                    }
                )
            );
        }

        return 0;
    }

    private static double Seconds(Action run)
    {
        GC.Collect();
        var watch = Stopwatch.StartNew();
        run();
        return watch.Elapsed.TotalSeconds;
    }

    private static void WriteAndRead(ReadOnlyMemory<byte> bytes, HandoverOrder order) =>
        InFolder(files =>
        {
            var snapshot = ModelSnapshot.Open(bytes);
            foreach (
                var group in order.SplitByStorey
                    ? snapshot.Elements.GroupBy(e => e.Storey)
                    : snapshot.Elements.GroupBy(_ => -1)
            )
            {
                var plan = order.SplitByStorey
                    ? SubsetPlan.Of(snapshot, [.. group], group.Key < 0 ? [] : [group.Key])
                    : null;
                string name = $"{group.Key}.ifc";
                using (var stream = files.Create(name))
                    SubsetWriter.Write(
                        snapshot,
                        plan,
                        new RewriteSet(snapshot, plan, new RewriteOptions { Unit = order.Unit }),
                        name,
                        "",
                        stream
                    );
                ModelSnapshot.Open(files.Read(name));
            }
        });

    private static void Balance(ReadOnlyMemory<byte> bytes, HandoverOrder order) =>
        InFolder(files =>
        {
            var result = HandoverRunner.Run(
                new HandoverRun(order, [new HandoverSource("A", "a", ModelSnapshot.Open(bytes))], files)
            );
            if (!result.Reconciliation.Balanced)
                throw new InvalidOperationException(
                    "Not balanced: " + string.Join("; ", result.Reconciliation.Differences.Take(3))
                );
        });

    private static void InFolder(Action<FolderFileSet> run)
    {
        string folder = Directory.CreateTempSubdirectory("lintel-bench-").FullName;
        using (var files = new FolderFileSet(folder))
            run(files);
        Directory.Delete(folder, true);
    }
}
