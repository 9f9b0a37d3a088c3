namespace SteadyLintel.Topics;

/// <summary>What an element of a topic file holds beside what BCF defines: written back where it was.</summary>
/// <param name="Attributes">Value by name; a name in a namespace is spelled <c>{namespace}name</c>. The attribute of a child that is only a
/// text is spelled <c>Title/name</c>.</param>
/// <param name="Elements">Elements as XML, in the order of the file.</param>
public sealed record Extras(IReadOnlyDictionary<string, string> Attributes, IReadOnlyList<string> Elements)
{
    /// <summary>Nothing.</summary>
    public static readonly Extras None = new(new Dictionary<string, string>(), []);

    /// <summary>How many there are.</summary>
    public int Count => Attributes.Count + Elements.Count;
}
