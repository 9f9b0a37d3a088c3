using System.Text;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

public class DxfTests
{
    public static TheoryData<CadVersion, bool> Forms =>
        [
            .. from v in (CadVersion[])
                [
                    CadVersion.AC1015,
                    CadVersion.AC1018,
                    CadVersion.AC1021,
                    CadVersion.AC1024,
                    CadVersion.AC1027,
                    CadVersion.AC1032,
                ]
            from b in (bool[])[false, true]
            select new TheoryDataRow<CadVersion, bool>(v, b),
        ];

    internal static byte[] Write(Drawing drawing, CadVersion? version = null, bool binary = false)
    {
        using var stream = new MemoryStream();
        DxfWriter.Write(drawing, stream, version, binary);
        return stream.ToArray();
    }

    private static Drawing Read(string text) => DxfReader.Read(Encoding.UTF8.GetBytes(text));

    [Theory]
    [MemberData(nameof(Forms))]
    public void Every_entity_comes_back_in_every_form(CadVersion version, bool binary)
    {
        var drawing = KitchenSink.Create(version);
        var again = DxfReader.Read(Write(drawing, version, binary));
        Assert.Empty(again.Findings);
        Assert.Equal(version, again.Version);
        DrawingText.Same(drawing, again, version);
    }

    [Theory]
    [MemberData(nameof(Forms))]
    public void Read_and_written_again_the_bytes_are_the_same(CadVersion version, bool binary)
    {
        byte[] first = Write(KitchenSink.Create(version), version, binary);
        byte[] second = Write(DxfReader.Read(first), version, binary);
        Assert.True(first.AsSpan().SequenceEqual(second), "the second writing differs");
    }

    [Fact]
    public void The_same_drawing_gives_the_same_bytes() =>
        Assert.Equal(Write(KitchenSink.Create(CadVersion.AC1027)), Write(KitchenSink.Create(CadVersion.AC1027)));

    // DXF reference: handles are unique, and $HANDSEED lies above all of them.
    [Fact]
    public void Handles_are_unique_and_below_the_seed()
    {
        var lines = Encoding.UTF8.GetString(Write(KitchenSink.Create(CadVersion.AC1027))).Split("\r\n");
        int seed = Array.IndexOf(lines, "$HANDSEED");
        var handles = new List<int>();
        for (int i = 0; i + 1 < lines.Length; i += 2)
            if (lines[i].Trim() is "5" or "105" && i != seed + 1)
                handles.Add(Convert.ToInt32(lines[i + 1], 16));
        Assert.Equal(handles.Count, handles.Distinct().Count());
        Assert.True(handles.Max() < Convert.ToInt32(lines[seed + 2], 16));
    }

    [Theory]
    [InlineData("A/B:C", "A_B_C")]
    [InlineData("", "0")]
    [InlineData("Wände", "Wände")]
    public void Layer_names_are_made_legal(string name, string legal) => Assert.Equal(legal, LayerNames.Clean(name));

    [Theory]
    [InlineData("hello", "no DXF")]
    [InlineData("x\nSECTION\n", "not a group code")]
    [InlineData("  0\nSECTION\n  2\nENTITIES\n 1x\nboo\n", "Line 5")]
    public void Broken_drawings_name_their_line(string text, string why) =>
        Assert.Contains(why, Assert.Throws<CadFormatException>(() => Read(text)).Message);

    [Fact]
    public void A_torn_drawing_gives_what_was_read_and_a_finding()
    {
        var drawing = Read(
            "  0\nSECTION\n  2\nENTITIES\n  0\nLINE\n  8\nW\n 10\n1\n 20\n2\n 11\n3\n 21\n4\n  0\nLINE\n 10"
        );
        Assert.Contains(drawing.Findings, f => f.Code == "CAD-TORN");
        Assert.Equal(new Vec3(3, 4, 0), Assert.IsType<Line>(drawing.Model.Entities[0]).End);
    }

    // Release 12: no handles, no markers, blocks before any record.
    [Fact]
    public void Release_12_is_read()
    {
        var drawing = Read(
            """
              0
            SECTION
              2
            HEADER
              9
            $ACADVER
              1
            AC1009
              0
            ENDSEC
              0
            SECTION
              2
            BLOCKS
              0
            BLOCK
              8
            0
              2
            DOOR
             70
            0
             10
            0.5
             20
            0
              0
            LINE
              8
            W
             10
            0
             20
            0
             11
            1
             21
            0
              0
            ENDBLK
              0
            ENDSEC
              0
            SECTION
              2
            ENTITIES
              0
            INSERT
              8
            W
              2
            DOOR
             10
            7
             20
            8
              0
            POLYLINE
              8
            W
             66
            1
             70
            1
              0
            VERTEX
              8
            W
             10
            1
             20
            1
              0
            VERTEX
              8
            W
             10
            2
             20
            1
             42
            0.5
              0
            SEQEND
              0
            ENDSEC
              0
            EOF
            """
        );
        Assert.Empty(drawing.Findings);
        var insert = Assert.IsType<Insert>(drawing.Model.Entities[0]);
        Assert.Equal("DOOR", drawing.Blocks[insert.Block]!.Name);
        Assert.Equal(0.5, drawing.Blocks["DOOR"]!.Base.X);
        Assert.Single(drawing.Blocks["DOOR"]!.Entities);
        var line = Assert.IsType<Polyline>(drawing.Model.Entities[1]);
        Assert.Equal([0, 0.5], line.Vertices.Select(v => v.Bulge));
        Assert.Equal(7.5, drawing.Extents().Max.X, 12);
        DrawingText.Same(drawing, DxfReader.Read(Write(drawing, CadVersion.AC1027)));
    }

    // Layers name line types; some writers put the layers first.
    [Fact]
    public void A_name_used_before_its_table_is_one_record()
    {
        const string Layers = "  0\nTABLE\n  2\nLAYER\n  0\nLAYER\n  2\nW\n 62\n3\n  6\nDOTS\n  0\nENDTAB\n";
        const string Types =
            "  0\nTABLE\n  2\nLTYPE\n  0\nLTYPE\n  5\n2A\n  2\nDOTS\n  3\ndots\n 73\n2\n 40\n1.0\n 49\n0.0\n 49\n-1.0\n  0\nENDTAB\n";
        var drawing = Read(
            "  0\nSECTION\n  2\nHEADER\n  9\n$ACADVER\n  1\nAC1015\n  0\nENDSEC\n  0\nSECTION\n  2\nTABLES\n"
                + Layers
                + Types
                + "  0\nENDSEC\n  0\nEOF\n"
        );
        Assert.Empty(drawing.Findings);
        var type = Assert.Single(drawing.LineTypes, l => l.Name == "DOTS");
        Assert.Equal(2, type.Dashes.Count);
        Assert.Same(type, drawing.LineTypes[drawing.Layers["W"]!.LineType]);
        Assert.Same(type, drawing.LineTypes[new Handle(0x2A)]);
    }

    [Fact]
    public void What_is_not_known_is_kept()
    {
        string text = DrawingText.Of(KitchenSink.Create(CadVersion.AC1027), CadVersion.AC1027);
        int at = text.IndexOf("  0\r\nENDSEC\r\n  0\r\nSECTION\r\n  2\r\nOBJECTS", StringComparison.Ordinal);
        const string Unknown =
            "  0\r\nACAD_MARVEL\r\n  5\r\nABCDE\r\n102\r\n{OTHER\r\n 40\r\n1.5\r\n102\r\n}\r\n330\r\n1F\r\n100\r\nAcDbEntity\r\n  8\r\n0\r\n100\r\nAcDbMarvel\r\n 90\r\n7\r\n310\r\n0102FF\r\n";
        text = text.Insert(at, Unknown)
            .Replace("100\r\nAcDbPoint\r\n", "100\r\nAcDbPoint\r\n 99\r\n5\r\n", StringComparison.Ordinal);
        var drawing = Read(text);
        string again = DrawingText.Of(drawing, CadVersion.AC1027);
        Assert.Contains("102\r\n{OTHER\r\n 40\r\n1.5\r\n102\r\n}\r\n", again);
        Assert.Contains("100\r\nAcDbMarvel\r\n 90\r\n7\r\n310\r\n0102FF\r\n", again);
        Assert.Contains(" 99\r\n5\r\n", again);
        Assert.Equal("ACAD_MARVEL", Assert.Single(drawing.Model.Entities.OfType<OpaqueEntity>()).Type);
    }

    [Theory]
    [InlineData("%%c25%%d%%p%%%", "⌀25°±%")]
    [InlineData("%%uTitle%%u %%065", "Title A")]
    [InlineData("100%", "100%")]
    public void Codes_of_text_become_signs(string text, string plain) => Assert.Equal(plain, PlainText.Of(text));

    [Theory]
    [InlineData("{\\fArial|b1;Room}\\PA-1", "Room\nA-1")]
    [InlineData("\\A1;3\\S1/2;\\~m\\{x\\}", "31/2\u00A0m{x}")]
    [InlineData("\\H0.7x;\\C1;red\\\\blue", "red\\blue")]
    public void Formatting_of_paragraphs_is_taken_away(string text, string plain) =>
        Assert.Equal(plain, PlainText.OfMText(text));

    // DXF reference, "Arbitrary axis algorithm": the x axis is world Y × N near the pole, world Z × N elsewhere.
    [Fact]
    public void Object_coordinates_follow_the_arbitrary_axis()
    {
        Assert.Equal(new Vec3(-3, 4, -5), ObjectCoordinates.ToWorld(new Vec3(3, 4, 5), new Vec3(0, 0, -1)));
        Assert.Equal(new Vec3(5, 3, 4), ObjectCoordinates.ToWorld(new Vec3(3, 4, 5), Vec3.AxisX));
        var normal = new Vec3(1, 2, 3).Unit();
        var back = ObjectCoordinates.FromWorld(ObjectCoordinates.ToWorld(new Vec3(3, 4, 5), normal), normal);
        Assert.True((back - new Vec3(3, 4, 5)).Length < 1e-12);
    }

    [Fact]
    public void Line_breaks_in_names_cannot_forge_groups()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        var line = new Line { End = new(1, 0, 0) };
        line.Extras.Data.Add(new ExtendedData(drawing.AddApplication("A").Handle, [new CadGroup(1000, "a\n  0\nEOF")]));
        drawing.Add(line);
        Assert.Single(DxfReader.Read(Write(drawing)).Model.Entities);
    }

    [Fact]
    public void Another_code_page_is_read_and_written()
    {
        var drawing = Drawing.Create(CadVersion.AC1015);
        drawing.Header.Set("$DWGCODEPAGE", 3, "ANSI_1251");
        drawing.AddLayer("Стены");
        drawing.AddLayer("梁");
        byte[] bytes = Write(drawing);
        Assert.Contains("\\U+6881", Encoding.Latin1.GetString(bytes));
        Assert.True(bytes.AsSpan().IndexOf((byte[])[0xD1, 0xF2, 0xE5, 0xED, 0xFB]) > 0);
        Assert.NotNull(DxfReader.Read(bytes).Layers["Стены"]);
        Assert.NotNull(DxfReader.Read(bytes).Layers["梁"]);
    }

    [Fact]
    public void A_long_coordinate_system_goes_in_pieces_and_comes_back()
    {
        string system = "<Dictionary>\n" + new string('x', 700) + "\n</Dictionary>";
        var drawing = Drawing.Create(CadVersion.AC1027);
        drawing.Objects.Add(new GeoData { Handle = drawing.NextHandle(), System = system });
        byte[] bytes = Write(drawing);
        Assert.Equal(2, Encoding.UTF8.GetString(bytes).ReplaceLineEndings("\n").Split("\n303\n").Length - 1);
        Assert.Equal(system, Assert.Single(DxfReader.Read(bytes).Objects.OfType<GeoData>()).System);
    }

    [Fact]
    public void The_points_of_a_geographic_mesh_of_2009_stand_under_other_codes()
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        var place = new GeoData { Handle = drawing.NextHandle(), Form = 1 };
        place.Mesh.Add((new(1, 2), new(3, 4)));
        drawing.Objects.Add(place);
        Assert.Equal(
            (new(1, 2), new(3, 4)),
            Assert.Single(Assert.Single(DxfReader.Read(Write(drawing)).Objects.OfType<GeoData>()).Mesh)
        );
    }

    [Fact]
    public void What_is_shown_of_an_underlay_is_scaled_turned_and_moved()
    {
        var page = new Underlay("PDFUNDERLAY")
        {
            Location = new(10, 0, 0),
            Scale = new(2, 3, 1),
            Rotation = Math.PI / 2,
        };
        Assert.Empty(page.Outline());
        page.Boundary.AddRange([new(0, 0), new(4, 1)]);
        var corners = page.Outline();
        Assert.Equal(4, corners.Count);
        foreach (
            var (corner, wanted) in corners.Zip((Vec3[])[new(10, 0, 0), new(10, 8, 0), new(7, 8, 0), new(7, 0, 0)])
        )
            Assert.Equal(0, (corner - wanted).Length, 1e-9);
    }

    [Theory]
    [InlineData(CadVersion.AC1021, true)]
    [InlineData(CadVersion.AC1024, false)]
    [InlineData(CadVersion.AC1032, false)]
    [InlineData(CadVersion.AC1032, true)]
    public void A_multi_leader_with_a_block_and_several_lines_comes_back(CadVersion version, bool dwg)
    {
        var drawing = Drawing.Create(version);
        var tag = drawing.AddBlock("TAG");
        var number = new AttributeDefinition { Tag = "NO", Style = drawing.Styles["Standard"]!.Handle };
        drawing.Add(number, tag);
        var leader = new MultiLeader
        {
            Content = 1,
            Block = (tag.Handle, CadColour.True(0x112233), new(2, 2, 2), 0.5, 1),
            Direction = (true, 2, 3),
            Attachment = (1, 3, 5),
            Extended = version >= CadVersion.AC1027,
        };
        leader.Context.Block = new MultiLeaderBlock
        {
            Block = tag.Handle,
            Position = (Vec3.AxisZ, new(5, 6, 0), new(2, 2, 2), 0.5),
        };
        if (!dwg || version < CadVersion.AC1024)
            leader.Labels.Add((number.Handle, 1, 4.5, "12"));
        var branch = new MultiLeaderBranch
        {
            Number = 1,
            Attachment = version >= CadVersion.AC1024 ? 1 : 0,
            Breaks = { (new(1, 1, 0), new(2, 2, 0)) },
        };
        branch.Lines.Add(
            new MultiLeaderLine
            {
                Points = { new(0, 0, 0), new(5, 10, 0) },
                Breaks = { (1, [(new(3, 3, 0), new(4, 4, 0))]) },
            }
        );
        branch.Lines.Add(new MultiLeaderLine { Points = { new(0, 5, 0) }, Number = 1 });
        leader.Context.Branches.Add(branch);
        drawing.Add(leader);
        var again = dwg ? DwgReader.Read(DwgTests.Write(drawing, version)) : DxfReader.Read(Write(drawing, version));
        var back = Assert.IsType<MultiLeader>(Assert.Single(again.Model.Entities));
        if (dwg && version >= CadVersion.AC1024)
            back.Direction = leader.Direction;
        if (version < CadVersion.AC1024)
            back.Attachment = leader.Attachment;
        DrawingText.Same(drawing, again, version);
        Assert.Equal(2, back.Context.Paths().Count());
        Assert.Equal(
            (tag.Handle, new Vec3(5, 6, 0)),
            (((Insert)back.Shown()!).Block, ((Insert)back.Shown()!).Location)
        );
    }

    [Fact]
    public void A_multi_leader_that_ends_within_its_content_is_read_as_far_as_it_goes()
    {
        var drawing = GroupText.Entity(
            "MULTILEADER",
            "100=AcDbEntity 100=AcDbMLeader 270=2 300=CONTEXT_DATA{ 40=2.0 290=1 304=Beam 302=LEADER{ 10=1.0 20=2.0 30=0.0 304=LEADER_LINE{ 10=5.0 20=6.0"
        );
        var leader = Assert.IsType<MultiLeader>(Assert.Single(drawing.Model.Entities));
        Assert.Equal(("Beam", 2.0), (leader.Context.Text!.Value, leader.Context.Scale));
        Assert.Equal(
            new Vec3(5, 6, 0),
            Assert.Single(Assert.Single(Assert.Single(leader.Context.Branches).Lines).Points)
        );
    }
}
