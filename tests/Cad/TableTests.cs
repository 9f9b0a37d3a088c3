using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Tables: cells from groups of DXF and from bits of DWG, and where they go.</summary>
public class TableTests
{
    // Group codes of the published DXF reference, "ACAD_TABLE".
    private const string Groups =
        "100=AcDbEntity 62=1 100=AcDbBlockReference 2=*T1 10=5.0 20=6.0 30=0.0 100=AcDbTable 280=0 342=1F 343=2F 11=0.0 21=1.0 31=0.0 90=22 91=2 92=3 93=0 141=9.0 141=8.0 142=50.0 142=60.0 142=70.0 171=1 172=0 1=Door 171=1 172=0 1=Width";

    /// <summary>The versions of DWG that have tables; 2007 is made by the tests.</summary>
    public static TheoryData<CadVersion> Versions =>
        [CadVersion.AC1018, CadVersion.AC1021, CadVersion.AC1024, CadVersion.AC1027, CadVersion.AC1032];

    private static string Told(Table table) =>
        $"{table.Size} {table.Location} {table.Direction} {table.Block} | {string.Join(' ', table.Grid.Heights)} | {string.Join(' ', table.Grid.Widths)} | "
        + string.Join(" ; ", table.Grid.Cells.Select(Told));

    private static string Told(TableCell c) =>
        $"{c.Kind} {c.Text} {c.Block} {string.Join(',', c.Attributes)} {c.Span} {c.IsCovered} {c.Own} {((c.Own & TableCell.OwnAlignment) != 0 ? c.Alignment : 0)} {c.Height} {((c.Own & TableCell.OwnColour) != 0 ? c.Colour.Index : 0)} {c.Style}";

    private static byte[] Written(Drawing drawing, CadForm form)
    {
        using var stream = new MemoryStream();
        Assert.Empty(CadFile.Write(drawing, stream, form));
        return stream.ToArray();
    }

    [Theory]
    [MemberData(nameof(Versions))]
    public void Bits_tell_the_cells_and_go_back_as_they_came(CadVersion version)
    {
        var (drawing, table) = TableDrawing.Doors(version);
        table.Size = (3, 2);
        var again = DwgReader.Read(DwgTests.Write(drawing, version));
        Assert.Empty(again.Findings);
        var read = Assert.IsType<Table>(again.Model.Entities[0]);
        Assert.Equal(Told(table), Told(read));
        Assert.Equal("A-DOOR-SCHD", again.LayerName(read.Layer));
        var once = Assert.IsType<Table>(DwgReader.Read(DwgTests.Write(again, version)).Model.Entities[0]);
        Assert.Equal(read.Bits!.Data, once.Bits!.Data);
    }

    [Theory]
    [MemberData(nameof(Versions))]
    public void From_DWG_to_DXF_and_back_cells_are_groups(CadVersion version)
    {
        var read = DwgReader.Read(DwgTests.Write(TableDrawing.Doors(version).Drawing, version));
        var dxf = DxfReader.Read(Written(read, new CadForm(false, version)));
        Assert.Equal(Told((Table)read.Model.Entities[0]), Told(Assert.IsType<Table>(dxf.Model.Entities[0])));
        // What is not drawn by its own lines is drawn by its picture.
        Assert.Equal(read.Extents(), dxf.Extents());
    }

    [Theory]
    [MemberData(nameof(Versions))]
    public void To_DWG_of_another_version_its_picture_goes(CadVersion version)
    {
        var read = DwgReader.Read(DwgTests.Write(TableDrawing.Doors(version).Drawing, version));
        var other = version == CadVersion.AC1018 ? CadVersion.AC1024 : CadVersion.AC1018;
        using var left = new MemoryStream();
        Assert.Equal("CAD-LEFT-BEHIND", Assert.Single(DwgWriter.Write(read, left, other)).Code);
        Assert.Empty(TablePictures.Replace(read, version));
        Assert.Equal("CAD-TABLE-PICTURE", Assert.Single(TablePictures.Replace(read, other)).Code);
        var picture = Assert.IsType<Insert>(DwgReader.Read(Written(read, new CadForm(true, other))).Model.Entities[0]);
        Assert.Equal((new Vec3(5, 6, 0), Math.PI / 2), (picture.Location, picture.Rotation));
    }

    // Up to 2007 place, rows and columns are known without the cells; from 2010 on all stands or falls together.
    [Theory]
    [MemberData(nameof(Versions))]
    public void Cells_that_do_not_fit_are_not_guessed(CadVersion version)
    {
        var (drawing, table) = TableDrawing.Doors(version);
        table.Grid.Heights.Add(5);
        table.Grid.Heights.Add(5);
        table.Grid.Cells.AddRange([
            new TableCell { Kind = 77 },
            new TableCell { Text = "x", Own = 1 },
            new TableCell { Text = "y" },
            new TableCell(),
        ]);
        var opaque = (OpaqueEntity)drawing.Model.Entities[0];
        var bits = EntityBits.Of(drawing, table, version);
        // Bits behind the last field that no field takes.
        opaque.Bits = bits with { Data = Longer(bits), BitSize = bits.BitSize + 8 };
        var again = DwgReader.Read(DwgTests.Write(drawing, version));
        if (version >= CadVersion.AC1024)
            Assert.IsType<OpaqueEntity>(again.Model.Entities[0]);
        else
        {
            var read = Assert.IsType<Table>(again.Model.Entities[0]);
            Assert.Equal(
                (table.Block, 5, 2, 0),
                (read.Block, read.Size.Rows, read.Size.Columns, read.Grid.Cells.Count)
            );
            Assert.Equal("", read.Grid[4, 1].Text);
        }

        Assert.Equal(opaque.Bits!.Data, OpaqueBits.Of(again.Model.Entities[0])!.Data);
    }

    // A table that overrides its style says more behind its cells than is known here: whether they fit cannot be told, so they are not
    // believed.
    [Fact]
    public void Cells_before_something_unknown_are_not_guessed()
    {
        var (drawing, table) = TableDrawing.Doors(CadVersion.AC1018);
        var bits = EntityBits.Of(drawing, table, CadVersion.AC1018);
        byte[] data = [.. bits.Data];
        // The first of four marks in front of the handles.
        long mark = bits.BitSize - 4;
        data[mark / 8] |= (byte)(0x80 >> (int)(mark % 8));
        ((OpaqueEntity)drawing.Model.Entities[0]).Bits = bits with { Data = data };
        var read = Assert.IsType<Table>(DwgReader.Read(DwgTests.Write(drawing, CadVersion.AC1018)).Model.Entities[0]);
        Assert.Equal(((3, 2), table.Block, 0), (read.Size, read.Block, read.Grid.Cells.Count));
    }

    // Eight bits more between the data and what lies behind them; those of 2004 say themselves how long they are.
    private static byte[] Longer(OpaqueBits bits)
    {
        var source = new BitReader(bits.Data);
        var target = new BitWriter();
        bool old = bits.Version < CadVersion.AC1024;
        long text = bits.BitSize;
        if (bits.Version >= CadVersion.AC1021)
        {
            // The text and its length stay in front of the handles.
            source.Position = bits.BitSize - 17;
            text = bits.BitSize - 17 - source.RawShort();
            source.Position = 0;
        }

        while (source.Position < text)
            target.Bits(source.Bits(1), 1);
        target.Bits(0, 8);
        while (source.Left > 0)
            target.Bits(source.Bits(1), 1);
        if (!old)
            return target.Written.ToArray();
        var head = new BitReader(bits.Data);
        head.Short();
        target.PatchLong(head.Position, (int)bits.BitSize + 8);
        return target.Written.ToArray();
    }

    [Fact]
    public void Groups_tell_place_size_and_cells_and_are_kept()
    {
        var drawing = GroupText.Entity(Table.Kind, Groups);
        var table = Assert.IsType<Table>(Assert.Single(drawing.Model.Entities));
        Assert.Equal(
            ((2, 3), new Vec3(5, 6, 0), new Vec3(0, 1, 0), "*T1"),
            (table.Size, table.Location, table.Direction, drawing.Blocks[table.Block]!.Name)
        );
        Assert.Equal((new Handle(0x1F), 22), (table.Grid.Style, table.Grid.Flags));
        Assert.Equal([9, 8], table.Grid.Heights);
        Assert.Equal([50, 60, 70], table.Grid.Widths);
        Assert.Equal(
            ["Door", "Width", "", ""],
            new[] { table.Grid[0, 0], table.Grid[0, 1], table.Grid[0, 2], table.Grid[1, 2] }.Select(c => c.Text)
        );
        var again = DxfReader.Read(Written(drawing, new CadForm(false, CadVersion.AC1027)));
        DrawingText.Same(drawing, again, CadVersion.AC1027);
        Assert.Contains(
            "141=9.0 141=8.0 142=50.0 142=60.0 142=70.0 171=1 172=0 1=Door 171=1 172=0 1=Width",
            GroupText.Of(again, again.Model.Entities[0])
        );
    }

    // From 2007 on the text stands within a value, whose other groups mean other things there.
    [Theory]
    [InlineData("171=1 172=4 173=1 174=1 175=2 176=3 145=90.0 177=49 178=9 1=Door 7=BOLD 140=3.5 170=7")]
    [InlineData(
        "171=1 172=4 173=1 174=1 175=2 176=3 91=49 178=9 145=90.0 7=BOLD 140=3.5 170=7 92=0 301=CELL_VALUE 93=6 90=4 1=Door 94=0 300=%lu 140=99.0 302=Door 304=ACVALUE_END"
    )]
    [InlineData("171=1 172=4 173=1 174=1 175=2 176=3 177=49 178=9 145=90.0 2=Do 1=or 7=BOLD 140=3.5 170=7")]
    public void A_cell_is_read_from_either_form(string cell)
    {
        var drawing = GroupText.Read(
            GroupText.Section("TABLES", "0=TABLE 2=STYLE 70=1 0=STYLE 2=BOLD 70=0 0=ENDTAB")
                + GroupText.Section(
                    "ENTITIES",
                    $"0=ACAD_TABLE 8=W {Groups[..Groups.IndexOf("171", StringComparison.Ordinal)]}{cell} 171=2 340=2F 144=2.5 179=1 331=3F 300=B7 279=50 289=1 69=6"
                ),
            "AC1027"
        );
        var grid = ((Table)drawing.Model.Entities[0]).Grid;
        var first = grid.Cells[0];
        Assert.Equal(
            ("Door", 4, true, true, (2, 3), 49, 9),
            (first.Text, first.Edges, first.IsCovered, first.AutoFit, first.Span, first.Own, first.VirtualEdges)
        );
        Assert.Equal(
            (Math.PI / 2, 3.5, 7, drawing.Styles["BOLD"]!.Handle),
            (first.Rotation, first.Height, first.Alignment, first.Style)
        );
        var second = grid.Cells[1];
        Assert.Equal(
            (TableCell.OfBlock, new Handle(0x2F), 2.5, (new Handle(0x3F), "B7")),
            (second.Kind, second.Block, second.BlockScale, Assert.Single(second.Attributes))
        );
        Assert.Equal((new CadColour(6), 50, 1), second.Lines[0]);
    }

    [Fact]
    public void A_picture_stands_for_a_table_from_DXF()
    {
        var drawing = GroupText.Entity(Table.Kind, Groups);
        var table = (Table)drawing.Model.Entities[0];
        drawing.Add(new Line { End = new(10, 0, 0) }, drawing.Blocks[table.Block]!);
        Assert.Equal("CAD-TABLE-PICTURE", Assert.Single(TablePictures.Replace(drawing, CadVersion.AC1024)).Code);
        var again = DwgReader.Read(Written(drawing, new CadForm(true, CadVersion.AC1024)));
        Assert.IsType<Insert>(Assert.Single(again.Model.Entities));
        Assert.Equal(16, again.Extents().Max.Y, 1e-9);
    }
}
