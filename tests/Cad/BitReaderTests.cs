using CsCheck;
using SteadyLintel.Cad;

namespace SteadyLintel.Tests;

/// <summary>The reader of bit codes against one that looks at a bit at a time, wherever it begins and however near the end is.</summary>
public class BitReaderTests
{
    // As the specification tells the codes (chapter 2), without any care for speed.
    private sealed class Slow(byte[] data, long position, long end)
    {
        public long Position { get; private set; } = position;

        public ulong Bits(int count)
        {
            ulong value = 0;
            for (int i = 0; i < count; i++, Position++)
            {
                if (Position >= end)
                    throw new CadFormatException("early");
                value = (value << 1) | (uint)((data[Position / 8] >> (7 - (int)(Position % 8))) & 1);
            }

            return value;
        }

        public ulong Bytes(int count)
        {
            ulong value = 0;
            for (int i = 0; i < count; i++)
                value |= Bits(8) << (8 * i);
            return value;
        }

        public object Read(string code)
        {
            switch (code)
            {
                case "B":
                    return Bits(1) != 0;
                case "BB":
                    return (uint)Bits(2);
                case "RC":
                    return (int)Bits(8);
                case "RS":
                    return (int)(ushort)Bytes(2);
                case "RL":
                    return (int)Bytes(4);
                case "BS":
                    return Bits(2) switch
                    {
                        0 => (short)Bytes(2),
                        1 => (int)Bits(8),
                        2 => 0,
                        _ => 256,
                    };
                case "BL":
                    return Bits(2) switch
                    {
                        0 => (int)Bytes(4),
                        1 => (int)Bits(8),
                        _ => 0,
                    };
                case "BLL":
                    return (long)Bytes((int)Bits(3));
                case "BD":
                    return Bits(2) switch
                    {
                        0 => Real(),
                        1 => 1.0,
                        _ => 0.0,
                    };
                case "RD":
                    return Real();
                case "H":
                    int form = (int)Bits(4),
                        count = (int)Bits(4);
                    if (count > 8)
                        throw new CadFormatException("long");
                    ulong handle = 0;
                    for (int i = 0; i < count; i++)
                        handle = (handle << 8) | Bits(8);
                    return (form, handle);
                default:
                    return Modular(code == "MC");
            }
        }

        private double Real() =>
            BitConverter.UInt64BitsToDouble(Bytes(8)) is var value && double.IsFinite(value) ? value : 0;

        private object Modular(bool signed)
        {
            ulong value = 0;
            for (int shift = 0; shift < 64; shift += 7)
            {
                ulong b = Bits(8);
                bool last = (b & 0x80) == 0;
                value |= (last && signed ? b & 0x3F : b & 0x7F) << shift;
                if (last)
                    return signed
                        ? (b & 0x40) != 0
                            ? -(long)value
                            : (long)value
                        : value;
            }

            throw new CadFormatException("without end");
        }
    }

    private static object Fast(BitReader reader, string code) =>
        code switch
        {
            "B" => reader.Bit(),
            "BB" => reader.Bits(2),
            "RC" => reader.Byte(),
            "RS" => reader.RawShort(),
            "RL" => reader.RawLong(),
            "BS" => reader.Short(),
            "BL" => reader.Long(),
            "BLL" => reader.LongLong(),
            "BD" => reader.Double(),
            "RD" => reader.RawDouble(),
            "H" => reader.Handle(),
            "MC" => reader.ModularChar(),
            _ => reader.UnsignedModularChar(),
        };

    private static (object? Value, long Position) Outcome(Func<object> read, Func<long> position)
    {
        try
        {
            return (read(), position());
        }
        catch (CadFormatException)
        {
            // Where it stands after that is of no use to anybody.
            return (null, -1);
        }
    }

    [Theory]
    [InlineData("B")]
    [InlineData("BB")]
    [InlineData("RC")]
    [InlineData("RS")]
    [InlineData("RL")]
    [InlineData("BS")]
    [InlineData("BL")]
    [InlineData("BLL")]
    [InlineData("BD")]
    [InlineData("RD")]
    [InlineData("H")]
    [InlineData("MC")]
    [InlineData("UMC")]
    public void A_code_is_read_as_a_bit_at_a_time(string code) =>
        // Bytes with the highest bit set make long modular numbers; small ones make short handles.
        Gen.Select(
                Gen.OneOf(Gen.Byte, Gen.Byte[0x80, 0xFF], Gen.Byte[0, 8]).Array[1, 24],
                Gen.Int[0, 191],
                Gen.Int[0, 40]
            )
            .Sample(
                (data, start, less) =>
                {
                    long end = Math.Max(0, (data.Length * 8L) - less),
                        from = start % (data.Length * 8);
                    if (from > end)
                        return;
                    var slow = new Slow(data, from, end);
                    var fast = new BitReader(data) { Position = from, End = end };
                    Assert.Equal(
                        Outcome(() => slow.Read(code), () => slow.Position),
                        Outcome(() => Fast(fast, code), () => fast.Position)
                    );
                },
                iter: 3000
            );

    [Fact]
    public void Bytes_are_the_same_wherever_they_begin() =>
        Gen.Select(Gen.Byte.Array[1, 60], Gen.Int[0, 100], Gen.Int[0, 60])
            .Sample(
                (data, start, count) =>
                {
                    long from = start % (data.Length * 8);
                    var slow = new Slow(data, from, data.Length * 8L);
                    var fast = new BitReader(data) { Position = from };
                    Assert.Equal(
                        Outcome(
                            () => Convert.ToHexString([.. Enumerable.Range(0, count).Select(_ => (byte)slow.Bits(8))]),
                            () => slow.Position
                        ),
                        Outcome(() => Convert.ToHexString(fast.Bytes(count)), () => fast.Position)
                    );
                },
                iter: 3000
            );

    // RFC 1952 has the second; the first is the usual check of CRC-16 with this polynomial and no seed (common practice).
    [Theory]
    [InlineData("123456789", 0xBB3D)]
    [InlineData("", 0)]
    public void The_check_of_sixteen_bits_has_its_known_value(string text, int value) =>
        Assert.Equal(value, DwgCrc.Crc16(System.Text.Encoding.ASCII.GetBytes(text), 0));

    [Fact]
    public void The_check_of_sixteen_bits_is_that_of_a_bit_at_a_time() =>
        Gen.Select(Gen.Byte.Array[0, 70], Gen.UShort)
            .Sample(
                (data, seed) =>
                {
                    int crc = seed;
                    foreach (byte b in data)
                    {
                        crc ^= b;
                        for (int i = 0; i < 8; i++)
                            crc = (crc & 1) != 0 ? (crc >> 1) ^ 0xA001 : crc >> 1;
                    }

                    Assert.Equal(crc, DwgCrc.Crc16(data, seed));
                },
                iter: 1000
            );
}
