using System.Text;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>Values that a string of extended data does not hold travel whole, or the balance names them.</summary>
public class LongValueTests
{
    private static byte[] Model(string value) =>
        Encoding.ASCII.GetBytes(
            ModelSink.Text.Replace(
                "ENDSEC;\nEND-ISO",
                $"#980=IFCPROPERTYSET('3000000000000000000980',$,'Long',$,(#981));#981=IFCPROPERTYSINGLEVALUE('Text',$,IFCTEXT({Step.StepWriter.String(value)}),$);"
                    + "#982=IFCRELDEFINESBYPROPERTIES('3000000000000000000982',$,$,$,(#21),#980);\nENDSEC;\nEND-ISO",
                StringComparison.Ordinal
            )
        );

    public static TheoryData<string> Values =>
        [
            new string('a', 255),
            new string('a', 256),
            string.Concat(Enumerable.Repeat("Wände–", 400)),
            "first\nsecond\r\nthird",
            "a^b ^J c^",
            "tab\tend",
            string.Concat(Enumerable.Repeat("^\n", 300)),
            string.Concat(Enumerable.Repeat("\U0001F6AA", 200)),
        ];

    [Theory]
    [MemberData(nameof(Values))]
    public void A_value_travels_whole_in_every_form(string value)
    {
        foreach (var (file, version) in new[] { ("dxf", "AC1027"), ("dwg", "AC1015"), ("dwg", "AC1024") })
        {
            var files = new MemoryFiles();
            var document = new OrderDocument
            {
                Into = new OrderInto { File = file, Version = version },
                Properties = new OrderProperties { Computed = true },
                Name = "out",
                Split = "none",
            };
            var source = new HandoverSource("ARC", "ARC", ModelSnapshot.Open(Model(value)));
            var result = HandoverRunner.Run(
                new HandoverRun(document.ToOrder(), [source], files) { Job = "HW", TimeStamp = "2026-11-29T08:00:00" }
            );
            Assert.True(
                result.Balanced,
                $"{file} {version}: {string.Join("\n", result.Reconciliation.Differences.Take(5))}"
            );
            var drawing = CadFile.Read(files.Read($"out.{file}").ToArray()).Drawing;
            var held = drawing
                .Model.Entities.SelectMany(e => DrawnProperties.Of(drawing, e))
                .Where(p => p.Key == "Long.Text")
                .Select(p => p.Value)
                .Distinct();
            Assert.Equal(value, Assert.Single(held));
        }
    }

    [Fact]
    public void What_is_too_long_for_an_entity_is_named_and_the_rest_goes_as_extended_data()
    {
        var files = new MemoryFiles();
        var document = new OrderDocument
        {
            Into = new OrderInto { File = "dxf" },
            Properties = new OrderProperties { Computed = true },
            Name = "out",
            Split = "none",
        };
        var result = HandoverRunner.Run(
            new HandoverRun(
                document.ToOrder(),
                [new HandoverSource("ARC", "ARC", ModelSnapshot.Open(Model(new string('x', 30_000))))],
                files
            )
            {
                Job = "HW",
                TimeStamp = "2026-11-29T08:00:00",
            }
        );
        Assert.True(result.Balanced);
        var line = result.Reconciliation.Ledger.Single(l => l.Kind == "property of an element");
        Assert.Equal(1, line.NotCarried[DrawnProperties.Full]);
        Assert.Contains(line.Examples, e => e.Thing.Contains("Long.Text", StringComparison.Ordinal));
        // The values that went are no longer called lost: they are in the drawing, in another form.
        var values = result.Reconciliation.Ledger.Single(l => l.Kind == "property value");
        Assert.True(
            values.Changed.GetValueOrDefault("as extended data") > 0,
            string.Join(", ", values.NotCarried.Keys)
        );
    }
}
