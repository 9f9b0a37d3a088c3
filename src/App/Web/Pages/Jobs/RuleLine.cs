using SteadyLintel.Exchange;

namespace SteadyLintel.Web;

/// <summary>A rule of an order as the page shows and sends it.</summary>
public sealed class RuleLine
{
    /// <summary>The word for the empty name.</summary>
    public const string None = "none";

    /// <summary>What it looks at, as Core knows it; a class where nothing known is said.</summary>
    public RuleField Field => RuleField.Find(What ?? "") ?? RuleField.Class;

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

    /// <summary>Whether nothing is filled in that it could compare.</summary>
    public bool IsEmpty =>
        string.IsNullOrWhiteSpace(Are) && (Is is not ("missing" or "blank") || string.IsNullOrWhiteSpace(Key));

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
                    : v.Length == 0 && !IsNumbers(rule.What, rule.Is) ? None
                    : v
                )
            ),
        };

    /// <summary>The rule of the line.</summary>
    public OrderRule ToRule()
    {
        bool numbers = IsNumbers(What, Is);
        string[] parts = string.IsNullOrWhiteSpace(Are) ? [] : Are.Split(';', StringSplitOptions.TrimEntries);
        return new OrderRule
        {
            Do = Do ?? "only",
            What = What ?? "class",
            Is = string.IsNullOrEmpty(Is) || Field.Kind == RuleFieldKind.Number ? null : Is,
            Key = Field.Kind == RuleFieldKind.Property ? Key?.Trim() ?? "" : null,
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

    private static bool IsNumbers(string? what, string? test) =>
        test == "between" || RuleField.Find(what ?? "")?.Kind == RuleFieldKind.Number;
}
