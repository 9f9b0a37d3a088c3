using System.Text;
using System.Text.Json;

namespace SteadyLintel.Exchange;

/// <summary>Reads documents as strangers send them: no unknown member, nothing empty in a list, nothing missing that must be
/// there.</summary>
internal static class StrictJson
{
    /// <summary>Reads a document.</summary>
    /// <param name="json">The text.</param>
    /// <param name="options">How; unknown members are refused there.</param>
    /// <param name="what">What it is called in sentences: <c>order</c>.</param>
    /// <exception cref="OrderException">A list has an entry that is null; the sentence has its line.</exception>
    /// <exception cref="JsonException">It is no JSON, or has another shape.</exception>
    public static T Read<T>(string json, JsonSerializerOptions options, string what)
        where T : class
    {
        CheckLists(Encoding.UTF8.GetBytes(json), options, what);
        var read = JsonSerializer.Deserialize<T>(json, options) ?? throw new OrderException($"The {what} is empty.");
        CheckMembers(read, options, what);
        return read;
    }

    // A member that is not there at all becomes null without a word; writing it, the serializer minds.
    private static void CheckMembers<T>(T read, JsonSerializerOptions options, string what)
    {
        try
        {
            JsonSerializer.SerializeToUtf8Bytes(read, options);
        }
        catch (ArgumentException)
        {
            // 1e999 is read as infinity, which JSON has no word for.
            throw new OrderException($"The {what} has a number that is too large.");
        }
        catch (Exception e) when (e is JsonException or NullReferenceException)
        {
            string path = (e as JsonException)?.Path?.TrimStart('$', '.').ToLowerInvariant() ?? "";
            throw new OrderException(
                path.Length > 0
                    ? $"The {what} has an entry without '{path}', which must be there."
                    : $"The {what} lacks something that must be there."
            );
        }
    }

    // The serializer respects that a member may not be null, but knows of no such rule for entries of lists.
    private static void CheckLists(ReadOnlySpan<byte> bytes, JsonSerializerOptions options, string what)
    {
        var reader = new Utf8JsonReader(
            bytes,
            new JsonReaderOptions
            {
                AllowTrailingCommas = options.AllowTrailingCommas,
                CommentHandling = options.ReadCommentHandling,
                MaxDepth = options.MaxDepth,
            }
        );
        var lists = new Stack<bool>();
        while (reader.Read())
        {
            switch (reader.TokenType)
            {
                case JsonTokenType.StartArray or JsonTokenType.StartObject:
                    lists.Push(reader.TokenType == JsonTokenType.StartArray);
                    break;
                case JsonTokenType.EndArray or JsonTokenType.EndObject:
                    lists.Pop();
                    break;
                case JsonTokenType.Null when lists.TryPeek(out bool inList) && inList:
                    int line = 1 + bytes[..(int)reader.TokenStartIndex].Count((byte)'\n');
                    throw new OrderException(
                        $"The {what} has an empty entry in a list, line {line}; remove it or fill it in."
                    );
                default:
                    break;
            }
        }
    }
}
