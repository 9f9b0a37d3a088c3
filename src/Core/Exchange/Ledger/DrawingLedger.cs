using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>The ledger of a drawing forwarded in another form: every entity, record, object and header variable, value by value, in one
/// account.</summary>
/// <param name="from">The form it came in.</param>
/// <param name="to">The form that was written.</param>
internal sealed class DrawingLedger(CadForm from, CadForm to)
{
    private const int MaxDifferences = 100,
        ExtendedData = 1001;
    private readonly LedgerTally _tally = new();
    private readonly List<string> _differences = [];
    private readonly DrawingLosses _losses = new(from, to);
    private readonly List<CadGroup> _before = [],
        _after = [];
    private IReadOnlyDictionary<CadObject, string> _changed = new Dictionary<CadObject, string>();

    /// <summary>The first differences, a sentence each.</summary>
    public IReadOnlyList<string> Differences => _differences;

    /// <summary>The lines of the ledger.</summary>
    public IReadOnlyList<LedgerLine> Lines() => _tally.Lines();

    /// <summary>Counts an entity that a rule left out or took apart before anything was written.</summary>
    public void Put(Entity entity, LedgerAccount account, string rule) =>
        _tally.Add(entity.Type, account, rule, () => $"{entity.Type} {entity.Handle}");

    /// <summary>Holds what was written against what is read again.</summary>
    /// <param name="drawing">The drawing as it was written.</param>
    /// <param name="again">The drawing that was read again.</param>
    /// <param name="made">Entities that a rule made, which no source has.</param>
    /// <param name="leftBehind">By handle, why an object has no form in what was written.</param>
    /// <param name="changed">What a rule changed before anything was written, with the rule; null for nothing.</param>
    public void Compare(
        Drawing drawing,
        Drawing again,
        IReadOnlySet<CadObject> made,
        IReadOnlyDictionary<Handle, string> leftBehind,
        IReadOnlyDictionary<CadObject, string>? changed = null
    )
    {
        _changed = changed ?? new Dictionary<CadObject, string>();
        var found = new Dictionary<Handle, CadObject>();
        var extra = new List<CadObject>();
        foreach (var item in CadFacts.Objects(again))
            if (!found.TryAdd(item.Handle, item))
                extra.Add(item);
        var owners = Spaces(drawing);
        var ownersAgain = Spaces(again);
        foreach (var item in CadFacts.Objects(drawing))
        {
            var twin = Twin(item, found, again);
            if (twin is not null)
                found.Remove(twin.Handle);
            Compare(drawing, item, again, twin, made.Contains(item), leftBehind);
            if (
                twin is Entity
                && item is Entity
                && owners.GetValueOrDefault(item) != ownersAgain.GetValueOrDefault(twin)
            )
                Unexpected(item, "is in another block");
        }

        foreach (var item in found.Values.Concat(extra).Where(o => !IsStandard(o)))
            Unexpected(item, "is in no source");
        Header(drawing, again);
        Sections(drawing, again);
    }

    private static CadObject? Twin(CadObject item, Dictionary<Handle, CadObject> found, Drawing again)
    {
        if (found.TryGetValue(item.Handle, out var twin) && twin.Type == item.Type)
            return twin;
        // A table record is known by its name where a format gives it another handle.
        return item is SymbolRecord record
            ? CadFacts.Record(again, record) is { } named && found.ContainsKey(named.Handle)
                ? named
                : null
            : null;
    }

    private void Compare(
        Drawing drawing,
        CadObject item,
        Drawing again,
        CadObject? twin,
        bool made,
        IReadOnlyDictionary<Handle, string> leftBehind
    )
    {
        string Label() => $"{item.Type} {item.Handle}{(item is SymbolRecord r ? $" '{r.Name}'" : "")}";
        if (twin is null)
        {
            if (made && !leftBehind.ContainsKey(item.Handle))
                Unexpected(item, "was made and is not there");
            else if (leftBehind.TryGetValue(item.Handle, out string? reason))
                Count(item.Type, LedgerAccount.NotCarried, reason, Label, made);
            else
            {
                Count(item.Type, LedgerAccount.Unaccounted, "", Label, made);
                Differ($"{Label()} is not there.");
            }

            return;
        }

        CadFacts.Of(drawing, item, _before);
        CadFacts.Of(again, twin, _after);
        var data = (Cut(_before), Cut(_after));
        var (account, rule) = FactsEqual(_before, _after)
            ? (LedgerAccount.Same, "")
            : Judge(item, _before, _after, Label);
        if (_changed.TryGetValue(item, out string? how) && account is LedgerAccount.Same or LedgerAccount.Changed)
            (account, rule) = (LedgerAccount.Changed, rule.Length == 0 ? how! : $"{how}; {rule}");
        Count(item.Type, account, rule, Label, made);
        if (data.Item1.Count + data.Item2.Count == 0)
            return;
        bool same = FactsEqual(data.Item1, data.Item2);
        Count("extended data", same ? LedgerAccount.Same : LedgerAccount.Unaccounted, "", Label, made);
        if (!same)
            Differ($"{Label()}: extended data are not as they were.");
    }

    // Extended data come last; they are a line of their own.
    private static List<CadGroup> Cut(List<CadGroup> facts)
    {
        int at = facts.FindIndex(g => g.Code == ExtendedData);
        if (at < 0)
            return [];
        var data = facts[at..];
        facts.RemoveRange(at, facts.Count - at);
        return data;
    }

    private (LedgerAccount Account, string Rule) Judge(
        CadObject item,
        List<CadGroup> before,
        List<CadGroup> after,
        Func<string> label
    )
    {
        var account = LedgerAccount.Changed;
        var rules = new SortedSet<string>(StringComparer.Ordinal);
        foreach (int code in before.Concat(after).Select(g => g.Code).Distinct().ToList())
        {
            List<CadGroup> was = before.FindAll(g => g.Code == code),
                now = after.FindAll(g => g.Code == code);
            if (FactsEqual(was, now) || (IsUnset(was) && IsUnset(now)))
                continue;
            if (_losses.Of(item, code, was, now) is not { } loss)
            {
                Differ($"{label()}: group {code} was {Show(was)} and is {Show(now)}.");
                return (LedgerAccount.Unaccounted, "");
            }

            if (loss.Lost)
                account = LedgerAccount.NotCarried;
            rules.Add(loss.Reason);
        }

        // The same values in another order.
        if (rules.Count == 0)
            return (LedgerAccount.Same, "");
        return (account, string.Join("; ", rules));
    }

    private void Count(string kind, LedgerAccount account, string rule, Func<string> label, bool made)
    {
        if (!made)
            _tally.Add(kind, account, rule, label);
        else if (account == LedgerAccount.Unaccounted)
            _tally.AddUnexpected(kind, label);
    }

    private void Unexpected(CadObject item, string how)
    {
        _tally.AddUnexpected(item.Type, () => $"{item.Type} {item.Handle}");
        Differ($"{item.Type} {item.Handle} {how}.");
    }

    private void Header(Drawing drawing, Drawing again)
    {
        foreach (var (name, groups) in drawing.Header)
        {
            var now = again.Header[name];
            var (account, rule) =
                HeaderEqual(name, groups, now) ? (LedgerAccount.Same, "")
                : _losses.OfHeader(drawing, name, groups, now) is { } loss
                    ? (loss.Lost ? LedgerAccount.NotCarried : LedgerAccount.Changed, loss.Reason)
                : (LedgerAccount.Unaccounted, "");
            _tally.Add("header variable", account, rule, () => name);
            if (account == LedgerAccount.Unaccounted)
                Differ($"{name} was {Show(groups)} and is {Show(now)}.");
            if (groups.Any(IsComment) && !now.Any(IsComment))
                _tally.Add(
                    "comment",
                    LedgerAccount.NotCarried,
                    $"comments have no place in {to.Version}{(to.Dwg ? " of DWG" : "")}",
                    () => name
                );
        }
    }

    // A day has 86 400 000 ms; DWG counts times by them.
    private const double Millisecond = 1 / 86_400_000.0;

    private static bool IsComment(CadGroup group) => group.Code == 999;

    // The same value in another form: a point without its z is at 0, names are the same in any case, times are exact to a millisecond.
    private static bool HeaderEqual(string name, IReadOnlyList<CadGroup> was, IReadOnlyList<CadGroup> now)
    {
        List<CadGroup> a = [.. was.Where(g => !IsComment(g))],
            b = [.. now.Where(g => !IsComment(g))];
        foreach (var point in (List<CadGroup>[])[a, b])
            if (point is [{ Code: 10 }, { Code: 20 }])
                point.Add(new CadGroup(30, 0.0));
        if (FactsEqual(a, b))
            return true;
        if (a is not [var x] || b is not [var y])
            return false;
        // A switch has one code in older versions and another in newer ones.
        if (x.Code != y.Code)
            return x.Code is 70 or 280 or 290 && y.Code is 70 or 280 or 290 && ValueEqual(x.Value, y.Value);
        if (
            name.StartsWith("$DIM", StringComparison.OrdinalIgnoreCase)
            && x.Value is string head
            && y.Value is string block
        )
            return head.TrimStart('_').Equals(block.TrimStart('_'), StringComparison.OrdinalIgnoreCase);
        return (x.Value, y.Value) switch
        {
            (double p, double q) => name.StartsWith("$TD", StringComparison.OrdinalIgnoreCase)
                && Math.Abs(p - q) <= Millisecond,
            (string p, string q) => x.Code is 2 or 3 or 6 or 7 or 8 && p.Equals(q, StringComparison.OrdinalIgnoreCase),
            _ => false,
        };
    }

    private void Sections(Drawing drawing, Drawing again)
    {
        foreach (var (name, groups) in drawing.OtherSections)
        {
            bool same = again.OtherSections.Exists(s => s.Name == name && FactsEqual(s.Groups, groups));
            var (account, rule) =
                same ? (LedgerAccount.Same, "")
                : _losses.OfSection(name) is { } reason ? (LedgerAccount.NotCarried, reason)
                : (LedgerAccount.Unaccounted, "");
            _tally.Add("section", account, rule, () => name);
            if (account == LedgerAccount.Unaccounted)
                Differ($"The section {name} is not there as it was.");
        }
    }

    private static Dictionary<CadObject, string> Spaces(Drawing drawing)
    {
        var spaces = new Dictionary<CadObject, string>(ReferenceEqualityComparer.Instance);
        foreach (var block in drawing.Blocks)
        foreach (var entity in block.Entities)
            spaces[entity] = block.Name.ToUpperInvariant();
        return spaces;
    }

    // What every drawing has, and a writer adds where it is missing.
    private static bool IsStandard(CadObject item) =>
        item switch
        {
            SymbolRecord record => record.Name.ToUpperInvariant()
                is "BYBLOCK"
                    or "BYLAYER"
                    or "CONTINUOUS"
                    or "0"
                    or "STANDARD"
                    or "ACAD"
                    or "*ACTIVE"
                    or "*MODEL_SPACE"
                    or "*PAPER_SPACE",
            CadDictionary or Placeholder or Layout => true,
            MultiLineStyle style => style.Name.Equals("Standard", StringComparison.OrdinalIgnoreCase),
            _ => false,
        };

    // A group that is left out means zero or nothing, as the DXF reference has it for nearly all.
    private static bool IsUnset(List<CadGroup> groups) =>
        groups.TrueForAll(g => g.Value is 0L or 0.0 or false or "" or Handle { IsNull: true });

    private static string Show(IEnumerable<CadGroup> groups) =>
        string.Join(" ", groups.Take(6).Select(g => FormattableString.Invariant($"{g.Value}"))) is { Length: > 0 } text
            ? text
            : "nothing";

    private static bool FactsEqual(IReadOnlyList<CadGroup> a, IReadOnlyList<CadGroup> b)
    {
        if (a.Count != b.Count)
            return false;
        for (int i = 0; i < a.Count; i++)
            if (a[i].Code != b[i].Code || !ValueEqual(a[i].Value, b[i].Value))
                return false;
        return true;
    }

    private static bool ValueEqual(object a, object b) =>
        (a, b) switch
        {
            (double x, double y) => x.Equals(y) || Math.Abs(x - y) <= 1e-12 * Math.Max(1, Math.Abs(x)),
            (byte[] x, byte[] y) => x.AsSpan().SequenceEqual(y),
            (bool x, long y) => (x ? 1 : 0) == y,
            (long x, bool y) => x == (y ? 1 : 0),
            _ => a.Equals(b),
        };

    private void Differ(string sentence)
    {
        if (_differences.Count < MaxDifferences)
            _differences.Add(sentence);
    }
}
