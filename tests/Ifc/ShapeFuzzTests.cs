using System.Diagnostics;
using System.Text.RegularExpressions;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Shapes whose numbers and references were changed at random: every one is either shaped or told, in time.</summary>
public partial class ShapeFuzzTests
{
    private static readonly int Rounds = int.TryParse(Environment.GetEnvironmentVariable("LINTEL_FUZZ"), out int n)
        ? n
        : 300;
    private static readonly string[] Numbers =
    [
        "0.",
        "-1.",
        "1.E300",
        "-1.E-300",
        "1.E9",
        "3.14159",
        "1000000000",
        "-2147483648",
        "$",
        "*",
        "'x'",
        "()",
        "(1.,(2.))",
    ];

    [Fact]
    public async Task Changed_solids_are_shaped_or_told()
    {
        var cases = SolidCases.Solids.Select(c => (string)((ITheoryDataRow)c).GetData()[1]!).ToList();
        var random = new Random(20261123);
        for (int round = 0; round < Rounds; round++)
        {
            string text = cases[round % cases.Count];
            for (int k = random.Next(1, 4); k > 0; k--)
            {
                bool reference = random.Next(3) == 0;
                var places = (reference ? Reference() : Number()).Matches(text);
                if (places.Count == 0)
                    continue;
                var place = places[random.Next(places.Count)];
                string other = reference
                    ? "#" + new[] { 1, 2, 3, 50, 100, 7 }[random.Next(6)]
                    : Numbers[random.Next(Numbers.Length)];
                text = text[..place.Index] + other + text[(place.Index + place.Length)..];
            }

            // A shape comes back whatever is wrong with it. On a thread of its own, so that an endless one fails the test and not the
            // machine.
            var shaping = Task.Run(
                () => Sample.Shape(text, tolerance: Tolerance.Default),
                TestContext.Current.CancellationToken
            );
            Assert.True(
                await Task.WhenAny(shaping, Task.Delay(TimeSpan.FromSeconds(20), TestContext.Current.CancellationToken))
                    == shaping,
                text
            );
            Assert.NotNull(await shaping);
        }
    }

    [Fact]
    public void A_boolean_of_booleans_of_itself_ends()
    {
        // Ten deep, each the union of the last with itself: a thousand blocks if one were to copy.
        string text =
            "#60=IFCBLOCK(#2,1.,1.,1.);"
            + string.Concat(
                Enumerable.Range(0, 10).Select(i => $"#{61 + i}=IFCBOOLEANRESULT(.UNION.,#{60 + i},#{60 + i});")
            )
            + "#100=IFCCSGSOLID(#70);";
        var watch = Stopwatch.StartNew();
        var shape = Sample.Shape(text);
        Assert.True(shape.Problems.Count > 0 || Math.Abs(shape.Measure().Volume - 1) < 1e-6);
        Assert.True(watch.Elapsed < TimeSpan.FromSeconds(10), watch.Elapsed.ToString());
    }

    [GeneratedRegex(@"(?<=[(,])-?\d+\.\d*(E-?\d+)?")]
    private static partial Regex Number();

    [GeneratedRegex(@"(?<=[(,])#\d+")]
    private static partial Regex Reference();
}
