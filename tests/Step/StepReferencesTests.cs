using System.Text;
using CsCheck;
using SteadyLintel.Step;

namespace SteadyLintel.Tests;

public class StepReferencesTests
{
    private static List<int> Ids(string text)
    {
        var ids = new List<int>();
        StepReferences.Collect(Encoding.Latin1.GetBytes(text), ids);
        return ids;
    }

    [Theory]
    [InlineData("#1,(#2,#3),$", new[] { 1, 2, 3 })]
    [InlineData("'#4 in ''text'' #5',#6", new[] { 6 })]
    [InlineData("/* #7 */#8", new[] { 8 })]
    [InlineData("\"0F#9\"", new[] { 9 })]
    [InlineData("#2147483647", new[] { int.MaxValue })]
    [InlineData("#2147483648,#99999999999999999999,#10", new[] { 10 })]
    [InlineData("#,#x,#11", new[] { 11 })]
    [InlineData("'never closed #12", new int[0])]
    [InlineData("/* never closed #13", new int[0])]
    [InlineData("", new int[0])]
    public void References_are_found_outside_strings_and_comments(string text, int[] ids) =>
        Assert.Equal(ids, Ids(text));

    [Fact]
    public void Any_list_of_names_is_found_in_order() =>
        Gen.Int[1, int.MaxValue]
            .Array[0, 50]
            .Sample(
                names => names.SequenceEqual(Ids("(" + string.Join(",", names.Select(n => "#" + n)) + ",'#1',$)")),
                iter: 300
            );

    // Names of one to ten digits, with zeroes before them and space after, through the index and back.
    [Fact]
    public void Every_name_is_indexed() =>
        Gen.Select(Gen.Int[1, int.MaxValue], Gen.Int[0, 3], Gen.Bool)
            .Array[1, 40]
            .Sample(
                names =>
                {
                    var text = new StringBuilder("ISO-10303-21;\nHEADER;FILE_SCHEMA(('IFC4'));ENDSEC;DATA;\n");
                    foreach (var (id, zeroes, space) in names)
                        text.Append('#')
                            .Append('0', zeroes)
                            .Append(id)
                            .Append(space ? " = " : "=")
                            .Append("IFCWALL($);\n");
                    var file = StepFile.Read(
                        Encoding.ASCII.GetBytes(text.Append("ENDSEC;END-ISO-10303-21;").ToString())
                    );
                    var kept = names.Where(n => n.Item1.ToString().Length + n.Item2 <= 10).ToList();
                    return file.Count == kept.Count && kept.Select((n, i) => file.Id(i) == n.Item1).All(x => x);
                },
                iter: 200
            );

    [Fact]
    public void Keywords_of_any_length_keep_apart()
    {
        var words = Enumerable
            .Range(1, 60)
            .Select(n => "IFC" + new string('A', n))
            .Concat(Enumerable.Range(1, 60).Select(n => "IFC" + new string('A', n) + "B"))
            .ToList();
        string data = string.Concat(words.Concat(words).Select((w, i) => $"#{i + 1}={w}($);\n"));
        var file = StepFile.Read(
            Encoding.ASCII.GetBytes("ISO-10303-21;\nHEADER;ENDSEC;DATA;\n" + data + "ENDSEC;END-ISO-10303-21;")
        );
        Assert.Equal(words.Concat(words), Enumerable.Range(0, file.Count).Select(i => file.TypeNames[file.TypeOf(i)]));
    }

    [Fact]
    public void A_cache_of_texts_gives_what_decoding_gives()
    {
        var cache = new StepTextCache();
        Gen.String[Gen.Char[' ', '~'], 0, 80]
            .Sample(
                text =>
                {
                    var coded = Encoding.ASCII.GetBytes(StepText.Encode(text));
                    return cache.Get(coded) == text && cache.Get(coded) == text;
                },
                iter: 3000
            );
    }
}
