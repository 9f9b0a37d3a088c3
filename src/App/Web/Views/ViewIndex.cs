using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Numbers for the storeys, classes and layers of a job, the same for page, scene and element columns of one state.</summary>
public sealed class ViewIndex
{
    private readonly JobState _state;
    private readonly Dictionary<string, int> _classes;
    private readonly Dictionary<string, int> _layers;

    /// <summary>Numbers what a state holds.</summary>
    public ViewIndex(JobState state)
    {
        _state = state;
        Classes =
        [
            .. state
                .Facets.SelectMany(g => g.Select(f => f.Class))
                .Append("IfcSpace")
                .Distinct()
                .Order(StringComparer.Ordinal),
        ];
        var layers = state
            .Facets.SelectMany(g => g.Select(f => f.Layer))
            .Distinct()
            .Order(StringComparer.Ordinal)
            .ToList();
        _classes = Classes.Select((c, i) => (c, i)).ToDictionary(p => p.c, p => p.i);
        _layers = layers.Select((l, i) => (l, i)).ToDictionary(p => p.l, p => p.i);
        Layers = [.. layers.Select(l => l.Length == 0 ? "no layer" : l.Replace("\n", " + ", StringComparison.Ordinal))];
        // Without the revision: a view that is opened after the next delivery means the same source.
        Sources = [.. state.Sources.Select(NameOf)];
        RungNames = [.. state.Schedule.Rungs.Select(r => r.Name), "no storey"];
    }

    /// <summary>Source names by number, each with its party's code.</summary>
    public IReadOnlyList<string> Sources { get; }

    /// <summary>Class names by number.</summary>
    public IReadOnlyList<string> Classes { get; }

    /// <summary>Layer names by number.</summary>
    public IReadOnlyList<string> Layers { get; }

    /// <summary>Storey names by number, lowest first, then that of no storey.</summary>
    public IReadOnlyList<string> RungNames { get; }

    /// <summary>The number of a source's storey.</summary>
    public int Rung(int source, int storey) =>
        _state.Schedule.RungOf(source, storey) is >= 0 and var rung ? rung : RungNames.Count - 1;

    /// <summary>The number of the rung of a level of the schedule; that of no storey where it has none.</summary>
    public int RungOf(int? level) =>
        level is null ? RungNames.Count - 1
        : _state.Schedule.Rungs.ToList().FindIndex(r => r.Level == level) is >= 0 and var rung ? rung
        : RungNames.Count - 1;

    /// <summary>What a drawing is called in a view, without its revision.</summary>
    public static string NameOf(SourceState drawing) => $"{drawing.Source.Party.Code} {drawing.Source.Name}";

    /// <summary>The number of a class.</summary>
    public int Class(string name) => _classes[name];

    /// <summary>The same for what an older revision had; the first where no newest revision has it.</summary>
    public int ClassOrFirst(string name) => _classes.GetValueOrDefault(name);

    /// <summary>The number of a layer of an older revision; the first where no newest revision has it.</summary>
    public int LayerOrFirst(string name) => _layers.GetValueOrDefault(name);

    /// <summary>The number of a layer as stored.</summary>
    public int Layer(string name) => _layers[name];
}
