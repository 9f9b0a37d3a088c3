using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>How far entities reach, by hand; codes of the published DXF reference.</summary>
public class ExtentsTests
{
    private static void Reaches(
        Drawing drawing,
        double left,
        double bottom,
        double right,
        double top,
        double slack = 1e-9
    )
    {
        var box = drawing.Extents();
        Assert.True(!box.IsEmpty, "nothing has a place");
        Assert.True(
            Math.Abs(box.Min.X - left) <= slack
                && Math.Abs(box.Min.Y - bottom) <= slack
                && Math.Abs(box.Max.X - right) <= slack
                && Math.Abs(box.Max.Y - top) <= slack,
            box.ToString()
        );
    }

    [Theory]
    [InlineData("LINE", "10=1 20=2 30=3 11=-4 21=5 31=6", -4, 2, 1, 5)]
    [InlineData("CIRCLE", "10=10 20=20 30=0 40=5", 5, 15, 15, 25)]
    // Seen from below x runs the other way.
    [InlineData("CIRCLE", "10=10 20=20 30=0 40=5 210=0 220=0 230=-1", -15, 15, -5, 25)]
    [InlineData("POINT", "10=7 20=8 30=9", 7, 8, 7, 8)]
    [InlineData("SOLID", "10=0 20=0 30=0 11=4 21=0 31=0 12=0 22=3 32=0 13=4 23=3 33=0", 0, 0, 4, 3)]
    [InlineData("3DFACE", "10=0 20=0 30=0 11=4 21=0 31=1 12=4 22=3 32=2 13=0 23=3 33=1", 0, 0, 4, 3)]
    [InlineData("TEXT", "10=3 20=4 30=0 40=2.5 1=long~text", 3, 4, 3, 4)]
    [InlineData("MTEXT", "10=3 20=4 30=0 40=2.5 71=1 1=long~text", 3, 4, 3, 4)]
    [InlineData("LWPOLYLINE", "90=3 70=0 10=0 20=0 10=5 20=1 10=2 20=7", 0, 0, 5, 7)]
    [InlineData("LWPOLYLINE", "90=2 70=0 38=9 210=0 220=0 230=-1 10=1 20=0 10=5 20=1", -5, 0, -1, 1)]
    [InlineData("LEADER", "3=Standard 71=1 72=0 73=3 76=3 10=0 20=0 30=0 10=5 20=5 30=0 10=8 20=5 30=0", 0, 0, 8, 5)]
    public void An_entity_reaches_as_far_as_its_points(
        string kind,
        string groups,
        double left,
        double bottom,
        double right,
        double top
    ) => Reaches(GroupText.Entity(kind, groups), left, bottom, right, top);

    private static Drawing Placed(Action<Insert> how, params Entity[] within)
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        var block = drawing.AddBlock("B");
        block.Base = new Vec3(1, 0, 0);
        foreach (var entity in within)
            drawing.Add(entity, block);
        var insert = new Insert { Block = block.Handle };
        how(insert);
        drawing.Add(insert);
        return drawing;
    }

    private static Line Diagonal => new() { Start = new(1, 0, 0), End = new(3, 1, 0) };

    [Fact]
    public void An_insert_reaches_as_far_as_its_block_there()
    {
        Reaches(Placed(i => i.Location = new(10, 10, 0), Diagonal), 10, 10, 12, 11);
        Reaches(Placed(i => (i.Location, i.Rotation) = (new(10, 10, 0), Math.PI / 2), Diagonal), 9, 10, 10, 12);
        Reaches(Placed(i => (i.Location, i.Scale) = (new(10, 10, 0), new(-2, 3, 1)), Diagonal), 6, 10, 10, 13);
        // Three columns of ten, two rows of twenty.
        Reaches(Placed(i => (i.Array, i.Spacing) = ((3, 2), (10, 20)), Diagonal), 0, 0, 22, 21);
    }

    [Fact]
    public void Blocks_within_blocks_add_up()
    {
        var drawing = Placed(i => i.Location = new(10, 0, 0), Diagonal);
        var outer = drawing.AddBlock("OUTER");
        drawing.Add(
            new Insert
            {
                Block = drawing.Blocks["B"]!.Handle,
                Location = new(100, 0, 0),
                Scale = new(2, 2, 2),
            },
            outer
        );
        drawing.Model.Entities.Clear();
        drawing.Add(
            new Insert
            {
                Block = outer.Handle,
                Location = new(1000, 0, 0),
                Scale = new(10, 10, 10),
            }
        );
        Reaches(drawing, 2000, 0, 2040, 20);
    }

    [Fact]
    public void What_is_empty_or_missing_has_the_place_it_stands_at()
    {
        Reaches(Placed(_ => { }, new AttributeDefinition { Insertion = new(5, 5, 0) }), 4, 5, 4, 5);
        var lost = Drawing.Create(CadVersion.AC1027);
        lost.Add(new Insert { Block = new Handle(0x9999), Location = new(3, 4, 0) });
        Reaches(lost, 3, 4, 3, 4);
        Assert.True(Drawing.Create(CadVersion.AC1027).Extents().IsEmpty);
    }

    [Fact]
    public void A_solid_in_either_form_reaches_as_far_as_its_corners()
    {
        var body = Polyhedron.Of(SolidBodies.Ell)!;
        foreach (
            var solid in new ModelerEntity[]
            {
                new("3DSOLID") { Acis = AcisWriter.Text(body, 10) },
                new("3DSOLID") { Binary = AcisWriter.Binary(body, 10) },
            }
        )
        {
            var drawing = Drawing.Create(CadVersion.AC1027);
            drawing.Add(solid);
            Reaches(drawing, 0, 0, 30, 30);
            Assert.Equal(30, drawing.Extents().Max.Z, 1e-9);
        }
    }

    // By hand: a quarter of a circle round 10, 0 from its right to its top; an ellipse twice as long as high, turned by 30°.
    [Fact]
    public void Curves_reach_as_far_as_they_go_and_no_farther()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        drawing.Add(
            new ArcEntity
            {
                Centre = new Vec3(10, 0, 0),
                Radius = 2,
                Start = 0,
                End = Math.PI / 2,
            }
        );
        var arc = drawing.Extents();
        Assert.True((arc.Min - new Vec3(10, 0, 0)).Length + (arc.Max - new Vec3(12, 2, 0)).Length < 1e-12);
        drawing.Model.Entities.Clear();
        double c = Math.Cos(Math.PI / 6),
            s = Math.Sin(Math.PI / 6);
        drawing.Add(new Ellipse { Axis = new Vec3(4 * c, 4 * s, 0), Ratio = 0.5 });
        // The half width of a turned ellipse: the root of (a cos)² + (b sin)².
        Assert.Equal(Math.Sqrt((16 * c * c) + (4 * s * s)), drawing.Extents().Max.X, 1e-12);
        Assert.Equal(Math.Sqrt((16 * s * s) + (4 * c * c)), drawing.Extents().Max.Y, 1e-12);
    }

    [Theory]
    [InlineData(1e18, 0)]
    [InlineData(1e300, -1e300)]
    [InlineData(0, 1e300)]
    [InlineData(double.NaN, 1)]
    public void Angles_without_sense_come_to_an_end(double from, double to)
    {
        Assert.False(ArcAngles.End(from, to) - from > 101);
        var drawing = Drawing.Create(CadVersion.AC1027);
        drawing.Add(
            new ArcEntity
            {
                Radius = 2,
                Start = from,
                End = to,
            }
        );
        _ = drawing.Extents();
    }
}
