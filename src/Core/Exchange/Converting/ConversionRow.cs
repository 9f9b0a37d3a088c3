namespace SteadyLintel.Exchange;

/// <summary>A line of the balance of a conversion.</summary>
/// <param name="Type">The kind of entity.</param>
/// <param name="Layer">Its layer.</param>
/// <param name="In">How many came.</param>
/// <param name="LeftOut">How many a rule left out.</param>
/// <param name="LeftBehind">How many have no form in what was written; each is a finding.</param>
/// <param name="Found">How many were found on re-reading.</param>
/// <param name="TakenApart">How many inserts were exploded, and entities of blocks that nothing shows any more.</param>
/// <param name="Made">How many are where inserts were.</param>
public sealed record ConversionRow(
    string Type,
    string Layer,
    int In,
    int LeftOut,
    int LeftBehind,
    int Found,
    int TakenApart = 0,
    int Made = 0
)
{
    /// <summary>What nobody can account for.</summary>
    public int Unaccounted => In + Made - TakenApart - LeftOut - LeftBehind - Found;
}
