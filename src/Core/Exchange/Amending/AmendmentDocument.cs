namespace SteadyLintel.Exchange;

/// <summary>Amendments as they are kept and handed on: page, terminal, orders and programs read and write this one document.</summary>
/// <remarks>Its JSON Schema is docs/amendments.schema.json. Unknown words are refused.</remarks>
public sealed record AmendmentDocument
{
    /// <summary>The version that is written.</summary>
    public const int CurrentVersion = 1;

    internal static DocumentFormat<AmendmentDocument> Format { get; } = new("list of amendments");

    private const int MaxAmendments = 1_000_000;

    /// <summary>The version of the document.</summary>
    public int Version { get; init; } = CurrentVersion;

    /// <summary>The amendments; of two about the same the later one counts.</summary>
    public IReadOnlyList<Amendment> Amendments { get; init; } = [];

    /// <summary>Reads a document and checks each amendment on its own.</summary>
    /// <exception cref="OrderException">It is no JSON, has an unknown member or another version, or an amendment is wrong; the sentence
    /// has its place, from 1.</exception>
    public static AmendmentDocument Read(string json)
    {
        var document = Format.Read(json);
        if (document.Amendments.Count > MaxAmendments)
            throw new OrderException($"The list has more than {MaxAmendments} amendments; split it.");
        var problems = document
            .Amendments.Select((a, n) => (Problem: a.Problem(), Place: n + 1))
            .Where(p => p.Problem is not null)
            .Select(p => $"Amendment {p.Place}: {p.Problem}")
            .ToList();
        return problems.Count > 0 ? throw new TableException(problems) : document;
    }

    /// <summary>The document as text.</summary>
    public string Write() => Format.Write(this);

    /// <summary>Of amendments about the same the last one, in the order of the list.</summary>
    public static IReadOnlyList<Amendment> Effective(IEnumerable<Amendment> amendments)
    {
        var last = new Dictionary<string, Amendment>(StringComparer.Ordinal);
        foreach (var amendment in amendments)
        {
            last.Remove(amendment.Subject);
            last[amendment.Subject] = amendment;
        }

        return [.. last.Values];
    }
}
