using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Damages plans, sections and sheets one thing at a time, and asks the balance.</summary>
public class ViewMutantTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private static readonly (string Name, Action<Drawing> Damage)[] Mutants =
    [
        ("a hatch is gone", d => Remove<Hatch>(d, Anything)),
        ("a hatch has another pattern", d => First<Hatch>(d).Pattern = "CUT-GROUND"),
        ("a hatch is elsewhere", d => Shift(First<Hatch>(d).Paths, new Vec2(90_000, 0))),
        ("a hatch is smaller", d => First<Hatch>(d).Paths[0].Vertices.RemoveAt(0)),
        ("a line of the cut is gone", d =>
            Remove<LightPolyline>(d, e => d.LayerName(e.Layer).EndsWith("_CUT", StringComparison.Ordinal))
        ),
        ("a hidden edge is gone", d =>
            Remove<Line>(d, e => d.LayerName(e.Layer).EndsWith("_HIDDEN", StringComparison.Ordinal))
        ),
        ("an edge is on another element's layer", d => First<Line>(d).Layer = d.AddLayer("ELSEWHERE").Handle),
        ("a level mark says another height", d => Mark(d).Value = "Concourse +5.000"),
        ("a level mark is gone", d => d.Model.Entities.Remove(Mark(d))),
        ("a room has another area", d =>
            Room(d).Value = Room(d).Value.Replace(" m²", "9 m²", StringComparison.Ordinal)
        ),
        ("a stranger came in", d => d.Add(new Line { End = new Vec3(1000, 0, 0) })),
        ("the viewport has another scale", d => Window(d).ViewHeight *= 2),
        ("the viewport looks elsewhere", d => Window(d).ViewCentre += new Vec2(5000, 0)),
        ("the paper is another", d => Layout(d).Paper = (297, 210)),
        ("the title block lost the revision", d => Block(d).Entities.RemoveAll(e => e is Text { Value: "r2" })),
        ("the layout has another name", d => d.Rename(Layout(d), "Sheet")),
    ];

    private static readonly (string Name, Action<Drawing> Damage)[] OfBlocks =
    [
        ("an attribute has another value", d => First<Insert>(d).Attributes[2].Value += "x"),
        ("an attribute is gone", d => First<Insert>(d).Attributes.RemoveAt(2)),
        ("a block is moved", d => First<Insert>(d).Location = new Vec3(0, 0, 500)),
        ("a block is turned", d => First<Insert>(d).Rotation = 0.1),
        ("a block lost its body", d =>
            ElementBlock
                .Of(d, First<Insert>(d))!
                .Entities.RemoveAll(e => e is MeshEntity or Insert or Line or LightPolyline)
        ),
        ("a block is inserted twice", d => d.Add(Copy(First<Insert>(d)))),
        ("the extended data lost the element", d => First<Insert>(d).Extras.Data.Clear()),
    ];

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void Every_damage_to_a_view_is_caught(bool blocks)
    {
        var order = new OrderDocument
        {
            Rules =
            [
                new OrderRule { What = "storey", Are = ["Concourse"] },
                new OrderRule { What = "class", Are = ["IfcWall", "IfcDoor", "IfcSpace", "IfcSlab"] },
            ],
            Into = new OrderInto
            {
                File = "dxf",
                As = "plan",
                Hidden = "dashed",
                Hatch = true,
                Marks = true,
                Sheet = new OrderSheet { Paper = "A1", Scale = 200 },
            },
            Properties = blocks ? new OrderProperties { Attributes = true } : null,
            Split = "storey",
            Unit = "mm",
            Name = "x",
        }.ToOrder();
        var plan = HandoverPlan.Of(
            order,
            [.. demo.Sources.Where(s => s.Party == "ARC").Select(s => s with { Revision = 2 })]
        );
        var files = new MemoryFiles();
        var written = Target
            .Of(order)
            .Write(
                plan,
                new FileNames("x", "HW", ""),
                "2026-11-29T08:00:00",
                files,
                new Reconciler(plan, Target.Of(order).NewLedger(plan)),
                default
            );
        byte[] whole = files.Read(written[0].Name).ToArray();
        Assert.True(Balance(plan, written[0], whole).Balanced);
        foreach (var (name, damage) in blocks ? OfBlocks : Mutants)
        {
            var drawing = CadFile.Read(whole).Drawing;
            damage(drawing);
            using var stream = new MemoryStream();
            CadFile.Write(drawing, stream, order.Form);
            Assert.False(Balance(plan, written[0], stream.ToArray()).Balanced, name);
        }
    }

    // The file of sheets: what it refers to, where, and which of it each viewport shows.
    [Fact]
    public void Every_damage_to_a_file_of_sheets_is_caught()
    {
        var order = new OrderDocument
        {
            Rules = [new OrderRule { What = "class", Are = ["IfcWall"] }],
            Into = new OrderInto
            {
                File = "dxf",
                As = "plan",
                Sheet = new OrderSheet
                {
                    Paper = "A1",
                    Scale = 200,
                    References = true,
                },
            },
            Split = "storey",
            Unit = "mm",
            Name = "{storey}",
        }.ToOrder();
        var plan = HandoverPlan.Of(order, [.. demo.Sources.Where(s => s.Party == "ARC")]);
        var files = new MemoryFiles();
        var written = Target
            .Of(order)
            .Write(
                plan,
                new FileNames("{storey}", "HW", ""),
                "2026-11-29T08:00:00",
                files,
                new Reconciler(plan, Target.Of(order).NewLedger(plan)),
                default
            );
        byte[] whole = files.Read(written[^1].Name).ToArray();
        Assert.Empty(Damaged(_ => { }));
        (string Name, Action<Drawing> Damage)[] mutants =
        [
            ("a reference leads elsewhere", d => d.Blocks.First(b => b.IsXref).Path = "other.dxf"),
            ("a reference is moved", d => First<Insert>(d).Location = new Vec3(1000, 0, 0)),
            ("a reference is not inserted", d => Remove<Insert>(d, Anything)),
            ("a viewport shows another reference too", d => Window(d).Frozen.RemoveAt(0)),
        ];
        foreach (var (name, damage) in mutants)
            Assert.True(Damaged(damage).Count > 0, name);

        IReadOnlyList<string> Damaged(Action<Drawing> damage)
        {
            var drawing = CadFile.Read(whole).Drawing;
            damage(drawing);
            using var stream = new MemoryStream();
            CadFile.Write(drawing, stream, order.Form);
            return Balance(plan, written[^1], stream.ToArray()).Differences;
        }
    }

    private static Reconciliation Balance(HandoverPlan plan, WrittenFile written, byte[] bytes)
    {
        var reconciler = new Reconciler(plan, Target.Of(plan.Order).NewLedger(plan));
        reconciler.Read(written, bytes, default);
        return reconciler.Balance();
    }

    private static bool Anything(Entity entity) => true;

    private static T First<T>(Drawing drawing)
        where T : Entity => drawing.Model.Entities.OfType<T>().First();

    private static void Remove<T>(Drawing drawing, Func<T, bool> which)
        where T : Entity => drawing.Model.Entities.Remove(drawing.Model.Entities.OfType<T>().First(which));

    private static void Shift(List<HatchPath> paths, Vec2 by)
    {
        foreach (var path in paths)
            for (int v = 0; v < path.Vertices.Count; v++)
                path.Vertices[v] = (path.Vertices[v].Point + by, path.Vertices[v].Bulge);
    }

    private static Insert Copy(Insert insert)
    {
        var copy = new Insert { Block = insert.Block, Layer = insert.Layer };
        copy.Extras.Data.AddRange(insert.Extras.Data);
        return copy;
    }

    private static Text Mark(Drawing drawing) =>
        drawing.Model.Entities.OfType<Text>().First(t => drawing.LayerName(t.Layer) == "LEVELS");

    private static Text Room(Drawing drawing) =>
        drawing.Model.Entities.OfType<Text>().First(t => t.Value.EndsWith("m²", StringComparison.Ordinal));

    private static Layout Layout(Drawing drawing) => drawing.Layouts.First(l => l.Tab > 0);

    private static BlockRecord Block(Drawing drawing) => drawing.Blocks[Layout(drawing).Block]!;

    private static Viewport Window(Drawing drawing) => Block(drawing).Entities.OfType<Viewport>().ElementAt(1);
}
