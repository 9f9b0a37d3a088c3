namespace SteadyLintel.Exchange;

/// <summary>What the words of a name template mean in one file; empty where its elements differ.</summary>
/// <param name="Party">Codes of the parties, joined by +.</param>
/// <param name="Source">Names of the sources, joined by +.</param>
/// <param name="Storey">The storey, <c>all</c> where a file holds several.</param>
public sealed record NameValues(string Party, string Source, string Storey)
{
    /// <summary>The class.</summary>
    public string Class { get; init; } = "";

    /// <summary>The name of the type.</summary>
    public string Type { get; init; } = "";

    /// <summary>The mark of the element: its tag, else its name.</summary>
    public string Mark { get; init; } = "";

    /// <summary>The group.</summary>
    public string Group { get; init; } = "";

    /// <summary>The value of the property.</summary>
    public string Value { get; init; } = "";

    /// <summary>The section.</summary>
    public string Section { get; init; } = "";

    /// <summary>The revisions, <c>r2</c>, joined by +.</summary>
    public string Revision { get; init; } = "";
}
