using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Xml;

namespace SteadyLintel.Jobs;

/// <summary>Reads texts without the characters that a topic file cannot have (XML 1.0, 2.2): JSON can.</summary>
internal sealed class BcfText : JsonConverter<string>
{
    /// <inheritdoc/>
    public override string? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.TokenType == JsonTokenType.String ? Clean(reader.GetString()!)
        : reader.TokenType == JsonTokenType.Null ? null
        : throw new JsonException("A text is asked for.");

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter writer, string value, JsonSerializerOptions options) =>
        writer.WriteStringValue(value);

    private static string Clean(string text)
    {
        if (text.All(c => c is >= ' ' and < '\uD800' or '\n' or '\r' or '\t'))
            return text;
        var clean = new StringBuilder(text.Length);
        for (int i = 0; i < text.Length; i++)
            if (XmlConvert.IsXmlChar(text[i]))
                clean.Append(text[i]);
            else if (i + 1 < text.Length && XmlConvert.IsXmlSurrogatePair(text[i + 1], text[i]))
                clean.Append(text[i]).Append(text[++i]);
        return clean.ToString();
    }
}
