namespace SteadyLintel.Exchange;

/// <summary>What an order is written into: a kind of file that can hold some things, is written, and is read back for the
/// balance.</summary>
/// <remarks>A new one (STEP, an analysis model) is one class more, named in <see cref="TargetCatalog"/>; nothing else asks what form an
/// order has.</remarks>
public abstract class Target : FileForm
{
    /// <summary>The target of an order.</summary>
    public static Target Of(HandoverOrder order) => (Target)order.Into;

    /// <summary>Why the form has no place for an element; null when it has.</summary>
    /// <param name="shaped">Whether the element has a body.</param>
    /// <param name="drawn">Whether it has lines in a plan.</param>
    public abstract string? CannotHold(bool shaped, bool drawn);

    /// <summary>Writes the files of a plan.</summary>
    internal abstract IReadOnlyList<WrittenFile> Write(
        HandoverPlan plan,
        FileNames names,
        string timeStamp,
        IFileSet files,
        Reconciler reconciler,
        CancellationToken cancel
    );

    /// <summary>The ledger that reads them back.</summary>
    internal abstract ILedger NewLedger(HandoverPlan plan);
}
