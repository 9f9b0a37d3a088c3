using System.Buffers.Binary;
using System.Text;

namespace SteadyLintel.Cad;

/// <summary>Runs of groups within objects: records of groups (XRECORD), and extended data.</summary>
internal static class DwgGroups
{
    /// <summary>Reads the groups of a record: each a code of two bytes and a value whose kind follows from it.</summary>
    public static void Read(BitReader data, List<CadGroup> groups, int size, CadVersion version, CadText text)
    {
        long end = data.Position + (8L * size);
        while (data.Position + 16 <= end)
        {
            int code = (short)data.RawShort();
            if (code < 0)
                break;
            if (Point(code))
            {
                groups.Add(new CadGroup(code, data.RawDouble()));
                groups.Add(new CadGroup(code + 10, data.RawDouble()));
                groups.Add(new CadGroup(code + 20, data.RawDouble()));
                continue;
            }

            groups.Add(
                new CadGroup(
                    code,
                    GroupCodes.Kind(code) switch
                    {
                        GroupKind.Double => data.RawDouble(),
                        GroupKind.Short => (long)(short)data.RawShort(),
                        GroupKind.Int => (long)data.RawLong(),
                        GroupKind.Long => (uint)data.RawLong() | ((long)data.RawLong() << 32),
                        GroupKind.Bool => data.Byte() != 0,
                        GroupKind.Handle => new Handle((uint)data.RawLong() | ((ulong)(uint)data.RawLong() << 32)),
                        GroupKind.Binary => data.Bytes(data.Byte()),
                        _ => Text(data, version, text),
                    }
                )
            );
        }

        data.Position = end;
    }

    /// <summary>The groups of a record as bytes.</summary>
    public static byte[] Write(IReadOnlyList<CadGroup> groups, CadVersion version, CadText text)
    {
        var bits = new BitWriter();
        for (int i = 0; i < groups.Count; i++)
        {
            var group = groups[i];
            bits.RawShort(group.Code);
            if (Point(group.Code))
            {
                // A point is three doubles under one code here, and two or three groups in DXF.
                bits.RawDouble(group.Number);
                for (int step = 10; step <= 20; step += 10)
                {
                    bool there = i + 1 < groups.Count && groups[i + 1].Code == group.Code + step;
                    bits.RawDouble(there ? groups[++i].Number : 0);
                }

                continue;
            }

            switch (GroupCodes.Kind(group.Code))
            {
                case GroupKind.Double:
                    bits.RawDouble(group.Number);
                    break;
                case GroupKind.Short:
                    bits.RawShort((int)group.Number);
                    break;
                case GroupKind.Int:
                    bits.RawLong((int)group.Number);
                    break;
                case GroupKind.Long:
                    Long(bits, group.Value is long l ? unchecked((ulong)l) : 0);
                    break;
                case GroupKind.Bool:
                    bits.Byte(group.Number != 0 ? 1 : 0);
                    break;
                case GroupKind.Handle:
                    Long(bits, group.Value is Handle h ? h.Value : 0);
                    break;
                case GroupKind.Binary:
                    Binary(bits, group.Value as byte[] ?? []);
                    break;
                default:
                    Text(bits, group.Text, version, text);
                    break;
            }
        }

        return bits.Written.ToArray();
    }

    /// <summary>Reads extended data of one application from its bytes.</summary>
    /// <param name="bytes">The bytes.</param>
    /// <param name="groups">The groups, with layers named by handle under 1003 as text of their handle.</param>
    /// <param name="version">The version.</param>
    /// <param name="text">What bytes mean.</param>
    public static void ReadExtended(byte[] bytes, List<CadGroup> groups, CadVersion version, CadText text)
    {
        var data = new BitReader(bytes);
        while (data.Left >= 8)
        {
            int code = 1000 + data.Byte();
            switch (code)
            {
                case 1000:
                    groups.Add(new CadGroup(code, ExtendedText(data, version, text)));
                    break;
                case 1002:
                    groups.Add(new CadGroup(code, data.Byte() == 0 ? "{" : "}"));
                    break;
                case 1003 or 1005:
                    groups.Add(new CadGroup(code, new Handle(BinaryPrimitives.ReadUInt64BigEndian(data.Bytes(8)))));
                    break;
                case 1004:
                    groups.Add(new CadGroup(code, data.Bytes(data.Byte())));
                    break;
                case >= 1010 and <= 1015:
                    for (int step = 0; step <= 20; step += 10)
                        groups.Add(new CadGroup(code + step, data.RawDouble()));
                    break;
                case >= 1040 and <= 1042:
                    groups.Add(new CadGroup(code, data.RawDouble()));
                    break;
                case 1070:
                    groups.Add(new CadGroup(code, (long)(short)data.RawShort()));
                    break;
                case 1071:
                    groups.Add(new CadGroup(code, (long)data.RawLong()));
                    break;
                default:
                    return;
            }
        }
    }

    /// <summary>Extended data of one application as bytes.</summary>
    public static byte[] WriteExtended(IReadOnlyList<CadGroup> groups, CadVersion version, CadText text)
    {
        var bits = new BitWriter();
        foreach (var group in groups)
        {
            if (group.Code is >= 1020 and < 1040)
            {
                bits.RawDouble(group.Number);
                continue;
            }

            bits.Byte(group.Code - 1000);
            switch (group.Code)
            {
                case 1000:
                    ExtendedText(bits, group.Text, version, text);
                    break;
                case 1002:
                    bits.Byte(group.Text == "{" ? 0 : 1);
                    break;
                case 1003 or 1005:
                    ulong handle = group.Value is Handle h ? h.Value : 0;
                    for (int shift = 56; shift >= 0; shift -= 8)
                        bits.Byte((int)(handle >> shift));
                    break;
                case 1004:
                    Binary(bits, group.Value as byte[] ?? []);
                    break;
                case (>= 1010 and < 1020) or (>= 1040 and <= 1042):
                    bits.RawDouble(group.Number);
                    break;
                case 1070:
                    bits.RawShort((int)group.Number);
                    break;
                default:
                    bits.RawLong((int)group.Number);
                    break;
            }
        }

        return bits.Written.ToArray();
    }

    private static bool Point(int code) =>
        code is (>= 10 and < 20) or (>= 110 and < 113) or (>= 210 and < 220) or (>= 1010 and < 1020);

    private static void Long(BitWriter bits, ulong value)
    {
        bits.RawLong(unchecked((int)value));
        bits.RawLong(unchecked((int)(value >> 32)));
    }

    private static void Binary(BitWriter bits, byte[] bytes)
    {
        var piece = bytes.AsSpan(0, Math.Min(bytes.Length, 255));
        bits.Byte(piece.Length);
        bits.Bytes(piece);
    }

    private static string Text(BitReader data, CadVersion version, CadText text)
    {
        int length = data.RawShort();
        if (version >= CadVersion.AC1021)
            return Encoding.Unicode.GetString(data.Bytes(2 * length));
        data.Byte();
        return text.Decode(data.Bytes(length));
    }

    private static void Text(BitWriter bits, string value, CadVersion version, CadText text)
    {
        if (version >= CadVersion.AC1021)
        {
            bits.RawShort(value.Length);
            bits.Bytes(Encoding.Unicode.GetBytes(value));
            return;
        }

        byte[] bytes = text.Encode(value);
        bits.RawShort(bytes.Length);
        bits.Byte(30);
        bits.Bytes(bytes);
    }

    private static string ExtendedText(BitReader data, CadVersion version, CadText text)
    {
        if (version >= CadVersion.AC1021)
            return Encoding.Unicode.GetString(data.Bytes(2 * data.RawShort()));
        int length = data.Byte();
        data.RawShort();
        return text.Decode(data.Bytes(length));
    }

    private static void ExtendedText(BitWriter bits, string value, CadVersion version, CadText text)
    {
        if (version >= CadVersion.AC1021)
        {
            bits.RawShort(value.Length);
            bits.Bytes(Encoding.Unicode.GetBytes(value));
            return;
        }

        byte[] bytes = text.Encode(value);
        var piece = bytes.AsSpan(0, Math.Min(bytes.Length, 255));
        bits.Byte(piece.Length);
        bits.Byte(0);
        bits.Byte(30);
        bits.Bytes(piece);
    }
}
