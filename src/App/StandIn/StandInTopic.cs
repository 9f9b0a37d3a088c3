using System.Text.Json.Nodes;

namespace SteadyLintel.StandIn;

/// <summary>A topic of the stand-in, as the JSON that it sends.</summary>
/// <param name="fields">The topic itself.</param>
public sealed class StandInTopic(JsonObject fields)
{
    /// <summary>The topic itself.</summary>
    public JsonObject Fields { get; } = fields;

    /// <summary>Its comments, the first first.</summary>
    public List<JsonObject> Comments { get; } = [];

    /// <summary>Its views, as they were posted.</summary>
    public List<JsonObject> Views { get; } = [];

    /// <summary>Its references to documents.</summary>
    public List<JsonObject> Documents { get; } = [];

    /// <summary>GUIDs of related topics.</summary>
    public List<string> Related { get; set; } = [];

    /// <summary>Its models.</summary>
    public JsonArray Files { get; set; } = [];

    /// <summary>The content of its snippet; null for none.</summary>
    public byte[]? Snippet { get; set; }

    /// <summary>Its GUID.</summary>
    public string Guid => (string)Fields["guid"]!;
}
