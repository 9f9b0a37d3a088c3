using SteadyLintel.Exchange;

namespace SteadyLintel.Jobs;

/// <summary>The files that an order would write, gathered from counts of elements that are alike: enough to say before a run whether their
/// names clash.</summary>
/// <param name="state">What the job holds.</param>
/// <param name="order">The order.</param>
internal sealed class OrderFiles(JobState state, HandoverOrder order)
{
    private static readonly SplitKind[] Known = [SplitKind.Party, SplitKind.Source, SplitKind.Class];
    private static readonly string[] Untold = ["{type}", "{mark}", "{group}", "{value}"];

    // A file, by what tells it from others, with the sources and classes of what goes into it.
    private readonly SortedDictionary<string, (HashSet<int> Sources, HashSet<string> Classes, string Storey)> _files =
        new(StringComparer.Ordinal);

    // Models that are not merged have files of their own.
    private bool Apart => order.CarriesStructure && !order.Merge;

    /// <summary>Whether counts tell the files and their names: not where these are of a type, an element, a group or a value.</summary>
    public bool Tells =>
        order.SplitBy.All(Known.Contains) && !Untold.Any(w => order.NameTemplate.Contains(w, StringComparison.Ordinal));

    /// <summary>Takes elements that go.</summary>
    /// <param name="source">The source's place in the job.</param>
    /// <param name="storey">The number of their storey in the source; -1 for none.</param>
    /// <param name="type">Their class.</param>
    public void Add(int source, int storey, string type)
    {
        string party = state.Sources[source].Source.Party.Code;
        int rung = state.Schedule.RungOf(source, storey);
        string own = state.StoreyName(source, storey),
            level = rung < 0 ? own : state.Schedule.Rungs[rung].Name;
        string place =
            !order.SplitByStorey ? "all"
            : storey < 0 || (!Apart && rung < 0) ? "no storey"
            : order.StoreyName(Apart ? own : level, level);
        string at =
            !order.SplitByStorey ? ""
            : Apart ? $"{storey}"
            : $"{rung}";
        string key = string.Join(
            '\n',
            [
                Apart ? $"{source}" : "",
                at,
                .. order.SplitBy.Select(k =>
                    k switch
                    {
                        SplitKind.Party => party,
                        SplitKind.Source => state.Sources[source].Source.Name,
                        _ => type,
                    }
                ),
            ]
        );
        if (!_files.TryGetValue(key, out var file))
            _files[key] = file = ([], [], place);
        file.Sources.Add(source);
        file.Classes.Add(type);
    }

    /// <summary>What the words of a name template mean in each file.</summary>
    public IEnumerable<NameValues> Names()
    {
        var files = _files.Values.AsEnumerable();
        if (order.Together)
            files = files.Append(
                ([.. _files.Values.SelectMany(f => f.Sources)], [.. _files.Values.SelectMany(f => f.Classes)], "all")
            );
        return files.SelectMany(f => Sections.Select(s => Named(f.Sources, f.Classes, f.Storey) with { Section = s }));
    }

    // A file for each section; one where there are none.
    private IEnumerable<string> Sections =>
        order.LineWork.Lines.Count == 0 ? [""] : order.LineWork.Lines.Select(l => l.Name);

    private NameValues Named(HashSet<int> among, HashSet<string> classes, string storey)
    {
        var sources = among.Order().Select(s => state.Sources[s]).ToList();
        return new NameValues(
            string.Join("+", sources.Select(s => s.Source.Party.Code).Distinct()),
            string.Join("+", sources.Select(s => s.Source.Name).Distinct()),
            storey
        )
        {
            Class = classes.Count == 1 ? classes.First() : "",
            Revision = string.Join("+", sources.Select(s => $"r{s.Latest?.Number}").Distinct()),
        };
    }
}
