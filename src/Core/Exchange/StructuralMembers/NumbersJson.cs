using System.Text.Json;
using System.Text.Json.Serialization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Writes points and directions as <c>[x, y, z]</c>.</summary>
internal sealed class PointJson : JsonConverter<Vec3>
{
    /// <inheritdoc/>
    public override Vec3 Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        JsonSerializer.Deserialize<double[]>(ref reader, options) is [var x, var y, var z]
            ? new Vec3(x, y, z)
            : throw new JsonException("Three numbers were expected.");

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter writer, Vec3 value, JsonSerializerOptions options) =>
        JsonSerializer.Serialize(writer, new[] { value.X, value.Y, value.Z }, options);
}

/// <summary>Writes reaches as <c>[least, most]</c>.</summary>
internal sealed class ReachJson : JsonConverter<Reach>
{
    /// <inheritdoc/>
    public override Reach Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        JsonSerializer.Deserialize<double[]>(ref reader, options) is [var least, var most]
            ? new Reach(least, most)
            : throw new JsonException("Two numbers were expected.");

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter writer, Reach value, JsonSerializerOptions options) =>
        JsonSerializer.Serialize(writer, new[] { value.Least, value.Most }, options);
}
