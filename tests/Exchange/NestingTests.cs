using System.Text;
using SteadyLintel.Exchange;
using SteadyLintel.Step;

namespace SteadyLintel.Tests;

/// <summary>Lists in lists in lists: they cost neither the stack nor the hand-over.</summary>
public class NestingTests
{
    private const int Deep = 100_000;

    private static string Nested(string open, string value, int depth) =>
        string.Concat(Enumerable.Repeat(open, depth)) + value + new string(')', depth);

    private static byte[] Model(string value) =>
        Encoding.Latin1.GetBytes(
            Sample.Text(
                "#20=IFCSITE('0000000000000000000020',$,'S',$,$,$,$,$,.ELEMENT.,$,$,$,$,$);#24=IFCRELAGGREGATES('0000000000000000000024',$,$,$,#7,(#20));"
                    + "#30=IFCWALL('0000000000000000000030',$,'W',$,$,$,$,$,$);#31=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000031',$,$,$,(#30),#20);"
                    + $"#40=IFCPROPERTYSINGLEVALUE('deep',$,{value},$);#41=IFCPROPERTYLISTVALUE('list',$,({value}),$);#42=IFCPROPERTYENUMERATEDVALUE('words',$,({value}),$);"
                    + "#43=IFCPROPERTYSET('0000000000000000000043',$,'Set',$,(#40,#41,#42));#44=IFCRELDEFINESBYPROPERTIES('0000000000000000000044',$,$,$,(#30),#43);",
                "m",
                "IFC4"
            )
        );

    public static TheoryData<string> Values =>
        [
            Nested("(", "1.", Deep),
            Nested("IFCLABEL(", "'x'", Deep),
            Nested("IFCLENGTHMEASURE(", "1.", Deep),
            Nested("(#30,(", "'a')", Deep / 2),
            new string('(', Deep),
        ];

    [Theory]
    [MemberData(nameof(Values), DisableDiscoveryEnumeration = true)]
    public void A_value_nested_without_end_is_a_finding_and_is_carried_as_it_is(string value)
    {
        var snapshot = ModelSnapshot.Open(Model(value));
        Assert.Contains(RuleCheck.Read(snapshot), f => f.Code == "IFC-NESTING");
        foreach (var element in snapshot.Elements)
            Assert.All(snapshot.Properties.Of(element.Index), set =>
                Assert.All(set.Properties, p => Assert.NotNull(p.Value))
            );
        foreach (
            string order in new[]
            {
                "{}",
                "{\"unit\":\"ft\"}",
                "{\"into\":{\"file\":\"ifc\",\"schema\":\"IFC2X3\"}}",
                "{\"into\":{\"file\":\"ifc\",\"merge\":true}}",
                "{\"frame\":\"local\"}",
                "{\"into\":{\"file\":\"dxf\"}}",
            }
        )
        {
            var files = new MemoryFiles();
            var result = HandoverRunner.Run(
                new HandoverRun(OrderDocument.Read(order).ToOrder(), [new HandoverSource("P", "m", snapshot)], files)
                {
                    Job = "J",
                }
            );
            // What is too deep is compared byte by byte, so references in it that are renumbered are told as differences: loud, not lost.
            bool sound = value.EndsWith(')') && !value.Contains('#');
            Assert.True(
                result.Reconciliation.Balanced || !sound,
                $"{order}: {string.Join("; ", result.Reconciliation.Differences.Select(d => d[..Math.Min(200, d.Length)]))}"
            );
        }
    }

    [Fact]
    public void What_schemas_nest_is_read_whole_and_what_is_deeper_is_not()
    {
        static int Levels(StepValue value)
        {
            foreach (var item in value.Items)
                return 1 + Levels(item);
            return 0;
        }

        static StepValue At(int depth) => new(Encoding.ASCII.GetBytes(Nested("(", "1.", depth)));
        Assert.Equal(3, Levels(At(3)));
        Assert.Equal(StepValue.MaxDepth, Levels(At(StepValue.MaxDepth)));
        Assert.Equal(StepValue.MaxDepth, Levels(At(Deep)));
        Assert.False(At(StepValue.MaxDepth).HoldsTooDeep);
        Assert.True(At(StepValue.MaxDepth + 1).HoldsTooDeep);
        // Parentheses in a string nest nothing.
        Assert.False(new StepValue(Encoding.ASCII.GetBytes($"('{new string('(', 500)}')")).HoldsTooDeep);
    }
}
