using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The values that elements of the newest revisions have, for somebody who picks some of them.</summary>
public static class ElementValues
{
    private const int Most = 500;

    /// <summary>The values with how many elements have each, the most frequent ones, by name.</summary>
    /// <param name="db">The database.</param>
    /// <param name="state">What the job holds.</param>
    /// <param name="what">The word of a rule's field that has names; none for another.</param>
    /// <param name="cancel">Stops it.</param>
    public static async Task<IReadOnlyList<NamedCount>> OfAsync(
        LintelDb db,
        JobState state,
        string? what,
        CancellationToken cancel
    )
    {
        if (RuleField.Find(what ?? "") is not { } field || StoredField.Of(field) is not { } stored)
            return [];
        var counted = await stored.CountedIn(db, [.. state.Newest], Most).ToListAsync(cancel);
        return [.. counted.OrderBy(c => c.Name, StringComparer.Ordinal)];
    }
}
