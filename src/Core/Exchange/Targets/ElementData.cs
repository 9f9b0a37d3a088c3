using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>The strings under our application name in an entity's extended data, by which a written element is found again.</summary>
internal static class ElementData
{
    /// <summary>The application name (group code 1001).</summary>
    public const string Application = "STEADY_LINTEL";

    // DXF reference: a string of extended data has at most 255 bytes.
    private const int Longest = 255;

    // Before AC1021 a letter that the code page lacks is written as \U+XXXX.
    private const int EncodedLetter = 7;

    /// <summary>Puts strings on an entity.</summary>
    public static void Put(Drawing drawing, Entity entity, IEnumerable<string> texts) =>
        entity.Extras.Data.Add(
            new ExtendedData(
                drawing.AddApplication(Application).Handle,
                [.. texts.Select(t => new CadGroup(1000, Short(Caret.Encode(t))))]
            )
        );

    /// <summary>The strings of an entity; none when it has none of ours.</summary>
    public static IReadOnlyList<string> Of(Drawing drawing, Entity entity)
    {
        if (!entity.HasExtras || drawing.Applications[Application] is not { } own)
            return [];
        return entity.Extras.Data.Find(d => d.Application == own.Handle) is { } data
            ? [.. data.Groups.Where(g => g.Code == 1000).Select(g => Caret.Decode(g.Text))]
            : [];
    }

    /// <summary>Whether a string of extended data can hold a text whole.</summary>
    public static bool Fits(string text) => Bytes(Caret.Encode(text)) <= Longest;

    /// <summary>A text as it is read again.</summary>
    public static string Held(string text) => Fits(text) ? text : Caret.Decode(Short(Caret.Encode(text)));

    /// <summary>A text in pieces that strings of extended data can hold; none for an empty one.</summary>
    public static IEnumerable<string> Pieces(string text)
    {
        while (text.Length > 0)
        {
            string piece = Short(text);
            // A pair of surrogates is one letter, a caret and what follows it one sign.
            if (piece.Length < text.Length && (char.IsHighSurrogate(piece[^1]) || Caret.EndsOpen(piece)))
                piece = piece[..^1];
            yield return piece;
            text = text[piece.Length..];
        }
    }

    /// <summary>A text as long as extended data can hold it.</summary>
    public static string Short(string text)
    {
        int bytes = 0,
            end = 0;
        for (; end < text.Length && bytes + Bytes(text[end]) <= Longest; end++)
            bytes += Bytes(text[end]);
        return text[..end];
    }

    private static int Bytes(string text) => text.Sum(Bytes);

    // In whichever form the drawing is written.
    private static int Bytes(char letter) => letter < 128 ? 1 : EncodedLetter;
}
