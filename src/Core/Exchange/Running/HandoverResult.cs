namespace SteadyLintel.Exchange;

/// <summary>A written file.</summary>
public sealed record HandoverFile(string Name, long Bytes, string Sha256, int Elements);

/// <summary>What a hand-over gave: its files and the balance sheet.</summary>
public sealed record HandoverResult(IReadOnlyList<HandoverFile> Files, Reconciliation Reconciliation);
