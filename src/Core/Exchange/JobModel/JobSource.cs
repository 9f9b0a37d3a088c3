using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A source of a job at one moment: its newest model or drawing, and where that lies.</summary>
/// <param name="Id">Its identity.</param>
/// <param name="Party">Its party's code.</param>
/// <param name="Name">Its name.</param>
/// <param name="IsDrawing">Whether its newest drawing is meant, and not its newest model.</param>
public sealed record JobSource(Guid Id, string Party, string Name, bool IsDrawing)
{
    /// <summary>Its newest revision of the kind; null while nothing has come.</summary>
    public JobRevision? Newest { get; init; }

    /// <summary>The setting-out that holds for it; null while it is not set out.</summary>
    public AcceptedPlace? Place { get; init; }

    /// <summary>Whether it was taken out of use.</summary>
    public bool IsRetired { get; init; }

    /// <summary>Counts how often what is said beside its files changed; 0 where nothing ever was.</summary>
    public int Amendments { get; init; }

    /// <summary>When it changed last; null where nothing ever was said.</summary>
    public DateTime? AmendedAt { get; init; }

    /// <summary>Its place among the sources of its party, from 1; 0 when it is the only one.</summary>
    public int Among { get; init; }

    /// <summary>From its own frame into the job's, metres; while it is not set out it lies as it came. Of a drawing see
    /// <see cref="JobModel.FrameOf(JobSource)"/>.</summary>
    public Frame Frame => Place?.Document.Frame ?? Frame.Identity;

    /// <summary>What to call it where there is little room: the party's code, with a number where the party has several, <c>ARC
    /// 2</c>.</summary>
    public string Mark => Among == 0 ? Party : $"{Party} {Among}";

    /// <summary>What to call it: the party's code, with the source's name where the party has several, <c>ARC Terminal</c>.</summary>
    public string Title => Among == 0 ? Party : $"{Party} {Name}";

    /// <summary>The same with the revision, <c>ARC r3</c>.</summary>
    public string Label => Newest is null ? Title : $"{Title} r{Newest.Number}";

    /// <summary>The same sources, distinguished where a party has several; those of one party follow each other.</summary>
    public static IReadOnlyList<JobSource> Distinguished(IEnumerable<JobSource> sources) =>
        [
            .. sources
                .GroupBy(s => s.Party)
                .SelectMany(g => g.Count() == 1 ? g : g.Select((s, n) => s with { Among = n + 1 })),
        ];
}

/// <summary>A revision of a source.</summary>
/// <param name="Id">Its identity.</param>
/// <param name="Number">Its number, from 1.</param>
/// <param name="File">The name of its file.</param>
/// <param name="CameAt">When it came.</param>
public sealed record JobRevision(Guid Id, int Number, string File, DateTime CameAt);

/// <summary>A setting-out that was accepted.</summary>
/// <param name="Id">The acceptance.</param>
/// <param name="Source">Whose it is.</param>
/// <param name="FromRevision">The first revision that it holds for.</param>
/// <param name="AcceptedAt">When.</param>
/// <param name="Document">Where the source lies.</param>
public sealed record AcceptedPlace(
    Guid Id,
    Guid Source,
    int FromRevision,
    DateTime AcceptedAt,
    SettingOutDocument Document
)
{
    /// <summary>Of a drawing: how it is prepared, accepted together with where it lies; without steps for a model.</summary>
    public PreparationDocument Preparation { get; init; } = PreparationDocument.Empty;
}

/// <summary>Where the sources of a job lie: the settings-out that were accepted and hold, by source and revision.</summary>
public sealed class SourcePlaces
{
    private readonly ILookup<Guid, AcceptedPlace> _held;

    /// <param name="accepted">Those that nobody has undone.</param>
    public SourcePlaces(IEnumerable<AcceptedPlace> accepted) =>
        _held = accepted.OrderByDescending(a => a.AcceptedAt).ToLookup(a => a.Source);

    /// <summary>The setting-out that holds for a revision of a source: the newest that was accepted for it or an earlier one; null when
    /// it is not set out.</summary>
    public AcceptedPlace? Of(Guid source, int revision) =>
        _held[source].FirstOrDefault(a => a.FromRevision <= revision);

    /// <summary>From the frame of a revision into the job's, metres; where it is not set out, as it came.</summary>
    public Frame FrameOf(Guid source, int revision) => Of(source, revision)?.Document.Frame ?? Frame.Identity;
}
