namespace SteadyLintel.Exchange;

/// <summary>The elements of one source in a file.</summary>
/// <param name="Source">The source's place in the order.</param>
/// <param name="Storey">The number of its storey; -1 where the file is not of one, or of elements in none.</param>
/// <param name="Elements">The elements.</param>
internal sealed record FilePart(int Source, int Storey, IReadOnlyList<ModelElement> Elements);

/// <summary>What goes into one file.</summary>
/// <param name="Name">What the words of its name mean.</param>
/// <param name="Parts">Its parts, by source.</param>
internal sealed record FileGroup(NameValues Name, IReadOnlyList<FilePart> Parts);

/// <summary>Which elements of which sources go into a file together.</summary>
internal static class FileGroups
{
    /// <summary>What means the storey of a file that holds all.</summary>
    public const string All = "all";

    private const string None = "no storey";

    // More names than these make a name that nobody reads.
    private const int MaxJoined = 4;

    /// <summary>The files of a plan: by storey from the lowest, those of no storey last, then by the other things the order splits
    /// by.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="apart">Whether each source has files of its own. Else sources share a file where their storeys are one level of the
    /// building, whatever each party calls it.</param>
    public static IReadOnlyList<FileGroup> Of(HandoverPlan plan, bool apart)
    {
        var groups = new SortedDictionary<Key, SortedDictionary<int, List<ModelElement>>>();
        for (int s = 0; s < plan.Sources.Count; s++)
        {
            bool any = false;
            foreach (var element in plan.Going(s))
            {
                any = true;
                var key = KeyOf(plan, s, element, apart);
                if (!groups.TryGetValue(key, out var sources))
                    groups[key] = sources = [];
                (sources.TryGetValue(s, out var list) ? list : sources[s] = []).Add(element);
            }

            // A source of which nothing goes still has its project and storeys to give where it has a file of its own.
            if (any || plan.Order.Splits.Count > 0)
                continue;
            var empty = new Key(apart ? s : 0, 0, []);
            if (!groups.TryGetValue(empty, out var others))
                groups[empty] = others = [];
            others.TryAdd(s, []);
        }

        return
        [
            .. groups.Select(g => new FileGroup(
                Name(plan, g.Key, g.Value, apart),
                [
                    .. g.Value.Select(p => new FilePart(
                        p.Key,
                        plan.Order.SplitByStorey && p.Value.Count > 0 ? p.Value[0].Storey : -1,
                        p.Value
                    )),
                ]
            )),
        ];
    }

    private static Key KeyOf(HandoverPlan plan, int source, ModelElement element, bool apart)
    {
        // A source with files of its own has its own storeys, whether the schedule knows them or not.
        int rung = apart ? element.Storey : plan.Levels.RungOf(source, element.Storey);
        return new Key(
            apart ? source : 0,
            !plan.Order.SplitByStorey ? 0
                : rung < 0 ? int.MaxValue
                : rung,
            [.. plan.Order.Splits.Where(k => k != SplitKind.Storey).Select(k => Word(plan, source, element, k))]
        );
    }

    private static string Word(HandoverPlan plan, int source, ModelElement element, SplitKind kind)
    {
        var snapshot = plan.Sources[source].Snapshot;
        return kind switch
        {
            SplitKind.Party => plan.Sources[source].Party,
            SplitKind.Source => plan.Sources[source].Label,
            SplitKind.Class => element.Class,
            SplitKind.Type => snapshot.TypeName(element),
            SplitKind.Element => element.GlobalId,
            SplitKind.Assembly => snapshot.Model.GlobalId(snapshot.AssemblyOf(element.Index)),
            SplitKind.Group => snapshot.GroupNames(element).FirstOrDefault() ?? "",
            SplitKind.Property => snapshot.PropertyText(element, plan.Order.SplitKey) ?? "",
            _ => "",
        };
    }

    private static NameValues Name(
        HandoverPlan plan,
        Key key,
        SortedDictionary<int, List<ModelElement>> parts,
        bool apart
    )
    {
        var sources = parts.Keys.Select(s => plan.Sources[s]).ToList();
        string Join(IEnumerable<string> words, string many)
        {
            var distinct = words.Where(w => w.Length > 0).Distinct().ToList();
            return distinct.Count > MaxJoined
                ? FormattableString.Invariant($"{distinct.Count} {many}")
                : string.Join("+", distinct);
        }

        // One word for all elements of the file, or none.
        string Common(Func<ModelSnapshot, ModelElement, string> of)
        {
            string? word = null;
            foreach (var (s, elements) in parts)
            foreach (var element in elements)
            {
                string next = of(plan.Sources[s].Snapshot, element);
                if (word is not null && word != next)
                    return "";
                word = next;
            }

            return word ?? "";
        }

        string Split(SplitKind kind) =>
            plan.Order.Splits.Where(k => k != SplitKind.Storey).ToList().IndexOf(kind) is >= 0 and var n
                ? key.Words[n]
                : "";
        string name =
            !plan.Order.SplitByStorey ? All
            : key.Rung == int.MaxValue ? None
            : apart ? sources[0].Snapshot.StoreyName(key.Rung)
            : plan.Levels.Rungs[key.Rung].Name;
        return new NameValues(
            Join(sources.Select(s => s.Party), "parties"),
            Join(sources.Select(s => s.Label), "sources"),
            name
        )
        {
            Class = Common((_, e) => e.Class),
            Type = Common((m, e) => m.TypeName(e)),
            Mark = plan.Order.Splits.Contains(SplitKind.Assembly)
                ? Common((m, e) => m.Mark(m.AssemblyOf(e.Index)))
                : Common((m, e) => m.Mark(e.Index)),
            Group = Split(SplitKind.Group),
            Value = Split(SplitKind.Property),
            Revision = Join(
                sources.Select(s => s.Revision > 0 ? FormattableString.Invariant($"r{s.Revision}") : ""),
                "revisions"
            ),
        };
    }

    private sealed record Key(int Source, int Rung, IReadOnlyList<string> Words) : IComparable<Key>
    {
        public int CompareTo(Key? other)
        {
            int by = Source.CompareTo(other!.Source);
            if (by == 0)
                by = Rung.CompareTo(other.Rung);
            for (int n = 0; by == 0 && n < Words.Count; n++)
                by = string.CompareOrdinal(Words[n], other.Words[n]);
            return by;
        }

        public bool Equals(Key? other) => other is not null && CompareTo(other) == 0;

        public override int GetHashCode() => HashCode.Combine(Source, Rung, string.Join('\n', Words));
    }
}
