using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>What a conversion gave.</summary>
/// <param name="Bytes">The file.</param>
/// <param name="Rows">The balance by kind and layer.</param>
/// <param name="Findings">What was odd when reading, what was left behind when writing.</param>
public sealed record ConversionResult(
    byte[] Bytes,
    IReadOnlyList<ConversionRow> Rows,
    IReadOnlyList<CadFinding> Findings
)
{
    /// <summary>What each step of the preparation did.</summary>
    public IReadOnlyList<StepResult> Steps { get; init; } = [];

    /// <summary>Kind by kind, every thing in one of five accounts.</summary>
    public IReadOnlyList<LedgerLine> Ledger { get; init; } = [];

    /// <summary>The first differences, a sentence each.</summary>
    public IReadOnlyList<string> Differences { get; init; } = [];

    /// <summary>What was measured.</summary>
    public IReadOnlyList<ReconciliationCheck> Checks { get; init; } = [];

    /// <summary>What nobody can account for.</summary>
    public int Unaccounted => Math.Max(Rows.Sum(r => Math.Abs(r.Unaccounted)), Ledger.Sum(l => l.Unaccounted));

    /// <summary>Whether everything is accounted for and lies where it should.</summary>
    public bool Balanced => Unaccounted == 0 && Checks.All(c => c.Differ == 0);
}
