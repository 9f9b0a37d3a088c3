using System.Globalization;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Changes the level schedule of a job by hand. What somebody said stays, whatever arrives or is set out later.</summary>
/// <param name="db">The database.</param>
public sealed class LevelEditing(LintelDb db)
{
    private const int LongestName = 80,
        Most = 500;

    /// <summary>Adds a level, or changes one.</summary>
    /// <param name="job">The job.</param>
    /// <param name="id">The level; null to add one.</param>
    /// <param name="name">Its name.</param>
    /// <param name="elevation">Its elevation as typed.</param>
    /// <param name="bare">What a bare number means.</param>
    /// <param name="by">Who.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">The words make no sense.</exception>
    public Task ChangeAsync(
        Guid job,
        int? id,
        string? name,
        string? elevation,
        LengthNotation bare,
        Actor by,
        CancellationToken cancel
    )
    {
        string word = InputRules.Of(name, "The name", LongestName);
        double metres = Length(elevation, bare);
        return EditAsync(
            job,
            by,
            id is null ? "added the level" : "changed the level",
            string.Create(CultureInfo.InvariantCulture, $"{word} {metres:0.000} m"),
            document =>
            {
                if (
                    document.Levels.Any(l =>
                        l.Id != id && string.Equals(l.Name, word, StringComparison.OrdinalIgnoreCase)
                    )
                )
                    throw new RefusedException(
                        RefusalKind.Conflict,
                        $"There is a level {word} already; take another name."
                    );
                if (document.Levels.Count >= Most)
                    throw new RefusedException(RefusalKind.Full, $"A job has at most {Most} levels.");
                if (id is { } known && document.Levels.All(l => l.Id != known))
                    throw new RefusedException(RefusalKind.Unknown, "There is no such level.");
                var level = new JobLevel(
                    id ?? (document.Levels.Select(l => l.Id).DefaultIfEmpty(0).Max() + 1),
                    word,
                    metres,
                    ByHand: true
                );
                return document with
                {
                    Levels = [.. document.Levels.Where(l => l.Id != id).Append(level).OrderBy(l => l.Elevation)],
                };
            },
            cancel
        );
    }

    /// <summary>Removes a level; storeys that were on it are matched again.</summary>
    public Task RemoveAsync(Guid job, int id, Actor by, CancellationToken cancel) =>
        EditAsync(
            job,
            by,
            "removed a level",
            $"{id}",
            document =>
                document with
                {
                    Levels = [.. document.Levels.Where(l => l.Id != id)],
                    Matches = [.. document.Matches.Where(m => m.Level != id)],
                },
            cancel
        );

    /// <summary>Says which level a storey of a source is.</summary>
    /// <param name="job">The job.</param>
    /// <param name="source">The source.</param>
    /// <param name="storey">The storey, as <see cref="LevelDocument.Keys"/> calls it.</param>
    /// <param name="level">The level; null to have it matched by elevation and name again.</param>
    /// <param name="by">Who.</param>
    /// <param name="cancel">Stops it.</param>
    public Task MatchAsync(Guid job, Guid source, string storey, int? level, Actor by, CancellationToken cancel) =>
        EditAsync(
            job,
            by,
            "matched the storey",
            storey,
            document =>
            {
                if (level is { } wanted && document.Levels.All(l => l.Id != wanted))
                    throw new RefusedException(RefusalKind.Unknown, "There is no such level.");
                var others = document.Matches.Where(m => m.Source != source.ToString() || m.Storey != storey);
                return document with
                {
                    Matches =
                    [
                        .. level is { } to
                            ? others.Append(new LevelMatch(source.ToString(), storey, to, ByHand: true))
                            : others,
                    ],
                };
            },
            cancel
        );

    /// <summary>Declares how far a source's levels lie above the job's; all of them, or one storey's.</summary>
    public Task OffsetAsync(
        Guid job,
        Guid source,
        string? storey,
        string? offset,
        LengthNotation bare,
        Actor by,
        CancellationToken cancel
    )
    {
        string key = storey ?? "";
        double metres = string.IsNullOrWhiteSpace(offset) ? 0 : Length(offset, bare);
        return EditAsync(
            job,
            by,
            "declared an offset of levels",
            string.Create(CultureInfo.InvariantCulture, $"{key} {metres:0.000} m"),
            document =>
            {
                var others = document.Offsets.Where(o => o.Source != source.ToString() || o.Storey != key);
                document = document with
                {
                    Offsets =
                    [
                        .. metres == 0 ? others : others.Append(new LevelOffset(source.ToString(), key, metres)),
                    ],
                };
                return document.Without(source.ToString());
            },
            cancel
        );
    }

    /// <summary>Makes the schedule of a source's storeys; every other source is matched to them again.</summary>
    public async Task FromSourceAsync(Guid job, Guid source, Actor by, CancellationToken cancel)
    {
        var state = await JobState.LoadAsync(db, job, cancel);
        int number = state.Sources.ToList().FindIndex(s => s.Source.Id == source && s.Latest is not null);
        if (number < 0)
            throw new RefusedException(RefusalKind.Unknown, "This source has no model.");
        await EditAsync(
            job,
            by,
            "made the level schedule of",
            state.Sources[number].Label,
            document =>
            {
                var levels = state
                    .Storeys.Where(s => s.Source == number)
                    .OrderBy(s => s.Elevation)
                    .Select((s, n) => new JobLevel(n + 1, s.Name, s.Elevation, ByHand: true))
                    .ToList();
                return document with { Levels = levels, Matches = [] };
            },
            cancel
        );
    }

    /// <summary>Confirms storeys that nobody has matched: each is on the level it is shown on, and a level that the job does not have is
    /// added.</summary>
    /// <param name="job">The job.</param>
    /// <param name="source">The source; null for all.</param>
    /// <param name="storey">The storey, as <see cref="LevelDocument.Keys"/> calls it; null for all of the source.</param>
    /// <param name="by">Who.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task ConfirmAsync(Guid job, Guid? source, string? storey, Actor by, CancellationToken cancel)
    {
        var state = await JobState.LoadAsync(db, job, cancel);
        var keys = LevelDocument.Keys(state.Storeys);
        bool Chosen(SourceStorey s) =>
            (source is null || state.Sources[s.Source].Source.Id == source)
            && (storey is null || keys[(s.Source, s.Number)] == storey);
        await EditAsync(
            job,
            by,
            "confirmed the storeys",
            storey ?? (source is null ? "all" : state.Sources.First(s => s.Source.Id == source).Label),
            document => document.Confirm([.. state.Sources.Select(s => s.Source.Id.ToString())], state.Storeys, Chosen),
            cancel
        );
    }

    private async Task EditAsync(
        Guid job,
        Actor by,
        string did,
        string subject,
        Func<LevelDocument, LevelDocument> edit,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        string? json = (
            await db
                .Database.SqlQuery<string?>($"SELECT levels::text AS \"Value\" FROM jobs WHERE id = {job} FOR UPDATE")
                .ToListAsync(cancel)
        )[0];
        string written = edit(LevelDocument.Read(json)).Write();
        await db.Jobs.Where(j => j.Id == job).ExecuteUpdateAsync(u => u.SetProperty(j => j.Levels, written), cancel);
        db.Note(by, job, did, subject);
        await db.SaveChangesAsync(cancel);
        // Whatever lost its level finds one again.
        await JobLevels.CompleteAsync(db, job, cancel);
        await transaction.CommitAsync(cancel);
    }

    private static double Length(string? text, LengthNotation bare)
    {
        try
        {
            return LengthText.Read(text ?? "", bare);
        }
        catch (FormatException e)
        {
            throw new RefusedException(RefusalKind.Wrong, e.Message);
        }
    }
}
