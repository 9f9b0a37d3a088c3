using System.Globalization;
using SteadyLintel.Cad;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>What a unit of a drawing is, by each kind of evidence alone and against one another.</summary>
public class ScaleTests
{
    [Fact]
    public void One_known_length_gives_the_scale_and_its_last_place_the_error()
    {
        // 155.21 units are 15.521 m, known to half a millimetre.
        var drawing = Sheet(new Line { Start = new(0, 0, 0), End = new(400, 0, 0) });
        var best = ScaleReader.Read(drawing, [KnownLength.Read("10,20,165.21,20,15.521 m")]).Best!;
        Assert.Equal((0.1, "known lengths"), (Math.Round(best.MetresPerUnit, 12), best.Evidence));
        Assert.Equal(0.0005 / 15.521, best.Error, 12);
        // Over 400 units, 40 m.
        Assert.Equal(0.0005 / 15.521 * 40, best.PlusMinus, 9);
    }

    [Theory]
    [InlineData("15.521 m", 15.521, 0.0005)]
    [InlineData("15521", 15.521, 0.0005)]
    [InlineData("15.521", 15.521, 0.0005)]
    [InlineData("16'-2 3/4\"", 4.94665, 0.0254 / 8)]
    [InlineData("12'", 3.6576, 0.3048 / 2)]
    [InlineData("96 cm", 0.96, 0.005)]
    public void A_length_is_typed_in_any_notation_and_known_to_half_its_last_place(
        string text,
        double metres,
        double uncertainty
    )
    {
        var known = KnownLength.Of(default, new Vec2(1, 0), text);
        Assert.Equal((metres, uncertainty), (Math.Round(known.Metres, 9), Math.Round(known.Uncertainty, 9)));
    }

    // Least squares through zero, worked by hand: d = 100, 200, 300 and L = 10.02, 19.98, 30.01 give Σ L d / Σ d² = 14 001 / 140 000.
    [Fact]
    public void Several_known_lengths_are_fitted_with_a_residual_each()
    {
        var found = ScaleReader.Read(Sheet(), [Known(100, "10.02 m"), Known(200, "19.98 m"), Known(300, "30.01 m")]);
        double scale = ((10.02 * 100) + (19.98 * 200) + (30.01 * 300)) / 140_000;
        Assert.Equal(scale, found.Best!.MetresPerUnit, 12);
        Assert.Equal(
            [10.02 - (100 * scale), 19.98 - (200 * scale), 30.01 - (300 * scale)],
            found.Known.Select(k => Math.Round(k.Residual, 12)),
            (a, b) => Math.Abs(a - b) < 1e-9
        );

        static KnownLength Known(double units, string length) => KnownLength.Of(default, new Vec2(units, 0), length);
    }

    // Drawn at 1:100 on paper: a unit is a millimetre of paper, so 100 mm; the declared millimetre makes doors 9 mm wide.
    [Fact]
    public void Dimensions_give_the_scale_and_doors_speak_against_the_declared_unit()
    {
        var drawing = Sheet(Door(9), new Line { Start = new(0, 0, 0), End = new(480, 240, 0) });
        drawing.Units = 4;
        foreach (var (length, text) in new[] { (80.0, "8.00"), (240, "24.00"), (480.01, "48.00"), (33, "9.99") })
            Measure(drawing, length, text);
        var found = ScaleReader.Read(drawing);
        Assert.Equal("dimensions", found.Best!.Evidence);
        Assert.Equal(0.1, found.Best.MetresPerUnit, 5);
        Assert.Contains(
            "3 of its dimensions, read in metres; 1 of 4 disagree",
            found.Best.Detail,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "1 door leaves would be 0.009 m wide",
            found.Candidates.Single(c => c.Evidence == "declared").Doubt,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("8000", 80, 0.1)]
    [InlineData("8000 mm", 80, 0.1)]
    [InlineData("26'-3\"", 315, 0.0254)]
    [InlineData("800 cm", 8, 1)]
    public void Dimensions_are_read_in_the_unit_they_are_written_in(string text, double drawn, double metres)
    {
        var drawing = Sheet(new Line { Start = new(0, 0, 0), End = new(drawn * 6, drawn * 3, 0) });
        for (int i = 0; i < 3; i++)
            Measure(drawing, drawn, text);
        var best = ScaleReader.Read(drawing).Best!;
        Assert.Equal(("dimensions", metres), (best.Evidence, Math.Round(best.MetresPerUnit, 4)));
    }

    [Fact]
    public void A_scale_bar_is_numbers_as_far_apart_as_they_say_with_a_unit()
    {
        var drawing = Sheet(
            Word("0", 100),
            Word("5", 150),
            Word("10", 200),
            Word("20 m", 300),
            new Line { Start = new(0, 0, 0), End = new(900, 500, 0) }
        );
        var bar = ScaleReader.Read(drawing).Candidates.Single(c => c.Evidence == "scale bar");
        Assert.Equal(0.1, bar.MetresPerUnit, 9);
        // Tags of a grid stand in a row too, and say no length.
        Assert.DoesNotContain(ScaleReader.Read(Sheet(Word("0", 0), Word("1", 8), Word("2", 16))).Candidates, c =>
            c.Evidence == "scale bar"
        );
    }

    [Theory]
    [InlineData("Concourse 1:100", 0.1)]
    [InlineData("Scale 1 : 50", 0.05)]
    [InlineData("11:100", null)]
    [InlineData("2021-11:12", null)]
    public void A_scale_that_is_written_in_the_drawing_makes_a_unit_a_millimetre_of_paper(
        string text,
        double? metres
    ) =>
        Assert.Equal(
            metres,
            ScaleReader.Read(Sheet(Word(text, 0))).Candidates.FirstOrDefault(c => c.Evidence == "sheet")?.MetresPerUnit
        );

    [Fact]
    public void The_demo_says_the_same_by_dimensions_sheet_and_declaration()
    {
        using var stream = new MemoryStream();
        HeronWharf.Drawings[0].Write(stream);
        var found = ScaleReader.Read(CadFile.Read(stream.ToArray()).Drawing);
        Assert.Equal(["dimensions", "sheet", "declared"], found.Candidates.Select(c => c.Evidence));
        Assert.All(found.Candidates, c => Assert.Equal((0.001, null), (Math.Round(c.MetresPerUnit, 9), c.Doubt)));
    }

    [Theory]
    [InlineData("1,2,3")]
    [InlineData("0,0,1,1,many")]
    [InlineData("0,0,0,0,5 m")]
    [InlineData("0,0,1,0,-5 m")]
    public void A_known_length_that_is_none_is_refused(string text) =>
        Assert.Throws<OrderException>(() => KnownLength.Read(text));

    // The architect's plan: a unit is a tenth of a metre, A/1 stands at 60, 80 units, so that its origin lies at −6, −8 m in the job.
    [Fact]
    public void A_grid_is_read_from_texts_in_circles_and_places_the_drawing()
    {
        var drawing = Plan(0);
        var axes = DrawingGrids.Of(drawing, 0.1);
        Assert.Equal(["1", "2", "3", "4", "A", "B", "C", "D", "E", "F", "G"], axes.Select(a => a.Tag));
        PlanAxis[] job =
        [
            new("a", new(0, -5), new(0, 30)),
            new("G", new(48, 0), new(48, 24)),
            new("01", new(0, 0), new(48, 0)),
            new("4", new(0, 24), new(9, 24)),
        ];
        var place = SheetPlacing.ByGrids(0.1, axes, job);
        Assert.Equal(
            (-6.0, -8.0, 0.0, 0.1),
            (
                Math.Round(place.Document.Shift[0], 9),
                Math.Round(place.Document.Shift[1], 9),
                Math.Round(place.Document.TurnDegrees, 9),
                place.Document.Scale
            )
        );
        // The same from two corners that somebody picked, turned by a quarter.
        var turned = SheetPlacing.ByPoints(
            0.1,
            [
                new ControlPoint("1", new(60, 80, 0), new(100, 50, 0)),
                new ControlPoint("2", new(540, 80, 0), new(100, 98, 0)),
            ]
        );
        var corner = turned.Document.Frame.Point(new Vec3(540, 320, 0));
        Assert.Equal((76.0, 98.0), (Math.Round(corner.X, 9), Math.Round(corner.Y, 9)));
        Assert.NotEmpty(SheetPlacing.ByPoints(0.1, []).Notes);
    }

    [Fact]
    public void Lines_for_the_combined_view_lie_where_the_place_puts_them()
    {
        var drawing = Plan(0);
        var frame = SheetPlacing.Typed(0.1, new Vec2(500_000 - 6, 5_000_000 - 8), 0).Document.Frame with { };
        using var read = new BinaryReader(
            new MemoryStream(SheetLines.Of(drawing, frame with { Origin = frame.Origin with { Z = 4.8 } }))
        );
        double x = read.ReadDouble(),
            y = read.ReadDouble(),
            z = read.ReadDouble();
        uint count = read.ReadUInt32();
        Assert.Equal(4.8, z);
        Assert.Equal(28 + (32 * count), read.BaseStream.Length);
        var ends = Enumerable
            .Range(0, (int)count)
            .Select(_ => (A: Next(), B: Next(), Rgb: read.ReadUInt32(), Item: read.ReadUInt32()))
            .SelectMany(e => new[] { e.A, e.B })
            .ToHashSet();
        // The outer corner of the walls at G/4, to a tenth of a millimetre, at map coordinates.
        Assert.Contains(ends, e => Math.Abs(e.X - 500_048) < 1e-4 && Math.Abs(e.Y - 5_000_024) < 1e-4 && e.Z == 4.8);

        Vec3 Next() => new(x + read.ReadSingle(), y + read.ReadSingle(), z + read.ReadSingle());
    }

    // A line of 10 with dashes of 3 and gaps of 1 is drawn as 0–3, 4–7 and 8–10; a door's leaf in a block is picked with its block.
    [Fact]
    public void Dashes_are_drawn_and_a_segment_says_what_it_belongs_to()
    {
        var drawing = Sheet();
        var dashed = new LineType
        {
            Name = "DASHED",
            Handle = drawing.NextHandle(),
            Owner = drawing.LineTypes.Handle,
        };
        dashed.Dashes.AddRange([new Dash(3), new Dash(-1)]);
        drawing.LineTypes.Add(dashed);
        drawing.Add(
            new Line
            {
                Start = default,
                End = new(10, 0, 0),
                LineType = dashed.Handle,
            }
        );
        var door = drawing.AddBlock("DOOR");
        drawing.Add(
            new Text
            {
                Value = "D%%d1",
                Height = 1,
                Insertion = new(0, 5, 0),
            },
            door
        );
        drawing.Add(new Insert { Block = door.Handle, Layer = drawing.AddLayer("A-DOOR").Handle });
        byte[] lines = SheetLines.Of(drawing, Frame.Identity);
        Assert.Equal(4u, BitConverter.ToUInt32(lines, 24));
        Assert.Equal(
            [0f, 3f, 4f, 7f, 8f, 10f],
            Enumerable
                .Range(0, 3)
                .SelectMany(i => new[] { 28, 40 }.Select(at => BitConverter.ToSingle(lines, at + (32 * i))))
        );
        Assert.Equal(
            [0u, 0u, 0u, 1u],
            Enumerable.Range(0, 4).Select(i => BitConverter.ToUInt32(lines, 28 + (32 * i) + 28))
        );
        Assert.Equal(("LINE", ""), (SheetLines.ItemOf(drawing, 0)!.Kind, SheetLines.ItemOf(drawing, 0)!.Block));
        var text = SheetLines.ItemOf(drawing, 1)!;
        Assert.Equal(("TEXT", "A-DOOR", "DOOR", "D°1"), (text.Kind, text.Layer, text.Block, text.Text));
        Assert.NotEqual(text.Handle, text.Outer);
        Assert.Null(SheetLines.ItemOf(drawing, 2));
        Assert.Null(SheetLines.ItemOf(drawing, -1));
    }

    [Fact]
    public void A_pick_is_caught_by_ends_and_centres_and_finds_what_is_drawn_nearest()
    {
        var drawing = Plan(0);
        Assert.Contains(SnapPoints.Of(drawing, 100_000), p => (p - new Vec2(60, 80)).Length < 1e-9);
        Assert.Equal(10, SnapPoints.Of(drawing, 10).Count);
        Assert.Equal("A", Assert.IsType<Text>(SnapPoints.Nearest(drawing, new Vec2(60, 348))).Value);
        Assert.IsType<ArcEntity>(
            SnapPoints.Nearest(drawing, new Vec2(60 + 35 + (9 / Math.Sqrt(2)), 240 - (9 / Math.Sqrt(2))))
        );
        Assert.Null(SnapPoints.Nearest(Sheet(), default));
    }

    private static Drawing Plan(int number)
    {
        using var stream = new MemoryStream();
        HeronWharf.Plans[number].Write(stream);
        return CadFile.Read(stream.ToArray()).Drawing;
    }

    private static Drawing Sheet(params Entity[] entities)
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        drawing.Units = 0;
        foreach (var entity in entities)
            drawing.Add(entity);
        if (entities.OfType<ArcEntity>().FirstOrDefault() is { } arc)
            drawing.Add(new Line { Start = arc.Centre, End = arc.Centre + new Vec3(arc.Radius, 0, 0) });
        return drawing;
    }

    private static ArcEntity Door(double width) =>
        new()
        {
            Centre = new(50, 50, 0),
            Radius = width,
            Start = 0,
            End = Math.PI / 2,
        };

    private static Text Word(string text, double x) =>
        new()
        {
            Value = text,
            Height = 2.5,
            Insertion = new(x, 10, 0),
        };

    // Sixty dimensions of which two agree: their word is not the drawing's.
    [Fact]
    public void Evidence_that_its_own_majority_contradicts_never_leads()
    {
        var drawing = Sheet(new Line { Start = new(0, 0, 0), End = new(480, 240, 0) });
        drawing.Units = 4;
        var random = new Random(4);
        for (int n = 0; n < 40; n++)
            Measure(drawing, 10 + (n * 3), (random.Next(100, 90_000)).ToString(CultureInfo.InvariantCulture));
        var found = ScaleReader.Read(drawing);
        Assert.NotEqual("dimensions", found.Best?.Evidence);
        Assert.DoesNotContain(found.Candidates, c => c is { Evidence: "dimensions", Leads: true });
    }

    // 21.8 mm is no unit and no usual scale, whoever says so; what somebody has measured counts all the same.
    [Fact]
    public void A_length_that_is_no_usual_unit_or_scale_never_leads_unless_it_was_measured()
    {
        var drawing = Sheet(new Line { Start = new(0, 0, 0), End = new(480, 240, 0) });
        foreach (double length in new[] { 100.0, 200, 300, 400 })
            Measure(drawing, length, (length * 21.8).ToString("0", CultureInfo.InvariantCulture));
        Assert.Null(ScaleReader.Read(drawing).Best);
        Assert.Equal(0.0218, ScaleReader.Read(drawing, [KnownLength.Read("0,0,100,0,2.180 m")]).Best!.MetresPerUnit, 9);
    }

    // Millimetres rounded to the nearest 5 (common practice) are off by 5/√12 = 1.44 mm each; over n dimensions of length d the scale is known
    // to 1.44 / √(n d²).
    [Theory]
    [InlineData(5)]
    [InlineData(1)]
    public void Rounded_dimensions_give_the_error_that_rounding_explains(int step)
    {
        var drawing = Sheet(new Line { Start = new(0, 0, 0), End = new(48_000, 24_000, 0) });
        double squares = 0;
        for (int n = 0; n < 24; n++)
        {
            double length = 1234.56 + (n * 777.7);
            squares += length * length;
            Measure(drawing, length, (Math.Round(length / step) * step).ToString("0", CultureInfo.InvariantCulture));
        }

        var best = ScaleReader.Read(drawing).Best!;
        Assert.Equal(("dimensions", 0.001), (best.Evidence, Math.Round(best.MetresPerUnit, 6)));
        double rounding = step / Math.Sqrt(12) / Math.Sqrt(squares);
        Assert.InRange(best.Error, 0.999 * rounding, 2 * rounding);
    }

    [Fact]
    public void Two_views_beside_one_another_and_a_schedule_are_asked_about()
    {
        var plan = Sheet();
        void View(Drawing drawing, double x)
        {
            for (int n = 0; n <= 20; n++)
            {
                drawing.Add(new Line { Start = new(x, n, 0), End = new(x + 20, n, 0) });
                drawing.Add(new Line { Start = new(x + n, 0, 0), End = new(x + n, 20, 0) });
            }
        }

        View(plan, 0);
        Assert.Null(ScaleReader.Read(plan).NoPlan);
        View(plan, 30);
        Assert.Contains("2 views", ScaleReader.Read(plan).NoPlan, StringComparison.Ordinal);
        var schedule = Sheet();
        for (int row = 0; row < 20; row++)
        {
            schedule.Add(new Line { Start = new(0, row, 0), End = new(100, row, 0) });
            for (int column = 0; column < 4; column++)
                schedule.Add(
                    new Text
                    {
                        Value = $"D{row}",
                        Height = 0.4,
                        Insertion = new(column * 20, row, 0),
                    }
                );
        }

        Assert.Contains("schedule", ScaleReader.Read(schedule).NoPlan, StringComparison.Ordinal);
    }

    private static void Measure(Drawing drawing, double length, string text)
    {
        var picture = drawing.AddBlock(string.Create(CultureInfo.InvariantCulture, $"*D{drawing.Blocks.Count}"));
        drawing.Add(new MText { Value = text, Height = 2.5 }, picture);
        drawing.Add(
            new Dimension(DimensionKind.Aligned)
            {
                Block = picture.Handle,
                Points = (new(0, 0, 0), new(length, 0, 0)),
                Measurement = length,
            }
        );
    }
}
