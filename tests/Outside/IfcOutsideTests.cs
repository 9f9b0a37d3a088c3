using System.Text.Json;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Files;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>web-ifc reads what we write and agrees with what we read.</summary>
public class IfcOutsideTests
{
    // EN 10365:2017: HEA 300 has 112.5 cm² with its root radius of 27 mm, IPE 240 39.1 cm². web-ifc cuts fillets off straight, which
    // gives 120.9 and 41.7 cm²; ours is checked against the table in Ifc.Tests, so these classes are compared by box only.
    private static readonly HashSet<string> StraightFillets = ["IfcBeam"];

    [Theory]
    [InlineData("ARC", 735)]
    [InlineData("STR", 539)]
    [InlineData("SRV", 921)]
    public void The_demo_is_the_same_to_another_reader(string party, int shaped)
    {
        using var folder = new TestFolder();
        string path = folder.File(party + ".ifc");
        using (var file = File.Create(path))
            HeronWharf.Models.First(d => d.Party == party).Write(file);
        Assert.Equal(shaped, Compare(path));
    }

    [Theory]
    [InlineData(null, Traits = ["Slow", "yes"])]
    [InlineData("mm", Traits = ["Slow", "yes"])]
    [InlineData("ft")]
    public void Every_file_of_a_hand_over_is_the_same_to_another_reader(string? unit)
    {
        using var folder = new TestFolder();
        using var files = new FolderFileSet(folder.Path);
        var order = new HandoverOrder(
            new Selection([new(RuleField.Storey, ["Concourse"], true)]),
            TargetCatalog.Ifc,
            true,
            unit is null ? null : LengthUnit.Find(unit)
        );
        var result = HandoverRunner.Run(
            new HandoverRun(order, DemoSources(), files) { Job = "HW", TimeStamp = "2026-11-23T10:00:00" }
        );
        files.Commit();
        Assert.True(result.Reconciliation.Balanced);
        Assert.Equal(3, result.Files.Count);
        foreach (var file in result.Files)
            Assert.True(Compare(folder.File(file.Name)) > 100);
    }

    // A quarter turn: at 30 degrees web-ifc cuts the openings of one slab so that 0.60 of it is left; unturned it gives the same 11.952 m³
    // as we do at any angle.
    [Theory]
    [InlineData("IFC2X3", null, false)]
    [InlineData("IFC4X3", null, false, Traits = ["Slow", "yes"])]
    [InlineData(null, "10,-20,3.5,90", false, Traits = ["Slow", "yes"])]
    [InlineData("IFC4", "local", true)]
    [InlineData("IFC2X3", null, true, Traits = ["Slow", "yes"])]
    public void Rewritten_files_are_the_same_to_another_reader(string? schema, string? frame, bool merge)
    {
        using var folder = new TestFolder();
        using var files = new FolderFileSet(folder.Path);
        var order = new HandoverOrder(
            new Selection([new(RuleField.Storey, ["Gallery"], true)]),
            TargetCatalog.Ifc,
            false,
            null
        )
        {
            Schema = schema,
            Frame = FrameChoice.Parse(frame ?? "source")!,
            Merge = merge,
        };
        var result = HandoverRunner.Run(
            new HandoverRun(order, DemoSources(), files) { Job = "HW", TimeStamp = "2026-11-23T10:00:00" }
        );
        files.Commit();
        Assert.True(result.Reconciliation.Balanced);
        Assert.Equal(merge ? 1 : 3, result.Files.Count);
        foreach (var file in result.Files)
            Assert.True(Compare(folder.File(file.Name)) > 100);
    }

    /// <summary>Hand-over frames of a source that is set out: what the file must be moved by, told by hand.</summary>
    public static TheoryData<string, Frame> Frames
    {
        get
        {
            Frame set = Turned(-100, 40, 30.48, -12),
                receiver = Turned(7, -9, -2, 33),
                map = Turned(432_100, 5_411_900, 3, 17);
            return new()
            {
                { "source", Frame.Identity },
                { "job", set },
                { "party", receiver.Inverse().Compose(set) },
                { "map", map.Compose(set) },
                { "250,-40,-30.48,12", Turned(250, -40, -30.48, 12) },
            };

            static Frame Turned(double x, double y, double z, double degrees) =>
                new SettingOutDocument { Shift = [x, y, z], TurnDegrees = degrees }.Frame;
        }
    }

    [Theory]
    [MemberData(nameof(Frames))]
    public void In_every_frame_another_reader_finds_every_box_where_the_transform_says(string frame, Frame move)
    {
        using var folder = new TestFolder();
        using var files = new FolderFileSet(folder.Path);
        var job = (Frame)Frames.Single(r => r.Data.Item1 == "job").Data.Item2;
        var source = DemoSources().First(s => s.Party == "STR") with { SettingOut = job };
        var choice = FrameChoice.Parse(frame)! with
        {
            Receiver = new SettingOutDocument { Shift = [7, -9, -2], TurnDegrees = 33 }.Frame,
            Map = MapPlace.Of(
                new GeoReference("IfcMapConversion", "EPSG:32630", 432_100, 5_411_900, 3, 17),
                Frame.Identity
            ),
        };
        var order = new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null)
        {
            Frame = choice,
            Schema = "IFC4",
        };
        var result = HandoverRunner.Run(
            new HandoverRun(order, [source], files) { Job = "HW", TimeStamp = "2026-11-23T10:00:00" }
        );
        files.Commit();
        Assert.True(result.Reconciliation.Balanced);
        string path = folder.File(Assert.Single(result.Files).Name);
        Assert.Equal(frame == "map", File.ReadAllText(path).Contains("IFCMAPCONVERSION", StringComparison.Ordinal));
        var theirs = OutsideReaders.WebIfc(path).SkipLast(1).ToDictionary(e => e.GetProperty("globalId").GetString()!);
        int compared = 0;
        foreach (var element in source.Snapshot.Elements)
        {
            if (
                source.Snapshot.Shapes.Read(element.Index) is not { Parts.Count: > 0 } shape
                || !theirs[element.GlobalId].TryGetProperty("min", out var low)
            )
                continue;
            var box = shape.ToWorld().Map(move).Bounds();
            double[] ours = [box.Min.X, box.Min.Y, box.Min.Z, box.Max.X, box.Max.Y, box.Max.Z];
            var other = low.EnumerateArray()
                .Concat(theirs[element.GlobalId].GetProperty("max").EnumerateArray())
                .Select(v => v.GetDouble());
            Assert.All(ours.Zip(other), pair => Assert.InRange(pair.First - pair.Second, -0.001, 0.001));
            compared++;
        }

        Assert.True(compared > 500, $"{compared}");
    }

    // Kinds that web-ifc 0.0.78 shapes differently, each with who is right by the formula of SolidTests (ours keeps it within 0.1 %).
    private static readonly Dictionary<string, string> ShapedOtherwise = new()
    {
        ["sphere"] = "chords inside the sphere: 0.18 % too small",
        ["revolved full turn"] = "chords inside the turn: 0.14 % too small",
        ["revolved quarter"] = "chords inside the turn: 0.14 % too small",
        ["half-space in a box"] = "not cut",
        ["revolved tapered"] = "not shaped",
        ["swept disk, filleted"] = "not shaped",
        ["swept disk by parameters of a trimmed circle"] =
            "not shaped: it says that it does not know parameters of such a directrix",
        ["swept disk by parameters of a trimmed line"] = "not shaped, for the same reason",
        ["fixed reference"] = "not shaped",
        ["sectioned spine"] = "not shaped",
    };

    [Fact]
    public void Solids_have_the_same_volume_to_another_reader()
    {
        using var folder = new TestFolder();
        var differing = new List<string>();
        var rows = SolidCases.Solids.Select(r => ((ITheoryDataRow)r).GetData()).ToList();
        var paths = rows.Select((_, n) => folder.File($"solid{n}.ifc")).ToList();
        for (int n = 0; n < rows.Count; n++)
            File.WriteAllText(paths[n], Sample.ProxyText((string)rows[n][1]!));
        foreach (var (row, elements) in rows.Zip(OutsideReaders.WebIfc(paths)))
        {
            string name = (string)row[0]!;
            var theirs = elements.SkipLast(1).Single(e => e.GetProperty("id").GetInt32() == 103);
            double volume = theirs.TryGetProperty("volume", out var v) ? Math.Abs(v.GetDouble()) : 0;
            if (Math.Abs(volume / (double)row[2]! - 1) > 0.001)
                differing.Add(name);
        }

        Assert.Equal(ShapedOtherwise.Keys.Order(), differing.Order());
    }

    private static List<HandoverSource> DemoSources() =>
        [
            .. HeronWharf.Models.Select(d =>
            {
                using var stream = new MemoryStream();
                d.Write(stream);
                return new HandoverSource(d.Party, d.Source, ModelSnapshot.Open(stream.ToArray()));
            }),
        ];

    // Elements, GlobalIds, property values, volumes within 0.1 % and boxes within 1 mm. Returns how many shapes were compared.
    /// <summary>Compares every element as we read it with what web-ifc sees: identity, class, name, values, box and volume.</summary>
    internal static int Compare(string path)
    {
        using var delivered = DeliveredFile.Open(path);
        var snapshot = ModelSnapshot.Open(delivered.Bytes);
        var theirs = OutsideReaders.WebIfc(path);
        Assert.Equal(snapshot.Structure.Storeys.Count, theirs[^1].GetProperty("storeys").GetInt32());
        var byId = theirs.SkipLast(1).ToDictionary(e => e.GetProperty("id").GetInt32());
        int compared = 0;
        foreach (var element in snapshot.Elements)
        {
            Assert.True(
                byId.TryGetValue(snapshot.Model.File.Id(element.Index), out var other),
                $"{element.Class} {element.GlobalId} is not seen"
            );
            Assert.Equal(element.GlobalId, other.GetProperty("globalId").GetString());
            Assert.Equal(element.Class, other.GetProperty("class").GetString(), ignoreCase: true);
            Assert.Equal(element.Name, other.GetProperty("name").GetString());
            Assert.Equal(
                Values(snapshot, element),
                other
                    .GetProperty("properties")
                    .EnumerateArray()
                    .Select(p => p.GetString()!)
                    .Select(Normalised)
                    .Order(StringComparer.Ordinal)
            );
            compared += CompareShape(snapshot, element, other) ? 1 : 0;
        }

        return compared;
    }

    private static bool CompareShape(ModelSnapshot snapshot, ModelElement element, JsonElement other)
    {
        if (
            !other.TryGetProperty("volume", out var volume)
            || other.GetProperty("min")[0].ValueKind == JsonValueKind.Null
        )
            return false;
        var shape = snapshot.Shapes.Read(element.Index)!;
        // The demo's flawed sign has a depth of nothing; both readers have nothing to show.
        if (shape.Parts.Count == 0)
            return false;
        var mass = shape.Measure();
        double ratio = Math.Abs(volume.GetDouble()) / mass.Volume;
        if (!StraightFillets.Contains(element.Class))
            Assert.True(ratio is > 0.999 and < 1.001, $"{element.Class} {element.Name}: {ratio} of {mass}");
        double[] ours =
        [
            mass.Bounds.Min.X,
            mass.Bounds.Min.Y,
            mass.Bounds.Min.Z,
            mass.Bounds.Max.X,
            mass.Bounds.Max.Y,
            mass.Bounds.Max.Z,
        ];
        var box = other
            .GetProperty("min")
            .EnumerateArray()
            .Concat(other.GetProperty("max").EnumerateArray())
            .Select(v => v.GetDouble());
        Assert.All(ours.Zip(box), pair => Assert.InRange(pair.First - pair.Second, -0.001, 0.001));
        return true;
    }

    // Both readers' values as text; the other reader gives single values of the element's own sets only.
    private static List<string> Values(ModelSnapshot snapshot, ModelElement element) =>
        [
            .. snapshot
                .Properties.Of(element.Index)
                .Where(s => !s.FromType && !s.IsQuantity)
                .SelectMany(s =>
                    s.Properties.Where(p => p.Measure.Length > 0).Select(p => $"{s.Name}.{p.Name}={p.Value}")
                )
                .Select(Normalised)
                .Order(StringComparer.Ordinal),
        ];

    private static string Normalised(string text)
    {
        int at = text.IndexOf('=') + 1;
        string value = text[at..];
        if (value is "true" or "True" or "T")
            value = "True";
        if (value is "false" or "False" or "F")
            value = "False";
        return text[..at]
            + (
                double.TryParse(value, System.Globalization.CultureInfo.InvariantCulture, out double number)
                    ? number.ToString("G9", System.Globalization.CultureInfo.InvariantCulture)
                    : value
            );
    }
}
