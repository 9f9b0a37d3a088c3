using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Inserts taken apart show what they showed.</summary>
public class BlockExploderTests
{
    public static TheoryData<string, string> Ways
    {
        get
        {
            var ways = new TheoryData<string, string>();
            foreach (string way in BlockCases.Inserts.Keys)
            {
                ways.Add("PART", way);
                ways.Add("WHOLE", way);
            }

            return ways;
        }
    }

    // Points on an entity in world coordinates, found without the code under test.
    private static IEnumerable<Vec3> Points(Entity entity) =>
        entity switch
        {
            Line e => [e.Start, e.End],
            Point e => [e.Location],
            ArcEntity e => Round(e, e.Start, e.End),
            // A circle has no beginning.
            Circle e => [ObjectCoordinates.ToWorld(e.Centre, e.Normal)],
            Ellipse e => new[] { e.Start, e.End }.Select(t =>
                e.Centre + (e.Axis * Math.Cos(t)) + (e.Normal.Unit().Cross(e.Axis) * (e.Ratio * Math.Sin(t)))
            ),
            LightPolyline e => e.Vertices.Select(v =>
                ObjectCoordinates.ToWorld(new Vec3(v.Point.X, v.Point.Y, e.Elevation), e.Normal)
            ),
            Polyline { Kind: PolylineKind.Flat } e => e.Vertices.Select(v =>
                ObjectCoordinates.ToWorld(v.Location with { Z = e.Elevation }, e.Normal)
            ),
            Polyline e => e.Vertices.Select(v => v.Location),
            Face3D e => e.Corners,
            Solid e => e.Corners.Select(c => ObjectCoordinates.ToWorld(c, e.Normal)),
            Spline e => e.Controls,
            // It has a direction, but no second point.
            Ray e => [e.Start],
            MeshEntity e => e.Points,
            Leader e => e.Points,
            Text e =>
            [
                ObjectCoordinates.ToWorld(e.Insertion, e.Normal),
                ObjectCoordinates.ToWorld(
                    e.Insertion + new Vec3(Math.Cos(e.Rotation), Math.Sin(e.Rotation), 0) * e.Height,
                    e.Normal
                ),
            ],
            MText e => [e.Insertion, e.Insertion + (e.Direction.Unit() * e.Height)],
            _ => [],
        };

    private static IEnumerable<Vec3> Round(RoundEntity e, double from, double to) =>
        new[] { from, to }.Select(a =>
            ObjectCoordinates.ToWorld(e.Centre + new Vec3(e.Radius * Math.Cos(a), e.Radius * Math.Sin(a), 0), e.Normal)
        );

    private static List<Vec3> Expected(Drawing drawing, Insert insert)
    {
        var block = drawing.Blocks[insert.Block]!;
        return
        [
            .. InsertTransform
                .All(insert, block, 100)
                .SelectMany(place =>
                    block
                        .Entities.SelectMany(e => e is Insert inner ? Expected(drawing, inner) : Points(e))
                        .Select(place.Apply)
                ),
        ];
    }

    // Where the rays of PART point as an insert of it, or of the block around it, shows them.
    private static IEnumerable<Vec3> Directions(string block, Insert insert) =>
        from place in InsertTransform.All(insert, new BlockRecord(), 100)
        from ray in BlockCases.Create("PART", []).Blocks["PART"]!.Entities.OfType<Ray>()
        select place.Turn(block == "WHOLE" ? BlockCases.Within.Direction(ray.Direction) : ray.Direction).Unit();

    [Theory]
    [MemberData(nameof(Ways))]
    public void Everything_lies_where_the_insert_showed_it(string block, string way)
    {
        var drawing = BlockCases.Create(block, [BlockCases.Inserts[way]]);
        var expected = Expected(drawing, (Insert)drawing.Model.Entities[0]);
        Assert.Empty(BlockExploder.Explode(drawing));
        var found = drawing.Model.Entities.SelectMany(Points).ToList();
        Assert.Equal(expected.Count, found.Count);
        Assert.All(expected.Zip(found), p =>
            Assert.True((p.First - p.Second).Length < 1e-9, $"{p.Second} where {p.First} was")
        );
        Assert.DoesNotContain(drawing.Model.Entities, e => e is Insert);
        Assert.All(Directions(block, BlockCases.Inserts[way]).Zip(drawing.Model.Entities.OfType<Ray>()), p =>
            Assert.True((p.First - p.Second.Direction).Length < 1e-9)
        );
        double scale = BlockCases.Inserts[way].Scale.Y * (block == "WHOLE" ? 0.5 : 1);
        Assert.All(drawing.Model.Entities.OfType<Circle>(), c => Assert.Equal(2 * scale, c.Radius, 1e-9));
        // Its blocks are of no use any more; PART within WHOLE neither.
        Assert.Equal(
            block == "WHOLE" ? [] : ["WHOLE", "PART"],
            drawing.Blocks.Where(b => !b.IsSpace).Select(b => b.Name).OrderDescending(StringComparer.Ordinal)
        );
    }

    [Fact]
    public void Layer_colour_and_line_type_of_the_block_become_the_inserts()
    {
        var drawing = BlockCases.Create("PART", [new Insert { Colour = new CadColour(3), LineWeight = 50 }]);
        foreach (var entity in drawing.Blocks["PART"]!.Entities)
            (entity.Colour, entity.LineWeight) = (CadColour.ByBlock, LineWeights.ByBlock);
        BlockExploder.Explode(drawing);
        Assert.Equal(["OWN", "SHOWN"], drawing.Model.Entities.Select(e => drawing.LayerName(e.Layer)).Distinct());
        Assert.All(drawing.Model.Entities, e => Assert.Equal((new CadColour(3), 50), (e.Colour, e.LineWeight)));
        Assert.Equal(drawing.Model.Entities.Count, drawing.Model.Entities.Select(e => e.Handle).Distinct().Count());
    }

    [Fact]
    public void Attributes_become_texts_and_definitions_vanish()
    {
        var insert = new Insert();
        insert.Attributes.Add(
            new AttributeEntity
            {
                Tag = "MARK",
                Value = "B-12",
                Insertion = new(5, 6, 0),
                Height = 3,
            }
        );
        var drawing = BlockCases.Create("PART", [insert], texts: false);
        drawing.Add(new AttributeDefinition { Tag = "MARK", Value = "?" }, drawing.Blocks["PART"]);
        BlockExploder.Explode(drawing);
        Assert.Equal("B-12", Assert.Single(drawing.Model.Entities.OfType<Text>()).Value);
        Assert.DoesNotContain(drawing.Model.Entities, e => e is AttributeEntity);
    }

    [Theory]
    // What has no exact image keeps its insert whole, with the reason.
    [InlineData(2, 1, true, "TEXT in it cannot be scaled so|LWPOLYLINE in it cannot be scaled so")]
    [InlineData(0, 1, true, "cannot be scaled so")]
    public void What_cannot_be_taken_apart_stays_whole(double x, double y, bool texts, string words)
    {
        var drawing = BlockCases.Create("PART", [new Insert { Scale = new(x, y, 1) }], texts);
        var finding = Assert.Single(BlockExploder.Explode(drawing));
        Assert.Equal("CAD-INSERT-WHOLE", finding.Code);
        Assert.Contains(words.Split('|'), w => finding.Message.Contains(w, StringComparison.Ordinal));
        Assert.IsType<Insert>(Assert.Single(drawing.Model.Entities));
        Assert.NotNull(drawing.Blocks["PART"]);
    }

    [Fact]
    public void Circles_scaled_unlike_become_ellipses_of_the_right_size()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        var block = drawing.AddBlock("ROUND");
        drawing.Add(new Circle { Centre = new(1, 1, 0), Radius = 2 }, block);
        drawing.Add(
            new ArcEntity
            {
                Radius = 2,
                Start = 0,
                End = Math.PI / 2,
            },
            block
        );
        drawing.Add(new Insert { Block = block.Handle, Scale = new(3, 1, 1) });
        Assert.Empty(BlockExploder.Explode(drawing));
        var (whole, part) = ((Ellipse)drawing.Model.Entities[0], (Ellipse)drawing.Model.Entities[1]);
        Assert.Equal((new Vec3(3, 1, 0), 6.0, 1.0 / 3), (whole.Centre, Math.Round(whole.Axis.Length, 9), whole.Ratio));
        Assert.Equal(2 * Math.PI, whole.End - whole.Start, 1e-9);
        var ends = Points(part).ToList();
        Assert.True(
            (ends[0] - new Vec3(6, 0, 0)).Length + (ends[1] - new Vec3(0, 2, 0)).Length < 1e-9,
            $"{ends[0]}, {ends[1]}"
        );
    }

    [Fact]
    public void A_block_within_itself_and_a_huge_array_stay_whole()
    {
        var drawing = BlockCases.Create("WHOLE", [new Insert()], texts: false);
        drawing.Add(new Insert { Block = drawing.Blocks["WHOLE"]!.Handle }, drawing.Blocks["PART"]);
        drawing.Add(new Insert { Block = drawing.Blocks["PART"]!.Handle, Array = (30_000, 30_000) });
        drawing.Add(new Insert { Block = new Handle(0xFFFFF) });
        var whole = BlockExploder.Explode(drawing);
        Assert.Equal(3, whole.Count);
        Assert.Contains("holds itself", whole[0].Message);
        Assert.Contains("too large", whole[1].Message);
        Assert.Contains("missing", whole[2].Message);
    }

    [Fact]
    public void Hatches_keep_their_area_and_dimensions_their_picture()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        var picture = drawing.AddBlock("*D1");
        drawing.Add(new Line { End = new(9, 0, 0) }, picture);
        var block = drawing.AddBlock("B");
        var hatch = new Hatch
        {
            Filled = false,
            Pattern = "ANSI31",
            Angle = 0.5,
            Scale = 2,
        };
        var path = new HatchPath { Flags = 1 };
        path.Edges.AddRange([
            new HatchEdge
            {
                Kind = HatchEdgeKind.Arc,
                First = new(0, 0),
                Radius = 2,
                Angles = (0, Math.PI),
            },
            new HatchEdge { First = new(-2, 0), Second = new(2, 0) },
        ]);
        hatch.Paths.Add(path);
        hatch.Lines.Add(new HatchLine(0.5, new(1, 0), new(0, 3), [1, -1]));
        drawing.Add(hatch, block);
        drawing.Add(new Dimension(DimensionKind.Linear) { Block = picture.Handle }, block);
        drawing.Add(
            new Insert
            {
                Block = block.Handle,
                Rotation = Math.PI / 2,
                Scale = new(2, 2, 2),
                Location = new(10, 0, 0),
            }
        );
        Assert.Empty(BlockExploder.Explode(drawing));
        var moved = drawing.Model.Entities.OfType<Hatch>().Single();
        Assert.Equal((0.5 + (Math.PI / 2), 4.0), (moved.Angle, moved.Scale));
        Assert.Equal((4.0, Math.PI / 2), (moved.Paths[0].Edges[0].Radius, moved.Paths[0].Edges[0].Angles.Start));
        Assert.True((moved.Paths[0].Edges[1].First - new Vec2(10, -4)).Length < 1e-9);
        Assert.Equal([2.0, -2.0], moved.Lines[0].Dashes);
        var line = drawing.Model.Entities.OfType<Line>().Single();
        Assert.True((line.End - new Vec3(10, 18, 0)).Length < 1e-9);
        Assert.NotNull(drawing.Blocks["*D1"]);
    }

    public static TheoryData<string> Names => [.. BlockCases.Inserts.Keys];

    // A block that refers to another file, with an attribute on its insert, within a block: only what is around it is taken apart.
    [Theory]
    [MemberData(nameof(Names))]
    public void What_is_not_here_stays_an_insert_where_it_was(string way)
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        var xref = drawing.AddBlock("SURVEY");
        (xref.IsXref, xref.Path) = (true, "survey.dwg");
        var around = drawing.AddBlock("AROUND");
        drawing.Add(new Line { End = new(7, 0, 0) }, around);
        var inner = new Insert
        {
            Block = xref.Handle,
            Location = new(3, 4, 0),
            Rotation = 0.4,
            Scale = new(0.5, 0.5, 0.5),
        };
        inner.Attributes.Add(
            new AttributeEntity
            {
                Tag = "NO",
                Value = "7",
                Insertion = new(3, 5, 0),
                Height = 2,
                Locked = true,
            }
        );
        drawing.Add(inner, around);
        drawing.Add(new Insert { Block = new Handle(0xFFFF), Location = new(1, 1, 0) }, around);
        var outer = BlockCases.Inserts[way];
        (outer.Block, outer.Handle) = (around.Handle, default);
        drawing.Add(outer);
        var places = InsertTransform.All(outer, around, 100).ToList();
        // What the inserts within show: three points of their block.
        Vec3[] corners = [new(0, 0, 0), new(1, 0, 0), new(0, 1, 2)];
        var whole = BlockExploder.Explode(drawing);
        Assert.Equal(["SURVEY", ""], whole.Select(f => f.Message.Split('\'')[1]));
        var kept = drawing.Model.Entities.OfType<Insert>().Where(i => i.Block == xref.Handle).ToList();
        Assert.Equal(places.Count, kept.Count);
        foreach (var (place, insert) in places.Zip(kept))
        {
            var (before, after) = (
                InsertTransform.All(inner, xref, 1).Single(),
                InsertTransform.All(insert, xref, 1).Single()
            );
            Assert.All(corners, c =>
                Assert.True(
                    (place.Apply(before.Apply(c)) - after.Apply(c)).Length < 1e-9,
                    $"{after.Apply(c)} where {place.Apply(before.Apply(c))} was"
                )
            );
            var text = Assert.Single(insert.Attributes);
            Assert.Equal(("NO", "7", true), (text.Tag, text.Value, text.Locked));
            Assert.True(
                (ObjectCoordinates.ToWorld(text.Insertion, text.Normal) - place.Apply(new Vec3(3, 5, 0))).Length < 1e-9
            );
            Assert.Equal(2, text.Height / BlockCases.Inserts[way].Scale.Y, 1e-9);
        }

        Assert.Equal(3 * places.Count, drawing.Model.Entities.Count);
        Assert.NotNull(drawing.Blocks["SURVEY"]);
        Assert.Null(drawing.Blocks["AROUND"]);
    }

    [Fact]
    public void What_stays_whole_tells_for_all_within_it()
    {
        var drawing = BlockCases.Create("PART", []);
        var around = drawing.AddBlock("AROUND");
        drawing.Add(new Insert { Block = new Handle(0xFFFF) }, around);
        drawing.Add(new Text { Value = "cannot be scaled unlike" }, around);
        drawing.Add(new Insert { Block = around.Handle, Scale = new(2, 1, 1) });
        Assert.Contains("'AROUND'", Assert.Single(BlockExploder.Explode(drawing)).Message);
    }
}
