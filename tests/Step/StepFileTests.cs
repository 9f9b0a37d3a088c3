using System.Text;
using SteadyLintel.Step;

namespace SteadyLintel.Tests;

public class StepFileTests
{
    private const string Head =
        "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION(('a','b'),'2;1');\nFILE_NAME('n','2026-11-01T10:00:00',('me'),('us'),'pre','org','ok');\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n";
    private const string Tail = "ENDSEC;\nEND-ISO-10303-21;\n";

    private static StepFile Read(string data, string tail = Tail) =>
        StepFile.Read(Encoding.ASCII.GetBytes(Head + data + tail));

    [Fact]
    public void The_header_is_read()
    {
        var header = Read("").Header;
        Assert.Equal(
            ("IFC4", "n", "2026-11-01T10:00:00", "pre", "org", "ok"),
            (
                header.Schema,
                header.Name,
                header.TimeStamp,
                header.PreprocessorVersion,
                header.OriginatingSystem,
                header.Authorization
            )
        );
        Assert.Equal(["a", "b"], header.Description);
    }

    [Fact]
    public void Every_kind_of_parameter_is_told()
    {
        var file = Read("#1=T($,*,#2,'s',\"1F\",.ENUM.,(1,(2,3)),1.5,IFCLABEL('x'),-7);\n#2=U();\n");
        var record = file.Record(0);
        Assert.Equal(
            [
                StepKind.Null,
                StepKind.Derived,
                StepKind.Reference,
                StepKind.String,
                StepKind.Binary,
                StepKind.Enumeration,
                StepKind.List,
                StepKind.Number,
                StepKind.Typed,
                StepKind.Number,
            ],
            Enumerable.Range(0, 10).Select(i => file.Record(0)[i].Kind)
        );
        Assert.Equal(10, record.Count);
        Assert.Equal(2, record[2].Reference);
        Assert.Equal("x", record[8].Text);
        Assert.Equal("IFCLABEL", record[8].TypeName);
        Assert.Equal(-7, record[9].Integer);
        Assert.Equal("s", record[3].Text);
        Assert.True(record[10].IsNull);
        Assert.Equal(0, file.Record(1).Count);
    }

    [Fact]
    public void Strings_may_hold_everything_that_means_something_elsewhere()
    {
        var file = Read("#1=T('a;b','#9=X()','it''s (,)','/* no */',2);\n#2=T(1);\n");
        Assert.Equal(2, file.Count);
        Assert.Empty(file.Problems);
        var record = file.Record(0);
        Assert.Equal("a;b", record[0].Text);
        Assert.Equal("#9=X()", record[1].Text);
        Assert.Equal("it's (,)", record[2].Text);
        Assert.Equal("/* no */", record[3].Text);
        Assert.Equal(2, record[4].Integer);
    }

    [Fact]
    public void Comments_may_stand_anywhere()
    {
        var file = Read("/* one; */ #1 /* two */ = /* three */ T /* ( */ (1 /* , 5 */, /* x */ 2); /* last */\n");
        Assert.Empty(file.Problems);
        var record = file.Record(0);
        Assert.Equal((1, 2, 2), (record[0].Integer, record[1].Integer, record.Count));
    }

    [Fact]
    public void Complex_instances_are_read_part_by_part()
    {
        var file = Read("#1=(A(1,'x')B((#1),.T.)C());\n");
        Assert.Equal("", file.TypeNames[file.TypeOf(0)]);
        Assert.Equal(["A", "B", "C"], file.PartNames(0));
        Assert.Equal("x", file.Part(0, "A")[1].Text);
        Assert.True(file.Part(0, "B")[1].IsTrue);
        Assert.Equal(0, file.Part(0, "D").Count);
    }

    [Fact]
    public void Several_data_sections_crlf_and_large_sparse_names_are_read()
    {
        var file = Read(
            "#2147483647=T(1);\r\n#5=t(2);\r\nENDSEC;\r\nDATA('second',('IFC4'));\r\n#1000000000=T(3);\r\n"
        );
        Assert.Equal(3, file.Count);
        Assert.Equal([2, 1, 0], new[] { 1000000000, 5, int.MaxValue }.Select(file.IndexOf));
        Assert.Equal(-1, file.IndexOf(6));
        Assert.Single(file.TypeNames.Distinct());
    }

    [Fact]
    public void A_missing_end_is_told_and_the_rest_is_read()
    {
        var file = Read("#1=T(1);\n#2=T('cut", "");
        Assert.Equal(1, file.Count);
        Assert.Contains(file.Problems, p => p.Kind == StepProblemKind.Truncated);
        Assert.Contains(file.Problems, p => p.Kind == StepProblemKind.DamagedInstance && p.Line == 9);
    }

    [Theory]
    [InlineData("#1=T(1)\n#2=T(2);\n#3=T(3);\n")]
    [InlineData("#1=T('open);\n#2=T(2);\n#3=T(3);\n")]
    [InlineData("#1 T(1);\n#2=T(2);\n#3=T(3);\n")]
    [InlineData("#99999999999=T(1);\n#2=T(2);\n#3=T(3);\n")]
    public void A_damaged_instance_costs_only_itself(string data)
    {
        var file = Read(data);
        Assert.Equal([2, 3], Enumerable.Range(0, file.Count).Select(file.Id));
        Assert.Single(file.Problems);
        Assert.Equal(8, file.Problems[0].Line);
    }

    [Fact]
    public void The_first_of_two_equal_names_is_kept()
    {
        var file = Read("#1=T(1);\n#1=T(2);\n");
        Assert.Equal(1, file.Record(file.IndexOf(1))[0].Integer);
        Assert.Equal(StepProblemKind.DuplicateId, Assert.Single(file.Problems).Kind);
    }

    [Fact]
    public void Other_files_are_refused_in_a_sentence() =>
        Assert.Contains(
            "ISO-10303-21",
            Assert.Throws<StepFormatException>(() => StepFile.Read("hello"u8.ToArray())).Message
        );

    [Fact]
    public void Limits_hold() =>
        Assert.Throws<StepFormatException>(() =>
            StepFile.Read(Encoding.ASCII.GetBytes(Head + "#1=T();#2=T();" + Tail), new StepLimits(MaxInstances: 1))
        );

    [Fact]
    public void References_are_found_outside_strings_only()
    {
        var ids = new List<int>();
        StepReferences.Collect("#1,('#2',#3,(#44)),/* #5 */X(#6)"u8, ids);
        Assert.Equal([1, 3, 44, 6], ids);
    }
}
