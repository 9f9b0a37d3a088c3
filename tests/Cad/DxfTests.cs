using System.Text;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

public class DxfTests
{
    private static Drawing Sample()
    {
        var drawing = new Drawing { Units = 4 };
        drawing.Layers.Add(new Layer("A-WALL", 0x123456));
        drawing.Layers.Add(new Layer("Überbau", 0xFF0000, true));
        drawing.Entities.Add(new MeshEntity("A-WALL", ["#1", "id"], [new(0, 0, 0), new(1.0 / 3, 0, 0), new(0, 1e-7, 0), new(123456789.123456789, 0, 1)], [0, 2, 1, 0, 1, 3], 0x00FF00));
        drawing.Entities.Add(new PolylineEntity("Überbau", [], [new(0, 0, 2.5), new(1, 0, 2.5), new(1, 1, 2.5)], true));
        drawing.Entities.Add(new LineEntity("A-WALL", ["π"], [new(0, 0, 0), new(-1, 2, 3)]));
        return drawing;
    }

    private static string Write(Drawing drawing)
    {
        using var stream = new MemoryStream();
        DxfWriter.Write(drawing, stream);
        return Encoding.UTF8.GetString(stream.ToArray());
    }

    [Fact]
    public void What_is_written_is_read_the_same()
    {
        var drawing = Sample();
        var again = DxfReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(Write(drawing))));
        Assert.Equal(4, again.Units);
        Assert.Equal([new Layer("0", 0xFFFFFF), .. drawing.Layers], again.Layers);
        Assert.Equal(3, again.Entities.Count);
        for (int i = 0; i < 3; i++)
        {
            Assert.Equal(drawing.Entities[i].GetType(), again.Entities[i].GetType());
            Assert.Equal(drawing.Entities[i].Layer, again.Entities[i].Layer);
            Assert.Equal(drawing.Entities[i].Points, again.Entities[i].Points);
            Assert.Equal(drawing.Entities[i].Data, again.Entities[i].Data);
        }

        Assert.Equal(((MeshEntity)drawing.Entities[0]).Triangles, ((MeshEntity)again.Entities[0]).Triangles);
        Assert.True(((PolylineEntity)again.Entities[1]).Closed);
    }

    [Fact]
    public void The_same_drawing_gives_the_same_bytes() => Assert.Equal(Write(Sample()), Write(Sample()));

    // DXF reference: handles are unique, and $HANDSEED lies above all of them.
    [Fact]
    public void Handles_are_unique_and_below_the_seed()
    {
        var lines = Write(Sample()).Split("\r\n");
        int seed = Array.IndexOf(lines, "$HANDSEED");
        var handles = new List<int>();
        for (int i = 0; i + 1 < lines.Length; i += 2)
            if (lines[i].Trim() is "5" or "105" && i != seed + 1) handles.Add(Convert.ToInt32(lines[i + 1], 16));
        Assert.Equal(handles.Count, handles.Distinct().Count());
        Assert.True(handles.Max() < Convert.ToInt32(lines[seed + 2], 16));
    }

    [Theory]
    [InlineData("A/B:C", "A_B_C")]
    [InlineData("", "0")]
    [InlineData("Wände", "Wände")]
    public void Layer_names_are_made_legal(string name, string legal) => Assert.Equal(legal, LayerNames.Clean(name));

    [Theory]
    [InlineData("  0\nSECTION\n", "ends before EOF")]
    [InlineData("x\nSECTION\n", "not a group code")]
    public void Broken_drawings_name_their_line(string text, string why) => Assert.Contains(why, Assert.Throws<FormatException>(() => DxfReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(text)))).Message);

    [Fact]
    public void Line_breaks_in_names_cannot_forge_groups()
    {
        var drawing = new Drawing();
        drawing.Entities.Add(new LineEntity("0", ["a\n  0\nEOF"], [default, new(1, 0, 0)]));
        Assert.Single(DxfReader.Read(new MemoryStream(Encoding.UTF8.GetBytes(Write(drawing)))).Entities);
    }
}
