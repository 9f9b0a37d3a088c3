using System.Globalization;
using System.Text;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>The ledger of drawings: every value in every form accounted for, and damage of what was written seen.</summary>
public class DrawingLedgerTests(ITestOutputHelper output)
{
    public static TheoryData<CadVersion, bool, CadVersion, bool> Ways() => ConversionTests.Ways();

    [Theory]
    [MemberData(nameof(Ways))]
    public void Values_that_a_form_has_no_place_for_are_said(CadVersion from, bool fromDwg, CadVersion to, bool toDwg)
    {
        using var stream = new MemoryStream();
        CadFile.Write(OddSink.Create(from), stream, new CadForm(fromDwg, from));
        var result = DrawingConverter.Convert(stream.ToArray(), new CadForm(toDwg, to));
        Assert.True(result.Balanced, string.Join("\n", result.Differences));
        Assert.All(result.Ledger, l =>
            Assert.Equal(
                l.Things,
                l.Same + l.Changed.Values.Sum() + l.LeftOut.Values.Sum() + l.NotCarried.Values.Sum() + l.Unaccounted
            )
        );
        // To the form it came in nothing is lost.
        if ((from, fromDwg) == (to, toDwg))
            Assert.All(result.Ledger, l => Assert.Empty(l.NotCarried));
        if (to == CadVersion.AC1015)
        {
            Assert.Contains(result.Ledger, l =>
                l.Kind == "HATCH" && l.NotCarried.Keys.Any(k => k.Contains("gradients", StringComparison.Ordinal))
            );
            Assert.Contains(result.Ledger, l =>
                l.NotCarried.Keys.Any(k => k.Contains("transparency", StringComparison.Ordinal))
            );
            Assert.Contains(result.Ledger, l =>
                l.Changed.Keys.Any(k => k.Contains("true colour", StringComparison.Ordinal))
            );
        }
    }

    // DWG refers to the entries of tables; a name without an entry cannot be told there, and the ledger says which.
    [Fact]
    public void A_style_that_the_drawing_names_and_does_not_have_is_not_carried()
    {
        var drawing = OddSink.Create(CadVersion.AC1015);
        drawing.Header["$DIMSTYLE"] = [new CadGroup(2, "NOT-THERE")];
        using var stream = new MemoryStream();
        CadFile.Write(drawing, stream, new CadForm(false, CadVersion.AC1015));
        var result = DrawingConverter.Convert(stream.ToArray(), new CadForm(true, CadVersion.AC1024));
        Assert.True(result.Balanced, string.Join("\n", result.Differences));
        Assert.Contains(result.Ledger, l =>
            l.NotCarried.Keys.Any(k => k.Contains("NOT-THERE", StringComparison.Ordinal))
        );
    }

    [Fact]
    public void Entities_of_layers_that_were_not_chosen_are_left_out_by_that_rule()
    {
        var result = DrawingConverter.Convert(
            ConversionTests.Sink(CadVersion.AC1024, false),
            new CadForm(true, CadVersion.AC1024),
            ConversionTests.OnLayers("A-WALL")
        );
        Assert.True(result.Balanced, string.Join("\n", result.Differences));
        Assert.True(result.Ledger.Single(l => l.Kind == "LINE").LeftOut["layer not chosen"] > 0);
    }

    [Theory]
    [InlineData(CadVersion.AC1015)]
    [InlineData(CadVersion.AC1032)]
    public void Every_damage_to_a_written_drawing_is_caught(CadVersion version)
    {
        var form = new CadForm(false, version);
        var drawing = CadFile.Read(ConversionTests.Sink(CadVersion.AC1024, false)).Drawing;
        drawing
            .Model.Entities[0]
            .Extras.Data.Add(
                new ExtendedData(
                    drawing.AddApplication("OWN").Handle,
                    [new CadGroup(1000, "checked"), new CadGroup(1040, 2.5)]
                )
            );
        using var stream = new MemoryStream();
        CadFile.Write(drawing, stream, form);
        var groups = Groups(Encoding.Latin1.GetString(stream.ToArray()));
        Unaccounted(drawing, form, groups, out string differences);
        Assert.Empty(differences);
        int caught = 0,
            all = 0;
        var missed = new List<string>();
        foreach (var (name, damaged) in Mutants(groups))
        {
            all++;
            try
            {
                if (Unaccounted(drawing, form, damaged) > 0)
                    caught++;
                else
                    missed.Add(name);
            }
            catch (CadFormatException)
            {
                caught++;
            }
        }

        output.WriteLine($"{version}: {caught} of {all} mutants caught");
        Assert.True(missed.Count == 0, $"{missed.Count} of {all} not caught:\n" + string.Join("\n", missed.Take(60)));
        Assert.True(all > 300);
    }

    private static int Unaccounted(Drawing drawing, CadForm form, List<(int Code, string Value)> groups) =>
        Unaccounted(drawing, form, groups, out _);

    private static int Unaccounted(
        Drawing drawing,
        CadForm form,
        List<(int Code, string Value)> groups,
        out string differences
    )
    {
        var ledger = new DrawingLedger(new CadForm(false, CadVersion.AC1024), form);
        string text = string.Concat(groups.Select(g => $"{g.Code}\n{g.Value}\n"));
        ledger.Compare(
            drawing,
            CadFile.Read(Encoding.Latin1.GetBytes(text)).Drawing,
            new HashSet<CadObject>(),
            new Dictionary<Handle, string>()
        );
        differences = string.Join("\n", ledger.Differences);
        return ledger.Lines().Sum(l => l.Unaccounted);
    }

    private static List<(int Code, string Value)> Groups(string text)
    {
        var lines = text.Split('\n').Select(l => l.TrimEnd('\r')).ToList();
        return
        [
            .. Enumerable
                .Range(0, lines.Count / 2)
                .Select(n => (int.Parse(lines[2 * n].Trim(), CultureInfo.InvariantCulture), lines[(2 * n) + 1])),
        ];
    }

    // One entity, record or object of every kind: dropped, doubled, and each of its values changed.
    private static IEnumerable<(string Name, List<(int Code, string Value)> Groups)> Mutants(
        List<(int Code, string Value)> groups
    )
    {
        string section = "";
        var done = new HashSet<string>();
        for (int at = 0; at < groups.Count; at++)
        {
            if (groups[at].Code != 0)
                continue;
            if (groups[at].Value == "SECTION")
                section = groups[at + 1].Value;
            string type = groups[at].Value;
            if (
                section is not ("TABLES" or "ENTITIES" or "OBJECTS")
                || type
                    is "SECTION"
                        or "ENDSEC"
                        or "TABLE"
                        or "ENDTAB"
                        or "EOF"
                        or "SEQEND"
                        or "DICTIONARY"
                        or "ACDBDICTIONARYWDFLT"
                        or "ACDBPLACEHOLDER"
                || !done.Add(type)
            )
                continue;
            int end = groups.FindIndex(at + 1, g => g.Code == 0);
            if (section == "ENTITIES" && type is not ("VERTEX" or "ATTRIB" or "POLYLINE" or "INSERT"))
                yield return ($"drop {type}", [.. groups[..at], .. groups[end..]]);
            if (section == "ENTITIES" && type is not ("VERTEX" or "ATTRIB" or "POLYLINE" or "INSERT"))
                yield return (
                    $"double {type}",
                    [.. groups[..end], .. groups[at..end].Where(g => g.Code != 5), .. groups[end..]]
                );
            for (int g = at + 1; g < end; g++)
            {
                // DXF reference: the x and y of these are not used and always 0.
                if (type is "POLYLINE" or "HATCH" && groups[g].Code is 10 or 20 && groups[g].Value == "0.0")
                    continue;
                if (
                    Damaged(groups[g].Code, groups[g].Value) is not { } other
                    || groups[(at + 1)..g].Exists(x => x.Code == 1001)
                )
                    continue;
                yield return (
                    $"{type} group {groups[g].Code}: {groups[g].Value} to {other}",
                    [.. groups[..g], (groups[g].Code, other), .. groups[(g + 1)..]]
                );
            }
        }

        int data = groups.FindIndex(g => g.Code == 1000 && g.Value == "checked");
        yield return ("extended data", [.. groups[..data], (1000, "unchecked"), .. groups[(data + 1)..]]);
        yield return ("extended data's number", [.. groups[..(data + 1)], (1040, "2.502"), .. groups[(data + 2)..]]);
    }

    // Values of drawing: coordinates and lengths by 2 mm, texts and names by a letter.
    private static string? Damaged(int code, string value) =>
        code switch
        {
            8 or 1 or 6 or 7 => value + "~",
            62 => value == "3" ? "4" : "3",
            (>= 10 and <= 59)
            or (>= 210 and <= 239) when double.TryParse(value, CultureInfo.InvariantCulture, out double d) => (
                d + 0.002
            ).ToString("R", CultureInfo.InvariantCulture),
            _ => null,
        };
}
