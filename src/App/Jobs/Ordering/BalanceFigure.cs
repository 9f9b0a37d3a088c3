using System.Text.RegularExpressions;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>A figure of a transmittal's balance, by which its elements are found.</summary>
/// <param name="Storey">The storey as the balance names it; null for all, empty for elements in none.</param>
/// <param name="Class">The class; null for all.</param>
/// <param name="Account"><c>in</c>, <c>left</c>, <c>written</c> or <c>unaccounted</c>.</param>
public sealed partial record BalanceFigure(string? Storey, string? Class, string Account)
{
    /// <summary>Of a source with more elements than these the first are looked at.</summary>
    public const int MostElements = 20_000;

    /// <summary>The GlobalIds of the elements that the figure counts, in the newest revisions.</summary>
    /// <param name="db">The database.</param>
    /// <param name="state">What the job holds.</param>
    /// <param name="run">The transmittal: its order decides, though revisions may have come since.</param>
    /// <param name="balance">The balance: what stayed without a rule, and what is unaccounted, is named in it.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The GlobalIds, and whether there may be more: a source has more than are looked at, or the balance names no more.</returns>
    /// <exception cref="OrderException">What the order names is gone.</exception>
    public async Task<(IReadOnlyList<string> Ids, bool More)> ElementsAsync(
        LintelDb db,
        JobState state,
        Transmittal run,
        Reconciliation balance,
        CancellationToken cancel
    )
    {
        if (Account == "unaccounted")
            return (
                [.. balance.Differences.SelectMany(d => GlobalId().Matches(d).Select(m => m.Value)).Distinct()],
                false
            );
        var document = OrderDocument.Read(run.Spec);
        var order = document.ToOrder(await new JobLibrary(db).LoadAsync(state.Job, document, cancel));
        var selection = order.Selection.On(state.Schedule, state.Storeys, state.Sources.Count);
        var unruled = balance.Unruled.ToHashSet(StringComparer.Ordinal);
        var ids = new List<string>();
        bool more = Account != "in" && balance.Unruled.Count >= Reconciliation.MostUnruled;
        foreach (var revision in await OrderPreview.RevisionsAsync(db, state, document, cancel))
        {
            int[]? storeys =
                Storey is null ? null
                : Storey.Length == 0 ? [-1]
                : [.. state.Storeys.Where(s => s.Source == revision.Source && s.Name == Storey).Select(s => s.Number)];
            var each = await new ElementQuery(db).EachAsync(
                revision,
                selection,
                storeys,
                Class,
                MostElements + 1,
                cancel
            );
            more |= each.Count > MostElements;
            foreach (var (id, matches) in each.Take(MostElements))
            {
                bool stays = selection.Judge(n => matches[n]).Reason is not null || unruled.Contains(id);
                if (Account == "in" || stays == (Account == "left"))
                    ids.Add(id);
            }
        }

        return (ids, more);
    }

    // A GlobalId has 22 letters of the alphabet of ISO 16739-1, IfcGloballyUniqueId, the first up to 3.
    [GeneratedRegex(@"(?<![\w$])[0-3][\w$]{21}(?![\w$])")]
    private static partial Regex GlobalId();
}
