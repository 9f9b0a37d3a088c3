using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The source that gives a job its frame and its levels: a coordinator says which, and everything else is set out on it.</summary>
/// <remarks>Whoever is read first says nothing about that: it may be a file of two walls.</remarks>
/// <param name="db">The database.</param>
/// <param name="settings">Accepts settings-out.</param>
/// <param name="levels">Makes the schedule.</param>
public sealed class JobReference(LintelDb db, SettingOuts settings, LevelEditing levels)
{
    /// <summary>Whether nobody has said yet which source gives the job its frame and levels.</summary>
    public static bool IsOpen(JobState state) =>
        state.Sources.Any(s => s.Latest is not null) && state.Sources.All(s => s.SetOut is null);

    /// <summary>The sources that could, the likeliest first: with most storeys, then with most elements.</summary>
    public static IReadOnlyList<(SourceState Source, int Storeys)> Candidates(JobState state) =>
        [
            .. state
                .Sources.Select((s, n) => (Source: s, Storeys: state.Storeys.Count(t => t.Source == n)))
                .Where(c => c.Source.Latest is not null)
                .OrderByDescending(c => c.Storeys)
                .ThenByDescending(c => c.Source.Latest!.Elements),
        ];

    /// <summary>Makes a source the reference of its job: its frame is the job's, and its storeys are the job's levels.</summary>
    /// <exception cref="RefusedException">The source has no model, or another source is set out already.</exception>
    public async Task ChooseAsync(Guid job, Guid source, Actor by, CancellationToken cancel)
    {
        var state = await JobState.LoadAsync(db, job, cancel);
        if (!IsOpen(state))
            throw new RefusedException(
                RefusalKind.Conflict,
                "The job has its coordinates already; set this source out on them, or withdraw the others' setting-out first."
            );
        if (state.Sources.FirstOrDefault(s => s.Source.Id == source && s.Latest is not null) is not { } chosen)
            throw new RefusedException(RefusalKind.Unknown, "This source has no model.");
        await settings.AcceptAsync(
            chosen.Source,
            job,
            SettingOutDocument.Identity with
            {
                Why = "Reference for the job's coordinates and levels.",
            },
            null,
            1,
            by,
            cancel
        );
        await levels.FromSourceAsync(job, source, by, cancel);
    }
}
