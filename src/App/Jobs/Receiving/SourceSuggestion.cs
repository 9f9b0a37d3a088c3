using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The party and source that a file is likely for.</summary>
/// <param name="Party">The party.</param>
/// <param name="Source">The source's name; empty for the party's first.</param>
/// <param name="Why">What it was recognised by, as the end of a sentence.</param>
/// <param name="Sure">Whether it is a next revision of what the source has: the file is of the same project, or has the same name.</param>
public sealed partial record SourceSuggestion(Guid Party, string Source, string Why, bool Sure)
{
    private const int Shortest = 4;

    /// <summary>Suggests the source of a file: by the project's GlobalId, by the file's name, by a party's code in it, by what the person
    /// sent
    /// last.</summary>
    /// <param name="db">The database.</param>
    /// <param name="job">The job.</param>
    /// <param name="parties">The parties that the person may deliver for.</param>
    /// <param name="file">The file's name.</param>
    /// <param name="project">The GlobalId of the model's project, where its head has it; else null.</param>
    /// <param name="by">The person.</param>
    /// <param name="cancel">Stops it.</param>
    public static async Task<SourceSuggestion?> OfAsync(
        LintelDb db,
        Guid job,
        IReadOnlyList<Party> parties,
        string file,
        string? project,
        Guid by,
        CancellationToken cancel
    )
    {
        var mine = parties.Select(p => p.Id).ToList();
        if (project is { Length: > 0 })
        {
            var found = await db
                .Database.SqlQuery<Found>(
                    $"""
                    SELECT s.party_id, s.name FROM revisions r JOIN sources s ON s.id = r.source_id
                    WHERE s.job_id = {job} AND s.party_id = ANY({mine}) AND r.in_use AND r.report ->> 'projectId' = {project}
                    ORDER BY r.number DESC LIMIT 1
                    """
                )
                .ToListAsync(cancel);
            if (found is [var same])
                return new SourceSuggestion(same.PartyId, same.Name, "it has the same project GlobalId", true);
        }

        var sent = await db
            .Deliveries.AsNoTracking()
            .Where(d =>
                mine.Contains(d.Source.PartyId)
                && d.Source.RetiredAt == null
                && d.State != DeliveryState.Refused
                && d.State != DeliveryState.Cancelled
            )
            .OrderByDescending(d => d.ReceivedAt)
            .Take(Looked)
            .Select(d => new
            {
                d.FileName,
                d.Source.PartyId,
                d.Source.Name,
                d.ReceivedBy,
            })
            .ToListAsync(cancel);
        string stem = Stem(file),
            ending = Path.GetExtension(file).ToUpperInvariant();
        if (
            stem.Length >= Shortest
            && sent.Find(d => Stem(d.FileName) == stem && Path.GetExtension(d.FileName).ToUpperInvariant() == ending)
                is { } named
        )
            return new SourceSuggestion(named.PartyId, named.Name, $"{named.FileName} came for it", true);
        var words = NoLetters().Split(Path.GetFileNameWithoutExtension(file).ToUpperInvariant());
        if (parties.FirstOrDefault(p => words.Contains(p.Code.ToUpperInvariant())) is { } coded)
            return new SourceSuggestion(coded.Id, "", $"the name has the code {coded.Code}", false);
        return sent.Find(d => d.ReceivedBy == by) is { } last
            ? new SourceSuggestion(last.PartyId, "", "you sent for this party before", false)
            : null;
    }

    private const int Looked = 500;

    // Revision letters, numbers and dates differ from one delivery to the next.
    private static string Stem(string file) =>
        Marks().Replace(Path.GetFileNameWithoutExtension(file).ToUpperInvariant(), "");

    [GeneratedRegex(@"[^\p{L}]+(REV|R|V|P|C)?[^\p{L}]*\d[\d._-]*|[\s._-]+")]
    private static partial Regex Marks();

    [GeneratedRegex(@"[^A-Z0-9]+")]
    private static partial Regex NoLetters();

    private sealed record Found(Guid PartyId, string Name);
}
