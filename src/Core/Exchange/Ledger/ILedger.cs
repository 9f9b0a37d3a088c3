namespace SteadyLintel.Exchange;

/// <summary>Reads the written files of a hand-over back and puts every thing of its sources into one account.</summary>
internal interface ILedger
{
    /// <summary>Reads a file.</summary>
    /// <param name="file">What was meant to go into it.</param>
    /// <param name="bytes">Its bytes.</param>
    /// <param name="rows">Told which elements were found.</param>
    /// <param name="cancel">Stops between elements.</param>
    void Read(WrittenFile file, ReadOnlyMemory<byte> bytes, Reconciler rows, CancellationToken cancel);

    /// <summary>The lines, once all files were read.</summary>
    IReadOnlyList<LedgerLine> Lines();

    /// <summary>What was measured.</summary>
    IEnumerable<ReconciliationCheck> Checks { get; }

    /// <summary>The first differences, a sentence each.</summary>
    IReadOnlyList<string> Differences { get; }
}
