using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace SteadyLintel.Tests;

/// <summary>Changes files the way that breaks readers: what a file says stays mostly well formed, and means something else.</summary>
public sealed partial class FileMutator(Random random)
{
    private static readonly string[] Numbers =
    [
        "0",
        "-1",
        "1",
        "0.",
        "-0.",
        "1E308",
        "-1E308",
        "1E-308",
        "5E-324",
        "2147483647",
        "-2147483648",
        "4294967296",
        "1E20",
        "0.1",
        "1E400",
        "9999999999999999999999",
        "65536",
        "1E-9",
        "1000000.",
    ];

    private static readonly string[] Texts =
    [
        "''",
        "'\\X2\\D800\\X0\\'",
        "'\\X\\00'",
        "'\\S\\'",
        "'\\X2\\'",
        "$",
        "*",
        ".T.",
        "()",
        "(())",
        "\"0\"",
        "IFCLABEL('a')",
        "IFCREAL($)",
    ];

    /// <summary>Changes an exchange structure (ISO 10303-21): its references, numbers, types, nesting and repetition.</summary>
    public byte[] Part21(string text)
    {
        for (int n = random.Next(1, 6); n > 0; n--)
            text = random.Next(9) switch
            {
                0 => Swap(text, Reference(), Reference()),
                1 => Replace(text, Reference(), _ => "#" + random.Next(1, 2000).ToString(CultureInfo.InvariantCulture)),
                2 => Replace(text, Number(), _ => Pick(Numbers)),
                3 => Swap(text, Keyword(), Keyword()),
                4 => Replace(text, Value(), m => Nested(m.Value)),
                5 => Replace(text, Reference(), m =>
                    string.Join(",", Enumerable.Repeat(m.Value, random.Next(2, 2000)))
                ),
                6 => Replace(text, Value(), _ => Pick(Texts)),
                7 => Replace(text, Line(), _ => ""),
                _ => Replace(text, Line(), m => m.Value + m.Value),
            };
        return Cut(Encoding.Latin1.GetBytes(text));
    }

    /// <summary>Changes a DXF file as text: its group codes, values, order and repetition.</summary>
    public byte[] Dxf(string text)
    {
        var lines = text.Split('\n').ToList();
        for (int n = random.Next(1, 12); n > 0; n--)
        {
            int pair = 2 * random.Next(lines.Count / 2),
                other = 2 * random.Next(lines.Count / 2);
            switch (random.Next(7))
            {
                case 0:
                    lines[pair + 1] = lines[other + 1];
                    break;
                case 1:
                    lines[pair] = lines[other];
                    break;
                case 2:
                    lines[pair + 1] = Pick(Numbers);
                    break;
                case 3:
                    lines[pair] = random.Next(-5, 1100).ToString(CultureInfo.InvariantCulture);
                    break;
                case 4:
                    lines.RemoveRange(pair, Math.Min(2 * random.Next(1, 20), lines.Count - pair));
                    break;
                case 5:
                    lines.InsertRange(
                        pair,
                        lines.GetRange(other, Math.Min(2 * random.Next(1, 400), lines.Count - other))
                    );
                    break;
                default:
                    lines[pair + 1] = new string('9', random.Next(1, 5000));
                    break;
            }

            if (lines.Count < 4)
                break;
        }

        return Cut(Encoding.Latin1.GetBytes(string.Join('\n', lines)));
    }

    /// <summary>Changes bytes: single ones, whole numbers among them, stretches that come twice or not at all.</summary>
    public byte[] Bytes(byte[] seed)
    {
        var bytes = seed.ToList();
        for (int n = random.Next(1, 20); n > 0 && bytes.Count > 16; n--)
        {
            int at = random.Next(bytes.Count - 8),
                length = Math.Min(1 << random.Next(0, 12), bytes.Count - at);
            switch (random.Next(6))
            {
                case 0:
                    bytes[at] ^= (byte)(1 << random.Next(8));
                    break;
                case 1:
                    bytes[at] = (byte)random.Next(256);
                    break;
                case 2:
                    for (int i = 0; i < 4; i++)
                        bytes[at + i] = (byte)(random.Next(2) == 0 ? 0xFF : 0x7F);
                    break;
                case 3:
                    for (int i = 0; i < 4; i++)
                        bytes[at + i] = 0;
                    break;
                case 4:
                    if (random.Next(3) == 0)
                        bytes.RemoveRange(at, length);
                    break;
                default:
                    if (random.Next(3) == 0)
                        bytes.InsertRange(at, bytes.GetRange(at, length));
                    break;
            }
        }

        return Cut([.. bytes]);
    }

    private byte[] Cut(byte[] bytes) => random.Next(12) == 0 ? bytes[..random.Next(1, bytes.Length)] : bytes;

    private string Nested(string value)
    {
        int depth = 1 << random.Next(0, 17);
        return new string('(', depth) + value + new string(')', depth);
    }

    private string Pick(string[] of) => of[random.Next(of.Length)];

    private string Replace(string text, Regex what, Func<Match, string> by)
    {
        var places = what.Matches(text);
        if (places.Count == 0)
            return text;
        var place = places[random.Next(places.Count)];
        return string.Concat(text.AsSpan(0, place.Index), by(place), text.AsSpan(place.Index + place.Length));
    }

    private string Swap(string text, Regex what, Regex by)
    {
        var others = by.Matches(text);
        return others.Count == 0 ? text : Replace(text, what, _ => others[random.Next(others.Count)].Value);
    }

    [GeneratedRegex(@"(?<=[(,])#\d+")]
    private static partial Regex Reference();

    [GeneratedRegex(@"(?<=[(,])-?\d+\.?\d*(E-?\d+)?(?=[),])")]
    private static partial Regex Number();

    [GeneratedRegex(@"(?<==)[A-Z0-9]+(?=\()")]
    private static partial Regex Keyword();

    [GeneratedRegex(@"(?<=[(,])('[^']*'|\$|#\d+|-?\d+\.?\d*|\.[A-Z]+\.)(?=[),])")]
    private static partial Regex Value();

    [GeneratedRegex(@"(?<=\n)#\d+=[^\n]*\n")]
    private static partial Regex Line();
}
