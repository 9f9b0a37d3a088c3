using System.Buffers.Binary;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>DWG of release 13 and 14: the tests make the files (tests/Outside asks others whether they are such), and this reader reads
/// them.</summary>
public class OldDwgTests
{
    public static TheoryData<CadVersion> Versions => [CadVersion.AC1012, CadVersion.AC1014];

    internal static byte[] Write(Drawing drawing, CadVersion version)
    {
        using var stream = new MemoryStream();
        DwgWriter.WriteOld(drawing, stream, version);
        return stream.ToArray();
    }

    // What these releases have no field for; sheets are made anew.
    private static readonly string[] Unknown = ["370=", "290=", "390=", "340=", "330=", "420="];

    private static readonly HashSet<string> MadeAnew =
    [
        "LAYOUT",
        "DICTIONARY",
        "ACDBPLACEHOLDER",
        "ACDBDICTIONARYWDFLT",
        "VIEWPORT",
        "BLOCK_RECORD",
        "XRECORD",
        "DIMSTYLE",
        "VPORT",
        "ENDTAB",
        "TABLE",
        "EOF",
        "ENDSEC",
        "SECTION",
    ];

    [Theory]
    [MemberData(nameof(Versions))]
    public void Every_entity_and_record_comes_back(CadVersion version)
    {
        var drawing = OldSink.Create(version);
        var again = DwgReader.Read(Write(drawing, version));
        Assert.Equal(("", version), (string.Join("\n", again.Findings), again.Version));
        Assert.Equal(Texts(drawing), Texts(again));
        Assert.Equal(
            drawing.Blocks.Select(b => (b.Name, b.Entities.Count)).Order(),
            again.Blocks.Select(b => (b.Name, b.Entities.Count)).Order()
        );
        var record = again.Objects.OfType<CadRecord>().Single();
        Assert.Equal(
            drawing.Objects.OfType<CadRecord>().Single().Groups.Select(g => g.ToString()),
            record.Groups.Select(g => g.ToString())
        );

        static List<string> Texts(Drawing d) =>
            [
                .. DrawingText
                    .ByHandle(d, CadVersion.AC1015)
                    .Values.Where(t => !MadeAnew.Contains(t.Split('\n')[0][2..]))
                    .Select(t => string.Join(" ", t.Split('\n').Where(l => !Unknown.Any(l.StartsWith)))),
            ];
    }

    public static TheoryData<CadVersion, bool, CadVersion> Ways =>
        [
            .. from old in (CadVersion[])[CadVersion.AC1012, CadVersion.AC1014]
            from dwg in (bool[])[false, true]
            from version in new CadForm(dwg, CadVersion.AC1024).Versions
            select new TheoryDataRow<CadVersion, bool, CadVersion>(old, dwg, version),
        ];

    // What was read goes on in every form that is written, with nothing left behind.
    [Theory]
    [MemberData(nameof(Ways))]
    public void It_goes_into_every_newer_form(CadVersion old, bool dwg, CadVersion version)
    {
        var read = DwgReader.Read(Write(OldSink.Create(old), old));
        using var stream = new MemoryStream();
        Assert.Empty(CadFile.Write(read, stream, new CadForm(dwg, version)));
        var again = CadFile.Read(stream.ToArray()).Drawing;
        Assert.Equal(("", version), (string.Join("\n", again.Findings), again.Version));
        DrawingText.Same(DwgReader.Read(Write(OldSink.Create(old), old)), again, version);
        IsTheView(again, again.Blocks[BlockRecord.PaperSpace]!.Entities.OfType<Viewport>().Last());
    }

    [Theory]
    [MemberData(nameof(Versions))]
    public void Header_variables_come_back(CadVersion version)
    {
        var drawing = OldSink.Create(version);
        drawing.Header.Set("$CLAYER", 8, "A-WALL");
        drawing.Header.Set("$TDCREATE", 40, 2449000.25);
        drawing.Header.Set("$EXTMIN", new Vec3(1, 2, 3));
        drawing.Header.Set("$EXTMAX", new Vec3(7, 8, 9));
        drawing.Header.Set("$PLIMMAX", new Vec3(841, 594, 0));
        drawing.Header.Set("$DELOBJ", 70, 0);
        drawing.Header.Set("$DIMFIT", 70, 5);
        drawing.Header.Set("$DIMASZ", 40, 2.5);
        drawing.Header.Set("$DIMPOST", 1, "<> mm");
        var again = DwgReader.Read(Write(drawing, version)).Header;
        Assert.Equal(
            ("A-WALL", 2449000.25, new Vec3(7, 8, 9), 841),
            (again.Text("$CLAYER"), again.Number("$TDCREATE"), again.Point("$EXTMAX"), again["$PLIMMAX"][0].Number)
        );
        Assert.Equal(
            (0, 5, 2.5, "<> mm"),
            (again.Number("$DELOBJ"), again.Number("$DIMFIT"), again.Number("$DIMASZ"), again.Text("$DIMPOST"))
        );
        Assert.False(again.Has("$INSUNITS"));
    }

    [Theory]
    [MemberData(nameof(Versions))]
    public void A_dimension_style_is_translated_into_the_variables_of_2000(CadVersion version)
    {
        var drawing = OldSink.Create(version);
        var style = drawing.DimensionStyles["ISO-25"]!;
        (
            style["DIMATFIT"],
            style["DIMTMOVE"],
            style["DIMLUNIT"],
            style["DIMFRAC"],
            style["DIMTAD"],
            style["DIMSCALE"]
        ) = (3L, 2L, 5L, 2L, 1L, 50.0);
        var again = DwgReader.Read(Write(drawing, version));
        var read = again.DimensionStyles["ISO-25"]!;
        foreach (
            string name in (string[])
                ["DIMATFIT", "DIMTMOVE", "DIMLUNIT", "DIMFRAC", "DIMTAD", "DIMSCALE", "DIMTXT", "DIMDEC", "DIMTXSTY"]
        )
            Assert.Equal((name, style[name]), (name, read[name]));
        Assert.Equal(again.Blocks["Hinge"]!.Handle, read["DIMBLK"]);
    }

    // DXF reference: DIMFIT and DIMUNIT were taken apart in 2000.
    [Theory]
    [InlineData(0, 0, 0)]
    [InlineData(3, 3, 0)]
    [InlineData(4, 3, 1)]
    [InlineData(5, 3, 2)]
    public void Fitting_is_two_numbers_since_2000(long old, long fit, long move) =>
        Assert.Equal(
            (fit, move, old),
            (
                OldDimensionVariables.OfFit(old).Fit,
                OldDimensionVariables.OfFit(old).Move,
                OldDimensionVariables.Fit(fit, move)
            )
        );

    [Theory]
    [InlineData(2, 2, 0)]
    [InlineData(4, 4, 0)]
    [InlineData(6, 4, 2)]
    [InlineData(7, 5, 2)]
    [InlineData(8, 6, 0)]
    public void Units_of_dimensions_are_two_numbers_since_2000(long old, long unit, long fraction) =>
        Assert.Equal(
            (unit, fraction, old),
            (
                OldDimensionVariables.OfUnit(old).Unit,
                OldDimensionVariables.OfUnit(old).Fraction,
                OldDimensionVariables.Unit(unit, fraction)
            )
        );

    [Theory]
    [MemberData(nameof(Versions))]
    public void Viewports_look_where_their_extended_data_say(CadVersion version)
    {
        var again = DwgReader.Read(Write(OldSink.Create(version), version));
        Assert.Equal(["Model", "Layout1"], again.Layouts.Select(l => l.Name));
        IsTheView(again, again.Blocks[BlockRecord.PaperSpace]!.Entities.OfType<Viewport>().Last());
    }

    // DXF up to release 14 has the same data, and is much in use.
    [Fact]
    public void So_do_those_of_dxf_of_release_12()
    {
        string view = string.Concat(
            OldSink
                .View(5000, 4000, 10_000, 30, "OFF")
                .Select(g => FormattableString.Invariant($"{g.Code}\n{g.Value}\n"))
        );
        string text =
            "0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\nAC1009\n0\nENDSEC\n0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n70\n1\n0\nLAYER\n2\nOFF\n70\n0\n62\n7\n6\nCONTINUOUS\n0\nENDTAB\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n"
            + $"0\nVIEWPORT\n8\n0\n67\n1\n10\n200\n20\n150\n30\n0\n40\n200\n41\n100\n68\n2\n69\n2\n1001\nACAD\n{view}0\nENDSEC\n0\nEOF\n";
        var drawing = DxfReader.Read(System.Text.Encoding.ASCII.GetBytes(text));
        IsTheView(drawing, drawing.Blocks[BlockRecord.PaperSpace]!.Entities.OfType<Viewport>().Single());
    }

    private static void IsTheView(Drawing drawing, Viewport window)
    {
        Assert.Equal((new Vec2(5000, 4000), 10_000, 0.01), (window.ViewCentre, window.ViewHeight, window.Scale));
        Assert.Equal((new Vec3(1, 2, 3), new Vec3(0, -1, 1), 50), (window.Target, window.Direction, window.Lens));
        Assert.Equal(
            (Math.PI / 6, Math.PI / 12),
            (window.Twist, window.SnapAngle),
            ((double, double) a, (double, double) b) =>
                Math.Abs(a.Item1 - b.Item1) < 1e-12 && Math.Abs(a.Item2 - b.Item2) < 1e-12
        );
        Assert.Equal((new Vec2(1, 2), new Vec2(3, 4), new Vec2(5, 6)), window.Grid);
        Assert.Equal((100, 0x80 | 0x20 | 0x40 | 0x200), (window.CircleZoom, window.Status));
        Assert.Equal([drawing.Layers["OFF"]!.Handle], window.Frozen);
        Assert.DoesNotContain(window.Extras.Data, d => d.Groups[0].Text == "MVIEW");
    }

    [Theory]
    [InlineData(6)]
    [InlineData(13)]
    public void A_viewport_whose_data_end_early_keeps_them(int groups)
    {
        var drawing = OldSink.Create(CadVersion.AC1014);
        var data = drawing.Blocks[BlockRecord.PaperSpace]!.Entities.OfType<Viewport>().Last().Extras.Data[0].Groups;
        data.RemoveRange(groups, data.Count - groups);
        var window = DwgReader.Read(Write(drawing, CadVersion.AC1014)).Blocks[BlockRecord.PaperSpace]!
            .Entities.OfType<Viewport>()
            .Last();
        Assert.Equal((1, groups), (window.ViewHeight, window.Extras.Data[0].Groups.Count));
    }

    // Open Design specification, chapter 3 (from memory): the check of the head begins with nothing and is combined with one of these
    // numbers, by the count of sections.
    [Theory]
    [InlineData(3, 0xA598)]
    [InlineData(4, 0x8101)]
    [InlineData(5, 0x3CC4)]
    [InlineData(6, 0x8461)]
    public void The_check_of_the_head_is_that_of_the_specification(int sections, int combined)
    {
        byte[] head = new byte[0x19 + (9 * sections)];
        Assert.Equal(combined, DwgCrc.Crc16(head));
    }

    [Fact]
    public void An_older_drawing_is_told_from_a_newer_one_by_name()
    {
        foreach (string version in (string[])["AC1009", "AC1040"])
        {
            var error = Assert.Throws<CadFormatException>(() =>
                DwgReader.Read([.. System.Text.Encoding.ASCII.GetBytes(version), .. new byte[200]])
            );
            Assert.Contains(version, error.Message, StringComparison.Ordinal);
            Assert.Contains("DXF", error.Message, StringComparison.Ordinal);
        }
    }

    [Theory]
    [MemberData(nameof(Versions))]
    public void An_object_whose_size_leads_outside_is_left_out(CadVersion version)
    {
        var drawing = Drawing.Create(version);
        var line = new Line { End = new(1, 2, 3) };
        drawing.Add(line);
        drawing.Add(new Circle { Radius = 4 });
        byte[] file = Write(drawing, version);
        // The map is the third section.
        int map = BinaryPrimitives.ReadInt32LittleEndian(file.AsSpan(0x19 + 18 + 1)),
            size = BinaryPrimitives.ReadInt32LittleEndian(file.AsSpan(0x19 + 18 + 5));
        int at = (int)
            DwgMap.Read(file.AsSpan(map, size).ToArray(), drawing).Single(p => p.Handle == line.Handle).Offset;
        // Behind the size in bytes: type, handle, no extended data, no picture, then the size in bits.
        for (int i = 4; i < 12; i++)
            file[at + i] = 0xFF;
        var again = DwgReader.Read(file);
        Assert.Single(again.Model.Entities.OfType<Circle>());
        Assert.Contains(again.Findings, f =>
            f.Code == "CAD-OBJECT" || f.Message.Contains(line.Handle.ToString(), StringComparison.Ordinal)
        );
    }
}
