namespace SteadyLintel.Exchange;

/// <summary>One line of the balance sheet.</summary>
/// <param name="Storey">The storey's name, empty for none.</param>
/// <param name="Class">The class.</param>
/// <param name="In">How many elements came in.</param>
/// <param name="LeftOut">How many a named rule left out.</param>
/// <param name="Written">How many were meant to be written.</param>
/// <param name="Found">How many were found on re-reading: same GlobalId, class and storey.</param>
/// <param name="Unexpected">How many were found that nobody asked for.</param>
/// <param name="Reasons">Left out, by rule.</param>
public sealed record ReconciliationRow(
    string Storey,
    string Class,
    int In,
    int LeftOut,
    int Written,
    int Found,
    int Unexpected,
    IReadOnlyDictionary<string, int> Reasons
)
{
    /// <summary>Elements nobody can answer for: neither left out by a rule nor found again, or found and not asked for.</summary>
    public int Unaccounted => Math.Abs(In - LeftOut - Found) + Unexpected;
}

/// <summary>A comparison of what was written with what was read again.</summary>
/// <param name="Name">What is compared.</param>
/// <param name="Same">How many agree.</param>
/// <param name="Differ">How many do not.</param>
/// <param name="Largest">The largest deviation, in the unit the name says; 0 where it makes no sense.</param>
public sealed record ReconciliationCheck(string Name, int Same, int Differ, double Largest);

/// <summary>Something that the form of the files has no place for.</summary>
/// <param name="What">What, a sentence's worth.</param>
/// <param name="Count">How often.</param>
public sealed record NotCarried(string What, int Count);

/// <summary>Items as figures count them.</summary>
/// <param name="Elements">With a body, rooms apart.</param>
/// <param name="Annotations">Without a body: annotations, grids, and what else has none.</param>
/// <param name="Rooms">Rooms (ISO 16739-1, IfcSpace).</param>
public readonly record struct KindCounts(int Elements, int Annotations, int Rooms)
{
    /// <summary>Whether a class is one of rooms.</summary>
    public static bool IsRoom(string type) => type.Equals("IfcSpace", StringComparison.OrdinalIgnoreCase);

    /// <summary>The counts with some items more that are alike.</summary>
    /// <param name="type">Their class.</param>
    /// <param name="hasBody">Whether they have a body.</param>
    /// <param name="count">How many.</param>
    public KindCounts With(string type, bool hasBody, int count) =>
        IsRoom(type) ? this with { Rooms = Rooms + count }
        : hasBody ? this with { Elements = Elements + count }
        : this with { Annotations = Annotations + count };
}

/// <summary>The balance sheet of a hand-over.</summary>
/// <param name="Rows">By storey and class.</param>
/// <param name="Checks">What was compared beyond presence.</param>
/// <param name="Differences">The first differences, a sentence each.</param>
public sealed record Reconciliation(
    IReadOnlyList<ReconciliationRow> Rows,
    IReadOnlyList<ReconciliationCheck> Checks,
    IReadOnlyList<string> Differences
)
{
    /// <summary>Kind by kind, every thing in one of five accounts.</summary>
    public IReadOnlyList<LedgerLine> Ledger { get; init; } = [];

    /// <summary>What was confirmed in the files, as figures count it; null where nobody has looked which elements have a body.</summary>
    public KindCounts? Confirmed { get; init; }

    /// <summary>GlobalIds of elements that no rule of the order left out and that did not go: without a shape, unseen in the view, too
    /// small for a coarse model, not sent by the class table. The first <see cref="MostUnruled"/>.</summary>
    public IReadOnlyList<string> Unruled { get; init; } = [];

    /// <summary>More elements than these are not named.</summary>
    public const int MostUnruled = 20_000;

    /// <summary>What the form of the files could not carry, by reason, over all kinds of the ledger.</summary>
    public IReadOnlyList<NotCarried> NotCarried =>
        [
            .. Ledger
                .SelectMany(l => l.NotCarried)
                .GroupBy(n => n.Key, StringComparer.Ordinal)
                .Select(g => new NotCarried(g.Key, g.Sum(n => n.Value)))
                .OrderBy(n => n.What, StringComparer.Ordinal),
        ];

    /// <summary>What nobody chose and went because what was chosen hangs on it: openings, parts of shapes' hosts, types, groups.</summary>
    public IReadOnlyList<NotCarried> CameAlong
    {
        get
        {
            var rows = Rows.Select(r => r.Class).ToHashSet(StringComparer.Ordinal);
            var found = new Dictionary<string, int>();
            foreach (var line in Ledger.Where(l => !rows.Contains(l.Kind)))
            {
                int going = line.Same + line.Changed.Values.Sum();
                if (
                    going > 0
                    && Ifc.IfcSchema.Named("IFC4X3").Find(line.Kind.ToUpperInvariant()) is { } entity
                    && Along.FirstOrDefault(a => entity.Is(a.Class)) is { Word: not null } along
                )
                    found[along.Word] = found.GetValueOrDefault(along.Word) + going;
            }

            return [.. found.Select(f => new NotCarried(f.Key, f.Value))];
        }
    }

    private static readonly (string Class, string Word)[] Along =
    [
        ("IfcFeatureElementSubtraction", "openings"),
        ("IfcFeatureElementAddition", "projections"),
        ("IfcPort", "ports"),
        ("IfcTypeObject", "types"),
        ("IfcGroup", "groups"),
        ("IfcRelVoidsElement", "ties of openings to hosts"),
        ("IfcRelFillsElement", "ties of doors and windows to openings"),
        ("IfcRelAggregates", "ties of parts to wholes"),
        ("IfcSpatialStructureElement", "sites, buildings and storeys"),
    ];

    /// <summary>How many things are unaccounted: by the ledger, or by storey and class where that finds more.</summary>
    public int Unaccounted => Math.Max(Rows.Sum(r => r.Unaccounted), Ledger.Sum(l => l.Unaccounted));

    /// <summary>Another balance with this one of a file that holds the same things once more: its rows stay those of the other, and what
    /// this one misses differs.</summary>
    public Reconciliation AddedTo(Reconciliation other) =>
        other with
        {
            Checks =
            [
                .. other.Checks,
                .. Checks.Select(c => c with { Name = $"all in one: {c.Name}" }),
                new ReconciliationCheck("all in one: items", Ledger.Sum(l => l.Things) - Unaccounted, Unaccounted, 0),
            ],
            Differences = [.. other.Differences, .. Differences],
        };

    /// <summary>Whether everything is accounted for and everything compared agrees.</summary>
    public bool Balanced => Unaccounted == 0 && Checks.All(c => c.Differ == 0);
}
