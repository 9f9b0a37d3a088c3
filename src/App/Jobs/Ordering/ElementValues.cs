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
    /// <param name="what"><c>type</c>, <c>material</c>, <c>classification</c> or <c>group</c>; none for another.</param>
    /// <param name="cancel">Stops it.</param>
    public static async Task<IReadOnlyList<NamedCount>> OfAsync(
        LintelDb db,
        JobState state,
        string? what,
        CancellationToken cancel
    )
    {
        Guid[] newest = [.. state.Newest];
        var elements = db.Elements.AsNoTracking().Where(e => newest.Contains(e.RevisionId));
        var values = what switch
        {
            "type" => elements.Where(e => e.TypeName != "").Select(e => e.TypeName),
            "material" => elements.SelectMany(e => e.Materials),
            "classification" => elements.SelectMany(e => e.Classifications),
            "group" => elements.SelectMany(e => e.Groups),
            _ => null,
        };
        if (values is null)
            return [];
        var counted = await values
            .GroupBy(v => v)
            .Select(g => new { Name = g.Key, Count = g.Count() })
            .OrderByDescending(g => g.Count)
            .Take(Most)
            .ToListAsync(cancel);
        return [.. counted.OrderBy(c => c.Name, StringComparer.Ordinal).Select(c => new NamedCount(c.Name, c.Count))];
    }
}
