using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>A property as it is compared.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Value">Its value as text, empty for a blank one.</param>
/// <param name="Unit">The unit's symbol, empty for none.</param>
public sealed record PrintedProperty(string Name, string Value, string Unit);

/// <summary>A property set as it is compared.</summary>
public sealed record PrintedSet(string Name, IReadOnlyList<PrintedProperty> Properties);

/// <summary>What is kept of a revision to compare it with others.</summary>
/// <param name="Elements">Its elements.</param>
/// <param name="Sets">The contents of their property sets, each once.</param>
public sealed record RevisionFingerprint(IReadOnlyList<ElementFingerprint> Elements, IReadOnlyList<PrintedSet> Sets)
{
    /// <summary>Its storeys.</summary>
    public IReadOnlyList<PrintedStorey> Storeys { get; init; } = [];

    /// <summary>Prints a model; every shape is built.</summary>
    public static RevisionFingerprint Of(ModelSnapshot snapshot, CancellationToken cancel = default)
    {
        var elements = new ElementFingerprint[snapshot.Elements.Count];
        var sets = new SetPool();
        var relations = new ElementRelations(snapshot);
        snapshot.ForEachShape(
            snapshot.Elements,
            (element, shape) =>
            {
                var (place, measure) = ElementFingerprint.Measure(snapshot, element, shape);
                elements[element.Number] = new ElementFingerprint(
                    element.GlobalId,
                    element.Class,
                    snapshot.TypeName(element),
                    element.Name,
                    StoreyKey(snapshot, element.Storey),
                    string.Join('\n', element.Layers),
                    place,
                    measure,
                    sets.Add(snapshot.PropertySets(element))
                )
                {
                    Materials = ElementFingerprint.Lines(snapshot.MaterialNames(element)),
                    Predefined = snapshot.Predefined(element),
                    Groups = ElementFingerprint.Lines(snapshot.GroupNames(element)),
                    Classifications = ElementFingerprint.Lines(snapshot.ClassificationNames(element)),
                    Relations = relations.Of(element.Index),
                };
            },
            0,
            cancel
        );
        return new RevisionFingerprint(elements, sets.All)
        {
            Storeys =
            [
                .. snapshot.Structure.Storeys.Select(
                    (s, n) => new PrintedStorey(StoreyKey(snapshot, n), s.Name, s.Level, s.PlacementZ)
                ),
            ],
        };
    }

    /// <summary>What tells a storey from others.</summary>
    public static string StoreyKey(ModelSnapshot snapshot, int storey) =>
        storey < 0 ? ""
        : snapshot.Structure.Storeys[storey] is { GlobalId.Length: > 0 } known ? known.GlobalId
        : snapshot.Structure.Storeys[storey].Name;

    private sealed class SetPool
    {
        private readonly Dictionary<(int Index, int Count), int> _known = [];
        private readonly List<PrintedSet> _sets = [];

        public IReadOnlyList<PrintedSet> All => _sets;

        public int[] Add(IReadOnlyList<PropertySet> sets)
        {
            var numbers = new int[sets.Count];
            for (int i = 0; i < numbers.Length; i++)
            {
                // A set of a type comes with fewer properties where the element has its own, not always the same ones.
                var key = (sets[i].Index, sets[i].Properties.Count);
                if (!sets[i].FromType && _known.TryGetValue(key, out numbers[i]))
                    continue;
                numbers[i] = _sets.Count;
                _sets.Add(
                    new PrintedSet(
                        sets[i].Name,
                        [.. sets[i].Properties.Select(p => new PrintedProperty(p.Name, p.Value, p.Unit))]
                    )
                );
                if (!sets[i].FromType)
                    _known[key] = numbers[i];
            }

            return numbers;
        }
    }
}
