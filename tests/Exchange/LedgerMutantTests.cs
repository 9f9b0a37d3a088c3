using System.Text;
using System.Text.RegularExpressions;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Step;

namespace SteadyLintel.Tests;

/// <summary>Damages what was written, one thing at a time, and asks the ledger.</summary>
public partial class LedgerMutantTests(DemoModels demo, ITestOutputHelper output) : IClassFixture<DemoModels>
{
    public static TheoryData<string, string> Orders() =>
        new()
        {
            { "ARC", "whole" },
            { "STR", "storeys" },
            { "SRV", "unit" },
            { "ARC", "frame" },
            { "ARC", "schema" },
            { "STR", "edits" },
            { "ARC STR", "merge" },
            { "sink", "whole" },
            { "sink", "part" },
            { "sink", "unit" },
            { "sink", "storeys" },
            { "sink", "schema" },
            { "sink", "newer" },
            { "sink", "merge" },
            { "sink", "frame" },
            { "ARC", "properties" },
            { "sink", "properties" },
            { "ARC", "tables" },
            { "STR", "computed" },
            { "STR", "coarse" },
            { "STR", "boxes" },
            { "SRV", "boxes" },
        };

    [Theory]
    [MemberData(nameof(Orders))]
    public void Every_damage_to_a_written_model_is_caught(string party, string what)
    {
        var sources =
            party == "sink"
                ?
                [
                    new HandoverSource("SNK", "sink", ModelSnapshot.Open(ModelSink.Bytes())),
                    .. what == "merge"
                        ? [new HandoverSource("OTH", "other", ModelSnapshot.Open(ModelSink.Other()))]
                        : Array.Empty<HandoverSource>(),
                ]
                : demo.Sources.Where(s => party.Contains(s.Party)).ToList();
        var plan = HandoverPlan.Of(Order(what, sources), sources);
        var files = new MemoryFiles();
        var written = Target
            .Of(plan.Order)
            .Write(
                plan,
                new FileNames("{source}-{storey}", "HW", ""),
                "",
                files,
                new Reconciler(plan, new ModelLedger(plan)),
                CancellationToken.None
            );
        var whole = Balance(plan, written, f => files.Read(f.Name));
        Assert.True(whole.Balanced, string.Join("\n", whole.Differences));
        var target = written[written.Count / 2];
        string text = Encoding.Latin1.GetString(files.Read(target.Name).Span);
        int caught = 0;
        var missed = new List<string>();
        var mutants = Mutants(text).ToList();
        // All of them with LINTEL_FUZZ; else an even choice where reading takes long.
        int step = Environment.GetEnvironmentVariable("LINTEL_FUZZ") is null
            ? Math.Max(1, mutants.Count / (text.Length > 100_000 ? 40 : 250))
            : 1;
        foreach (var (name, damaged) in mutants.Where((_, n) => n % step == step / 2))
        {
            var result = Balance(plan, written, f =>
                f == target ? Encoding.Latin1.GetBytes(damaged) : files.Read(f.Name)
            );
            if (result.Balanced)
                missed.Add(name);
            else
                caught++;
        }

        output.WriteLine($"{party} {what}: {caught} of {caught + missed.Count} mutants caught");
        Assert.True(
            missed.Count == 0,
            $"{missed.Count} of {caught + missed.Count} not caught:\n" + string.Join("\n", missed.Take(40))
        );
        Assert.True(caught > 30, $"only {caught} mutants");
    }

    // A length in feet whose unit is the model's millimetre, or whose foot is a little longer: the number is as it was written, and wrong.
    [Fact]
    public void A_property_in_another_unit_than_was_ordered_is_caught()
    {
        var sources = demo.Sources.Where(s => s.Party == "ARC").ToList();
        var plan = HandoverPlan.Of(Document("properties").ToOrder(Library), sources);
        var files = new MemoryFiles();
        var written = Target
            .Of(plan.Order)
            .Write(
                plan,
                new FileNames("out", "HW", ""),
                "",
                files,
                new Reconciler(plan, new ModelLedger(plan)),
                CancellationToken.None
            );
        string text = Encoding.Latin1.GetString(files.Read(written[0].Name).Span);
        string foot = Regex.Match(text, @"(#\d+)=IFCCONVERSIONBASEDUNIT\(#\d+,\.LENGTHUNIT\.,'foot'").Groups[1].Value;
        string other = Regex.Match(text, @"(#\d+)=IFCSIUNIT\([^)]*LENGTHUNIT").Groups[1].Value;
        var line = Regex.Match(text, $@"=IFCQUANTITYLENGTH\('Length',[^,]*,({foot}),");
        Assert.True(line.Success && other.Length > 1);
        string repointed = text[..line.Groups[1].Index] + other + text[(line.Groups[1].Index + foot.Length)..];
        string longer = text.Replace("IFCLENGTHMEASURE(0.3048)", "IFCLENGTHMEASURE(0.3049)", StringComparison.Ordinal);
        foreach (string damaged in (string[])[repointed, longer])
        {
            Assert.NotEqual(text, damaged);
            var balance = Balance(plan, written, _ => Encoding.Latin1.GetBytes(damaged));
            Assert.False(balance.Balanced);
            output.WriteLine(string.Join('\n', balance.Differences.Take(3)));
            Assert.Contains(balance.Differences, d =>
                d.Contains(
                    "Length was to be in ft, and its value and unit in the file say another size",
                    StringComparison.Ordinal
                )
            );
        }
    }

    private static OrderLibrary Library { get; } =
        new()
        {
            Properties = new Dictionary<string, PropertyList>
            {
                ["List"] = PropertyList.Read(
                    Table(
                        "set,property,as set,as,blanks,unit",
                        "*,Length,,,,ft",
                        "*,Width,,Thickness,,in",
                        "*,*Area,,,,ft2",
                        "*,*,,,out,"
                    )
                ),
            },
            Classes = new Dictionary<string, ClassTable>
            {
                ["Classes"] = ClassTable.Read(
                    Table(
                        "class,predefined type,property,value,to",
                        "IfcFurniture,,,,do not send",
                        "IfcDoor,,,,IfcBuildingElementProxy"
                    )
                ),
            },
            Names = new Dictionary<string, NameTable>
            {
                ["Names"] = NameTable.Read(Table("kind,from,to", "storey,Concourse,01", "material,Concrete,C30/37")),
            },
        };

    private static TableRows Table(params string[] lines) =>
        TableFile.Read(Encoding.UTF8.GetBytes(string.Join('\n', lines)));

    // What the words of an order give.
    private static OrderDocument Document(string what) =>
        what switch
        {
            "properties" => new OrderDocument { Properties = new OrderProperties { List = "List" } },
            "tables" => new OrderDocument
            {
                Tables = new OrderTables { Classes = "Classes", Names = "Names" },
            },
            "computed" => new OrderDocument { Properties = new OrderProperties { Computed = true } },
            _ => new OrderDocument { Into = new OrderInto { Detail = what } },
        };

    private static HandoverOrder Order(string what, List<HandoverSource> sources)
    {
        if (what is "properties" or "tables" or "computed" or "coarse" or "boxes")
            return Document(what).ToOrder(Library);
        var all = new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null);
        return what switch
        {
            "storeys" => all with { SplitByStorey = true },
            "part" => all with
            {
                Selection = new Selection([
                    new SelectionRule(RuleField.Class, ["IfcWall", "IfcDoor", "IfcBeam"], true),
                ]),
            },
            "unit" => all with
            {
                Unit =
                    Math.Abs(sources[0].Snapshot.Units.Metres - 0.3048) < 1e-9
                        ? LengthUnit.Millimetre
                        : LengthUnit.Foot,
            },
            "frame" => all with { Frame = new FrameChoice(FrameKind.Given, new Vec3(100, -20, 3), 12) },
            "schema" => all with { Schema = "IFC2X3" },
            "newer" => all with { Schema = "IFC4X3" },
            "merge" => all with { Merge = true },
            "edits" => all with
            {
                Edits =
                [
                    new(EditKind.RenameStorey, "Concourse", "Level 1"),
                    new(EditKind.ChangeClass, "IfcColumn", "IfcMember"),
                    new(EditKind.SetProperty, "IfcBeam", "EI 90", "Pset_BeamCommon", "FireRating"),
                    new(EditKind.SetProperty, "IfcSlab", "True", "Own", "Checked"),
                ],
            },
            _ => all,
        };
    }

    private static Reconciliation Balance(
        HandoverPlan plan,
        IReadOnlyList<WrittenFile> written,
        Func<WrittenFile, ReadOnlyMemory<byte>> read
    )
    {
        var reconciler = new Reconciler(plan, Target.Of(plan.Order).NewLedger(plan));
        foreach (var file in written)
            reconciler.Read(file, read(file), CancellationToken.None);
        return reconciler.Balance();
    }

    // For one instance of every keyword (the middle one): each damage that can be done to it.
    internal static IEnumerable<(string Name, string Text)> Mutants(string text)
    {
        var lines = text.Split('\n');
        int next = 1 + Instance().Matches(text).Max(m => int.Parse(m.Groups[1].Value));
        foreach (
            var group in lines
                .Select((line, n) => (line, n))
                .Where(l => Instance().IsMatch(l.line))
                .GroupBy(l => l.line[(l.line.IndexOf('=') + 1)..l.line.IndexOf('(')])
        )
        {
            var (line, at) = group.ElementAt(group.Count() / 2);
            string Replaced(string other) =>
                string.Join('\n', lines.Select((l, n) => n == at ? other : l).Where(l => l.Length > 0));
            yield return ($"drop {line}", Replaced(""));
            yield return ($"double {line}", Replaced(line + "\n" + Regex.Replace(line, @"^#\d+", $"#{next}")));
            yield return ($"twice {line}", Replaced(line + "\n" + line));
            foreach (var (name, other) in Damages(line, group.Select(l => l.line).FirstOrDefault(l => l != line)))
                if (other != line)
                    yield return ($"{name} {line}", Replaced(other));
        }

        yield return (
            "schema of the header",
            text.Replace("FILE_SCHEMA(('IFC", "FILE_SCHEMA(('XFC", StringComparison.Ordinal)
        );
    }

    private static IEnumerable<(string Name, string Line)> Damages(string line, string? sibling)
    {
        string head = line[..(line.IndexOf('(') + 1)],
            rest = line[head.Length..];
        yield return ("class", head[..^1] + "X(" + rest);
        // Numbers: the first and the last, by 2 mm and by one digit.
        var numbers = Number().Matches(rest);
        foreach (var number in numbers.Count > 1 ? [numbers[0], numbers[^1]] : numbers.ToList())
        {
            double value = double.Parse(number.Value, System.Globalization.CultureInfo.InvariantCulture);
            string Put(string n) => head + rest[..number.Index] + n + rest[(number.Index + number.Length)..];
            if (number.Value.Contains('.'))
                yield return ("2 mm", Put(StepNumber.Format(value + 0.002)));
            int digit = number.Value.LastIndexOfAny([.. "0123456789"]);
            yield return (
                "digit",
                Put(
                    number.Value[..digit]
                        + (number.Value[digit] == '9' ? '8' : (char)(number.Value[digit] + 1))
                        + number.Value[(digit + 1)..]
                )
            );
        }

        foreach (Match word in Word().Matches(rest))
        {
            yield return (
                "word",
                head
                    + rest[..word.Index]
                    + (
                        word.Value == ".T." ? ".F."
                        : word.Value == ".F." ? ".T."
                        : ".OTHER."
                    )
                    + rest[(word.Index + word.Length)..]
            );
            break;
        }

        yield return (
            "type",
            head
                + rest.Replace("IFCBOOLEAN(.T.)", "IFCLABEL('True')")
                    .Replace("IFCLABEL(", "IFCTEXT(")
                    .Replace("MEASURE(", "REAL(")
        );
        foreach (Match quoted in Quoted().Matches(rest))
            if (quoted.Length > 2)
                yield return (
                    "text",
                    head + rest[..quoted.Index] + "'~" + quoted.Value[2..] + rest[(quoted.Index + quoted.Length)..]
                );
        foreach (Match reference in Reference().Matches(rest).DistinctBy(r => r.Value).Take(6))
        {
            if (
                sibling is not null
                && Reference().Matches(sibling).FirstOrDefault(r => r.Value != reference.Value) is { } other
            )
                yield return (
                    "end",
                    head + rest[..reference.Index] + other.Value + rest[(reference.Index + reference.Length)..]
                );
            yield return ("unset", head + rest[..reference.Index] + "$" + rest[(reference.Index + reference.Length)..]);
        }

        if (Regex.Match(rest, @"\((#\d+),") is { Success: true } first)
            yield return ("member", head + rest[..(first.Index + 1)] + rest[(first.Index + first.Length)..]);
        yield return ("blank", head + Regex.Replace(rest, @"IFC[A-Z]+\([^()]*\)", "$", RegexOptions.None));
    }

    [GeneratedRegex(@"^#(\d+)=", RegexOptions.Multiline)]
    private static partial Regex Instance();

    [GeneratedRegex(@"(?<![#\w'.])-?\d+\.\d*(E[-+]?\d+)?|(?<=[(,])-?\d+(?=[,)])")]
    private static partial Regex Number();

    [GeneratedRegex(@"\.[A-Z_]+\.")]
    private static partial Regex Word();

    [GeneratedRegex(@"'[^']*'")]
    private static partial Regex Quoted();

    [GeneratedRegex(@"#\d+")]
    private static partial Regex Reference();
}
