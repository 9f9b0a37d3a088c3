namespace SteadyLintel.Exchange;

/// <summary>A line of the balance of a conversion.</summary>
/// <param name="Type">The kind of entity.</param>
/// <param name="Layer">Its layer.</param>
/// <param name="In">How many came.</param>
/// <param name="LeftOut">How many a rule left out.</param>
/// <param name="LeftBehind">How many have no form in what was written; each is a finding.</param>
/// <param name="Found">How many were found on re-reading.</param>
public sealed record ConversionRow(string Type, string Layer, int In, int LeftOut, int LeftBehind, int Found)
{
    /// <summary>What nobody can account for.</summary>
    public int Unaccounted => In - LeftOut - LeftBehind - Found;
}
