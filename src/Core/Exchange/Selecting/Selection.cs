namespace SteadyLintel.Exchange;

/// <summary>Ordered rules over elements; each element remembers the rule that decided last.</summary>
/// <remarks>
/// Everything goes until a rule leaves it out, unless the first rule brings something in: then nothing goes until a rule brings it in.
/// <c>only storey Gallery, without class IfcFurniture,
/// with element 1kT…</c> gives the gallery without its furniture but for one piece.
/// </remarks>
/// <param name="Rules">The rules, in order.</param>
public sealed record Selection(IReadOnlyList<SelectionRule> Rules)
{
    /// <summary>The reason for what no rule brought in.</summary>
    public const string NotBroughtIn = "not chosen by any rule";

    /// <summary>Everything.</summary>
    public static readonly Selection All = new([]);

    /// <summary>The reason a subject is left out, or null when it goes.</summary>
    public string? Decide(SelectionSubject subject) => Decide(n => Rules[n].Matches(subject));

    /// <summary>The reason something is left out, or null when it goes, distinguished from which rules match it.</summary>
    /// <param name="matches">Whether the rule of a number matches; asked only where it can decide.</param>
    public string? Decide(Func<int, bool> matches) => Judge(matches).Reason;

    /// <summary>What becomes of a subject, and which rule decided so.</summary>
    public Verdict Judge(SelectionSubject subject) => Judge(n => Rules[n].Matches(subject));

    /// <summary>What becomes of something, distinguished from which rules match it.</summary>
    /// <param name="matches">Whether the rule of a number matches; asked only where it can decide.</param>
    public Verdict Judge(Func<int, bool> matches)
    {
        var verdict = new Verdict(-1, Rules is [{ Verb: SelectionVerb.With }, ..] ? NotBroughtIn : null);
        for (int n = 0; n < Rules.Count; n++)
        {
            var rule = Rules[n];
            // A rule that would leave out what is out already, or bring in what is in, decides nothing and is not asked.
            if (
                rule.Verb == SelectionVerb.With
                    ? verdict.Reason is not null && matches(n)
                    : verdict.Reason is null && matches(n) != (rule.Verb == SelectionVerb.Only)
            )
                verdict = new Verdict(n, rule.Verb == SelectionVerb.With ? null : rule.Reason);
        }

        return verdict;
    }

    /// <summary>What the rules look at, those inside kept sets and views included.</summary>
    public IEnumerable<RuleField> Fields =>
        Rules.SelectMany(r => r.Inside is null ? [r.Field] : r.Inside.Fields.Append(r.Field));

    /// <summary>For every element, in order, the reason it is left out, or null when it goes.</summary>
    /// <param name="snapshot">The model or drawing.</param>
    /// <param name="source">The source's place in the order.</param>
    /// <param name="party">The party's code.</param>
    /// <param name="name">The source's name.</param>
    /// <param name="frame">From the source's frame into the job's; null where nobody has said.</param>
    public IReadOnlyList<string?> Decide(
        SourceSnapshot snapshot,
        int source = 0,
        string party = "",
        string name = "",
        Geometry.Frame? frame = null
    )
    {
        var needed = Fields.ToHashSet();
        return
        [
            .. snapshot.Items.Select(e => Decide(SelectionSubject.Of(snapshot, e, needed, source, party, name, frame))),
        ];
    }

    /// <summary>The same rules with storeys of the job in place of their names.</summary>
    /// <param name="levels">The job's schedule.</param>
    /// <param name="storeys">The storeys of all sources.</param>
    /// <param name="sources">How many sources there are.</param>
    public Selection On(LevelSchedule levels, IReadOnlyList<SourceStorey> storeys, int sources) =>
        new([
            .. Rules.Select(r =>
                r.Inside is { } inside ? r with { Inside = inside.On(levels, storeys, sources) }
                : r.Field == RuleField.Storey && r.Storeys is null ? On(r, levels, storeys, sources)
                : r
            ),
        ]);

    // A name of the schedule means that level in every source; another name means the sources' own storeys of that name.
    private static SelectionRule On(
        SelectionRule rule,
        LevelSchedule levels,
        IReadOnlyList<SourceStorey> storeys,
        int sources
    )
    {
        var meant = new HashSet<(int, int)>();
        foreach (string name in rule.Values)
        {
            bool Named(string storey) =>
                rule.Test == RuleTest.Like
                    ? System.IO.Enumeration.FileSystemName.MatchesSimpleExpression(name, storey)
                    : storey.Equals(name, StringComparison.OrdinalIgnoreCase);
            var rungs = levels.Rungs.Where(r => Named(r.Name)).ToList();
            foreach (
                var storey in rungs.Count > 0 ? rungs.SelectMany(r => r.Storeys) : storeys.Where(s => Named(s.Name))
            )
                meant.Add((storey.Source, storey.Number));
            for (int source = 0; name.Length == 0 && source < sources; source++)
                meant.Add((source, -1));
        }

        return rule with
        {
            Storeys = meant,
        };
    }
}

/// <summary>What becomes of an element, and which rule decided.</summary>
/// <param name="Rule">The number of the rule that decided last, from 0; -1 where none did.</param>
/// <param name="Reason">Why it is left out; null when it goes.</param>
public readonly record struct Verdict(int Rule, string? Reason);
