using System.Globalization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>An element that is to be numbered.</summary>
/// <param name="Key">What it is known by.</param>
/// <param name="Storey">The place of its storey, counted from below; -1 for none.</param>
/// <param name="Type">The name of its type.</param>
/// <param name="Middle">The middle of its box in the job's frame, metres; null without a shape.</param>
public sealed record NumberedElement(string Key, int Storey, string Type, Vec3? Middle);

/// <summary>A rule that gives elements names or marks in a row.</summary>
public sealed record NumberingRule
{
    /// <summary>What comes before the number; <c>{storey}</c> is the storey's place from 1.</summary>
    public string Prefix { get; init; } = "";

    /// <summary>The first number.</summary>
    public int First { get; init; } = 1;

    /// <summary>How many digits it has at least.</summary>
    public int Digits { get; init; } = 3;

    /// <summary>Whether the numbers of each storey start at the first.</summary>
    public bool PerStorey { get; init; }

    /// <summary>Whether the numbers of each type start at the first.</summary>
    public bool PerType { get; init; }

    // Elements whose middles differ by less across the page are in one row, metres.
    private const double RowHeight = 1;

    /// <summary>Numbers elements: storey by storey from below, and on each in reading order, rows from the top of the plan, from left to
    /// right.</summary>
    public IReadOnlyList<(string Key, string Name)> Run(IReadOnlyList<NumberedElement> elements)
    {
        var names = new List<(string, string)>();
        var next = new Dictionary<(int, string), int>();
        foreach (
            var element in elements
                .OrderBy(e => e.Storey)
                .ThenBy(e => PerType ? e.Type : "", StringComparer.Ordinal)
                .ThenByDescending(e => e.Middle is { } m ? Math.Floor(m.Y / RowHeight) : double.NegativeInfinity)
                .ThenBy(e => e.Middle?.X ?? 0)
                .ThenBy(e => e.Key, StringComparer.Ordinal)
        )
        {
            var series = (PerStorey ? element.Storey : 0, PerType ? element.Type : "");
            int number = next[series] = next.TryGetValue(series, out int last) ? last + 1 : First;
            string prefix = Prefix.Replace(
                "{storey}",
                (element.Storey + 1).ToString(CultureInfo.InvariantCulture),
                StringComparison.Ordinal
            );
            names.Add(
                (
                    element.Key,
                    prefix
                        + number.ToString(
                            "D" + Math.Clamp(Digits, 1, 9).ToString(CultureInfo.InvariantCulture),
                            CultureInfo.InvariantCulture
                        )
                )
            );
        }

        return names;
    }
}
