using SteadyLintel.Exchange;

namespace SteadyLintel.Web;

/// <summary>A rule of an order as the page shows and sends it.</summary>
public sealed class RuleLine
{
    /// <summary>The word for the empty name.</summary>
    public const string None = "none";

    /// <summary>The verbs, as they are shown.</summary>
    public static readonly IReadOnlyList<(string Word, string Name)> Verbs =
    [
        ("only", "only"),
        ("without", "without"),
        ("with", "also"),
    ];

    /// <summary>What a rule can look at, as it is shown.</summary>
    public static readonly IReadOnlyList<(string Word, string Name)> Fields =
    [
        ("class", "class"),
        ("storey", "storey"),
        ("layer", "layer"),
        ("type", "type"),
        ("material", "material"),
        ("party", "party"),
        ("source", "source"),
        ("classification", "classification"),
        ("group", "system or zone"),
        ("property", "property"),
        ("size", "longest side, m"),
        ("height", "heights, m"),
        ("bearing", "bearing, °"),
        ("set", "saved set"),
        ("view", "saved view"),
        ("element", "element"),
    ];

    /// <summary>How a rule can compare, as it is shown.</summary>
    public static readonly IReadOnlyList<(string Word, string Name)> Tests =
    [
        ("", "is"),
        ("like", "is like"),
        ("between", "between"),
        ("exactly", "is exactly"),
        ("missing", "is missing"),
        ("blank", "is blank"),
    ];

    /// <summary>What becomes of what it matches.</summary>
    public string? Do { get; set; }

    /// <summary>What it looks at.</summary>
    public string? What { get; set; }

    /// <summary>How it compares; empty for the usual.</summary>
    public string? Is { get; set; }

    /// <summary>With a property, Set.Property.</summary>
    public string? Key { get; set; }

    /// <summary>The values, parted by semicolons.</summary>
    public string? Are { get; set; }

    /// <summary>The line of a rule.</summary>
    public static RuleLine Of(OrderRule rule) =>
        new()
        {
            Do = rule.Do,
            What = rule.What,
            Is = rule.Is ?? "",
            Key = rule.Key,
            Are = string.Join(
                "; ",
                rule.Are.Select(v =>
                    rule.What == "class" ? ClassNames.Plain(v)
                    : v.Length == 0 && rule.What is not ("size" or "height" or "bearing") && rule.Is != "between" ? None
                    : v
                )
            ),
        };

    /// <summary>The rule of the line.</summary>
    public OrderRule ToRule()
    {
        bool numbers = What is "size" or "height" or "bearing" || Is == "between";
        string[] parts = string.IsNullOrWhiteSpace(Are) ? [] : Are.Split(';', StringSplitOptions.TrimEntries);
        return new OrderRule
        {
            Do = Do ?? "only",
            What = What ?? "class",
            Is = string.IsNullOrEmpty(Is) || (What is "size" or "height" or "bearing") ? null : Is,
            Key = What == "property" ? Key?.Trim() ?? "" : null,
            Are = numbers
                ? parts
                :
                [
                    .. parts
                        .Where(p => p.Length > 0)
                        .Select(p =>
                            p == None ? ""
                            : What is null or "class" ? ClassNames.Standard(p)
                            : p
                        ),
                ],
        };
    }
}
