using System.Globalization;

namespace SteadyLintel.Exchange;

/// <summary>How well a unit fits what a model looks like.</summary>
/// <param name="Unit">Its name.</param>
/// <param name="Metres">Metres in one.</param>
/// <param name="Score">From 0 to 1: the share of what can be judged that is plausible.</param>
/// <param name="Reasons">What it makes of doors, storeys, walls and the whole, in words.</param>
public sealed record UnitScore(string Unit, double Metres, double Score, IReadOnlyList<string> Reasons);

/// <summary>Judges units by what lengths come out as. Never applied by itself.</summary>
public static class UnitEvidence
{
    /// <summary>The units a file may have been meant in; the US survey foot is 1200/3937 m.</summary>
    public static readonly IReadOnlyList<(string Name, double Metres)> Candidates =
    [
        ("millimetre", 0.001),
        ("centimetre", 0.01),
        ("inch", 0.0254),
        ("foot", 0.3048),
        ("US survey foot", 1200.0 / 3937),
        ("metre", 1),
    ];

    // Plausible lengths, metres; common practice. Doors say most, the whole says least.
    private static readonly (string What, double Low, double High, double Weight)[] Plausible =
    [
        ("doors", 1.9, 2.7, 3),
        ("storeys", 2.2, 6, 2),
        ("walls", 0.05, 1, 2),
        ("the whole", 3, 2000, 1),
    ];

    /// <summary>Scores every candidate and the declared unit, best first; the declared one first among equals.</summary>
    /// <param name="metres">Metres in the declared unit.</param>
    /// <param name="name">Its name.</param>
    /// <param name="doors">Door heights by the declared unit, metres; 0 for none.</param>
    /// <param name="storeys">Storey heights.</param>
    /// <param name="walls">Wall thicknesses.</param>
    /// <param name="whole">The larger extent in plan.</param>
    public static IReadOnlyList<UnitScore> Score(
        double metres,
        string name,
        double doors,
        double storeys,
        double walls,
        double whole
    )
    {
        double[] measured = [doors, storeys, walls, whole];
        var all = Candidates.Where(c => Math.Abs((c.Metres / metres) - 1) > 1e-9).Prepend((Name: name, Metres: metres));
        return [.. all.Select(c => Of(c.Name, c.Metres, c.Metres / metres, measured)).OrderByDescending(s => s.Score)];
    }

    /// <summary>What disagrees with the declared unit, with numbers; null where it is plausible or nothing better is.</summary>
    public static string? Disagreement(IReadOnlyList<UnitScore> scores, string declared, double metres)
    {
        var own = scores.First(s => s.Metres == metres);
        var best = scores[0];
        if (own.Score >= 0.5 || best.Score < 0.75)
            return null;
        string wrong = own
            .Reasons.First(r => r.Contains("not plausible", StringComparison.Ordinal))
            .Replace(", not plausible", "", StringComparison.Ordinal);
        string right = best
            .Reasons.First(r => !r.Contains("not plausible", StringComparison.Ordinal))
            .Replace(", plausible", "", StringComparison.Ordinal);
        return $"Declared {declared}, but then {wrong}; as {best.Unit} {right}.";
    }

    /// <summary>What is of no building's size in the declared unit, a sentence each, with the unit in which it would be; none where
    /// everything is plausible.</summary>
    /// <param name="scores">The scores of all units.</param>
    /// <param name="metres">Metres in the declared unit.</param>
    public static IReadOnlyList<string> Implausible(IReadOnlyList<UnitScore> scores, double metres)
    {
        const string No = ", not plausible",
            Yes = ", plausible";
        var sentences = new List<string>();
        foreach (
            string reason in scores
                .First(s => s.Metres == metres)
                .Reasons.Where(r => r.EndsWith(No, StringComparison.Ordinal))
        )
        {
            string what = Plausible.First(p => reason.StartsWith(p.What, StringComparison.Ordinal)).What;
            // Of the units that make this one plausible, that which fits the rest best.
            var (unit, other) = scores
                .Where(s => s.Metres != metres)
                .Select(s => (s.Unit, Reason: s.Reasons.First(r => r.StartsWith(what, StringComparison.Ordinal))))
                .FirstOrDefault(s => s.Reason.EndsWith(Yes, StringComparison.Ordinal));
            string seen = char.ToUpperInvariant(reason[0]) + reason[1..^No.Length];
            sentences.Add(
                unit is null
                    ? $"{seen}, which no building is, and no usual unit makes it one. Look for elements far from all others, and ask the sender."
                    : $"{seen}, which no building is; in {unit} {other[..^Yes.Length]}. Ask the sender which unit was meant, or look for elements far from all others."
            );
        }

        return sentences;
    }

    private static UnitScore Of(string name, double metres, double factor, double[] measured)
    {
        double sum = 0,
            of = 0;
        var reasons = new List<string>();
        for (int i = 0; i < measured.Length; i++)
        {
            if (measured[i] <= 0)
                continue;
            var (what, low, high, weight) = Plausible[i];
            double length = measured[i] * factor;
            bool fits = length >= low && length <= high;
            of += weight;
            sum += fits ? weight : 0;
            string verb =
                what == "walls" ? "are {0} thick"
                : what == "the whole" ? "is {0} across"
                : "are {0} high";
            string judged = fits ? ", plausible" : ", not plausible";
            reasons.Add($"{what} {string.Format(CultureInfo.InvariantCulture, verb, Text(length))}{judged}");
        }

        return new UnitScore(name, metres, of == 0 ? 0 : sum / of, reasons);
    }

    private static string Text(double metres) =>
        metres switch
        {
            >= 1000 => string.Create(CultureInfo.InvariantCulture, $"{metres / 1000:0.#} km"),
            >= 1 => string.Create(CultureInfo.InvariantCulture, $"{metres:0.0#} m"),
            _ => string.Create(CultureInfo.InvariantCulture, $"{metres * 1000:0.#} mm"),
        };
}
