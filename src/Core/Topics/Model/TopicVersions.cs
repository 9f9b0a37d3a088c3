using SteadyLintel.Exchange;

namespace SteadyLintel.Topics;

/// <summary>How versions are spelled.</summary>
public static class TopicVersions
{
    /// <summary>As the file spells it.</summary>
    public static string Text(this TopicVersion version) =>
        version switch
        {
            TopicVersion.V20 => "2.0",
            TopicVersion.V21 => "2.1",
            _ => "3.0",
        };

    /// <summary>A version that can be written.</summary>
    /// <exception cref="OrderException">It is none.</exception>
    public static TopicVersion Written(string text) =>
        text switch
        {
            "2.1" => TopicVersion.V21,
            "3.0" => TopicVersion.V30,
            _ => throw new OrderException($"Topics are written as BCF 2.1 or 3.0, not '{text}'."),
        };

    /// <summary>The version of a file; null for one that is not known.</summary>
    public static TopicVersion? Read(string? text) =>
        text switch
        {
            "2.0" => TopicVersion.V20,
            "2.1" => TopicVersion.V21,
            "3.0" => TopicVersion.V30,
            _ => null,
        };
}
