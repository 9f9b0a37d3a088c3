using System.Text.Json;
using System.Text.Json.Serialization;

namespace SteadyLintel.Exchange;

/// <summary>How orders, and what they name, are read and written as JSON: unknown members are refused with the nearest there is.</summary>
internal static class OrderJson
{
    /// <summary>The options.</summary>
    public static JsonSerializerOptions Options { get; } =
        new(JsonSerializerDefaults.Web)
        {
            UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
            DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
            WriteIndented = true,
            AllowTrailingCommas = true,
            ReadCommentHandling = JsonCommentHandling.Skip,
            RespectNullableAnnotations = true,
            MaxDepth = 16,
            Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        };

    /// <summary>Reads a document.</summary>
    /// <param name="json">The text.</param>
    /// <param name="what">What it is called in sentences.</param>
    /// <param name="version">Its version.</param>
    /// <param name="current">The version that is read.</param>
    /// <exception cref="OrderException">It is no JSON, has an unknown member, or another version.</exception>
    public static T Read<T>(string json, string what, Func<T, int> version, int current)
        where T : class
    {
        T document;
        try
        {
            document = StrictJson.Read<T>(json, Options, what);
        }
        catch (JsonException e)
        {
            throw new OrderException(Sentence(e, what, typeof(T)));
        }

        return version(document) == current
            ? document
            : throw new OrderException(
                $"The {what} has version {version(document)}; this program reads version {current}."
            );
    }

    // An unknown member: its name, where it is, and the nearest there is.
    private static string Sentence(JsonException e, string what, Type document)
    {
        string where = e.LineNumber is { } line ? $"line {line + 1}: " : "";
        int at = e.Message.IndexOf("property '", StringComparison.Ordinal);
        if (at < 0 || !e.Message.Contains("could not be mapped", StringComparison.Ordinal))
            return $"The {what} cannot be read, {where}{e.Message.Split(" Path:")[0]}";
        string name = e.Message[(at + 10)..].Split('\'')[0];
        var words = Parts(document, [])
            .SelectMany(t => t.GetProperties())
            .Where(p => p.CanWrite)
            .Select(p => JsonNamingPolicy.CamelCase.ConvertName(p.Name));
        return $"The {what} has the word '{name}' ({where.TrimEnd(':', ' ')}), which is not known.{NearestNames.Of(name, words)}";
    }

    // The document and the records that it is made of.
    private static HashSet<Type> Parts(Type type, HashSet<Type> known)
    {
        if (type.Assembly == typeof(OrderJson).Assembly && known.Add(type))
            foreach (var property in type.GetProperties().Where(p => p.CanWrite))
            foreach (var part in property.PropertyType.GenericTypeArguments.Append(property.PropertyType))
                Parts(part, known);
        return known;
    }
}
