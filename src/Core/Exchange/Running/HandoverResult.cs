namespace SteadyLintel.Exchange;

/// <summary>A written file.</summary>
public sealed record HandoverFile(string Name, long Bytes, string Sha256, int Elements);

/// <summary>What a hand-over gave: its files and the balance sheet.</summary>
/// <param name="Files">The files, those of drawings last.</param>
/// <param name="Reconciliation">The balance of the models.</param>
public sealed record HandoverResult(IReadOnlyList<HandoverFile> Files, Reconciliation Reconciliation)
{
    /// <summary>The balance of each drawing.</summary>
    public IReadOnlyList<DrawingBalance> Drawings { get; init; } = [];

    /// <summary>What the order's tables have no row for; it went as it is.</summary>
    public IReadOnlyList<UnmatchedName> Unmatched { get; init; } = [];

    /// <summary>What this gives less of than the transmittal before it, a sentence each (<see cref="LessThanBefore"/>).</summary>
    public IReadOnlyList<string> Less { get; init; } = [];

    /// <summary>What nobody can account for, models and drawings.</summary>
    public int Unaccounted => Reconciliation.Unaccounted + Drawings.Sum(d => d.Unaccounted);

    /// <summary>Whether everything is accounted for and everything compared agrees.</summary>
    public bool Balanced => Reconciliation.Balanced && Drawings.All(d => d.Balanced);
}

/// <summary>A name or class that a table of an order has no row for.</summary>
/// <param name="Table">The table, and what of it.</param>
/// <param name="Name">The name.</param>
/// <param name="Count">How many elements have it.</param>
public sealed record UnmatchedName(string Table, string Name, int Count);
