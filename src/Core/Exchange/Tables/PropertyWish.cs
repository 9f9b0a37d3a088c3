namespace SteadyLintel.Exchange;

/// <summary>Which properties travel.</summary>
/// <param name="List">The property list.</param>
/// <param name="BlanksOut">Whether properties without a value stay, where the list does not say.</param>
public sealed record PropertyWish(PropertyList List, bool BlanksOut)
{
    /// <summary>The reason of the balance for properties that no row lets travel.</summary>
    public const string NotListed = "not in the property list";

    /// <summary>The reason of the balance for properties without a value.</summary>
    public const string Blank = "blank, left out";

    /// <summary>The reason of the balance for sets of which no property travels.</summary>
    public const string EmptySet = "nothing of it travels";

    /// <summary>What becomes of a property.</summary>
    /// <param name="set">The name of its set.</param>
    /// <param name="property">Its name.</param>
    /// <param name="blank">Whether it has no value.</param>
    /// <returns>The row that lets it travel, or why it stays.</returns>
    public (PropertyRow? Row, string Reason) Of(string set, string property, bool blank)
    {
        if (List.Find(set, property) is not { } row)
            return (null, NotListed);
        return blank && !(row.Blanks ?? !BlanksOut) ? (null, Blank) : (row, "");
    }
}
