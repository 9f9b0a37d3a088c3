using System.Text;
using SteadyLintel.Step;

namespace SteadyLintel.Tests;

/// <summary>A large file is indexed in parts; the index must not depend on where it is cut.</summary>
public class StepPartsTests
{
    private const int Lines = 200_000;

    public static TheoryData<string, string> Disturbances =>
        new()
        {
            { "nothing", "" },
            { "a comment over lines that look like instances", "/*\n" + Repeat("#900001=IFCWALL('a');\n") + "*/\n" },
            {
                "a string with line feeds and a look-alike that is not one",
                "#900001=IFCTEXT('one\n" + Repeat("#x=\n") + "two');\n"
            },
            { "a string that is never closed", "#900001=IFCTEXT('one;\n" },
            { "a missing semicolon", "#900001=IFCTEXT('one')\n" },
            { "an instance over several lines", "#900001=IFCTEXT((\n" + Repeat("#1,\n") + "#3));\n" },
            {
                "an early end",
                "ENDSEC;\nEND-ISO-10303-21;\nISO-10303-21;\nHEADER;\nFILE_SCHEMA(('IFC2X3'));\nENDSEC;\nDATA;\n"
            },
        };

    [Theory]
    [MemberData(nameof(Disturbances))]
    public void Many_threads_give_the_index_of_one(string what, string disturbance)
    {
        // Most of the file is the disturbance, so that the cuts fall into it.
        var bytes = File(disturbance);
        var one = StepFile.Read(bytes, StepLimits.Default with { Threads = 1 });
        for (int threads = 2; threads <= 4; threads++)
        {
            var many = StepFile.Read(bytes, StepLimits.Default with { Threads = threads });
            Assert.True(one.Count == many.Count, what);
            Assert.Equal(one.Header.Schema, many.Header.Schema);
            Assert.Equal(
                one.Problems.Select(p => (p.Kind, p.Offset, p.Line)),
                many.Problems.Select(p => (p.Kind, p.Offset, p.Line))
            );
            Assert.Equal(one.ProblemCount, many.ProblemCount);
            for (int i = 0; i < one.Count; i++)
            {
                if (
                    one.Id(i) != many.Id(i)
                    || one.Offset(i) != many.Offset(i)
                    || one.TypeNames[one.TypeOf(i)] != many.TypeNames[many.TypeOf(i)]
                    || !one.Raw(i).SequenceEqual(many.Raw(i))
                )
                    Assert.Fail($"{what}: instance {i} differs with {threads} threads");
            }
        }
    }

    // Eight bytes an instance are far denser than the index expects: every part outgrows its share of the columns.
    [Fact]
    public void Parts_that_outgrow_their_share_are_joined_all_the_same()
    {
        var text = new StringBuilder("ISO-10303-21;\nHEADER;\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n");
        const int Count = 900_000;
        for (int i = 1; i <= Count; i++)
            text.Append('#').Append(i).Append("=A();\n");
        var bytes = Encoding.ASCII.GetBytes(text.Append("ENDSEC;\nEND-ISO-10303-21;\n").ToString());
        var file = StepFile.Read(bytes, StepLimits.Default with { Threads = 3 });
        Assert.Equal(Count, file.Count);
        for (int i = 0; i < Count; i += 997)
            Assert.True(file.Id(i) == i + 1 && file.IndexOf(i + 1) == i && file.Raw(i).EndsWith("=A();"u8));
    }

    private static string Repeat(string line) => string.Concat(Enumerable.Repeat(line, 300));

    private static byte[] File(string disturbance)
    {
        var text = new StringBuilder("ISO-10303-21;\nHEADER;\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n", Lines * 90);
        for (int i = 1; i <= Lines; i++)
        {
            if (i % 40 == 0)
                text.Append(disturbance);
            text.Append('#')
                .Append(i)
                .Append(
                    i % 3 == 0
                        ? "=IFCCARTESIANPOINT((1.,2.,3.,4.,5.,6.,7.,8.));\n"
                        : "=IFCPROPERTYSINGLEVALUE('It''s a name; with =',$,IFCLABEL('value'),$);\n"
                );
        }

        return Encoding.ASCII.GetBytes(text.Append("ENDSEC;\nEND-ISO-10303-21;\n").ToString());
    }
}
