using System.Globalization;
using CsCheck;
using SteadyLintel.Cad;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Windows against points along what is drawn; steps against the balance and one another.</summary>
public class PreparingTests
{
    private static readonly Gen<Vec2> Points = Gen.Select(Gen.Double[-10, 10], Gen.Double[-10, 10], (x, y) =>
        new Vec2(x, y)
    );

    // A thousand points along an arc of an ellipse: if one lies in the window by the formula of a rectangle, it touches; if none comes
    // near it, it does not.
    [Fact]
    public void An_arc_touches_a_window_exactly_where_points_of_it_lie_in_it() =>
        Gen.Select(Points, Points, Points, Gen.Double[-7, 7], Gen.Double[0.01, 2 * Math.PI], Gen.Select(Points, Points))
            .Sample(
                (centre, u, v, from, turn, corners) =>
                {
                    var (a, b) = corners;
                    if (Math.Abs((b.X - a.X) * (b.Y - a.Y)) < 1e-3)
                        return;
                    var piece = new DrawnPiece(centre, u, v, from, from + turn);
                    bool touches = new Window([a, b]).Touches(piece);
                    double least = Enumerable
                        .Range(0, 4001)
                        .Min(i => Outside(piece.At(from + (turn * i / 4000)), a, b));
                    // On the edge itself the last digit decides.
                    if (least < -1e-9)
                        Assert.True(touches, $"a point lies in it: {piece}, {a}, {b}");
                    double step = (u.Length + v.Length) * turn / 4000;
                    if (least > step)
                        Assert.False(touches, $"the nearest point is {least} away: {piece}, {a}, {b}");
                }
            );

    [Fact]
    public void A_segment_touches_a_window_exactly_where_points_of_it_lie_in_it() =>
        Gen.Select(Points, Points, Points, Points)
            .Sample(
                (p, q, a, b) =>
                {
                    if (Math.Abs((b.X - a.X) * (b.Y - a.Y)) < 1e-3)
                        return;
                    bool touches = new Window([a, b]).Touches(DrawnPiece.Segment(p, q));
                    double least = Enumerable.Range(0, 2001).Min(i => Outside(p + ((q - p) * (i / 2000.0)), a, b));
                    // On the edge itself the last digit decides.
                    if (least < -1e-9)
                        Assert.True(touches);
                    if (least > (q - p).Length / 2000)
                        Assert.False(touches);
                }
            );

    private static double Outside(Vec2 p, Vec2 a, Vec2 b)
    {
        double x = Math.Max(Math.Min(a.X, b.X) - p.X, p.X - Math.Max(a.X, b.X)),
            y = Math.Max(Math.Min(a.Y, b.Y) - p.Y, p.Y - Math.Max(a.Y, b.Y));
        return Math.Max(x, y);
    }

    // Every kind with its nearest neighbour just inside and just outside of a window from 0, 0 to 10, 10.
    public static TheoryData<string, Entity, Entity> Kinds =>
        new()
        {
            {
                "line across a corner",
                new Line { Start = new(-1, 9, 0), End = new(1, 11, 0) },
                new Line { Start = new(-1, 9.1, 0), End = new(1, 11.1, 0) }
            },
            { "circle around", Round(5, 5, 5), Round(5, 5, 7.2) },
            { "circle beside", Round(12, 5, 2), Round(12, 5, 1.99) },
            { "bulge", Bulge(10.9), Bulge(11.1) },
            { "text reaching in", Text(-3.9), Text(-4.5) },
            { "solid", Filled(new Solid(), 9.9), Filled(new Solid(), 10.1) },
        };

    [Theory]
    [MemberData(nameof(Kinds))]
    public void What_lies_wholly_outside_goes_and_what_touches_stays(string kind, Entity inside, Entity outside)
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        drawing.Add(inside);
        drawing.Add(outside);
        var test = new WindowTest(drawing, new Window([new(0, 0), new(10, 10)]));
        Assert.True(test.Touches(inside), kind);
        Assert.False(test.Touches(outside), kind);
    }

    [Fact]
    public void An_insert_turned_scaled_and_mirrored_is_judged_by_what_it_shows()
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        var block = drawing.AddBlock("DOOR");
        drawing.Add(Round(0, 0, 1), block);
        var insert = new Insert
        {
            Block = block.Handle,
            Location = new(15, 5, 0),
            Scale = new(-2, 5.01, 1),
            Rotation = Math.PI / 2,
        };
        drawing.Add(insert);
        // The circle is an ellipse now, 5.01 long along X: it reaches x = 9.99.
        Assert.True(new WindowTest(drawing, new Window([new(0, 0), new(10, 10)])).Touches(insert));
        insert.Scale = new Vec3(-2, 4.99, 1);
        Assert.False(new WindowTest(drawing, new Window([new(0, 0), new(10, 10)])).Touches(insert));
    }

    [Fact]
    public void A_window_within_a_hatch_shows_it_and_one_within_its_island_does_not()
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        var hatch = new Hatch();
        foreach (double half in (double[])[100, 20])
        {
            var path = new HatchPath { Flags = 3, Closed = true };
            path.Vertices.AddRange([
                (new Vec2(-half, -half), 0),
                (new Vec2(half, -half), 0),
                (new Vec2(half, half), 0),
                (new Vec2(-half, half), 0),
            ]);
            hatch.Paths.Add(path);
        }

        drawing.Add(hatch);
        Assert.True(new WindowTest(drawing, new Window([new(50, 50), new(60, 60)])).Touches(hatch));
        Assert.False(new WindowTest(drawing, new Window([new(-5, -5), new(5, 5)])).Touches(hatch));
        Assert.False(new WindowTest(drawing, new Window([new(200, 50), new(210, 60)])).Touches(hatch));
    }

    [Fact]
    public void A_concave_window_holds_what_lies_in_its_arms_alone()
    {
        var window = new Window([
            new(0, 0),
            new(10, 0),
            new(10, 10),
            new(8, 10),
            new(8, 2),
            new(2, 2),
            new(2, 10),
            new(0, 10),
        ]);
        Assert.True(window.Holds(new Vec2(1, 9)) && window.Holds(new Vec2(9, 9)) && window.Holds(new Vec2(2, 5)));
        Assert.False(window.Holds(new Vec2(5, 5)));
        Assert.False(window.Touches(DrawnPiece.Segment(new(3, 5), new(7, 5))));
        Assert.True(window.Touches(DrawnPiece.Segment(new(3, 5), new(7, 1))));
    }

    [Fact]
    public void An_origin_and_its_inverse_leave_every_value_as_it_was()
    {
        byte[] bytes = Demo();
        var drawing = CadFile.Read(bytes).Drawing;
        DrawingPreparation.Run(
            drawing,
            Steps("""{"do":"origin","at":[1234.5678,-98.7654]},{"do":"origin","at":[-1234.5678,98.7654]}""")
        );
        var original = CadFile.Read(bytes).Drawing;
        List<CadGroup> was = [],
            now = [];
        foreach (var (a, b) in CadFacts.Objects(original).Zip(CadFacts.Objects(drawing)))
        {
            CadFacts.Of(original, a, was);
            CadFacts.Of(drawing, b, now);
            Assert.Equal(was.Count, now.Count);
            foreach (var (x, y) in was.Zip(now))
            {
                if (x.Value is double d)
                    Assert.Equal(d, (double)y.Value, 1e-9);
                else
                    Assert.Equal(x.Value, y.Value);
            }
        }
    }

    [Fact]
    public void No_step_is_a_conversion_and_every_step_balances()
    {
        byte[] bytes = Demo();
        var none = DrawingConverter.Convert(bytes, CadForm.Default, preparation: new PreparationDocument());
        Assert.Equal(DrawingConverter.Convert(bytes, CadForm.Default).Bytes, none.Bytes);
        var handle = CadFile
            .Read(bytes)
            .Drawing.Model.Entities.First(e => e is Line)
            .Handle.Value.ToString("X", CultureInfo.InvariantCulture);
        var result = DrawingConverter.Convert(
            bytes,
            CadForm.Default,
            preparation: Steps(
                $$"""
                {"do":"window","corners":[[-1000,-1000],[20000,15000]]},{"do":"drop","layers":["S-HATC"],"kinds":["text"]},{"do":"explode"},
                {"do":"drop","colours":["#8a8478"]},{"do":"rename layer","from":"S-FNDN-PADS","to":"S-GRID"},{"do":"purge"},{"do":"origin"},
                {"do":"colour","handles":["{{handle}}"],"to":"#ff0000"},{"do":"drop","layers":["nowhere"]},{"do":"explode","off":true}
                """
            )
        );
        Assert.True(result.Balanced, string.Join("\n", result.Differences));
        Assert.Equal(
            ["window", "drop", "explode", "drop", "rename layer", "purge", "origin", "colour", "drop", "explode"],
            result.Steps.Select(s => s.Do)
        );
        Assert.True(result.Steps[0].Dropped > 100 && result.Steps[1].Dropped > 10);
        Assert.NotNull(result.Steps[8].Finding);
        var again = CadFile.Read(result.Bytes).Drawing;
        Assert.DoesNotContain(again.Layers, l => l.Name == "S-FNDN-PADS");
        Assert.Equal(
            new Vec2(0, 0),
            new Vec2(Math.Round(again.Extents().Min.X, 6), Math.Round(again.Extents().Min.Y, 6))
        );
    }

    [Fact]
    public void Dropping_and_moving_may_be_done_in_any_order()
    {
        string[] steps =
        [
            """{"do":"drop","kinds":["DIMENSION"]}""",
            """{"do":"origin","at":[500,-300]}""",
            """{"do":"rename layer","from":"S-GRID","to":"G"}""",
        ];
        string Print(IEnumerable<string> order)
        {
            var drawing = CadFile.Read(Demo()).Drawing;
            DrawingPreparation.Run(drawing, Steps(string.Join(",", order)));
            using var stream = new MemoryStream();
            CadFile.Write(drawing, stream, CadForm.Default);
            return Convert.ToHexString(System.Security.Cryptography.SHA256.HashData(stream.ToArray()));
        }

        Assert.Equal(Print(steps), Print(steps.Reverse()));
    }

    [Fact]
    public void Turning_and_mirroring_keep_the_handle_and_come_back()
    {
        var drawing = CadFile.Read(Demo()).Drawing;
        var arc = new ArcEntity
        {
            Centre = new(3, 4, 0),
            Radius = 2,
            Start = 0.3,
            End = 1.9,
        };
        drawing.Add(arc);
        string h = arc.Handle.Value.ToString("X", CultureInfo.InvariantCulture);
        var run = DrawingPreparation.Run(
            drawing,
            Steps(
                $$"""
                {"do":"turn","handles":["{{h}}"],"at":[1,1],"degrees":90},{"do":"mirror","handles":["{{h}}"],"corners":[[0,0],[1,0]]},
                {"do":"mirror","handles":["{{h}}"],"corners":[[5,0],[9,0]]},{"do":"turn","handles":["{{h}}"],"at":[1,1],"degrees":-90}
                """
            )
        );
        Assert.All(run.Steps, s => Assert.Equal((1, null), (s.Changed, s.Finding)));
        var back = Assert.IsType<ArcEntity>(drawing.Model.Entities.Single(e => e.Handle == arc.Handle));
        Assert.Same(arc, run.OriginalOf(back));
        Assert.True((back.Centre - new Vec3(3, 4, 0)).Length < 1e-12 && Math.Abs(back.Radius - 2) < 1e-12);
    }

    [Theory]
    [InlineData("""{"do":"widow"}""", "Step 1: 'widow' is no step. Nearest: 'window'.")]
    [InlineData("""{"do":"purge"},{"do":"drop"}""", "Step 2: The step drop needs")]
    [InlineData("""{"do":"window","corners":[[0,0]]}""", "Step 1: a window needs")]
    [InlineData("""{"do":"origin","at":[1]}""", "Step 1: a point is two numbers")]
    [InlineData("""{"do":"drop","colours":["red"]}""", "write #rrggbb")]
    [InlineData("""{"do":"text","handles":["XY"],"to":""}""", "'XY' is no handle")]
    [InlineData("""{"do":"purge","why":1}""", "has the word 'why' (line 1)")]
    [InlineData("""{"do":"turn","handles":["2F"],"at":[0,0],"degrees":1e999}""", "")]
    public void Steps_that_make_no_sense_are_refused_with_their_number(string steps, string sentence) =>
        Assert.Contains(sentence, Assert.Throws<OrderException>(() => Steps(steps)).Message, StringComparison.Ordinal);

    [Fact]
    public void Any_text_is_steps_or_refused() =>
        Gen
            .Char.Array[0, 40]
            .Sample(noise =>
            {
                string text = """{"version":1,"steps":[{"do":"window","corners":[[0,0],[1,1]]}]}""";
                foreach (char c in noise)
                    text = text.Remove(c % text.Length, 1).Insert(c % text.Length, c.ToString());
                try
                {
                    _ = PreparationDocument.Read(text);
                }
                catch (OrderException)
                {
                    return;
                }
            });

    [Fact]
    public void Drawings_compare_by_handle_and_by_geometry_where_handles_are_new()
    {
        Drawing Read() => CadFile.Read(Demo()).Drawing;
        Assert.Equal((225, 0, 0, 0), Counts(DrawingComparer.Compare(Read(), Read())));
        var changed = Read();
        var line = changed.Model.Entities.OfType<Line>().First();
        line.End += new Vec3(100, 0, 0);
        changed.Model.Entities.RemoveAt(changed.Model.Entities.Count - 1);
        changed.Add(new Line { Start = new(1, 2, 0), End = new(3, 4, 0) });
        var forth = DrawingComparer.Compare(Read(), changed);
        Assert.Equal((223, 1, 1, 1), Counts(forth));
        Assert.Equal(["geometry"], forth.Changed[0].What);
        Assert.Equal((223, 1, 1, 1), Counts(DrawingComparer.Compare(changed, Read())));
        // New handles for everything.
        foreach (var entity in changed.Model.Entities)
            entity.Handle = new Handle(entity.Handle.Value + 1_000_000);
        var geometry = DrawingComparer.Compare(Read(), changed);
        Assert.True(geometry.PairedByGeometry);
        Assert.Equal((223, 2, 2, 0), Counts(geometry));

        static (int, int, int, int) Counts(DrawingChanges c) =>
            (c.Same, c.Added.Count, c.Removed.Count, c.Changed.Count);
    }

    // Pieces of the document's own grammar, put together at random: each is a document or a sentence, and a document runs.
    [Fact]
    public void Whatever_stands_in_a_steps_file_is_read_or_refused_with_a_sentence()
    {
        string[] steps =
        [
            "\"window\",\"corners\":[[0,0],[9000,9000]]",
            "\"origin\"",
            "\"drop\",\"layers\":[\"S-GRID\"]",
            "\"drop\",\"kinds\":[\"LINE\"]",
            "\"explode\"",
            "\"purge\"",
            "\"rename layer\",\"from\":\"S-GRID\",\"to\":\"0\"",
            "\"text\",\"handles\":[\"1F\"],\"to\":\"\"",
            "\"move\",\"handles\":[\"1F\"],\"by\":[1,2]",
            "\"turn\",\"handles\":[\"1F\"],\"at\":[1,2],\"degrees\":1e308",
            "\"mirror\",\"handles\":[\"1F\"],\"corners\":[[0,0],[1,1]]",
            "\"layer\",\"handles\":[\"1F\"],\"to\":\"\\u0000\"",
            "\"colour\",\"handles\":[\"1F\"],\"to\":\"#ff0000\"",
            "\"hatch\",\"handles\":[\"1F\"],\"spacing\":1e-8",
            "\"detail\",\"to\":\"A\",\"at\":[0,0]",
            "\"drip\"",
            "\"\"",
        ];
        string[] values =
        [
            "null",
            "true",
            "0",
            "-1",
            "1e308",
            "1e400",
            "\"\"",
            "\"0\"",
            "\"FF\"",
            "\"#ff0000\"",
            "\"S-GRID\"",
            "\"\\u0000\"",
            "[]",
            "[null]",
            "[1,2]",
            "[[0,0],[1,1]]",
            "[[0,0],[9000,0],[9000,9000]]",
            "[\"1F\"]",
            "[\"S-GRID\"]",
            "{}",
            "[[1e308,0],[0,1e308]]",
        ];
        string[] members =
        [
            "off",
            "corners",
            "at",
            "by",
            "degrees",
            "scale",
            "spacing",
            "layers",
            "kinds",
            "colours",
            "handles",
            "from",
            "to",
            "odd",
        ];
        var random = new Random(20261129);
        byte[] demo = Demo();
        int rounds = int.TryParse(Environment.GetEnvironmentVariable("LINTEL_FUZZ"), out int n) ? n : 300,
            read = 0;
        for (int round = 0; round < rounds; round++)
        {
            string some = string.Join(
                ",",
                Enumerable
                    .Range(0, random.Next(1, 4))
                    .Select(_ =>
                        $$"""{"do":{{steps[random.Next(steps.Length)]}}{{string.Concat(
                members.OrderBy(_ => random.Next()).Take(random.Next(3)).Select(m => $",\"{m}\":{values[random.Next(values.Length)]}"))}}}"""
                    )
            );
            string text =
                random.Next(8) == 0 ? some[..random.Next(some.Length)] : $$"""{"version":1,"steps":[{{some}}]}""";
            PreparationDocument document;
            try
            {
                document = PreparationDocument.Read(text);
            }
            catch (OrderException e)
            {
                Assert.True(e.Message.Length > 10, text);
                continue;
            }

            read++;
            Assert.Equal(document.Write(), PreparationDocument.Read(document.Write()).Write());
            Assert.Equal(
                document.Steps.Count,
                DrawingPreparation.Run(CadFile.Read(demo).Drawing, document).Steps.Count
            );
        }

        Assert.True(read > rounds / 20, $"{read} of {rounds} were documents");
    }

    private static PreparationDocument Steps(string steps) =>
        PreparationDocument.Read($$"""{"version":1,"steps":[{{steps}}]}""");

    private static byte[] Demo()
    {
        using var stream = new MemoryStream();
        HeronWharf.Drawings[0].Write(stream);
        return stream.ToArray();
    }

    private static Circle Round(double x, double y, double radius) => new() { Centre = new(x, y, 0), Radius = radius };

    // A half circle to the left of its way, of radius 1: from (x, 4) down to (x, 6) it bulges toward smaller x.
    private static LightPolyline Bulge(double x)
    {
        var line = new LightPolyline();
        line.Vertices.Add(new LightVertex(new Vec2(x, 6)) { Bulge = 1 });
        line.Vertices.Add(new LightVertex(new Vec2(x, 4)));
        return line;
    }

    // Four letters of height 1 reach four units to the right at most.
    private static Text Text(double x) =>
        new()
        {
            Value = "ABCD",
            Height = 1,
            Insertion = new(x, 5, 0),
        };

    private static Solid Filled(Solid solid, double x)
    {
        Vec3[] corners = [new(x, 4, 0), new(x + 1, 4, 0), new(x, 6, 0), new(x + 1, 6, 0)];
        corners.CopyTo(solid.Corners, 0);
        return solid;
    }
}
