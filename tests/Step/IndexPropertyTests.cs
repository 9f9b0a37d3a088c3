using System.Text;
using CsCheck;
using SteadyLintel.Step;

namespace SteadyLintel.Tests;

/// <summary>The index of whatever ISO 10303-21 allows between a name and its semicolon, over the borders of what the pass takes at
/// once.</summary>
public class IndexPropertyTests
{
    // Spaces, line ends and comments where the standard allows them (6.2); the comment holds what would end an instance.
    private static readonly Gen<string> Gap = Gen.Frequency(
        (8, Gen.Const("")),
        (4, Gen.Const(" ")),
        (1, Gen.Const("\r\n\t ")),
        (1, Gen.Const("/* #1=X(';'); */")),
        (1, Gen.Const(" /**/ "))
    );

    private static readonly Gen<string> Between = Gen.Frequency(
        (12, Gen.Const("\n")),
        (2, Gen.Const("")),
        (2, Gen.Const("\r\n")),
        (1, Gen.Const("\n\n  ")),
        (1, Gen.Const("\n/* a note; with 'quotes */\n"))
    );

    private static readonly Gen<string> Keyword = Gen.Frequency(
        (
            6,
            Gen.OneOfConst(
                "IFCWALL",
                "IFCCARTESIANPOINT",
                "IFCROOF",
                "IFCRELDEFINESBYPROPERTIES",
                "IFCPROPERTYSINGLEVALUE",
                "A"
            )
        ),
        (1, Gen.Const("IFCTHISKEYWORDISLONGERTHANAVECTORHASBYTES")),
        (1, Gen.Const("ifcSlab")),
        (1, Gen.Const("!USER_DEFINED")),
        (1, Gen.Const(""))
    );

    private static readonly Gen<string> Value = Gen.Frequency(
        (4, Gen.Int[-999, 99999].Select(i => $"{i}.5")),
        (3, Gen.Int[1, 9999999].Select(i => "#" + i)),
        (2, Gen.Const("$")),
        (1, Gen.Const(".T.")),
        (1, Gen.Const("(1,(2,3),())")),
        (2, Gen.OneOfConst("'plain'", "'it''s'", "''", "'a=b;#9=c(/*'", "''''", "'\\X2\\6881\\X0\\;'")),
        (1, Gen.Int[0, 300].Select(n => $"'{new string('x', n)}'")),
        (1, Gen.Const("/* ; */ 7"))
    );

    private sealed record Instance(int Id, string Keyword, string Head, string Body);

    private static readonly Gen<Instance> AnyInstance = Gen.Select(
            Gen.OneOf(Gen.Int[1, 9999], Gen.Int[1, int.MaxValue]),
            Keyword,
            Gap,
            Gap,
            Gap,
            Value.List[0, 12],
            Gap
        )
        .Select(
            (id, keyword, a, b, c, values, d) =>
                new Instance(
                    id,
                    keyword,
                    $"#{id}{a}={b}{keyword}{(keyword.Length > 0 ? c : "")}",
                    $"({string.Join(',', values)}{d})"
                )
        );

    [Fact]
    public void Every_instance_is_found_whatever_stands_around_it() =>
        Gen.Select(AnyInstance.List[0, 400], Between.Array[400], Gap.Array[400], Gen.Int[1, 3])
            .Sample(
                (instances, between, gaps, threads) =>
                {
                    var unique = instances.DistinctBy(i => i.Id).ToList();
                    var text = new StringBuilder("ISO-10303-21;\nHEADER;FILE_SCHEMA(('IFC4'));ENDSEC;\nDATA;");
                    for (int i = 0; i < unique.Count; i++)
                        text.Append(between[i])
                            .Append(unique[i].Head)
                            .Append(unique[i].Body)
                            .Append(gaps[i])
                            .Append(';');
                    text.Append("\nENDSEC;\nEND-ISO-10303-21;\n");
                    var file = StepFile.Read(
                        Encoding.ASCII.GetBytes(text.ToString()),
                        StepLimits.Default with
                        {
                            Threads = threads,
                        }
                    );
                    Assert.Empty(file.Problems);
                    Assert.Equal(
                        unique.Select(i => (i.Id, i.Keyword.ToUpperInvariant())),
                        Enumerable.Range(0, file.Count).Select(i => (file.Id(i), file.TypeNames[file.TypeOf(i)]))
                    );
                    for (int i = 0; i < unique.Count; i++)
                    {
                        Assert.Equal(i, file.IndexOf(unique[i].Id));
                        Assert.Equal(
                            unique[i].Head + unique[i].Body + gaps[i] + ";",
                            Encoding.ASCII.GetString(file.Raw(i))
                        );
                        Assert.Equal(unique[i].Body[1..^1].Trim(), Encoding.ASCII.GetString(file.Record(i).Raw).Trim());
                    }
                },
                iter: 150
            );

    // A file that has lost one byte loses the instances around it, and no others.
    [Fact]
    public void A_lost_byte_costs_its_neighbours_only() =>
        Gen.Select(Gen.Int[0, 5000], Gen.Int[2, 900])
            .Sample(
                (at, count) =>
                {
                    var text = new StringBuilder("ISO-10303-21;\nHEADER;FILE_SCHEMA(('IFC4'));ENDSEC;\nDATA;\n");
                    int begin = text.Length;
                    for (int i = 1; i <= count; i++)
                        text.Append($"#{i}=IFCPROPERTYSINGLEVALUE('Name {i}',$,IFCLABEL('it''s {i}'),$);\n");
                    int end = text.Length;
                    text.Append("ENDSEC;\nEND-ISO-10303-21;\n");
                    string whole = text.ToString();
                    int lost = begin + (at % (end - begin));
                    var file = StepFile.Read(Encoding.ASCII.GetBytes(whole.Remove(lost, 1)));
                    var kept = Enumerable.Range(0, file.Count).Select(file.Id).ToHashSet();
                    // A byte of a name may have made another name of it.
                    int line = whole[..lost].Count(c => c == '\n') - 2;
                    var missing = Enumerable.Range(1, count).Where(id => !kept.Contains(id)).ToList();
                    Assert.All(missing, id => Assert.InRange(id, line - 1, line + 2));
                    Assert.True(missing.Count <= 2, $"{missing.Count} are missing");
                },
                iter: 300
            );

    // Names that count up need no table; any gap, repetition or turn brings one.
    [Theory]
    [InlineData(new[] { 1, 2, 3, 4 }, 3, 2)]
    [InlineData(new[] { 7, 8, 9 }, 7, 0)]
    [InlineData(new[] { 7, 8, 9 }, 6, -1)]
    [InlineData(new[] { 7, 8, 9 }, 10, -1)]
    [InlineData(new[] { 1, 3, 4 }, 2, -1)]
    [InlineData(new[] { 4, 3, 2 }, 3, 1)]
    [InlineData(new[] { 5, 5, 6 }, 5, 0)]
    [InlineData(new[] { 1, 2_000_000_000 }, 2_000_000_000, 1)]
    [InlineData(new[] { 2_000_000_000, 2_000_000_001 }, 2_000_000_001, 1)]
    public void Names_lead_to_positions(int[] names, int name, int position)
    {
        string data = string.Concat(names.Select(n => $"#{n}=A();"));
        var file = StepFile.Read(
            Encoding.ASCII.GetBytes(
                $"ISO-10303-21;HEADER;FILE_SCHEMA(('IFC4'));ENDSEC;DATA;{data}ENDSEC;END-ISO-10303-21;"
            )
        );
        Assert.Equal(position, file.IndexOf(name));
        Assert.Equal(-1, file.IndexOf(-1));
        Assert.Equal(-1, file.IndexOf(0));
    }
}
