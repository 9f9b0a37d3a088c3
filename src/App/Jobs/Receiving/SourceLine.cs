using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Where a source is, worst first.</summary>
public enum SourceStanding
{
    /// <summary>A delivery of it is held until a coordinator decides.</summary>
    Held,

    /// <summary>A newer revision is being read.</summary>
    NewerWaiting,

    /// <summary>Nobody has set it out, or placed it.</summary>
    NotSetOut,

    /// <summary>Its newest revision has errors or warnings.</summary>
    Findings,

    /// <summary>Nothing has come for it.</summary>
    Nothing,

    /// <summary>Nothing waits.</summary>
    UpToDate,
}

/// <summary>A source in the list of sources.</summary>
/// <param name="State">The source as it is.</param>
/// <param name="Standing">Where it is.</param>
/// <param name="LockedBy">Who has locked it; null while it is open.</param>
public sealed record SourceLine(SourceState State, SourceStanding Standing, string? LockedBy)
{
    /// <summary>Lists the sources in use.</summary>
    /// <param name="db">The database.</param>
    /// <param name="job">The job.</param>
    /// <param name="sort"><c>state</c>, <c>received</c> or <c>lock</c>; else by party and name.</param>
    /// <param name="cancel">Stops it.</param>
    public static async Task<IReadOnlyList<SourceLine>> ListAsync(
        LintelDb db,
        Guid job,
        string? sort,
        CancellationToken cancel
    )
    {
        var state = await JobState.LoadAsync(db, job, cancel);
        var jumped = await FrameJumps.OpenAsync(db, job, cancel);
        var sources = state.Sources.Concat(state.Drawings).Where(s => s.Source.RetiredAt is null).ToList();
        var holders = sources.Select(s => s.Source.LockedBy).OfType<Guid>().ToList();
        var names = await db
            .Users.AsNoTracking()
            .Where(u => holders.Contains(u.Id))
            .ToDictionaryAsync(u => u.Id, u => u.DisplayName, cancel);
        var lines = sources.Select(s => new SourceLine(
            s,
            StandingOf(s, jumped),
            s.Source.LockedBy is { } holder ? names.GetValueOrDefault(holder, "somebody who left") : null
        ));
        lines = sort switch
        {
            "state" => lines.OrderBy(l => l.Standing),
            "received" => lines.OrderByDescending(l => l.State.Latest?.Delivery.ReceivedAt),
            "lock" => lines.OrderBy(l => l.LockedBy is null).ThenBy(l => l.State.Source.LockedAt),
            _ => lines
                .OrderBy(l => l.State.Source.Party.Code, StringComparer.Ordinal)
                .ThenBy(l => l.State.Source.Name, StringComparer.Ordinal),
        };
        return [.. lines];
    }

    private static SourceStanding StandingOf(SourceState source, IReadOnlySet<Guid> jumped) =>
        source.Held > 0 ? SourceStanding.Held
        : source.Underway > 0 ? SourceStanding.NewerWaiting
        : source.Latest is null ? SourceStanding.Nothing
        : source.SetOut is null || jumped.Contains(source.Source.Id) ? SourceStanding.NotSetOut
        : source.Latest.Findings > 0 ? SourceStanding.Findings
        : SourceStanding.UpToDate;
}
