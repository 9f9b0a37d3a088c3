using System.Globalization;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>The topics of a job, for pages and programs. Recipients find those alone that were handed to their party.</summary>
/// <param name="db">The database.</param>
public sealed class TopicQuery(LintelDb db)
{
    /// <summary>The most that a list shows.</summary>
    public const int Most = 500;

    private static readonly TimeSpan Week = TimeSpan.FromDays(7);

    /// <summary>What holds for all topics of a job.</summary>
    public Task<TopicBoard> BoardAsync(Guid job, CancellationToken cancel) => TopicBoard.LoadAsync(db, job, cancel);

    /// <summary>Figures of the topics of a job.</summary>
    public Task<TopicFigures> FiguresAsync(Guid job, CancellationToken cancel) =>
        TopicFigures.LoadAsync(db, job, cancel);

    /// <summary>How many open topics a person owes the next answer.</summary>
    public static Task<int> OwedAsync(LintelDb db, Guid job, JobPermissions who, CancellationToken cancel) =>
        Owed(db.Topics.Where(t => t.JobId == job && !t.Closed), who).CountAsync(cancel);

    /// <summary>Topics in the order wished for, and how many there are in all.</summary>
    public async Task<(IReadOnlyList<ShownTopic> Topics, int All)> ListAsync(
        Guid job,
        JobPermissions who,
        TopicFilter filter,
        int most,
        CancellationToken cancel
    )
    {
        var chosen = await ChosenAsync(job, who, filter, cancel);
        int all = await chosen.CountAsync(cancel);
        return (await Sorted(chosen, filter).Take(most).Select(ShownTopic.Of).ToListAsync(cancel), all);
    }

    /// <summary>Where topics belong in the matrix, those that are due first; nothing else of them is read.</summary>
    public async Task<IReadOnlyList<(Guid Id, int? Level, Guid? OwedBy)>> PlacesAsync(
        Guid job,
        JobPermissions who,
        TopicFilter filter,
        int most,
        CancellationToken cancel
    ) =>
        [
            .. (
                await (await ChosenAsync(job, who, filter, cancel))
                    .OrderBy(t => t.Due ?? DateOnly.MaxValue)
                    .ThenBy(t => t.Number)
                    .Take(most)
                    .Select(t => new
                    {
                        t.Id,
                        t.Level,
                        t.OwedBy,
                    })
                    .ToListAsync(cancel)
            ).Select(t => (t.Id, t.Level, t.OwedBy)),
        ];

    /// <summary>Some topics as lists show them, by identity.</summary>
    public Task<Dictionary<Guid, ShownTopic>> ShownAsync(
        Guid job,
        JobPermissions who,
        IReadOnlyCollection<Guid> ids,
        CancellationToken cancel
    ) => Rows(job, who).Where(t => ids.Contains(t.Id)).Select(ShownTopic.Of).ToDictionaryAsync(t => t.Id, cancel);

    /// <summary>The identities of topics, in the order of their numbers; of some numbers alone where these are given.</summary>
    public async Task<IReadOnlyList<Guid>> IdsAsync(
        Guid job,
        JobPermissions who,
        TopicFilter filter,
        IReadOnlyList<int>? numbers,
        CancellationToken cancel
    ) =>
        await (await ChosenAsync(job, who, filter, cancel))
            .Where(t => numbers == null || numbers.Contains(t.Number))
            .OrderBy(t => t.Number)
            .Select(t => t.Id)
            .ToListAsync(cancel);

    /// <summary>How many topics are open, due within a week or late, owed by the reader, and closed.</summary>
    public async Task<TopicCounts> CountsAsync(Guid job, JobPermissions who, CancellationToken cancel)
    {
        var seen = Seen(db.Topics.Where(t => t.JobId == job), who);
        var (today, week) = Days();
        return new TopicCounts(
            await seen.CountAsync(t => !t.Closed, cancel),
            await seen.CountAsync(t => !t.Closed && t.Due <= week, cancel),
            await seen.CountAsync(t => !t.Closed && t.Due < today, cancel),
            await Owed(seen.Where(t => !t.Closed), who).CountAsync(cancel),
            await seen.CountAsync(t => t.Closed, cancel)
        );
    }

    /// <summary>A word that is another once a topic of a job, or one topic, has changed.</summary>
    public async Task<string> StampAsync(Guid job, JobPermissions who, int? number, CancellationToken cancel)
    {
        var seen = Seen(db.Topics.Where(t => t.JobId == job && (number == null || t.Number == number)), who);
        var stamp = await seen.GroupBy(_ => 1)
            .Select(g => new { Count = g.Count(), Changes = g.Sum(t => (long)t.Version) })
            .FirstOrDefaultAsync(cancel);
        return FormattableString.Invariant($"{stamp?.Count ?? 0}-{stamp?.Changes ?? 0}");
    }

    /// <summary>Whole topics with their files, for reports.</summary>
    public async Task<IReadOnlyList<(TopicRow Row, Topic Topic)>> WholeAsync(
        Guid job,
        JobPermissions who,
        TopicFilter filter,
        IReadOnlyList<int>? numbers,
        int most,
        CancellationToken cancel
    )
    {
        var chosen = (await ChosenAsync(job, who, filter, cancel)).Where(t =>
            numbers == null || numbers.Contains(t.Number)
        );
        var parts = new TopicParts(db);
        return
        [
            .. (await Sorted(chosen.Include(t => t.Parts), filter).Take(most).ToListAsync(cancel)).Select(r =>
                (r, TopicRows.Read(r) with { Parts = parts.Of(r.Parts) })
            ),
        ];
    }

    /// <summary>The topics of a job that somebody sees, to be filtered further.</summary>
    public IQueryable<TopicRow> Rows(Guid job, JobPermissions who) =>
        Seen(db.Topics.AsNoTracking().Where(t => t.JobId == job), who);

    /// <summary>The number of the topic of a GUID; 0 where there is none that the reader may see.</summary>
    public Task<int> NumberAsync(Guid job, JobPermissions who, string guid, CancellationToken cancel) =>
        Rows(job, who).Where(t => t.Guid == guid.ToLowerInvariant()).Select(t => t.Number).FirstOrDefaultAsync(cancel);

    /// <summary>The documents of a job that topics refer to; recipients learn of those alone that their topics name.</summary>
    public async Task<IReadOnlyList<TopicDocument>> DocumentsAsync(
        Guid job,
        JobPermissions who,
        CancellationToken cancel
    )
    {
        var documents = (await TopicBoard.LoadAsync(db, job, cancel)).Project.Documents;
        if (who.MaySeeJob || documents.Count == 0)
            return documents;
        var named = (await Rows(job, who).Select(t => t.Document).ToListAsync(cancel))
            .SelectMany(t => TopicJson.Read(t).Documents)
            .Select(d => d.Document)
            .ToHashSet(StringComparer.OrdinalIgnoreCase);
        return [.. documents.Where(d => named.Contains(d.Guid))];
    }

    /// <summary>A document with its name; null where there is none that the reader may see.</summary>
    public async Task<(string Name, TopicPart Part)?> DocumentAsync(
        Guid job,
        JobPermissions who,
        string guid,
        CancellationToken cancel
    )
    {
        var known = await DocumentsAsync(job, who, cancel);
        if (known.FirstOrDefault(d => d.Guid.Equals(guid, StringComparison.OrdinalIgnoreCase)) is not { } document)
            return null;
        string name = TopicExchange.DocumentFolder + document.Guid;
        var rows = await db
            .TopicParts.AsNoTracking()
            .Where(p => p.JobId == job && p.TopicId == null && p.Name == name)
            .ToListAsync(cancel);
        return rows.Count == 0 ? null : (document.Filename ?? document.Guid, new TopicParts(db).Of(rows)[0]);
    }

    /// <summary>Number and title of those topics of some GUIDs that the reader may see.</summary>
    public async Task<IReadOnlyDictionary<string, (int Number, string Title)>> NumbersAsync(
        Guid job,
        JobPermissions who,
        IReadOnlyList<string> guids,
        CancellationToken cancel
    )
    {
        string[] asked = [.. guids.Select(g => g.ToLowerInvariant())];
        return asked.Length == 0
            ? new Dictionary<string, (int, string)>()
            : (
                await Rows(job, who)
                    .Where(t => asked.Contains(t.Guid))
                    .Select(t => new
                    {
                        t.Guid,
                        t.Number,
                        t.Title,
                    })
                    .ToListAsync(cancel)
            ).ToDictionary(t => t.Guid, t => (t.Number, t.Title), StringComparer.OrdinalIgnoreCase);
    }

    /// <summary>How many open topics each level has; −1 for those of no level.</summary>
    public async Task<IReadOnlyDictionary<int, int>> ByLevelAsync(
        Guid job,
        JobPermissions who,
        CancellationToken cancel
    ) =>
        await Rows(job, who)
            .Where(t => !t.Closed)
            .GroupBy(t => t.Level ?? -1)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);

    /// <summary>What happened to topics, the last first.</summary>
    /// <param name="job">The job.</param>
    /// <param name="who">What the reader may do.</param>
    /// <param name="guid">One topic; null for all.</param>
    /// <param name="comments">Whether to comments, or to topics themselves.</param>
    /// <param name="most">How many at most.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task<IReadOnlyList<(string Topic, TopicEvent Event)>> EventsAsync(
        Guid job,
        JobPermissions who,
        string? guid,
        bool comments,
        int most,
        CancellationToken cancel
    ) =>
        [
            .. (
                await Rows(job, who)
                    .Where(t => guid == null || t.Guid == guid.ToLowerInvariant())
                    .Join(db.TopicEvents, t => t.Id, e => e.TopicId, (t, e) => new { t.Guid, Event = e })
                    .Where(e => comments == (e.Event.Comment != null))
                    .OrderByDescending(e => e.Event.Id)
                    .Take(most)
                    .ToListAsync(cancel)
            ).Select(e => (e.Guid, e.Event)),
        ];

    /// <summary>One topic with its thread; null where there is none that the reader may see.</summary>
    public async Task<TopicPage?> OneAsync(Guid job, JobPermissions who, int number, CancellationToken cancel)
    {
        var row = await Seen(db.Topics.AsNoTracking().Where(t => t.JobId == job && t.Number == number), who)
            .Include(t => t.Parts)
            .FirstOrDefaultAsync(cancel);
        if (row is null)
            return null;
        var events = await db
            .TopicEvents.AsNoTracking()
            .Where(e => e.TopicId == row.Id)
            .OrderBy(e => e.Id)
            .ToListAsync(cancel);
        return new TopicPage(
            row,
            TopicRows.Read(row) with
            {
                Parts = new TopicParts(db).Of(row.Parts),
            },
            await TopicBoard.LoadAsync(db, job, cancel),
            events
        );
    }

    /// <summary>A file of a topic; null where there is none that the reader may see.</summary>
    public async Task<TopicPart?> PartAsync(
        Guid job,
        JobPermissions who,
        int number,
        string? name,
        CancellationToken cancel
    )
    {
        var row = await Seen(db.Topics.AsNoTracking().Where(t => t.JobId == job && t.Number == number), who)
            .Select(t => new { t.Picture, t.Parts })
            .FirstOrDefaultAsync(cancel);
        string wanted = name ?? row?.Picture ?? "";
        return row?.Parts.FirstOrDefault(p => p.Name == wanted) is { } part ? new TopicParts(db).Of([part])[0] : null;
    }

    /// <summary>From the frame of a topic's views into the job's.</summary>
    public static Frame FrameOf(JobModel model, Guid? source) =>
        source is { } id && model.Sources.FirstOrDefault(s => s.Id == id) is { } of
            ? model.FrameOf(of)
            : Frame.Identity;

    private async Task<IQueryable<TopicRow>> ChosenAsync(
        Guid job,
        JobPermissions who,
        TopicFilter filter,
        CancellationToken cancel
    )
    {
        var topics = Seen(db.Topics.AsNoTracking().Where(t => t.JobId == job), who);
        topics = filter.State switch
        {
            "closed" => topics.Where(t => t.Closed),
            "all" => topics,
            _ => topics.Where(t => !t.Closed),
        };
        if (filter.Mine)
            topics = Owed(topics, who);
        var (today, week) = Days();
        if (filter.Due == "late")
            topics = topics.Where(t => t.Due < today);
        else if (filter.Due == "week")
            topics = topics.Where(t => t.Due <= week);
        if (filter.Type is { Length: > 0 } type)
            topics = topics.Where(t => t.Type == type);
        if (filter.Status is { Length: > 0 } status)
            topics = topics.Where(t => t.Status == status);
        if (filter.Priority is { Length: > 0 } priority)
            topics = topics.Where(t => t.Priority == priority);
        if (filter.Label is { Length: > 0 } label)
            topics = topics.Where(t => t.Labels.Contains(label));
        if (filter.Element is { Length: > 0 } element)
            topics = topics.Where(t => t.Elements.Contains(element));
        if (filter.Storey is { } storey)
            topics = topics.Where(t => storey < 0 ? t.Level == null : t.Level == storey);
        if (filter.Owes == TopicFilter.Coordinators)
            topics = topics.Where(t => t.OwedBy == null);
        else if (filter.Owes is { Length: > 0 } code)
        {
            var party = await db
                .Parties.Where(p => p.JobId == job && p.Code == code)
                .Select(p => (Guid?)p.Id)
                .FirstOrDefaultAsync(cancel);
            topics = topics.Where(t => t.OwedBy == party && party != null);
        }

        return filter.Text is { Length: > 0 } text ? With(topics, text.Trim()) : topics;
    }

    private static IQueryable<TopicRow> With(IQueryable<TopicRow> topics, string text)
    {
        int number = int.TryParse(
            text.StartsWith("T-", StringComparison.OrdinalIgnoreCase) ? text[2..] : text,
            NumberStyles.None,
            CultureInfo.InvariantCulture,
            out int n
        )
            ? n
            : 0;
        string words = text.ToLowerInvariant();
        return topics.Where(t => t.Number == number || t.Words.Contains(words));
    }

    private static IQueryable<TopicRow> Sorted(IQueryable<TopicRow> topics, TopicFilter filter)
    {
        IOrderedQueryable<TopicRow> By<T>(System.Linq.Expressions.Expression<Func<TopicRow, T>> key) =>
            filter.Down ? topics.OrderByDescending(key) : topics.OrderBy(key);
        return (
            filter.Sort switch
            {
                "due" => By(t => t.Due ?? DateOnly.MaxValue),
                "changed" => By(t => t.ModifiedAt),
                "title" => By(t => t.Title),
                "owes" => By(t => t.Assigned),
                "storey" => By(t => t.Level),
                _ => By(t => t.Number),
            }
        ).ThenBy(t => t.Number);
    }

    // Whoever sees no more of the job than what was handed over sees the topics that were handed to their party.
    private static IQueryable<TopicRow> Seen(IQueryable<TopicRow> topics, JobPermissions who)
    {
        if (who.MaySeeJob)
            return topics;
        var party = who.Party ?? Guid.Empty;
        return topics.Where(t => t.HandedTo.Contains(party));
    }

    // A member of a party owes what the party does; a coordinator what nobody else does; a reader nothing.
    private static IQueryable<TopicRow> Owed(IQueryable<TopicRow> topics, JobPermissions who) =>
        who.Party is { } party
            ? topics.Where(t => t.OwedBy == party)
            : topics.Where(t => who.IsCoordinator && t.OwedBy == null);

    private static (DateOnly Today, DateOnly Week) Days()
    {
        var now = DateTime.UtcNow;
        return (DateOnly.FromDateTime(now), DateOnly.FromDateTime(now + Week));
    }
}
