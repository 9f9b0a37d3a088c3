using System.Collections.Concurrent;
using System.Security.Cryptography;
using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A part of a job that something else can rest on.</summary>
public enum JobPart
{
    /// <summary>The level schedule, with the storeys of each source that are on it.</summary>
    Levels,

    /// <summary>Where every source lies.</summary>
    Places,

    /// <summary>The newest drawings, their steps and places, and the details that they place.</summary>
    Drawings,
}

/// <summary>What is known of a job at one moment: its sources with their newest revisions, where each lies, its levels, and what its
/// library has. It never changes, and knows no database: a server loads it, the terminal makes it of files.</summary>
/// <remarks>
/// Whatever rests on a job asks it here, so that a frame, a level or a name means the same on a page, in a run and at the terminal, and so
/// that what rests on it can tell by a hash whether it still does.
/// </remarks>
public sealed class JobModel
{
    // Made when first asked for; the model itself never changes.
    private readonly ConcurrentDictionary<JobPart, string> _hashes = [];

    /// <summary>Makes it.</summary>
    /// <param name="id">The job.</param>
    /// <param name="models">The sources of models, distinguished by <see cref="JobSource.Distinguished"/>.</param>
    /// <param name="drawings">The sources of drawings, likewise.</param>
    /// <param name="storeys">The storeys of the newest models as they came, by their source's place in <paramref name="models"/>.</param>
    /// <param name="levels">The level schedule as it is kept.</param>
    /// <param name="items">What the library has, the newest version of each.</param>
    public JobModel(
        Guid id,
        IReadOnlyList<JobSource> models,
        IReadOnlyList<JobSource> drawings,
        IReadOnlyList<SourceStorey> storeys,
        LevelDocument levels,
        IReadOnlyList<JobItem> items
    )
    {
        (Id, Models, Drawings, Items) = (id, models, drawings, items);
        Storeys = LevelSchedule.InJob(storeys, n => models[n].Frame);
        Schedule = levels.Schedule([.. models.Select(s => s.Id.ToString())], Storeys);
    }

    /// <summary>The job.</summary>
    public Guid Id { get; }

    /// <summary>The sources of models, and those nothing has come from yet, by party.</summary>
    public IReadOnlyList<JobSource> Models { get; }

    /// <summary>The sources of drawings with their newest, by party.</summary>
    public IReadOnlyList<JobSource> Drawings { get; }

    /// <summary>Both.</summary>
    public IEnumerable<JobSource> Sources => Models.Concat(Drawings);

    /// <summary>The storeys of the newest models, heights in the job's frame; the source numbers are those of
    /// <see cref="Models"/>.</summary>
    public IReadOnlyList<SourceStorey> Storeys { get; }

    /// <summary>The job's levels; the source numbers are those of <see cref="Models"/>.</summary>
    public LevelSchedule Schedule { get; }

    /// <summary>What the library has, the newest version of each.</summary>
    public IReadOnlyList<JobItem> Items { get; }

    /// <summary>From a source's own frame into the job's, metres: of a model as it is set out, of a drawing at the height of its level as
    /// the schedule is now.</summary>
    public Frame FrameOf(JobSource source) =>
        source is { IsDrawing: true, Place.Document: var document } ? FrameOf(document, Schedule) : source.Frame;

    /// <summary>Where a drawing lies: its own units into the job's metres, at the height of its level in a schedule.</summary>
    public static Frame FrameOf(SettingOutDocument document, LevelSchedule schedule)
    {
        var frame = document.Frame;
        var rung = LevelOf(document, schedule);
        return rung is null ? frame : frame with { Origin = frame.Origin with { Z = rung.Elevation } };
    }

    /// <summary>The level that a drawing lies at; null where it lies at none, or its level is gone.</summary>
    /// <param name="document">Where it lies; null where nobody has placed it.</param>
    /// <param name="schedule">The level schedule.</param>
    public static Rung? LevelOf(SettingOutDocument? document, LevelSchedule schedule) =>
        document?.Level is { } level ? schedule.Rungs.FirstOrDefault(r => r.Level == level) : null;

    /// <summary>The level that a storey of a model is on; null where it is on none.</summary>
    /// <param name="model">The model's place in <see cref="Models"/>.</param>
    /// <param name="storey">The storey's number in the model.</param>
    public Rung? LevelOf(int model, int storey) =>
        Schedule.RungOf(model, storey) is >= 0 and var rung ? Schedule.Rungs[rung] : null;

    /// <summary>The models that an order gives.</summary>
    public IEnumerable<JobSource> ModelsOf(OrderDocument order) =>
        order.Into.File == FileForm.None
            ? []
            : Models.Where(s => s is { Newest: not null, IsRetired: false } && Names(order.Sources, s));

    /// <summary>The drawings that an order gives.</summary>
    public IEnumerable<JobSource> DrawingsOf(OrderDocument order) =>
        order.Drawings is { } wish ? Drawings.Where(d => Names(wish.Sources, d)) : [];

    /// <summary>What an order names of the library; what is gone is missing.</summary>
    public IReadOnlyList<JobItem> ItemsOf(OrderDocument order)
    {
        var named = LibraryKinds.NamedBy(order).ToHashSet();
        return [.. Items.Where(i => named.Contains((i.Kind, i.Name)))];
    }

    /// <summary>A hash of a part: what rests on it is as it was while the hash is the same.</summary>
    /// <returns>16 hexadecimal digits.</returns>
    public string HashOf(JobPart part) => _hashes.GetOrAdd(part, p => Hash(string.Join('\n', Lines(p))));

    private IEnumerable<string> Lines(JobPart part) =>
        part switch
        {
            JobPart.Levels => Schedule.Rungs.Select(r =>
                FormattableString.Invariant(
                    $"{r.Name}|{r.Elevation:R}|{string.Join(',', r.Storeys.Where(s => s.Source < Models.Count).Select(s => $"{Models[s.Source].Id}:{s.Name}").Order(StringComparer.Ordinal))}"
                )
            ),
            JobPart.Places => Sources.Select(s => $"{s.Id}:{s.Place?.Id}").Order(StringComparer.Ordinal),
            _ => Drawings
                .Select(d => $"{d.Newest?.Id}:{d.Place?.Id}")
                .Concat(
                    Items.Where(i => i.Kind == LibraryKind.Detail).Select(i => $"{i.Name}:{i.Version}:{i.MadeAt:O}")
                )
                .Append(HashOf(JobPart.Levels)),
        };

    private static bool Names(IReadOnlyList<string> named, JobSource source) =>
        named.Count == 0 || named.Contains(source.Id.ToString());

    private static string Hash(string text) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)))[..16];
}
