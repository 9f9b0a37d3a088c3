using System.Text;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

public class DwgTests
{
    // 2007 is read only; the tests make its files.
    public static TheoryData<CadVersion> Versions => [.. DwgWriter.Versions, CadVersion.AC1021];

    internal static byte[] Write(Drawing drawing, CadVersion version)
    {
        if (version == CadVersion.AC1021)
            return CodedDwg.Write(drawing);
        if (version < CadVersion.AC1015)
            return OldDwgTests.Write(drawing, version);
        using var stream = new MemoryStream();
        Assert.Empty(DwgWriter.Write(drawing, stream, version));
        return stream.ToArray();
    }

    [Theory]
    [MemberData(nameof(Versions))]
    public void Every_entity_comes_back_in_every_version(CadVersion version)
    {
        var drawing = KitchenSink.Create(version);
        var again = DwgReader.Read(Write(drawing, version));
        Assert.Equal("", string.Join("\n", again.Findings));
        Assert.Equal(version, again.Version);
        DrawingText.Same(drawing, again, version);
    }

    [Theory]
    [MemberData(nameof(Versions))]
    public void Header_variables_come_back(CadVersion version)
    {
        var drawing = KitchenSink.Create(version);
        drawing.Header.Set("$CLAYER", 8, "A-WALL");
        drawing.Header.Set("$TDCREATE", 40, 2459000.25);
        drawing.Header.Set("$UCSXDIR", new Vec3(0, 1, 0));
        drawing.Header.Set("$ANGBASE", 50, 30.0);
        drawing.Header.Set("$CECOLOR", 62, 3);
        var again = DwgReader.Read(Write(drawing, version));
        Assert.Equal(
            (4, 10, "A-WALL", 2459000.25),
            (
                again.Units,
                again.Header.Number("$LTSCALE"),
                again.Header.Text("$CLAYER"),
                again.Header.Number("$TDCREATE")
            )
        );
        Assert.Equal(
            (new Vec3(0, 1, 0), 30, 3),
            (again.Header.Point("$UCSXDIR"), again.Header.Number("$ANGBASE"), (int)again.Header.Number("$CECOLOR"))
        );
        Assert.Equal("Standard", again.Header.Text("$DIMSTYLE"));
    }

    [Theory]
    [InlineData(1, true, new double[0])]
    [InlineData(2, true, new double[0])]
    [InlineData(2, false, new[] { 30.0, 20, 10 })]
    public void Columns_of_2018_come_back(int kind, bool automatic, double[] heights)
    {
        var drawing = Drawing.Create(CadVersion.AC1032);
        var columns = new MTextColumns(kind, 3, 50, 5, automatic, true);
        columns.Heights.AddRange(heights);
        drawing.Add(
            new MText
            {
                Value = "long",
                Columns = columns,
                Insertion = new(1, 2, 3),
            }
        );
        drawing.Add(new Line { End = new(1, 0, 0) });
        var again = DwgReader.Read(Write(drawing, CadVersion.AC1032));
        var read = (MText)again.Model.Entities[0];
        Assert.Equal(
            (kind, 3, 50, 5, automatic, true),
            (
                read.Columns!.Kind,
                read.Columns.Count,
                read.Columns.Width,
                read.Columns.Gutter,
                read.Columns.AutoHeight,
                read.Columns.Reversed
            )
        );
        Assert.Equal(heights, read.Columns.Heights);
        Assert.IsType<Line>(again.Model.Entities[1]);
    }

    // What views, viewports and coordinate systems have of their own in DWG; some of it came with 2004 or 2007.
    [Theory]
    [MemberData(nameof(Versions))]
    public void Settings_of_views_come_back(CadVersion version)
    {
        var drawing = KitchenSink.Create(version);
        var (view, window, record, system) = (
            drawing.Views[0],
            drawing.Blocks.SelectMany(b => b.Entities).OfType<Viewport>().Last(),
            drawing.Viewports[1],
            drawing.CoordinateSystems[0]
        );
        foreach (var settings in new[] { view.Settings, window.Settings, record.Settings })
        {
            (settings.Lights, settings.Tone, settings.Ambient, settings.Axes) = (
                (false, 2),
                (0.5, -0.25),
                new CadColour(7),
                (new(1, 2, 3), Vec3.AxisY, Vec3.AxisZ)
            );
            (settings.Scene, settings.Plane, settings.Systems) = (
                (new(0x101), new(0x102), new(0x103)),
                (4, 3),
                (system.Handle, new(0x104))
            );
        }

        (view.HasSystem, view.IsCamera, view.RenderMode, view.Section) = (true, true, 3, new(0x105));
        (window.Render, window.Plot, window.Coordinates, window.Shading) = (
            ("Grey", 2),
            (1, 8),
            (true, false),
            new(0x106)
        );
        (system.Side, system.Systems) = (2, (new(0x107), new(0x108)));
        system.Origins.Add((5, new Vec3(9, 8, 7)));
        var again = DwgReader.Read(Write(drawing, version));
        bool since2007 = version >= CadVersion.AC1021;
        Assert.Equal(Told(view.Settings, since2007), Told(again.Views[0].Settings, since2007));
        Assert.Equal(Told(record.Settings, since2007), Told(again.Viewports[record.Handle]!.Settings, since2007));
        var other = again.Blocks.SelectMany(b => b.Entities).OfType<Viewport>().Single(v => v.Handle == window.Handle);
        Assert.Equal(Told(window.Settings, since2007), Told(other.Settings, since2007));
        Assert.Equal((window.Render, window.Coordinates), (other.Render, other.Coordinates));
        if (since2007)
            Assert.Equal(
                (window.Plot, window.Shading, view.Section, view.IsCamera),
                (other.Plot, other.Shading, again.Views[0].Section, again.Views[0].IsCamera)
            );
        Assert.Equal((true, 3), (again.Views[0].HasSystem, again.Views[0].RenderMode));
        var seen = again.Viewports[record.Handle]!;
        Assert.Equal(
            (record.Clip, record.Zoom, record.Icon, record.Snap, record.Mode, record.RenderMode, record.OwnSystem),
            (seen.Clip, seen.Zoom, seen.Icon, seen.Snap, seen.Mode, seen.RenderMode, seen.OwnSystem)
        );
        Assert.Equal(since2007 ? record.GridLines : (true, 0, 5), seen.GridLines);
        Assert.Equal(
            (2, system.Systems, (5, new Vec3(9, 8, 7))),
            (
                again.CoordinateSystems[0].Side,
                again.CoordinateSystems[0].Systems,
                Assert.Single(again.CoordinateSystems[0].Origins)
            )
        );
    }

    // What a sheet says of its plotting goes back as it came; some of it came with 2004 or 2007, the plotted view left then.
    [Theory]
    [MemberData(nameof(Versions))]
    public void Settings_of_sheets_dimensions_and_meshes_come_back(CadVersion version)
    {
        var drawing = KitchenSink.Create(version);
        var sheet = drawing.Layouts.Last();
        (sheet.View, sheet.PlotOffset, sheet.PlotWindow, sheet.UsualScale, sheet.ImageOrigin) = (
            "South",
            new(11, 12),
            (new(1, 2), new(300, 200)),
            (22, 0.02),
            new(3, 4)
        );
        (sheet.Shade, sheet.VisualStyle, sheet.Axes, sheet.Plane, sheet.Systems) = (
            (2, 5, 600, new(0x201)),
            new(0x202),
            (new(5, 6, 7), Vec3.AxisY, Vec3.AxisZ),
            (1.5, 3),
            (new(0x203), new(0x204))
        );
        var dimension = drawing.Model.Entities.OfType<Dimension>().First();
        (dimension.Picture, dimension.Flipped) = ((new(2, 2, 2), 0.5), (true, false));
        drawing.Layers["A-WALL"]!.VisualStyle = new(0x205);
        foreach (var mesh in drawing.Model.Entities.OfType<MeshEntity>())
            mesh.Blended = true;
        var again = DwgReader.Read(Write(drawing, version));
        var read = again.Layouts.Single(l => l.Handle == sheet.Handle);
        Assert.Equal(
            (
                sheet.PlotOffset,
                sheet.PlotWindow,
                sheet.UsualScale,
                sheet.ImageOrigin,
                sheet.Axes,
                sheet.Plane,
                sheet.Systems
            ),
            (read.PlotOffset, read.PlotWindow, read.UsualScale, read.ImageOrigin, read.Axes, read.Plane, read.Systems)
        );
        Assert.Equal(version == CadVersion.AC1015 ? "South" : "", read.View);
        if (version >= CadVersion.AC1018)
            Assert.Equal(sheet.Shade, read.Shade);
        if (version >= CadVersion.AC1021)
            Assert.Equal(sheet.VisualStyle, read.VisualStyle);
        var other = again.Model.Entities.OfType<Dimension>().First();
        Assert.Equal((dimension.Picture, version >= CadVersion.AC1021), (other.Picture, other.Flipped.First));
        if (version >= CadVersion.AC1027)
            Assert.Equal(new Handle(0x205), again.Layers["A-WALL"]!.VisualStyle);
        Assert.All(again.Model.Entities.OfType<MeshEntity>(), m => Assert.True(m.Blended));
    }

    private static string Told(ViewSettings s, bool since2007) =>
        since2007
            ? $"{s.Lights} {s.Tone} {s.Ambient.Index} {s.Scene} {s.Axes} {s.Plane} {s.Systems}"
            : $"{s.Axes} {s.Plane} {s.Systems}";

    [Theory]
    [MemberData(nameof(Versions))]
    public void The_same_drawing_gives_the_same_bytes(CadVersion version) =>
        Assert.Equal(Write(KitchenSink.Create(version), version), Write(KitchenSink.Create(version), version));

    [Theory]
    [MemberData(nameof(Versions))]
    public void What_has_no_fields_here_is_kept_in_its_own_version(CadVersion version)
    {
        // A kind of its own, made from a point's bits under a class nobody knows.
        var drawing = Drawing.Create(version);
        drawing.Classes.Add(
            new CadClass
            {
                Number = 500,
                DxfName = "ACAD_MARVEL",
                ClassName = "AcDbMarvel",
                IsEntity = true,
            }
        );
        drawing.Add(new OpaqueEntity("ACAD_MARVEL") { Bits = Marvel(version) });
        drawing.Add(new Line { End = new(1, 2, 3) });
        var handle = drawing.Model.Entities[0].Handle;
        var first = DwgReader.Read(Write(drawing, version));
        var second = DwgReader.Read(Write(first, version));
        var kept = Assert.IsType<OpaqueEntity>(second.Model.Entities[0]);
        Assert.Equal(("ACAD_MARVEL", handle), (kept.Type, kept.Handle));
        Assert.Equal(((OpaqueEntity)first.Model.Entities[0]).Bits!.Data, kept.Bits!.Data);
        using var other = new MemoryStream();
        var left = DwgWriter.Write(second, other, version == CadVersion.AC1015 ? CadVersion.AC1018 : CadVersion.AC1015);
        Assert.Contains("ACAD_MARVEL", Assert.Single(left).Message);
        Assert.Single(DwgReader.Read(other.ToArray()).Model.Entities);
        using var dxf = new MemoryStream();
        Assert.Equal("CAD-LEFT-BEHIND", Assert.Single(DxfWriter.Write(second, dxf)).Code);
    }

    // A point's bits under a class that has other fields.
    [Theory]
    [MemberData(nameof(Versions))]
    public void A_kind_whose_fields_are_not_as_known_is_kept_as_bits(CadVersion version)
    {
        var drawing = Drawing.Create(version);
        drawing.Classes.Add(
            new CadClass
            {
                Number = 500,
                DxfName = "MULTILEADER",
                ClassName = "AcDbMLeader",
                IsEntity = true,
            }
        );
        var bits = Marvel(version);
        drawing.Add(new OpaqueEntity("MULTILEADER") { Bits = bits });
        var again = DwgReader.Read(Write(drawing, version));
        Assert.Empty(again.Findings);
        var kept = Assert.IsType<OpaqueEntity>(Assert.Single(again.Model.Entities));
        Assert.Equal(("MULTILEADER", "0"), (kept.Type, again.LayerName(kept.Layer)));
        Assert.Equal(bits.Data.Length, kept.Bits!.Data.Length);
    }

    private static OpaqueBits Marvel(CadVersion version)
    {
        var drawing = Drawing.Create(version);
        return EntityBits.Of(
            drawing,
            new MarvelPoint { Handle = drawing.Seed, Layer = drawing.Layers["0"]!.Handle },
            version
        );
    }

    private sealed class MarvelPoint : Entity
    {
        public override string Type => "ACAD_MARVEL";

        internal override void Exchange(Fields f) => f.Double(0, 1.25);
    }

    // Attributes of several lines came with 2018. Of their fields only the texts are read, wherever the others stand.
    [Fact]
    public void An_attribute_of_several_lines_keeps_its_texts_and_its_bits()
    {
        var drawing = Drawing.Create(CadVersion.AC1032);
        var block = drawing.AddBlock("TITLE");
        var lines = new AttributeOfLines
        {
            Value = "first",
            Height = 3,
            Style = drawing.Styles["Standard"]!.Handle,
        };
        var insert = new Insert { Block = block.Handle };
        drawing.Add(
            new AttributeDefinition
            {
                Tag = "NOTE",
                Prompt = "What",
                Value = "first",
            },
            block
        );
        insert.Attributes.Add(lines);
        insert.Attributes.Add(new AttributeEntity { Tag = "NO", Value = "07" });
        drawing.Add(insert);
        var read = DwgReader.Read(Write(drawing, CadVersion.AC1032));
        Assert.Empty(read.Findings);
        var attributes = Assert.IsType<Insert>(read.Model.Entities[0]).Attributes;
        Assert.Equal(
            [("NOTE", "first", "first\\Psecond"), ("NO", "07", "")],
            attributes.Select(a => (a.Tag, a.Value, a.Paragraphs))
        );
        var again = DwgReader.Read(Write(read, CadVersion.AC1032));
        Assert.Equal(attributes[0].Bits!.Data, ((Insert)again.Model.Entities[0]).Attributes[0].Bits!.Data);
        var older = DwgReader.Read(Write(read, CadVersion.AC1024));
        Assert.Equal(
            [("NOTE", "first", "", true), ("NO", "07", "", true)],
            ((Insert)older.Model.Entities[0]).Attributes.Select(a => (a.Tag, a.Value, a.Paragraphs, a.Bits is null))
        );
    }

    private sealed class AttributeOfLines : AttributeEntity
    {
        internal override void Exchange(Fields f)
        {
            ExchangeText(f);
            var d = f.Dwg!;
            d.RawByte(0);
            d.RawByte(2);
            // Something nobody here knows the length of.
            d.Double(3.25);
            d.Text(1, "first\\Psecond");
            d.Bit(true);
            d.Text(2, "NOTE");
            d.Short(0);
            d.RawByte(8);
            d.Bit(false);
        }
    }

    [Theory]
    [InlineData("AC1009", "version AC1009")]
    [InlineData("AC9999", "version AC9999")]
    [InlineData("AC1015", "Ask for it again")]
    [InlineData("AC1032", "Ask for it again")]
    [InlineData("hello!", "does not begin like a DWG")]
    public void What_cannot_be_read_is_a_sentence(string head, string why)
    {
        byte[] bytes = new byte[400];
        Encoding.ASCII.GetBytes(head).CopyTo(bytes, 0);
        Assert.Contains(why, Assert.Throws<CadFormatException>(() => DwgReader.Read(bytes)).Message);
    }

    [Fact]
    public void A_damaged_object_is_a_finding_and_the_rest_is_read()
    {
        byte[] bytes = Write(KitchenSink.Create(CadVersion.AC1015), CadVersion.AC1015);
        // Somewhere among the objects of 2000, which are not packed.
        for (int i = 6000; i < 6010; i++)
            bytes[i] ^= 0xFF;
        var drawing = DwgReader.Read(bytes);
        Assert.Contains(drawing.Findings, f => f.Code is "CAD-CRC" or "CAD-OBJECT");
        Assert.True(drawing.Model.Entities.Count > 30);
    }

    // Open Design specification, 2.x (from memory): the codes of bit values.
    [Fact]
    public void Bit_codes_are_those_of_the_format()
    {
        Assert.Equal("10", Bits(w => w.Short(0)));
        Assert.Equal("11", Bits(w => w.Short(256)));
        Assert.Equal("01" + "00001111", Bits(w => w.Short(15)));
        Assert.Equal("00" + "0000000100000001", Bits(w => w.Short(257)));
        Assert.Equal("01", Bits(w => w.Double(1)));
        Assert.Equal("10", Bits(w => w.Double(0)));
        Assert.Equal(
            "0101" + "0010" + "0000000110000000",
            Bits(w => w.Handle(HandleKind.HardPointer, new Handle(0x180)))
        );
        Assert.Equal("1000001000100100", Bits(w => w.UnsignedModularChar(4610)));
    }

    private static string Bits(Action<BitWriter> write)
    {
        var writer = new BitWriter();
        write(writer);
        long count = writer.Position;
        writer.Align();
        return string.Concat(writer.Written.ToArray().Select(b => Convert.ToString(b, 2).PadLeft(8, '0')))[
            ..(int)count
        ];
    }

    // The check value of CRC-16 with the polynomial 0xA001 over "123456789" is 0xBB3D (Koopman's tables, from memory), that of CRC-32
    // 0xCBF43926.
    [Fact]
    public void Checks_are_the_known_ones()
    {
        Assert.Equal(0xBB3D, DwgCrc.Crc16("123456789"u8, 0));
        Assert.Equal(0xCBF43926, DwgCrc.Crc32("123456789"u8));
        // RFC 1950, with the seed 1 that it begins with.
        Assert.Equal(0x11E60398u, DwgCrc.Sum("Wikipedia"u8, 1));
    }
}
