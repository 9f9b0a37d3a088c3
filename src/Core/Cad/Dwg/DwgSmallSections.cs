using System.Text;

namespace SteadyLintel.Cad;

/// <summary>The sections around a drawing that hold nothing of it: times of saving, a picture, who wrote it. Forms after the Open Design
/// specification, from memory.</summary>
internal static class DwgSmallSections
{
    private static ReadOnlySpan<byte> PreviewStart =>
        [0x1F, 0x25, 0x6D, 0x07, 0xD4, 0x36, 0x28, 0x28, 0x9D, 0x57, 0xCA, 0x3F, 0x9D, 0x44, 0x10, 0x2B];

    /// <summary>The number of a version within the format's own history.</summary>
    public static int Number(CadVersion version) =>
        version switch
        {
            CadVersion.AC1015 => 0x17,
            CadVersion.AC1018 => 0x19,
            CadVersion.AC1021 => 0x1B,
            CadVersion.AC1024 => 0x1D,
            CadVersion.AC1027 => 0x1F,
            _ => 0x21,
        };

    /// <summary>Versions and counts of saving.</summary>
    public static byte[] AuxHeader(Drawing drawing, CadVersion version)
    {
        var bits = new BitWriter();
        int number = Number(version);
        bits.Bytes([0xFF, 0x77, 0x01]);
        Shorts(bits, number, 0);
        Longs(bits, 1, -1);
        Shorts(bits, 1, 0);
        Longs(bits, 0);
        Shorts(bits, number, 0, number, 0, 5, 0x893, 5, 0x893, 0, 1);
        Longs(bits, 0, 0, 0, 0, 0);
        Time(bits, drawing.Header.Number("$TDCREATE"));
        Time(bits, drawing.Header.Number("$TDUPDATE"));
        Longs(bits, drawing.Seed.Value < int.MaxValue ? (int)drawing.Seed.Value : -1, 0);
        Shorts(bits, 0, 1);
        Longs(bits, 0, 0, 0, 1, 0, 0, 0, 0);
        if (version >= CadVersion.AC1032)
            Shorts(bits, 0, 0, 0);
        return bits.Written.ToArray();
    }

    /// <summary>Title, author and the like: empty.</summary>
    public static byte[] Summary(Drawing drawing, CadVersion version)
    {
        var bits = new BitWriter();
        for (int i = 0; i < 8; i++)
            Text(bits, "", version);
        Longs(bits, 0, 0);
        Time(bits, drawing.Header.Number("$TDCREATE"));
        Time(bits, drawing.Header.Number("$TDUPDATE"));
        Shorts(bits, 0);
        Longs(bits, 0, 0);
        return bits.Written.ToArray();
    }

    /// <summary>No picture.</summary>
    public static byte[] Preview()
    {
        var bits = new BitWriter();
        bits.Bytes(PreviewStart);
        Longs(bits, 1);
        bits.Byte(0);
        bits.Bytes(DwgSections.End(PreviewStart));
        return bits.Written.ToArray();
    }

    /// <summary>Who wrote it.</summary>
    public static byte[] Application(CadVersion version)
    {
        var bits = new BitWriter();
        bool wide = version >= CadVersion.AC1021;
        if (wide)
            Longs(bits, 1);
        Text(bits, "AppInfoDataList", version);
        if (wide)
            Longs(bits, 3);
        bits.Bytes(new byte[16]);
        Text(bits, "1.0", version);
        if (wide)
            bits.Bytes(new byte[16]);
        Text(bits, "Steady Lintel", version);
        if (wide)
            bits.Bytes(new byte[16]);
        Text(
            bits,
            "<ProductInformation name=\"Steady Lintel\" build_version=\"1.0\" registry_version=\"1.0\" install_id_string=\"\" registry_localeID=\"1033\"/>",
            version
        );
        return bits.Written.ToArray();
    }

    /// <summary>Files it needs: none are listed.</summary>
    public static byte[] Dependencies() => new byte[8];

    /// <summary>Its history.</summary>
    public static byte[] History()
    {
        var bits = new BitWriter();
        Longs(bits, 0, 1, 0, 0);
        return bits.Written.ToArray();
    }

    /// <summary>Room that is free between objects: none.</summary>
    public static byte[] FreeSpace(Drawing drawing, int objects)
    {
        var bits = new BitWriter();
        Longs(bits, 0, objects);
        Time(bits, drawing.Header.Number("$TDUPDATE"));
        Longs(bits, 0);
        bits.Byte(4);
        Longs(bits, 0x32, 0, 0x64, 0, 0x200, 0, -1, 0);
        return bits.Written.ToArray();
    }

    private static void Text(BitWriter bits, string text, CadVersion version)
    {
        Shorts(bits, text.Length + 1);
        bits.Bytes((version >= CadVersion.AC1021 ? Encoding.Unicode : Encoding.Latin1).GetBytes(text + "\0"));
    }

    private static void Time(BitWriter bits, double days) =>
        Longs(bits, (int)Math.Floor(days), (int)((days - Math.Floor(days)) * 86_400_000));

    private static void Shorts(BitWriter bits, params ReadOnlySpan<int> values)
    {
        foreach (int value in values)
            bits.RawShort(value);
    }

    private static void Longs(BitWriter bits, params ReadOnlySpan<int> values)
    {
        foreach (int value in values)
            bits.RawLong(value);
    }
}
