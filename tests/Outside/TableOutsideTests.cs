using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>What libredwg makes of a table in DWG, and ezdxf of one in DXF.</summary>
public class TableOutsideTests
{
    // libredwg reads place, rows, columns, widths and heights; the cells of the versions up to 2004 it passes over, and files of 2007 with
    // tables and the layout from 2010 on it does not take at all:
    // there the layout stands from memory, and is taken only where it fits to the last bit.
    [Fact]
    public void Place_and_size_of_a_table_are_found_by_another_reader()
    {
        using var folder = new TestFolder();
        var (drawing, table) = TableDrawing.Doors(CadVersion.AC1018);
        using (var file = File.Create(folder.File("table.dwg")))
            Assert.Empty(DwgWriter.Write(drawing, file, CadVersion.AC1018));
        var ours = (Table)DwgReader.Read(File.ReadAllBytes(folder.File("table.dwg"))).Model.Entities[0];
        Assert.Equal(6, ours.Grid.Cells.Count);
        Assert.True(
            OutsideReaders.Dwg(folder.File("table.dwg"), folder.File("theirs.dxf")).GetProperty("error").GetInt32()
                < 128
        );
        var read = DxfReader.Read(File.ReadAllBytes(folder.File("theirs.dxf")));
        var theirs = Assert.Single(read.Model.Entities.OfType<Table>());
        Assert.Equal(
            (ours.Location, ours.Direction, ours.Size, "*T1", "A-DOOR-SCHD"),
            (
                theirs.Location,
                theirs.Direction,
                theirs.Size,
                read.Blocks[theirs.Block]!.Name,
                read.LayerName(theirs.Layer)
            )
        );
        Assert.Equal(table.Grid.Heights, theirs.Grid.Heights);
        Assert.Equal(table.Grid.Widths, theirs.Grid.Widths);
        Assert.Equal(ours.Grid.Flags, theirs.Grid.Flags);
    }

    [Theory]
    [InlineData(CadVersion.AC1018)]
    [InlineData(CadVersion.AC1024)]
    [InlineData(CadVersion.AC1032)]
    public void A_table_that_came_from_DWG_is_DXF_to_another_reader(CadVersion version)
    {
        using var folder = new TestFolder();
        using var dwg = new MemoryStream();
        Assert.Empty(DwgWriter.Write(TableDrawing.Doors(version).Drawing, dwg, version));
        using (var file = File.Create(folder.File("table.dxf")))
            Assert.Empty(DxfWriter.Write(DwgReader.Read(dwg.ToArray()), file, version));
        var theirs = OutsideReaders.Ezdxf(folder.File("table.dxf"));
        Assert.Empty(theirs.GetProperty("errors").EnumerateArray());
        Assert.Empty(theirs.GetProperty("fixes").EnumerateArray());
        // Its picture, the line of the block, taken apart by ezdxf, which moves it to its place and does not turn it.
        var (_, _, box) = Assert.Single(OutsideReaders.Decomposed(folder.File("table.dxf")), e =>
            e.Type == "LINE" && e.Box[0] == 5
        );
        Assert.Equal((new Vec3(5, 6, 0), 30), (new Vec3(box[0], box[1], box[2]), box[3] - box[0]));
    }
}
