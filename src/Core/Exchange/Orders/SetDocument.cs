namespace SteadyLintel.Exchange;

/// <summary>A kept set: elements under a name, said by the same rules as an order chooses by.</summary>
/// <remarks>Picked elements are one rule, <c>with element …</c>. A set by rules takes in what arrives later.</remarks>
public sealed record SetDocument
{
    /// <summary>The version that is written.</summary>
    public const int CurrentVersion = 1;

    internal static DocumentFormat<SetDocument> Format { get; } = new("set");

    /// <summary>The version of the document.</summary>
    public int Version { get; init; } = CurrentVersion;

    /// <summary>The rules; what they let go is in the set.</summary>
    public IReadOnlyList<OrderRule> Rules { get; init; } = [];

    /// <summary>The set of some elements.</summary>
    /// <param name="ids">Their GlobalIds.</param>
    public static SetDocument Of(IEnumerable<string> ids) =>
        new()
        {
            Rules =
            [
                new OrderRule
                {
                    Do = "with",
                    What = "element",
                    Are = [.. ids],
                },
            ],
        };

    /// <summary>Reads a document.</summary>
    /// <exception cref="OrderException">It is no JSON, has an unknown member, or another version.</exception>
    public static SetDocument Read(string json) => Format.Read(json);

    /// <summary>The document as text.</summary>
    public string Write() => Format.Write(this);
}
