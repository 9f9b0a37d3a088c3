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
        if (version == CadVersion.AC1021) return CodedDwg.Write(drawing);
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
        Assert.Equal((4, 10, "A-WALL", 2459000.25), (again.Units, again.Header.Number("$LTSCALE"), again.Header.Text("$CLAYER"), again.Header.Number("$TDCREATE")));
        Assert.Equal((new Vec3(0, 1, 0), 30, 3), (again.Header.Point("$UCSXDIR"), again.Header.Number("$ANGBASE"), (int)again.Header.Number("$CECOLOR")));
        Assert.Equal("Standard", again.Header.Text("$DIMSTYLE"));
    }

    [Theory]
    [MemberData(nameof(Versions))]
    public void The_same_drawing_gives_the_same_bytes(CadVersion version) => Assert.Equal(Write(KitchenSink.Create(version), version), Write(KitchenSink.Create(version), version));

    [Theory]
    [MemberData(nameof(Versions))]
    public void What_has_no_fields_here_is_kept_in_its_own_version(CadVersion version)
    {
        // A kind of its own, made from a point's bits under a class nobody knows.
        var drawing = Drawing.Create(version);
        drawing.Classes.Add(new CadClass { Number = 500, DxfName = "ACAD_MARVEL", ClassName = "AcDbMarvel", IsEntity = true });
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
        drawing.Classes.Add(new CadClass { Number = 500, DxfName = "MULTILEADER", ClassName = "AcDbMLeader", IsEntity = true });
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
        var text = new CadText(Encoding.Latin1);
        var drawing = Drawing.Create(version);
        var seen = drawing.Seed;
        drawing.Add(new Point());
        var writer = new DwgObjectWriter(drawing, version, text, [new CadClass { Number = 500, DxfName = "ACAD_MARVEL" }]);
        var stand = new MarvelPoint { Handle = seen, Layer = drawing.Layers["0"]!.Handle };
        writer.Entity(stand, drawing.Model.Handle, 2, default, default);
        byte[] written = writer.Output.ToArray()[(int)writer.Places[0].Offset..];
        var head = new BitReader(written);
        int size = head.ModularShort();
        long handles = version >= CadVersion.AC1024 ? (size * 8L) - (long)head.UnsignedModularChar() : 0;
        byte[] body = written.AsSpan((int)(head.Position / 8), size).ToArray();
        if (handles > 0) return new OpaqueBits(version, 0, body, handles);
        var data = new BitReader(body);
        data.Short();
        return new OpaqueBits(version, 0, body, (uint)data.RawLong());
    }

    private sealed class MarvelPoint : Entity
    {
        public override string Type => "ACAD_MARVEL";

        internal override void Exchange(Fields f) => f.Double(0, 1.25);
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
        for (int i = 6000; i < 6010; i++) bytes[i] ^= 0xFF;
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
        Assert.Equal("0101" + "0010" + "0000000110000000", Bits(w => w.Handle(HandleKind.HardPointer, new Handle(0x180))));
        Assert.Equal("1000001000100100", Bits(w => w.UnsignedModularChar(4610)));
    }

    private static string Bits(Action<BitWriter> write)
    {
        var writer = new BitWriter();
        write(writer);
        long count = writer.Position;
        writer.Align();
        return string.Concat(writer.Written.ToArray().Select(b => Convert.ToString(b, 2).PadLeft(8, '0')))[..(int)count];
    }

    // The check value of CRC-16 with the polynomial 0xA001 over "123456789" is 0xBB3D (Koopman's tables, from memory), that of CRC-32 0xCBF43926.
    [Fact]
    public void Checks_are_the_known_ones()
    {
        Assert.Equal(0xBB3D, DwgCrc.Crc16("123456789"u8, 0));
        Assert.Equal(0xCBF43926, DwgCrc.Crc32("123456789"u8));
        // RFC 1950, with the seed 1 that it begins with.
        Assert.Equal(0x11E60398u, DwgCrc.Sum("Wikipedia"u8, 1));
    }
}
