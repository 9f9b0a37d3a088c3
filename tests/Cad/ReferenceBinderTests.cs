using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>References bound: everything of the other drawing comes along under names that say where it came from, handles stay sound.</summary>
public class ReferenceBinderTests
{
    private static (Drawing Main, BlockRecord Reference) Sheet(string path)
    {
        var main = Drawing.Create(CadVersion.AC1024);
        main.AddLayer("0");
        var block = main.AddBlock("PLAN");
        (block.IsXref, block.Path) = (true, path);
        main.Add(
            new Insert
            {
                Block = block.Handle,
                Location = new Vec3(10, 20, 0),
                Scale = new Vec3(2, 2, 2),
                Rotation = Math.PI / 2,
            }
        );
        return (main, block);
    }

    private static Drawing Lines(string layer)
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        drawing.Add(new Line { Layer = drawing.AddLayer(layer, 0x336699).Handle, End = new Vec3(5, 0, 0) });
        return drawing;
    }

    [Theory]
    [InlineData(false, CadVersion.AC1027)]
    [InlineData(true, CadVersion.AC1024)]
    [InlineData(true, CadVersion.AC1032)]
    public void Every_kind_comes_along_and_is_written_and_read_again(bool dwg, CadVersion version)
    {
        var (main, block) = Sheet(@"..\plans\sink.dwg");
        var sink = KitchenSink.Create(CadVersion.AC1024);
        var kinds = sink.Model.Entities.CountBy(e => e.Type).OrderBy(k => k.Key).ToList();
        var open = ReferenceBinder.Bind(main, b =>
            ReferenceBinder.FileOf(b) == "sink.dwg" ? KitchenSink.Create(CadVersion.AC1024) : null
        );
        Assert.Contains("grid.dwg", Assert.Single(open).Message, StringComparison.Ordinal);
        Assert.False(block.IsXref);
        Assert.Equal(kinds, block.Entities.CountBy(e => e.Type).OrderBy(k => k.Key));
        using var stream = new MemoryStream();
        Assert.Empty(CadFile.Write(main, stream, new CadForm(dwg, version)));
        var again = CadFile.Read(stream.ToArray()).Drawing;
        Assert.DoesNotContain(again.Findings, f =>
            f.Code != "CAD-HEADER-MISSING" && f.Message.Contains("handle", StringComparison.OrdinalIgnoreCase)
        );
        Assert.Equal(kinds, again.Blocks["PLAN"]!.Entities.CountBy(e => e.Type).OrderBy(k => k.Key));
        Assert.All(again.Blocks["PLAN"]!.Entities, e => Assert.NotNull(again.Layers[e.Layer]));
        // The plot style of a layer is that of every drawing, not one that stayed behind.
        Assert.All(again.Layers.Where(l => !l.PlotStyle.IsNull), l =>
            Assert.Contains(CadFacts.Objects(again), o => o.Handle == l.PlotStyle)
        );
        // No handle twice.
        Assert.All(CadFacts.Objects(again).CountBy(o => o.Handle), h => Assert.Equal(1, h.Value));
    }

    [Fact]
    public void Names_say_where_they_came_from_and_what_the_sheet_says_of_them_holds()
    {
        var (main, block) = Sheet("plan.dwg");
        var seen = main.AddLayer("PLAN|A-WALL", 0xFF0000);
        seen.FromXref = true;
        ReferenceBinder.Bind(main, _ => Lines("A-WALL"));
        var line = Assert.IsType<Line>(Assert.Single(block.Entities));
        var layer = main.Layers[line.Layer]!;
        Assert.Equal(("PLAN$0$A-WALL", false, 0xFF0000), (layer.Name, layer.FromXref, layer.Colour.Seen));
        Assert.DoesNotContain(main.Layers, l => l.Name.Contains('|', StringComparison.Ordinal));
        // 5 long, twice as large, turned upwards, from 10, 20: by hand.
        var box = main.Extents();
        Assert.True((box.Min - new Vec3(10, 20, 0)).Length + (box.Max - new Vec3(10, 30, 0)).Length < 1e-9);
    }

    [Fact]
    public void What_is_not_here_or_refers_to_itself_stays_and_is_told()
    {
        var (main, block) = Sheet("a.dwg");
        var missing = Assert.Single(ReferenceBinder.Bind(main, _ => null));
        Assert.Contains("PLAN (a.dwg) was not bound: the file is not here", missing.Message, StringComparison.Ordinal);
        Assert.True(block.IsXref);
        // a refers to b, b to a.
        var told = ReferenceBinder.Bind(main, b =>
            Sheet(ReferenceBinder.FileOf(b) == "a.dwg" ? "b.dwg" : "a.dwg").Main
        );
        Assert.Contains("it refers to itself", Assert.Single(told).Message, StringComparison.Ordinal);
        Assert.False(block.IsXref);
    }

    [Fact]
    public void A_reference_within_a_reference_comes_along_an_overlay_does_not()
    {
        foreach (bool overlay in (bool[])[false, true])
        {
            var (main, block) = Sheet("floor.dwg");
            ReferenceBinder.Bind(main, b =>
            {
                if (ReferenceBinder.FileOf(b) == "grid.dwg")
                    return Lines("S-GRID");
                var (floor, inner) = Sheet("grid.dwg");
                inner.IsOverlay = overlay;
                return floor;
            });
            var insert = Assert.IsType<Insert>(Assert.Single(block.Entities));
            Assert.Equal(overlay, main.Blocks[insert.Block]!.IsXref);
            Assert.Equal(overlay ? 0 : 1, main.Layers.Count(l => l.Name == "PLAN$0$PLAN$0$S-GRID"));
        }
    }
}
