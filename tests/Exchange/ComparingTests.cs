using System.Text;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>What became of each element is told exactly, and what is only written otherwise is no change.</summary>
public class ComparingTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private static RevisionFingerprint Print(byte[] bytes) => RevisionFingerprint.Of(ModelSnapshot.Open(bytes));

    private RevisionFingerprint Print(string party) => Print(demo.Bytes[party]);

    private byte[] Rewritten(string party, string? unit, FrameChoice frame)
    {
        var files = new MemoryFiles();
        var order = new HandoverOrder(
            Selection.All,
            TargetCatalog.Ifc,
            false,
            unit is null ? null : LengthUnit.Find(unit)
        )
        {
            Frame = frame,
        };
        var result = HandoverRunner.Run(
            new HandoverRun(order, [.. demo.Sources.Where(s => s.Party == party)], files)
            {
                Job = "HW",
                TimeStamp = "2026-11-23T10:00:00",
            }
        );
        return files.Read(result.Files.Single().Name).ToArray();
    }

    [Theory]
    [InlineData("ARC")]
    [InlineData("STR")]
    [InlineData("SRV")]
    public void A_model_compared_with_itself_did_not_change(string party)
    {
        var print = Print(party);
        var changes = RevisionComparer.Compare(print, print);
        Assert.True(changes.IsEmpty);
        Assert.Equal(print.Elements.Count, changes.Same);
        // Nor when its instances stand in another order.
        Assert.True(RevisionComparer.Compare(print, Print(Reversed(demo.Bytes[party]))).IsEmpty);
    }

    [Theory]
    [InlineData("ARC", "ft")]
    [InlineData("STR", "mm")]
    [InlineData("SRV", "m")]
    public void Another_unit_is_no_change(string party, string unit)
    {
        var changes = RevisionComparer.Compare(Print(party), Print(Rewritten(party, unit, FrameChoice.Source)));
        Assert.Empty(changes.PropertiesChanged.Take(3));
        Assert.True(changes.IsEmpty, $"{changes.Moved.Count} moved, {changes.Reshaped.Count} reshaped");
    }

    [Theory]
    [InlineData("ARC", 12.5, 100, -40, -30.48)]
    [InlineData("STR", 0, 0, 0, -30.48)]
    [InlineData("SRV", -170, 512_345.678, 5_412_345.678, 12)]
    public void Another_frame_is_one_jump_and_no_change_beside(
        string party,
        double degrees,
        double x,
        double y,
        double z
    )
    {
        var changes = RevisionComparer.Compare(
            Print(party),
            Print(Rewritten(party, null, new FrameChoice(FrameKind.Given, new Vec3(x, y, z), degrees)))
        );
        var jump = changes.FrameJump!;
        Assert.Equal(degrees, jump.TurnDegrees, 5);
        // To 0.1 mm.
        Assert.True((jump.Shift - new Vec3(x, y, z)).Length < 1e-4, $"{jump.Shift}");
        Assert.True(
            (changes with { FrameJump = null }).IsEmpty,
            $"{changes.Moved.Count} moved, {changes.Reshaped.Count} reshaped"
        );
    }

    // A file in the party's own frame, received again from that party, lands where it belongs.
    [Fact]
    public void What_is_written_in_a_partys_frame_comes_back_to_its_place()
    {
        var receiver = new SettingOutDocument { Shift = [120, -7, 30.48], TurnDegrees = -12 }.Frame;
        byte[] handed = Rewritten("ARC", "ft", new FrameChoice(FrameKind.Party) { Receiver = receiver });
        var jump = RevisionComparer.Compare(Print("ARC"), Print(handed)).FrameJump!;
        var back = receiver.Compose(jump.Frame);
        Assert.True(back.Origin.Length < 1e-4 && Math.Abs(back.X.Y) < 1e-7, $"{back}");
        Assert.Contains(
            "which frame the receiver draws in",
            Assert.Throws<OrderException>(() => Rewritten("ARC", null, new FrameChoice(FrameKind.Party))).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void No_file_is_written_where_a_setting_out_scales()
    {
        var scaled = new HandoverSource(
            "ARC",
            "ARC",
            demo.Snapshots["ARC"],
            new SettingOutDocument { Scale = 1.0001 }.Frame
        );
        Assert.Contains(
            "scale",
            Assert.Throws<OrderException>(() => new FrameChoice(FrameKind.Job).Moves([scaled])).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Changes_by_hand_are_told_one_by_one_and_mirrored_backwards()
    {
        string text = Encoding.ASCII.GetString(ModelSink.Bytes());
        string changed = text.Replace(
                "#20=IFCWALL('0000000000000000000020',$,'W1'",
                "#20=IFCWALL('0000000000000000000020',$,'W1 new'",
                StringComparison.Ordinal
            )
            .Replace("#35=IFCBLOCK(#5,2.,1.,1.);", "#35=IFCBLOCK(#5,2.5,1.,1.);", StringComparison.Ordinal)
            .Replace(
                "#23=IFCWALL('0000000000000000000023'",
                "#23=IFCWALL('0000000000000000000999'",
                StringComparison.Ordinal
            );
        RevisionFingerprint a = Print(Encoding.ASCII.GetBytes(text)),
            b = Print(Encoding.ASCII.GetBytes(changed));
        RevisionChanges forth = RevisionComparer.Compare(a, b),
            back = RevisionComparer.Compare(b, a);
        // The wall with another GlobalId is where it was, and as it was.
        Assert.Empty(forth.Added.Concat(forth.Removed));
        Assert.Equal(
            [("0000000000000000000999", "0000000000000000000023", "0000000000000000000999")],
            forth.Reidentified.Select(r => (r.GlobalId, r.Old, r.New))
        );
        Assert.Equal(
            [("0000000000000000000020", "W1", "W1 new")],
            forth.Renamed.Select(r => (r.GlobalId, r.Old, r.New))
        );
        // 151 has the shape of 21.
        Assert.Equal(["0000000000000000000021", "0000000000000000000151"], forth.Reshaped);
        Assert.Empty(forth.Moved);
        Assert.Equal(forth.Reidentified.Select(r => (r.New, r.Old)), back.Reidentified.Select(r => (r.Old, r.New)));
        Assert.Equal(forth.Renamed.Select(r => (r.New, r.Old)), back.Renamed.Select(r => (r.Old, r.New)));
        Assert.Equal(forth.Reshaped, back.Reshaped);
        Assert.Equal(forth.Same, back.Same);
    }

    [Fact]
    public void An_element_that_moved_is_told_by_how_much()
    {
        var print = Print("STR");
        int n = print.Elements.Select((e, i) => (e, i)).First(p => p.e.Place is not null && p.e.Shape is not null).i;
        var by = new Vec3(0.3, -0.02, 1);
        var moved = print
            .Elements.Select((e, i) => i != n ? e : e with { Place = e.Place!.Value.In(Frame.At(by)) })
            .ToList();
        var changes = RevisionComparer.Compare(print, print with { Elements = moved });
        Assert.Null(changes.FrameJump);
        Assert.True((changes.Moved.Single().By - by).Length < 1e-9);
        // With a jump of the frame beside, it still moved by itself.
        var jump = new SettingOutDocument { Shift = [700, 20, -30.48], TurnDegrees = 12 }.Frame;
        var jumped = moved.ConvertAll(e => e.Place is { } p ? e with { Place = p.In(jump) } : e);
        changes = RevisionComparer.Compare(print, print with { Elements = jumped });
        Assert.NotNull(changes.FrameJump);
        Assert.Equal(print.Elements[n].GlobalId, changes.Moved.Single().GlobalId);
        Assert.Equal(by.Length, changes.Moved.Single().By.Length, 4);
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void New_GlobalIds_are_paired_by_class_place_and_shape(bool jumps)
    {
        var print = Print("STR");
        var jump = jumps ? new SettingOutDocument { Shift = [50, 7, 3], TurnDegrees = 30 }.Frame : Frame.Identity;
        var renamed = print
            .Elements.Select((e, i) => e with { GlobalId = $"new{i}", Place = e.Place?.In(jump) })
            .ToList();
        var changes = RevisionComparer.Compare(print, print with { Elements = renamed });
        Assert.True(changes.PairedByShape);
        Assert.Equal(jumps, changes.FrameJump is not null);
        int unplaced = print.Elements.Count(e => e.Place is null);
        Assert.Equal((unplaced, unplaced), (changes.Added.Count, changes.Removed.Count));
        Assert.Empty(changes.Moved);
    }

    [Theory]
    [InlineData("1.5", "m", "1500.", "mm", true)]
    [InlineData("16.25", "ft", "4.953", "m", true)]
    [InlineData("1", "m²", "10.763910416709722", "square foot", true)]
    [InlineData("1.5", "m", "1.5", "mm", false)]
    [InlineData("True", "", "False", "", false)]
    [InlineData("", "", "0", "", false)]
    public void Values_are_compared_as_quantities(string a, string unitA, string b, string unitB, bool same) =>
        Assert.Equal(
            same,
            RevisionComparer.SameValue(new PrintedProperty("x", a, unitA), new PrintedProperty("x", b, unitB))
        );

    [Fact]
    public void Inches_taken_for_millimetres_are_seen_by_the_doors()
    {
        string text = Encoding.Latin1.GetString(demo.Bytes["ARC"]);
        var right = FrameReader.Read(demo.Snapshots["ARC"]);
        Assert.DoesNotContain(right.Disagreements, d => d.StartsWith("Declared", StringComparison.Ordinal));
        Assert.Equal("millimetre", right.Unit);
        int unit = text.IndexOf(".LENGTHUNIT.,.MILLI.,.METRE.", StringComparison.Ordinal);
        Assert.True(unit > 0);
        var metres = FrameReader.Read(
            ModelSnapshot.Open(
                Encoding.Latin1.GetBytes(
                    text.Replace(".LENGTHUNIT.,.MILLI.,.METRE.", ".LENGTHUNIT.,$,.METRE.", StringComparison.Ordinal)
                )
            )
        );
        Assert.Contains("as millimetre doors are 2.1", metres.Disagreements[0], StringComparison.Ordinal);
        Assert.Contains("reaches", metres.Disagreements[^1], StringComparison.Ordinal);
    }

    // Instances in the reverse order; names stay.
    private static byte[] Reversed(byte[] model)
    {
        string text = Encoding.Latin1.GetString(model);
        int from = text.IndexOf("DATA;", StringComparison.Ordinal) + 5,
            to = text.LastIndexOf("ENDSEC;", StringComparison.Ordinal);
        string data = string.Join('\n', text[from..to].Split('\n').Where(l => l.Trim().Length > 0).Reverse());
        return Encoding.Latin1.GetBytes($"{text[..from]}\n{data}\n{text[to..]}");
    }
}
