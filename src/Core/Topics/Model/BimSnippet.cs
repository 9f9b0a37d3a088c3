namespace SteadyLintel.Topics;

/// <summary>A piece of data that belongs to a topic.</summary>
/// <param name="Type">What it is, a word of the extensions.</param>
/// <param name="IsExternal">Whether the reference is an address and not a file of the archive; null where the file does not say: a file.</param>
/// <param name="Reference">Its address or name.</param>
/// <param name="Schema">The address or name of its schema.</param>
public sealed record BimSnippet(string? Type, bool? IsExternal, string? Reference, string? Schema)
{
    /// <summary>What else it has.</summary>
    public Extras Extras { get; init; } = Extras.None;
}
