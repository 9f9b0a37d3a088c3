namespace SteadyLintel.Exchange;

/// <summary>One line of the ledger: all things of a kind, each in exactly one account.</summary>
/// <param name="Kind">An entity's or relationship's name (<c>IfcWall</c>, <c>IfcRelVoidsElement</c>), a kind of entity of a drawing
/// (<c>LWPOLYLINE</c>), or <c>property value</c>, <c>shape</c>, <c>place</c>, <c>colour</c>, <c>layer</c> …</param>
/// <param name="Things">How many the sources hold. A relationship counts once for each pair of ends.</param>
/// <param name="Same">How many were found again as they were.</param>
/// <param name="Changed">How many were found changed as a named rule leads one to expect, by rule.</param>
/// <param name="LeftOut">How many a named rule left out, by rule.</param>
/// <param name="NotCarried">How many the written form has no place for, by reason.</param>
/// <param name="Unaccounted">How many are in none of these accounts, or were found and are in no source.</param>
public sealed record LedgerLine(
    string Kind,
    int Things,
    int Same,
    IReadOnlyDictionary<string, int> Changed,
    IReadOnlyDictionary<string, int> LeftOut,
    IReadOnlyDictionary<string, int> NotCarried,
    int Unaccounted
)
{
    /// <summary>The first things of each account that is not <see cref="Same"/>.</summary>
    public IReadOnlyList<LedgerExample> Examples { get; init; } = [];
}

/// <summary>A thing that a line of the ledger counts.</summary>
/// <param name="Account">Which account it is in.</param>
/// <param name="Rule">The rule or reason; empty for what is unaccounted.</param>
/// <param name="Thing">What it is: entity, GlobalId and name, or the place in its file.</param>
public sealed record LedgerExample(LedgerAccount Account, string Rule, string Thing);

/// <summary>The account a thing of the sources ends in.</summary>
/// <remarks>Over several files the later value counts: what one file holds damaged is unaccounted, whatever the others hold.</remarks>
public enum LedgerAccount : byte
{
    /// <summary>In no file: a rule left it out.</summary>
    LeftOut,

    /// <summary>Found as it was.</summary>
    Same,

    /// <summary>Found changed, as a rule leads one to expect.</summary>
    Changed,

    /// <summary>The written form has no place for it, or for part of it.</summary>
    NotCarried,

    /// <summary>None of these.</summary>
    Unaccounted,
}
