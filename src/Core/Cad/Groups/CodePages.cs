using System.Globalization;
using System.Text;

namespace SteadyLintel.Cad;

/// <summary>Code pages by the names of $DWGCODEPAGE and the numbers of DWG. From memory; names checked with an independent reader in
/// tests/Outside.</summary>
internal static class CodePages
{
    private const int Latin = 1252;

    // The numbers DWG has at offset 0x13 of its header.
    private static readonly (int Number, int Page)[] Numbers =
    [
        (1, 20127),
        (2, 28591),
        (3, 28592),
        (4, 28593),
        (5, 28594),
        (6, 28595),
        (7, 28596),
        (8, 28597),
        (9, 28598),
        (10, 28599),
        (11, 437),
        (12, 850),
        (13, 852),
        (14, 855),
        (15, 857),
        (16, 860),
        (17, 861),
        (18, 863),
        (19, 864),
        (20, 865),
        (21, 869),
        (22, 932),
        (23, 10000),
        (24, 950),
        (25, 949),
        (26, 1361),
        (27, 866),
        (28, 1250),
        (29, 1251),
        (30, 1252),
        (31, 936),
        (32, 1253),
        (33, 1254),
        (34, 1255),
        (35, 1256),
        (36, 1257),
        (37, 874),
        (38, 932),
        (39, 936),
        (40, 949),
        (41, 950),
        (42, 1361),
        (43, 1200),
        (44, 1258),
    ];

    static CodePages() => System.Text.Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    /// <summary>The encoding of a name such as <c>ANSI_1252</c>; Latin 1 where it is not known.</summary>
    public static Encoding Encoding(string name)
    {
        int at = name.LastIndexOf('_');
        int page =
            at >= 0
            && int.TryParse(name.AsSpan(at + 1), NumberStyles.None, CultureInfo.InvariantCulture, out int number)
                ? number
                : Latin;
        return Of(page is > 0 and < 20 ? 28590 + page : page);
    }

    /// <summary>The encoding of a number of DWG.</summary>
    public static Encoding Encoding(int number) =>
        Of(Numbers.FirstOrDefault(n => n.Number == number, (Number: 30, Page: Latin)).Page);

    /// <summary>The name for $DWGCODEPAGE of a number of DWG.</summary>
    public static string Name(int number) =>
        "ANSI_"
        + Numbers
            .FirstOrDefault(n => n.Number == number, (Number: 30, Page: Latin))
            .Page.ToString(CultureInfo.InvariantCulture);

    /// <summary>The number of DWG for a name; that of ANSI_1252 where it is not known.</summary>
    public static int Number(string name)
    {
        int page = Encoding(name).CodePage;
        return Numbers
            .LastOrDefault(
                n => n.Page == page && n.Number >= 28,
                Numbers.FirstOrDefault(n => n.Page == page, (Number: 30, Page: Latin))
            )
            .Number;
    }

    /// <summary>A character of a Far Eastern code page: 1 Japanese, 2 traditional Chinese, 3 Korean, 4 Johab, 5 simplified
    /// Chinese.</summary>
    public static string? MultiByte(char page, ReadOnlySpan<char> hex)
    {
        int number = page switch
        {
            '1' => 932,
            '2' => 950,
            '3' => 949,
            '4' => 1361,
            '5' => 936,
            _ => 0,
        };
        if (number == 0 || !ushort.TryParse(hex, NumberStyles.HexNumber, CultureInfo.InvariantCulture, out ushort code))
            return null;
        return Of(number).GetString([(byte)(code >> 8), (byte)code]);
    }

    private static Encoding Of(int page)
    {
        try
        {
            return System.Text.Encoding.GetEncoding(page);
        }
        catch (Exception e) when (e is ArgumentException or NotSupportedException)
        {
            return System.Text.Encoding.GetEncoding(Latin);
        }
    }
}
