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

    /// <summary>What nobody can account for, models and drawings.</summary>
    public int Unaccounted => Reconciliation.Unaccounted + Drawings.Sum(d => d.Unaccounted);

    /// <summary>Whether everything is accounted for and everything compared agrees.</summary>
    public bool Balanced => Reconciliation.Balanced && Drawings.All(d => d.Balanced);
}
