using System.Text.Json;
using System.Text.Json.Serialization;

namespace SteadyLintel.Jobs;

/// <summary>How BCF API writes JSON, for the server and for the client.</summary>
public static class BcfJson
{
    /// <summary>Names with underscores; a member that is null is not sent.</summary>
    public static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web)
    {
        PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        MaxDepth = 32,
        Converters = { new BcfText() },
    };
}
