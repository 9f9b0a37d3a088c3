using System.Diagnostics;
using System.Text;
using SteadyLintel.Step;

namespace SteadyLintel.Tests;

public class FuzzTests
{
    // 300 mutations as a rule; LINTEL_FUZZ=10000 for a long run.
    private static readonly int Rounds = int.TryParse(Environment.GetEnvironmentVariable("LINTEL_FUZZ"), out int n)
        ? n
        : 300;

    [Fact]
    public void Mutated_files_never_crash_or_hang()
    {
        var text = new StringBuilder("ISO-10303-21;\nHEADER;\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n");
        for (int i = 1; i < 200; i++)
            text.Append(
                $"#{i}=IFCTHING('name ''{i}''',#{i + 1},(1.5,-2.E3,($,*)),.T.,IFCLABEL('\\X2\\00E4\\X0\\'));\n"
            );
        var seed = Encoding.ASCII.GetBytes(text.Append("ENDSEC;\nEND-ISO-10303-21;\n").ToString());
        var random = new Random(20261123);
        for (int round = 0; round < Rounds; round++)
        {
            var bytes = Mutate(seed, random);
            var watch = Stopwatch.StartNew();
            try
            {
                ReadAll(StepFile.Read(bytes));
            }
            catch (StepFormatException)
            {
                continue;
            }

            Assert.True(watch.Elapsed < TimeSpan.FromSeconds(5), $"round {round} took {watch.Elapsed}");
        }
    }

    private static byte[] Mutate(byte[] seed, Random random)
    {
        var bytes = seed.ToList();
        for (int k = random.Next(1, 12); k > 0; k--)
        {
            int at = random.Next(bytes.Count);
            switch (random.Next(4))
            {
                case 0:
                    bytes[at] = (byte)random.Next(256);
                    break;
                case 1:
                    bytes.RemoveRange(at, Math.Min(random.Next(1, 400), bytes.Count - at));
                    break;
                case 2:
                    bytes.InsertRange(
                        at,
                        "'(;#=/*$\\X2\\"u8.ToArray().OrderBy(_ => random.Next()).Take(random.Next(1, 8)).ToArray()
                    );
                    break;
                default:
                    bytes.InsertRange(at, Enumerable.Repeat((byte)'(', random.Next(1, 3000)));
                    break;
            }
        }

        return [.. bytes];
    }

    private static void ReadAll(StepFile file)
    {
        for (int i = 0; i < file.Count; i++)
        {
            var record = file.Record(i);
            for (int a = 0; a < 8; a++)
            {
                var value = record[a];
                _ = value.Text;
                _ = value.Real;
                _ = value.Enumeration;
                _ = value.References().Length + value.Items.Count();
            }

            _ = file.PartNames(i).Count;
        }
    }
}
