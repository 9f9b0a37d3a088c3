using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>A cell of the job sheet.</summary>
/// <param name="Count">How many elements.</param>
/// <param name="Classes">By class, most frequent first.</param>
/// <param name="Beside">Annotations and rooms, counted beside, in words.</param>
public sealed record SheetCell(int Count, IReadOnlyList<NamedCount> Classes, string Beside);

/// <summary>The job sheet: storeys by sources.</summary>
public sealed class SheetModel(JobAccess access, DeliveryQuery deliveries, TopicQuery topics) : JobPage(access)
{
    private const int Shown = 6;

    private ILookup<(int Source, int Rung), FacetRow> _cells = null!;

    /// <summary>What the job holds.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>The newest deliveries.</summary>
    public IReadOnlyList<Delivery> Recent { get; private set; } = [];

    /// <summary>How many open topics each level has; −1 for those of no level.</summary>
    public IReadOnlyDictionary<int, int> Topics { get; private set; } = new Dictionary<int, int>();

    /// <summary>How many topics the reader has to do with.</summary>
    public TopicCounts TopicCounts { get; private set; } = new(0, 0, 0, 0, 0);

    /// <summary>Loads the sheet.</summary>
    public async Task OnGetAsync()
    {
        State = await StateAsync();
        _cells = State
            .Facets.SelectMany(g => g.Select(f => (Source: g.Key, Facet: f)))
            .ToLookup(x => (x.Source, State.Schedule.RungOf(x.Source, x.Facet.Storey)), x => x.Facet);
        Topics = await topics.ByLevelAsync(Job.Id, Permissions, HttpContext.RequestAborted);
        TopicCounts = await topics.CountsAsync(Job.Id, Permissions, HttpContext.RequestAborted);
        Recent = await deliveries.NewestAsync(Job.Id, null, Shown, HttpContext.RequestAborted);
    }

    /// <summary>What a source has on a rung; -1 for no storey.</summary>
    public SheetCell Cell(int source, int rung)
    {
        var facets = _cells[(source, rung)].ToList();
        var classes = facets
            .Where(f => f.IsElement)
            .GroupBy(f => f.Class)
            .Select(g => new NamedCount(g.Key, g.Sum(f => f.Count)))
            .OrderByDescending(c => c.Count)
            .ThenBy(c => c.Name, StringComparer.Ordinal)
            .ToList();
        return new SheetCell(
            classes.Sum(c => c.Count),
            classes,
            DisplayText.Beside(
                facets.Where(f => !f.Shaped && !f.IsRoom).Sum(f => f.Count),
                facets.Where(f => f.IsRoom).Sum(f => f.Count)
            )
        );
    }

    /// <summary>What all sources have on a rung.</summary>
    public int Total(int rung) => Enumerable.Range(0, State.Sources.Count).Sum(s => Cell(s, rung).Count);

    /// <summary>Levels of a source that are off, in words; at most two.</summary>
    public IEnumerable<string> OffLevels(SourceState source)
    {
        int number = State.Sources.ToList().IndexOf(source);
        var off = State.Schedule.Rungs.SelectMany(r =>
            r.Storeys.Where(s => s.Source == number && s.PlacementZ is { } z && Math.Abs(z - s.Elevation) > 0.001)
        );
        return off.Take(2)
            .Select(s =>
                $"level {s.Name} is {Math.Abs(s.PlacementZ!.Value - s.Elevation) * 1000:0} mm too {(s.PlacementZ < s.Elevation ? "low" : "high")}"
            );
    }
}
