using System.Text.Json.Nodes;

namespace SteadyLintel.StandIn;

/// <summary>A project of the stand-in; all is in memory, and one thing happens after the other.</summary>
/// <param name="id">Its identity.</param>
/// <param name="name">Its name.</param>
public sealed class StandInProject(string id, string name)
{
    private const string Stamp = "yyyy-MM-dd'T'HH:mm:ss.fff'Z'";

    // Sent back by the address of each part alone, as the standard has it.
    private static readonly string[] Apart = ["components", "snapshot_data"];

    private readonly List<(DateTime At, JsonObject Event)> _events = [];
    private readonly Dictionary<string, (string Name, byte[] Content)> _documents = [];
    private DateTime _last;

    /// <summary>Its identity.</summary>
    public string Id => id;

    /// <summary>Its name.</summary>
    public string Name => name;

    /// <summary>Taken while anything is read or changed.</summary>
    public Lock Gate { get; } = new();

    /// <summary>Its topics, the first first.</summary>
    public List<StandInTopic> Topics { get; } = [];

    /// <summary>Whether it gives what it is sent GUIDs of its own, as some servers do.</summary>
    public bool OwnGuids { get; set; }

    /// <summary>Its documents: GUID, name and content.</summary>
    public IReadOnlyDictionary<string, (string Name, byte[] Content)> Documents => _documents;

    /// <summary>A topic; null where there is none.</summary>
    public StandInTopic? Find(string guid) =>
        Topics.FirstOrDefault(t => t.Guid.Equals(guid, StringComparison.OrdinalIgnoreCase));

    /// <summary>Asks something.</summary>
    /// <returns>Null where there is one of that GUID.</returns>
    public StandInTopic? Ask(JsonObject sent, string author)
    {
        string guid = GuidOf(sent);
        if (Find(guid) is not null)
            return null;
        var topic = new StandInTopic(Copy(sent));
        topic.Fields["guid"] = guid;
        topic.Fields["creation_date"] = Now();
        topic.Fields["creation_author"] = author;
        topic.Fields["topic_status"] ??= "Open";
        Topics.Add(topic);
        Touch(topic, author);
        return topic;
    }

    /// <summary>Changes a topic: what is not sent is removed, except for what the server says itself.</summary>
    public void Change(StandInTopic topic, JsonObject sent, string author)
    {
        foreach (
            string name in topic
                .Fields.Select(f => f.Key)
                .Where(n => n is not ("guid" or "creation_date" or "creation_author"))
                .ToList()
        )
            topic.Fields.Remove(name);
        foreach (var (name, value) in sent)
            if (name is not ("guid" or "creation_date" or "creation_author" or "authorization"))
                topic.Fields[name] = value?.DeepClone();
        Touch(topic, author);
    }

    /// <summary>Comments.</summary>
    /// <returns>Null where there is one of that GUID.</returns>
    public JsonObject? Comment(StandInTopic topic, JsonObject sent, string author)
    {
        string guid = GuidOf(sent);
        if (topic.Comments.Any(c => Is(c, guid)))
            return null;
        var comment = new JsonObject
        {
            ["guid"] = guid,
            ["topic_guid"] = topic.Guid,
            ["date"] = Now(),
            ["author"] = author,
            ["comment"] = sent["comment"]?.DeepClone() ?? "",
            ["viewpoint_guid"] = sent["viewpoint_guid"]?.DeepClone(),
        };
        topic.Comments.Add(comment);
        Happened(topic, guid, "comment_created", author);
        return comment;
    }

    /// <summary>Changes the text of a comment.</summary>
    public void Edit(StandInTopic topic, JsonObject comment, string? text, string author)
    {
        comment["comment"] = text ?? "";
        comment["modified_date"] = Now();
        comment["modified_author"] = author;
        Happened(topic, (string)comment["guid"]!, "comment_text_updated", author);
    }

    /// <summary>Removes a comment.</summary>
    public void Remove(StandInTopic topic, JsonObject comment, string author)
    {
        topic.Comments.Remove(comment);
        Happened(topic, (string)comment["guid"]!, "comment_deleted", author);
    }

    /// <summary>Adds a view.</summary>
    /// <returns>As it is sent back; null where there is one of that GUID.</returns>
    public JsonObject? View(StandInTopic topic, JsonObject sent)
    {
        string guid = GuidOf(sent);
        if (topic.Views.Any(v => Is(v, guid)))
            return null;
        var view = Copy(sent);
        view["guid"] = guid;
        topic.Views.Add(view);
        return Shown(view);
    }

    /// <summary>A view as it is sent back: its elements and its picture have addresses of their own.</summary>
    public static JsonObject Shown(JsonObject view)
    {
        var shown = Copy(view);
        foreach (string name in Apart)
            shown.Remove(name);
        (shown["snapshot"] as JsonObject)?.Remove("snapshot_data");
        return shown;
    }

    /// <summary>Adds a document.</summary>
    public JsonObject Document(string? guid, string name, byte[] content)
    {
        string own = guid is null || OwnGuids ? System.Guid.NewGuid().ToString() : guid;
        _documents[own] = (name, content);
        return new JsonObject { ["guid"] = own, ["filename"] = name };
    }

    /// <summary>Adds a reference to a document.</summary>
    public JsonObject Refer(StandInTopic topic, JsonObject sent)
    {
        var reference = Copy(sent);
        reference["guid"] = (string?)sent["guid"] ?? System.Guid.NewGuid().ToString();
        topic.Documents.Add(reference);
        return reference;
    }

    /// <summary>What happened to comments since a time.</summary>
    public IEnumerable<JsonObject> Events(DateTime since) =>
        _events.Where(e => e.At >= since).Select(e => Copy(e.Event));

    /// <summary>Notes that a topic changed.</summary>
    public void Touch(StandInTopic topic, string author)
    {
        topic.Fields["modified_date"] = Now();
        topic.Fields["modified_author"] = author;
    }

    /// <summary>A copy that belongs to nothing.</summary>
    public static JsonObject Copy(JsonObject what) => (JsonObject)what.DeepClone();

    /// <summary>Whether something has a GUID.</summary>
    public static bool Is(JsonObject what, string guid) =>
        guid.Equals((string?)what["guid"], StringComparison.OrdinalIgnoreCase);

    // A comment does not change the date of its topic here: the standard does not ask for it.
    private void Happened(StandInTopic topic, string comment, string what, string author)
    {
        string at = Now();
        _events.Add(
            (
                _last,
                new JsonObject
                {
                    ["topic_guid"] = topic.Guid,
                    ["comment_guid"] = comment,
                    ["date"] = at,
                    ["author"] = author,
                    ["actions"] = new JsonArray(new JsonObject { ["type"] = what }),
                }
            )
        );
    }

    private string GuidOf(JsonObject sent) =>
        OwnGuids || (string?)sent["guid"] is not { Length: > 0 } given
            ? System.Guid.NewGuid().ToString()
            : given.ToLowerInvariant();

    // No two things happen at once: whoever asks for what changed since the last finds all.
    private string Now()
    {
        var now = DateTime.UtcNow;
        _last = now > _last ? now : _last.AddMilliseconds(1);
        return _last.ToString(Stamp, System.Globalization.CultureInfo.InvariantCulture);
    }
}
