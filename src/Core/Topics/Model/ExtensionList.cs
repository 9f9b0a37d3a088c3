namespace SteadyLintel.Topics;

/// <summary>One list of words.</summary>
/// <param name="Name">Its element in 3.0.</param>
/// <param name="SimpleType">Its simple type in the schema of 2.1.</param>
/// <param name="Entry">The element of an entry in 3.0.</param>
/// <param name="Of">Its words.</param>
/// <param name="With">The extensions with other words.</param>
internal sealed record ExtensionList(
    string Name,
    string SimpleType,
    string Entry,
    Func<TopicExtensions, IReadOnlyList<string>> Of,
    Func<TopicExtensions, IReadOnlyList<string>, TopicExtensions> With
);
