using System.Text.Json;
using System.Text.Json.Serialization;

namespace SteadyLintel.Store;

/// <summary>Texts of strangers as PostgreSQL can keep them: it has no NUL, and no half of a surrogate pair.</summary>
public static class StoredText
{
    /// <summary>The longest text of an indexed column; what identifies something is shorter.</summary>
    public const int MaxIndexed = 500;

    /// <summary>The longest text of any other column or of JSON: what people read. Longer ones, of which the original has all, are cut, so
    /// that a name of 200 MB costs no more than others.</summary>
    public const int MaxText = 100_000;

    /// <summary>The same text with every character that cannot be kept replaced by U+FFFD.</summary>
    /// <param name="text">Any text.</param>
    /// <param name="longest">How much of it is kept, characters.</param>
    public static string Clean(string text, int longest = MaxText)
    {
        if (text.Length > longest)
            text = text[..longest];
        int bad = -1;
        for (int i = 0; i < text.Length && bad < 0; i++)
            if (text[i] == '\0' || (char.IsSurrogate(text[i]) && !IsPair(text, i++)))
                bad = i;
        if (bad < 0)
            return text;
        var clean = text.ToCharArray();
        for (int i = 0; i < clean.Length; i++)
        {
            if (char.IsSurrogate(clean[i]) && IsPair(text, i))
                i++;
            else if (clean[i] == '\0' || char.IsSurrogate(clean[i]))
                clean[i] = '\uFFFD';
        }

        return new string(clean);
    }

    private static bool IsPair(string text, int at) =>
        at + 1 < text.Length && char.IsSurrogatePair(text[at], text[at + 1]);

    /// <summary>Writes texts of JSON as they can be kept.</summary>
    internal sealed class Converter : JsonConverter<string>
    {
        public override string? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            reader.GetString();

        public override void Write(Utf8JsonWriter writer, string value, JsonSerializerOptions options) =>
            writer.WriteStringValue(Clean(value));

        public override string ReadAsPropertyName(
            ref Utf8JsonReader reader,
            Type typeToConvert,
            JsonSerializerOptions options
        ) => reader.GetString()!;

        public override void WriteAsPropertyName(Utf8JsonWriter writer, string value, JsonSerializerOptions options) =>
            writer.WritePropertyName(Clean(value));
    }
}
