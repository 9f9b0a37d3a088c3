using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;

namespace SteadyLintel.Exchange;

/// <summary>How the documents of one kind are read and written as JSON. Every document that people send, keep or hand on is read
/// here.</summary>
/// <remarks>
/// Strict: no unknown member (the nearest known one is named), nothing empty in a list, nothing missing that must be there, no more than
/// <see cref="Longest"/> characters and <see cref="Deepest"/> levels. A version before the current one is brought up to it first, step by
/// step; each document names its steps where it is written, so that a document that was kept years ago is read as it was meant.
/// </remarks>
/// <param name="name">What it is called in sentences: <c>order</c>.</param>
/// <param name="upgrades">The steps from version 1 to 2, 2 to 3 …; the current version is one more than there are.</param>
/// <typeparam name="T">The document, with a member <c>version</c>.</typeparam>
internal sealed class DocumentFormat<T>(string name, params IReadOnlyList<Action<JsonObject>> upgrades)
    where T : class
{
    /// <summary>The longest document, characters: a list of a million GlobalIds and more.</summary>
    public const int Longest = 64 << 20;

    /// <summary>The deepest document, levels of lists and members.</summary>
    public const int Deepest = 16;

    private readonly JsonSerializerOptions _options = Options(JsonIgnoreCondition.WhenWritingNull);
    private readonly JsonSerializerOptions _complete = Options(JsonIgnoreCondition.Never);

    /// <summary>The version that is written.</summary>
    public int Current => upgrades.Count + 1;

    /// <summary>The members of the document and of everything in it.</summary>
    public JsonTypeInfo Members => _options.GetTypeInfo(typeof(T));

    /// <summary>Reads a document.</summary>
    /// <exception cref="OrderException">It is no JSON, too long or too deep, of a version that is not known, or has something that does not
    /// belong there; the sentence has the line and the path.</exception>
    public T Read(string json)
    {
        if (json.Length > Longest)
            throw new OrderException($"The {name} is longer than {Longest >> 20} million characters.");
        try
        {
            json = Upgraded(json);
            CheckLists(Encoding.UTF8.GetBytes(json));
            var read = JsonSerializer.Deserialize<T>(json, _options)
                ?? throw new OrderException($"The {name} is empty.");
            CheckMembers(read);
            return read;
        }
        catch (JsonException e)
        {
            throw new OrderException(Sentence(e));
        }
    }

    /// <summary>The document as text.</summary>
    public string Write(T document) => JsonSerializer.Serialize(document, _options);

    private static JsonSerializerOptions Options(JsonIgnoreCondition leftOut) =>
        new(JsonSerializerDefaults.Web)
        {
            // Not the members that are generated at compile time: these set every init member, so that what a document leaves out
            // would lose the value that the member begins with.
            TypeInfoResolver = new DefaultJsonTypeInfoResolver(),
            UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
            DefaultIgnoreCondition = leftOut,
            WriteIndented = true,
            AllowTrailingCommas = true,
            ReadCommentHandling = JsonCommentHandling.Skip,
            RespectNullableAnnotations = true,
            MaxDepth = Deepest,
            Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        };

    // A document of the current version, as nearly all have, is not built as a tree for it.
    private string Upgraded(string json)
    {
        int version = VersionOf(json);
        if (version == Current)
            return json;
        if (version < 1 || version > Current)
            throw new OrderException(
                $"The {name} has version {version}; this program reads version {(Current == 1 ? "1" : $"1 to {Current}")}."
            );
        var document = JsonNode
            .Parse(
                json,
                documentOptions: new JsonDocumentOptions
                {
                    AllowTrailingCommas = true,
                    CommentHandling = JsonCommentHandling.Skip,
                    MaxDepth = Deepest,
                }
            )!
            .AsObject();
        for (; version < Current; version++)
            upgrades[version - 1](document);
        document["version"] = Current;
        return document.ToJsonString(_options);
    }

    // What has no version, or is no document at all, is read as the current one, which says what is wrong with it.
    private int VersionOf(string json)
    {
        var reader = Reader(Encoding.UTF8.GetBytes(json));
        if (!reader.Read() || reader.TokenType != JsonTokenType.StartObject)
            return Current;
        while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName)
        {
            bool isVersion = reader.GetString()!.Equals("version", StringComparison.OrdinalIgnoreCase);
            reader.Read();
            if (isVersion)
                return reader.TokenType == JsonTokenType.Number && reader.TryGetInt32(out int version)
                    ? version
                    : Current;
            reader.Skip();
        }

        return Current;
    }

    private static Utf8JsonReader Reader(ReadOnlySpan<byte> bytes) =>
        new(
            bytes,
            new JsonReaderOptions
            {
                AllowTrailingCommas = true,
                CommentHandling = JsonCommentHandling.Skip,
                MaxDepth = Deepest,
            }
        );

    // A member that is not there at all becomes null without a word; writing it, the serializer minds.
    private void CheckMembers(T read)
    {
        try
        {
            JsonSerializer.SerializeToUtf8Bytes(read, _complete);
        }
        catch (ArgumentException)
        {
            // 1e999 is read as infinity, which JSON has no word for.
            throw new OrderException($"The {name} has a number that is too large.");
        }
        catch (Exception e) when (e is JsonException or NullReferenceException)
        {
            string path = PathOf((e as JsonException)?.Path).ToLowerInvariant();
            throw new OrderException(
                path.Length > 0
                    ? $"The {name} has an entry without '{path}', which must be there."
                    : $"The {name} lacks something that must be there."
            );
        }
    }

    // The serializer respects that a member may not be null, but knows of no such rule for entries of lists.
    private void CheckLists(ReadOnlySpan<byte> bytes)
    {
        var reader = Reader(bytes);
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
                        $"The {name} has an empty entry in a list, line {line}; remove it or fill it in."
                    );
                default:
                    break;
            }
        }
    }

    private string Sentence(JsonException e)
    {
        string line = e.LineNumber is { } number ? $"line {number + 1}" : "";
        const string unknown = "property '";
        int at = e.Message.IndexOf(unknown, StringComparison.Ordinal);
        if (at >= 0 && e.Message.Contains("could not be mapped", StringComparison.Ordinal))
        {
            string word = e.Message[(at + unknown.Length)..].Split('\'')[0];
            return $"The {name} has the word '{word}' ({line}), which is not known.{NearestNames.Of(word, Words())}";
        }

        string path = PathOf(e.Path);
        string why = e.Message.Contains("could not be converted", StringComparison.Ordinal)
            ? "a value of another kind is expected there."
            : e.Message.Split(" Path:")[0].Split(" LineNumber:")[0];
        return $"The {name} cannot be read, {line}{(path.Length > 0 ? $", at {path}" : "")}: {why}";
    }

    private static string PathOf(string? path) => (path ?? "").TrimStart('$', '.');

    // All words that the document and what is in it have.
    private HashSet<string> Words()
    {
        var words = new HashSet<string>(StringComparer.Ordinal);
        var known = new HashSet<Type>();
        var open = new Stack<Type>([typeof(T)]);
        while (open.TryPop(out var type))
        {
            if (!known.Add(type) || _options.GetTypeInfo(type) is not { } info)
                continue;
            foreach (var member in info.Properties.Where(p => p.Set is not null))
            {
                words.Add(member.Name);
                open.Push(member.PropertyType);
            }

            if (info.ElementType is { } entry)
                open.Push(entry);
        }

        return words;
    }
}
