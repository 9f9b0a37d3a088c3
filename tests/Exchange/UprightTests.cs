using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Sections and elevations: level marks read, the drawing stands upright along its line, marks are checked against the
/// schedule.</summary>
public class UprightTests
{
    [Theory]
    [InlineData("+4.80", 4.8)]
    [InlineData("±0.000", 0.0)]
    [InlineData("-1,20", -1.2)]
    [InlineData("−3.50 m", -3.5)]
    [InlineData("FFL +12.40", 12.4)]
    [InlineData("+8.600 OK FFB", 8.6)]
    // 15 ft 9 in by hand: 15.75 × 0.3048.
    [InlineData("+15'-9\"", 4.8006)]
    [InlineData("4.80", null)]
    [InlineData("+4.8", null)]
    [InlineData("+48", null)]
    [InlineData("1:100", null)]
    [InlineData("A+4.80-B", null)]
    public void A_level_mark_is_a_height_with_its_sign(string text, double? metres)
    {
        if (metres is not { } value)
            Assert.Null(LevelMarks.ValueOf(text));
        else
            Assert.Equal(value, LevelMarks.ValueOf(text)!.Value, 1e-9);
    }

    // In paper scale 1:100, a millimetre is 0.1 m: the quay's line at 30, levels drawn above it, each text a little above its line.
    private static Drawing Section(params (double Metres, string Text)[] levels)
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        foreach (var (metres, text) in levels)
        {
            double y = 30 + (metres * 10);
            drawing.Add(new Line { Start = new Vec3(100, y, 0), End = new Vec3(130, y, 0) });
            drawing.Add(
                new Text
                {
                    Value = text,
                    Insertion = new Vec3(105, y + 1, 0),
                    Height = 2.5,
                }
            );
        }

        return drawing;
    }

    private static readonly LevelSchedule Schedule = new LevelDocument()
        .With(["a"], [new SourceStorey(0, 0, "Quay level", 0, null), new SourceStorey(0, 1, "Concourse", 4.8, null)])
        .Schedule(
            ["a"],
            [new SourceStorey(0, 0, "Quay level", 0, null), new SourceStorey(0, 1, "Concourse", 4.8, null)]
        );

    [Fact]
    public void A_section_stands_along_its_line_as_high_as_its_marks_say()
    {
        var marks = LevelMarks.Of(Section((0, "±0.00"), (4.8, "+4.80"), (8.5, "+8.50")));
        Assert.Equal([30.0, 78.0, 115.0], marks.Select(m => m.At.Y).Order());
        var placing = SheetPlacing.Upright(0.1, new Vec2(10, 20), new Vec2(10, 50), marks, Schedule);
        Assert.Empty(placing.Notes);
        // The line runs north: by hand, x of the drawing goes along y, y up, and the quay's line at 30 is zero.
        var frame = placing.Document.Frame;
        Assert.True((frame.Point(new Vec3(50, 78, 0)) - new Vec3(10, 25, 4.8)).Length < 1e-9);
        Assert.Equal(1e-3, frame.Determinant, 1e-12);
        var again = SettingOutDocument.Read(placing.Document.Write());
        Assert.True((again.Frame.Point(new Vec3(50, 78, 0)) - new Vec3(10, 25, 4.8)).Length < 1e-9);
    }

    [Fact]
    public void A_mark_that_disagrees_is_told_and_moves_nothing()
    {
        var marks = LevelMarks.Of(Section((0, "±0.00"), (4.7, "+4.70"), (8.5, "+8.50"), (12, "+12.40")));
        var placing = SheetPlacing.Upright(0.1, default, new Vec2(1, 0), marks, Schedule);
        Assert.Equal(-3, placing.Document.Shift[2], 1e-9);
        Assert.Equal(2, placing.Notes.Count);
        Assert.Contains(
            "+4.70 differs from the level schedule: Concourse is at +4.800",
            placing.Notes[0],
            StringComparison.Ordinal
        );
        Assert.Contains("+12.40 is 0.400 m too low", placing.Notes[1], StringComparison.Ordinal);
    }

    // The lines that the combined view shows: from 100, 30 to 130, 30 along y of the job, at the height of the quay.
    [Fact]
    public void Its_lines_stand_upright_among_the_models()
    {
        var drawing = Section((0, "±0.00"));
        var placing = SheetPlacing.Upright(0.1, new Vec2(10, 20), new Vec2(10, 50), LevelMarks.Of(drawing), Schedule);
        using var reader = new BinaryReader(new MemoryStream(SheetLines.Of(drawing, placing.Document.Frame)));
        var origin = new Vec3(reader.ReadDouble(), reader.ReadDouble(), reader.ReadDouble());
        Assert.Equal(2u, reader.ReadUInt32());
        Vec3 a = Next(),
            b = Next();
        Assert.True((a - new Vec3(10, 30, 0)).Length + (b - new Vec3(10, 33, 0)).Length < 1e-5, $"{a}, {b}");

        Vec3 Next() => origin + new Vec3(reader.ReadSingle(), reader.ReadSingle(), reader.ReadSingle());
    }
}
