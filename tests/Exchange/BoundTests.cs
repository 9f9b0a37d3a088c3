using System.Text;
using System.Text.RegularExpressions;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Rules of the job at their bounds, each with the number that it has to give.</summary>
public class BoundTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private static SelectionSubject Subject(string storey, string name, params string[] layers) =>
        new(IfcSchema.For("IFC4")!, storey, name, layers, "0000000000000000000001");

    // Only storey A (0), without layer X (1), with doors (2), without layer Y (3).
    [Theory]
    [InlineData("A", "IfcWall", "", -1, null)]
    [InlineData("B", "IfcWall", "", 0, "storey not chosen")]
    [InlineData("B", "IfcWall", "X", 0, "storey not chosen")]
    [InlineData("A", "IfcWall", "X", 1, "layer left out")]
    [InlineData("A", "IfcDoor", "X", 2, null)]
    [InlineData("B", "IfcDoor", "", 2, null)]
    [InlineData("A", "IfcDoor", "", -1, null)]
    [InlineData("B", "IfcDoor", "Y", 3, "layer left out")]
    [InlineData("A", "IfcWall", "Y", 3, "layer left out")]
    public void The_rule_that_decided_is_the_last_that_changed_anything(
        string storey,
        string type,
        string layer,
        int rule,
        string? reason
    )
    {
        var selection = new Selection([
            new(RuleField.Storey, ["A"], true),
            new(RuleField.Layer, ["X"], false),
            new(SelectionVerb.With, RuleField.Class, ["IfcDoor"]),
            new(RuleField.Layer, ["Y"], false),
        ]);
        var verdict = selection.Judge(Subject(storey, type, layer.Length > 0 ? [layer] : []));
        Assert.Equal((rule, reason), (verdict.Rule, verdict.Reason));
    }

    // Atan2(−0, −1) is −π; the document says half a turn one way only, and its axes are exact.
    [Fact]
    public void Half_a_turn_is_180_degrees_whichever_way_it_was_turned()
    {
        foreach (double zero in (double[])[0.0, -0.0])
            Assert.Equal(
                180,
                SettingOutDocument
                    .Of(new Frame(Vec3.Zero, new Vec3(-1, zero, 0), new Vec3(0, -1, 0), Vec3.AxisZ), EvidenceKind.Typed)
                    .TurnDegrees
            );
        foreach (double degrees in (double[])[180, -180, 540, -540])
            Assert.Equal((new Vec3(-1, 0, 0), new Vec3(0, -1, 0)), SettingOutDocument.Axes(degrees, 1));
        foreach (double degrees in (double[])[90, -270, 450])
            Assert.Equal((new Vec3(0, 2, 0), new Vec3(-2, 0, 0)), SettingOutDocument.Axes(degrees, 2));
        Assert.Equal((new Vec3(0, -1, 0), new Vec3(1, 0, 0)), SettingOutDocument.Axes(-90, 1));
    }

    [Theory]
    [InlineData("1e-6", false)]
    [InlineData("1.0000001e-6", true)]
    [InlineData("1e6", false)]
    [InlineData("999999.9", true)]
    [InlineData("0", false)]
    [InlineData("-1", false)]
    public void The_scale_of_a_setting_out_has_bounds(string scale, bool taken)
    {
        string json = $$"""{"version":1,"shift":[0,0,0],"turnDegrees":0,"scale":{{scale}},"evidence":"typed"}""";
        if (taken)
            Assert.Equal(
                double.Parse(scale, System.Globalization.CultureInfo.InvariantCulture),
                SettingOutDocument.Read(json).Scale
            );
        else
            Assert.Throws<OrderException>(() => SettingOutDocument.Read(json));
    }

    // A structural level 120 mm below the finish: its declared offset holds for what the storey says and for where it is placed.
    [Fact]
    public void A_declared_offset_counts_for_elevation_and_placement_alike()
    {
        var document = new LevelDocument
        {
            Levels = [new JobLevel(1, "One", 4), new JobLevel(2, "Two", 8)],
            Offsets = [new LevelOffset("S", "", -0.12), new LevelOffset("S", "T", -0.3)],
        };
        SourceStorey[] storeys = [new(0, 0, "O", 3.88, 3.88), new(0, 1, "T", 7.7, 7.65)];
        var schedule = document.Schedule(["S"], storeys);
        var (one, two) = (Assert.Single(schedule.Rungs[0].Storeys), Assert.Single(schedule.Rungs[1].Storeys));
        Assert.Equal((4, 4), (one.Elevation, one.PlacementZ!.Value));
        // The storey's own offset goes before that of its source; what is left of its placement is 50 mm.
        Assert.Equal(8, two.Elevation, 12);
        Assert.Equal(7.95, two.PlacementZ!.Value, 12);
        // Another source has no offset.
        Assert.Equal(3.88, document.Schedule(["R"], [storeys[0]]).Rungs[0].Storeys[0].Elevation);
    }

    // A match by hand holds against a nearer level and a better name, and against what arrives later.
    [Fact]
    public void A_match_by_hand_holds_against_heights_and_names()
    {
        var document = new LevelDocument
        {
            Levels = [new JobLevel(1, "One", 0), new JobLevel(2, "Two", 4)],
            Matches = [new LevelMatch("S", "One", 2, ByHand: true)],
        };
        SourceStorey[] storeys = [new(0, 0, "One", 0, 0), new(1, 0, "One", 0, 0)];
        var later = document.WithSure(["S", "R"], storeys);
        var schedule = later.Schedule(["S", "R"], storeys);
        Assert.Equal([(1, 0)], schedule.Rungs[0].Storeys.Select(s => (s.Source, s.Number)));
        Assert.Equal([(0, 0)], schedule.Rungs[1].Storeys.Select(s => (s.Source, s.Number)));
        Assert.Equal(2, later.Matches.Single(m => m.Source == "S").Level);
        Assert.True(later.Matches.Single(m => m.Source == "S").ByHand);
    }

    // A millionth of a metre is the tolerance of places in a model that was moved: ten of them are seen.
    [Theory]
    [InlineData(0, true)]
    [InlineData(1e-5, false)]
    [InlineData(1e-3, false)]
    public void An_element_that_is_a_hundredth_of_a_millimetre_off_is_seen(double metres, bool balanced)
    {
        var sources = demo.Sources.Where(s => s.Party == "STR").ToList();
        var order = new OrderDocument { Frame = "10,20,3,0", Name = "out" }.ToOrder(OrderLibrary.Empty);
        var plan = HandoverPlan.Of(order, sources);
        var files = new MemoryFiles();
        var written = Target
            .Of(order)
            .Write(
                plan,
                new FileNames("out", "HW", ""),
                "",
                files,
                new Reconciler(plan, new ModelLedger(plan)),
                CancellationToken.None
            );
        string text = Encoding.Latin1.GetString(files.Read(written[0].Name).Span);
        // The placement that the frame was composed into: the place of the site, or of the project's context.
        var place = Regex.Match(text, @"IFCLOCALPLACEMENT\(\$,(#\d+)\)");
        string axis = Regex.Match(text, $@"\n{place.Groups[1].Value}=IFCAXIS2PLACEMENT3D\((#\d+)").Groups[1].Value;
        var point = Regex.Match(text, $@"\n{axis}=IFCCARTESIANPOINT\(\(([-0-9.E]+),");
        double x = double.Parse(point.Groups[1].Value, System.Globalization.CultureInfo.InvariantCulture);
        double unit = ModelSnapshot.Open(Encoding.Latin1.GetBytes(text)).Units.Metres;
        string moved = FormattableString.Invariant($"{x + (metres / unit):0.###############}");
        if (!moved.Contains('.', StringComparison.Ordinal))
            moved += '.';
        string damaged =
            text[..point.Groups[1].Index] + moved + text[(point.Groups[1].Index + point.Groups[1].Length)..];
        var again = new Reconciler(plan, Target.Of(order).NewLedger(plan));
        again.Read(Assert.Single(written), Encoding.Latin1.GetBytes(damaged), CancellationToken.None);
        var balance = again.Balance();
        Assert.True(
            balanced == balance.Balanced,
            $"{place.Value} {point.Value} {moved}\n{string.Join("\n", balance.Differences.Take(5))}"
        );
    }
}
