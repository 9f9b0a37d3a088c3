using System.Text.Json;
using System.Text.Json.Serialization;

namespace SteadyLintel.Exchange;

/// <summary>An order as it is kept and handed on: what to give, of whom, in what form. Page, terminal and transmittals read and write this
/// one document.</summary>
/// <remarks>Its JSON Schema is docs/order.schema.json. Unknown words are refused, so that an order never does less than it says.</remarks>
public sealed record OrderDocument
{
    /// <summary>The version that is written.</summary>
    public const int CurrentVersion = 1;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        WriteIndented = true,
        AllowTrailingCommas = true,
        ReadCommentHandling = JsonCommentHandling.Skip,
        MaxDepth = 16,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>The version of the document.</summary>
    public int Version { get; init; } = CurrentVersion;

    /// <summary>Who gets it, in words.</summary>
    public string To { get; init; } = "";

    /// <summary>The sources: by identity in a job, by file name at the terminal; empty for all.</summary>
    public IReadOnlyList<string> Sources { get; init; } = [];

    /// <summary>The ordered rules that choose; empty for everything.</summary>
    public IReadOnlyList<OrderRule> Rules { get; init; } = [];

    /// <summary>What it is written into.</summary>
    public OrderInto Into { get; init; } = new();

    /// <summary>The drawings that go beside the models; null for none.</summary>
    public OrderDrawings? Drawings { get; init; }

    /// <summary><c>mm</c>, <c>m</c> or <c>ft</c>; null for each source's own.</summary>
    public string? Unit { get; init; }

    /// <summary><c>source</c>, <c>job</c>, <c>local</c>, or <c>x,y,z,deg</c>.</summary>
    public string Frame { get; init; } = "source";

    /// <summary><c>storey</c> for a file each, <c>none</c> for one in all.</summary>
    public string Split { get; init; } = "none";

    /// <summary>Changes to names, classes, layers and properties.</summary>
    public IReadOnlyList<OrderChange> Changes { get; init; } = [];

    /// <summary>The template of file names.</summary>
    public string Name { get; init; } = "{party}-{storey}";

    /// <summary>Reads a document.</summary>
    /// <exception cref="OrderException">It is no JSON, has an unknown member, or another version. Whether its words make an order is for
    /// <see cref="ToOrder"/> to say.</exception>
    public static OrderDocument Read(string json)
    {
        OrderDocument document;
        try
        {
            document = JsonSerializer.Deserialize<OrderDocument>(json, Json) ?? throw new OrderException("The order is empty.");
        }
        catch (JsonException e)
        {
            throw new OrderException(Sentence(e));
        }

        if (document.Version != CurrentVersion)
            throw new OrderException($"The order has version {document.Version}; this program reads version {CurrentVersion}.");
        return document;
    }

    /// <summary>The document as text.</summary>
    public string Write() => JsonSerializer.Serialize(this, Json);

    /// <summary>The order that the document says.</summary>
    /// <exception cref="OrderException">A word of it is not known.</exception>
    public HandoverOrder ToOrder() => OrderReader.Read(this);

    // An unknown member: its name, where it stands, and the nearest there is.
    private static string Sentence(JsonException e)
    {
        string where = e.LineNumber is { } line ? $"line {line + 1}: " : "";
        int at = e.Message.IndexOf("property '", StringComparison.Ordinal);
        if (at < 0) return $"The order cannot be read, {where}{e.Message.Split(" Path:")[0]}";
        string name = e.Message[(at + 10)..].Split('\'')[0];
        Type[] types = [typeof(OrderDocument), typeof(OrderRule), typeof(OrderInto), typeof(OrderChange), typeof(OrderDrawings),
            typeof(OrderName)];
        var words = types.SelectMany(
            t => t.GetProperties()).Where(p => p.CanWrite).Select(p => JsonNamingPolicy.CamelCase.ConvertName(p.Name));
        return $"The order has the word '{name}' ({where.TrimEnd(':', ' ')}), which is not known.{OrderNames.Nearest(name, words)}";
    }
}

/// <summary>A rule of an order.</summary>
public sealed record OrderRule
{
    /// <summary><c>only</c>, <c>without</c> or <c>with</c>.</summary>
    public string Do { get; init; } = "only";

    /// <summary><c>storey</c>, <c>class</c>, <c>layer</c>, <c>type</c>, <c>material</c>, <c>party</c>, <c>property</c> or
    /// <c>element</c>.</summary>
    public string What { get; init; } = "";

    /// <summary>With a property, <c>Set.Property</c>.</summary>
    public string? Key { get; init; }

    /// <summary>The values; of a property none for missing or blank.</summary>
    public IReadOnlyList<string> Are { get; init; } = [];
}

/// <summary>What an order is written into.</summary>
public sealed record OrderInto
{
    /// <summary><c>ifc</c>, <c>dxf</c> or <c>dwg</c>; <c>none</c> where drawings go alone.</summary>
    public string File { get; init; } = "ifc";

    /// <summary>With ifc: <c>IFC2X3</c>, <c>IFC4</c> or <c>IFC4X3</c>; null for the source's own.</summary>
    public string? Schema { get; init; }

    /// <summary>With ifc: all sources in one file.</summary>
    public bool? Merge { get; init; }

    /// <summary>With drawings: the version, <c>AC1015</c> … <c>AC1032</c>; null for 2010 with DWG and 2013 with DXF.</summary>
    public string? Version { get; init; }

    /// <summary>With drawings: <c>meshes</c>, <c>solids</c> or <c>plan</c>; meshes when not said.</summary>
    public string? As { get; init; }
}

/// <summary>A change that an order makes.</summary>
public sealed record OrderChange
{
    /// <summary><c>rename storey</c>, <c>move layer</c>, <c>change class</c> or <c>set property</c>.</summary>
    public string Do { get; init; } = "";

    /// <summary>The storey, layer or class it is about; for a property the class of the elements.</summary>
    public string From { get; init; } = "";

    /// <summary>The new name or class; for a property its value.</summary>
    public string To { get; init; } = "";

    /// <summary>With a property, <c>Set.Property</c>.</summary>
    public string? Key { get; init; }
}
