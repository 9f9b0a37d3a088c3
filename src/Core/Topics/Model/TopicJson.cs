using System.Text.Json;
using System.Text.Json.Serialization;

namespace SteadyLintel.Topics;

/// <summary>A topic as a text that a database holds, whole; its other files are held beside it.</summary>
public static class TopicJson
{
    private static readonly JsonSerializerOptions Options = new()
    {
        // The two ends of a line are a pair.
        IncludeFields = true,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        NumberHandling = JsonNumberHandling.AllowNamedFloatingPointLiterals,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>A topic without its parts.</summary>
    public static string Write(Topic topic) => JsonSerializer.Serialize(topic, Options);

    /// <summary>Reads what <see cref="Write(Topic)"/> wrote.</summary>
    public static Topic Read(string json) => JsonSerializer.Deserialize<Topic>(json, Options)!;

    /// <summary>What an archive says beside its topics, without parts and findings.</summary>
    public static string WriteProject(TopicArchive archive) => JsonSerializer.Serialize(archive, Options);

    /// <summary>Reads what <see cref="WriteProject"/> wrote.</summary>
    public static TopicArchive ReadProject(string json) => JsonSerializer.Deserialize<TopicArchive>(json, Options)!;
}
