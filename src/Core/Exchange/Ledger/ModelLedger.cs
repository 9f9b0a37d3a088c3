using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>The ledger of models handed over as models: every instance and every pair of ends of the sources, in exactly one account over
/// all files of the run.</summary>
internal sealed class ModelLedger : ILedger
{
    /// <summary>The rule for relations of which an end does not go.</summary>
    public const string OtherEndStays = "its other end is left out";

    /// <summary>The rule for what several merged sources say alike.</summary>
    public const string SaidOnce = "merged: said once";

    /// <summary>The rule for spatial structure that nothing goes from.</summary>
    public const string Empty = "nothing on it is included";

    /// <summary>The rule for what amendments changed before it was written.</summary>
    public const string AmendedRule = "changed by an amendment";

    private const string Unused = "nothing that is included uses it",
        Hosted = "its host is left out";
    private const int MaxDifferences = 100;
    private readonly HandoverPlan _plan;
    private readonly SourceAccounts[] _accounts;
    private readonly LedgerTally _tally = new();
    private readonly List<string> _differences = [];
    private readonly ShapeCheck _shapes = new();

    public ModelLedger(HandoverPlan plan)
    {
        _plan = plan;
        var rules = new RuleNames();
        _accounts = [.. plan.Sources.Select(s => new SourceAccounts(s.Snapshot, rules))];
    }

    /// <summary>The first differences, a sentence each, in the order they were met.</summary>
    public IReadOnlyList<string> Differences => _differences;

    /// <inheritdoc/>
    public IEnumerable<ReconciliationCheck> Checks => _shapes.Checks;

    /// <inheritdoc/>
    public void Read(WrittenFile file, ReadOnlyMemory<byte> bytes, Reconciler rows, CancellationToken cancel)
    {
        var again = ModelSnapshot.Open(
            file.Name.EndsWith(".ifczip", StringComparison.Ordinal) ? ZippedModel.Read(bytes) : bytes,
            cancel
        );
        var found = Read(file, again, cancel);
        var asked = new HashSet<int>();
        var rewrites = file.Parts.ToDictionary(p => p.Source, p => p.Rewrites);
        foreach (var (source, element, _, _) in file.Elements)
        {
            int at = found[source][element.Index];
            if (at < 0)
            {
                if (_accounts[source].Of(element.Index) == LedgerAccount.NotCarried)
                    rows.LeaveOut(source, element, _accounts[source].RuleOf(element.Index));
                continue;
            }

            asked.Add(at);
            string storey = again.StoreyName(again.Structure.StoreyOf(at)),
                expected = rewrites[source].StoreyName(_plan.Sources[source].Snapshot.StoreyName(element.Storey));
            if (storey != expected)
                rows.Differ(
                    $"{file.Name}: {element.Class} {element.GlobalId} came back on '{storey}', not on '{expected}'."
                );
            else if (_accounts[source].Of(element.Index) != LedgerAccount.Unaccounted)
                rows.Find(source, element);
        }

        foreach (var (source, at) in found)
        {
            var snapshot = _plan.Sources[source].Snapshot;
            foreach (var element in snapshot.Elements.Where(e => snapshot.IsStructure(e.Index) && at[e.Index] >= 0))
            {
                rows.FindOnce(source, element, _accounts[source].Of(element.Index) != LedgerAccount.Unaccounted);
                asked.Add(at[element.Index]);
            }
        }

        foreach (var extra in again.Elements.Where(e => !asked.Contains(e.Index)))
            rows.AddUnexpected(
                again.StoreyName(extra.Storey),
                extra.Class,
                $"{file.Name}: {extra.Class} {extra.GlobalId} was not asked for."
            );
    }

    // For each source of the file its instances' positions in it, -1 for none.
    private Dictionary<int, IReadOnlyList<int>> Read(WrittenFile file, ModelSnapshot again, CancellationToken cancel)
    {
        var claimed = new bool[again.Model.File.Count];
        var found = new Dictionary<int, IReadOnlyList<int>>();
        var elements = file.Elements.ToLookup(e => e.Source, e => e.Element);
        foreach (var part in file.Parts)
        {
            var accounts = _accounts[part.Source];
            void Differ(string sentence) => this.Differ($"{file.Name}: {sentence}");
            var reader = new ModelPartReader(part, accounts, again, file.Made, Differ);
            ModelElement[] chosen = [.. elements[part.Source]];
            reader.Read(
                chosen,
                product =>
                    _tally.AddUnexpected(accounts.Snapshot.Model.ClassName(product), () => accounts.Label(product)),
                cancel
            );
            foreach (int at in reader.Found)
                if (at >= 0)
                    claimed[at] = true;
            found[part.Source] = reader.Found;
            new PlaceCheck(accounts, again, reader.Found, _plan.Moves[part.Source], Differ).Check(
                part.Rewrites,
                part.Number == 0
            );
            _shapes.Check(accounts, again, reader.Found, part.Rewrites, _plan.Moves[part.Source], Differ, cancel);
            PropertyCheck.Check(accounts, again, reader.Found, part.Rewrites, Differ);
            PropertyCheck.CheckUnits(accounts, again, reader.Found, part.Rewrites, Differ);
        }

        Header(file, again);
        Made(file, again, claimed);
        for (int i = 0; i < claimed.Length; i++)
        {
            if (claimed[i])
                continue;
            int at = i;
            _tally.AddUnexpected(Kind(again.Model, i), () =>
                $"{file.Name}: #{again.Model.File.Id(at)} {again.Model.ClassName(at)}"
            );
            Differ($"{file.Name}: #{again.Model.File.Id(i)} {again.Model.ClassName(i)} is in no source.");
        }

        return found;
    }

    /// <summary>The lines of the ledger.</summary>
    public IReadOnlyList<LedgerLine> Lines()
    {
        for (int s = 0; s < _accounts.Length; s++)
            Sum(_accounts[s], _plan, s, _tally, null);
        return _tally.Lines();
    }

    /// <summary>The line that an instance belongs to.</summary>
    internal static string Kind(IfcModel model, int index)
    {
        if (model.Entity(index) is not { } entity)
            return model.ClassName(index) is { Length: > 0 } keyword ? keyword : "complex instance";
        if (entity.Is("IfcProperty"))
            return "property value";
        if (entity.Is("IfcPhysicalQuantity"))
            return "quantity value";
        if (entity.Is("IfcStyledItem"))
            return "colour";
        if (entity.Is("IfcPresentationLayerAssignment"))
            return "layer";
        return IsPart(entity) ? "part of a shape" : entity.Name;
    }

    private static bool IsPart(EntityDef entity) =>
        entity.Is("IfcRepresentationItem")
        || entity.Is("IfcRepresentation")
        || entity.Is("IfcProductRepresentation")
        || entity.Is("IfcRepresentationMap")
        || entity.Is("IfcObjectPlacement")
        || entity.Is("IfcProfileDef");

    private void Header(WrittenFile file, ModelSnapshot again)
    {
        var part = file.Parts[0];
        var before = _accounts[part.Source].Snapshot.Model.File.Header;
        var after = again.Model.File.Header;
        bool same =
            after.Schema == (part.Rewrites.Schema ?? before.Schema)
            && after.OriginatingSystem == before.OriginatingSystem
            && after.Authorization == before.Authorization
            && Same(after.Description, before.Description)
            && Same(after.Author, before.Author)
            && Same(after.Organization, before.Organization);
        _tally.Add(
            "header",
            same ? LedgerAccount.Changed : LedgerAccount.Unaccounted,
            same ? "file name and time of the hand-over" : "",
            () => file.Name
        );
        if (!same)
            Differ($"{file.Name}: the header is not as expected.");
    }

    // A list of nothing is written as one empty string.
    private static bool Same(IReadOnlyList<string> a, IReadOnlyList<string> b) =>
        a.Where(t => t.Length > 0).SequenceEqual(b.Where(t => t.Length > 0));

    private void Made(WrittenFile file, ModelSnapshot again, bool[] claimed)
    {
        foreach (int id in file.Made.Names)
        {
            int at = again.Model.File.IndexOf(id);
            if (at >= 0 && !claimed[at] && file.Made.IsAsWritten(id, again.Model.File.Raw(at)))
            {
                claimed[at] = true;
                continue;
            }

            _tally.AddUnexpected(at < 0 ? "made by a rule" : Kind(again.Model, at), () => $"{file.Name}: #{id}");
            if (at >= 0)
                claimed[at] = true;
            Differ($"{file.Name}: #{id}, made by a rule, {(at < 0 ? "is not there" : "is not as it was made")}.");
        }
    }

    /// <summary>Sums the accounts of a source into lines.</summary>
    /// <param name="accounts">The accounts.</param>
    /// <param name="plan">The plan, for the reasons of what was left out.</param>
    /// <param name="source">The source's place in it.</param>
    /// <param name="tally">Takes the lines.</param>
    /// <param name="pairs">The account of all pairs of a relationship, null where each has its own.</param>
    internal static void Sum(
        SourceAccounts accounts,
        HandoverPlan plan,
        int source,
        LedgerTally tally,
        Func<SourceAccounts, int, (LedgerAccount, string)>? pairs
    )
    {
        var model = accounts.Snapshot.Model;
        var reasons = new Dictionary<int, string>();
        foreach (var element in accounts.Snapshot.Elements)
            if (plan.Decisions[source][element.Number] is { } reason)
                reasons[element.Index] = reason;
        var spread = new AccountSpread(accounts);
        // What is the same all through is counted by keyword: that is nearly all of it.
        var same = new int[model.File.TypeNames.Count];
        var kinds = new (string Name, bool Pairs, bool Shaped)?[same.Length];
        for (int i = 0; i < model.File.Count; i++)
        {
            int index = i,
                type = model.File.TypeOf(i);
            var (kind, paired, shaped) = kinds[type] ??= (
                Kind(model, i),
                accounts.HasPairs(i),
                model.Is(i, "IfcProduct") || model.Is(i, "IfcTypeProduct")
            );
            bool amended = plan.Sources[source].Amended?.Contains(i) == true;
            if (paired)
                SumPairs(accounts, i, kind == "layer" ? "on a layer" : kind, tally, pairs, amended);
            if (!paired || kind == "layer")
            {
                var account = accounts.Of(i);
                if (account == LedgerAccount.Same && amended)
                    Add(kind, i, LedgerAccount.Changed, AmendedRule);
                else if (account == LedgerAccount.Same && (kind != "colour" || !accounts.AnyChange))
                    same[type]++;
                else if (kind == "colour")
                    Add(kind, i, spread.OfStyle(i).Account, spread.OfStyle(i).Rule);
                else
                    Add(kind, i, account, accounts.RuleOf(i));
            }

            if (!shaped)
                continue;
            if (spread.Shape(i) is { } shape)
                AddFact("shape", shape, accounts.Reshaped.Contains(i));
            if (spread.Place(i) is { } place)
                AddFact("place", place, accounts.Displaced.Contains(i));

            void AddFact(string fact, (LedgerAccount Account, string Rule) of, bool wrong)
            {
                if (accounts.Drawn.TryGetValue(index, out string? drawn))
                    Add(fact, index, LedgerAccount.Changed, drawn);
                else
                    Add(
                        fact,
                        index,
                        accounts.Of(index) == LedgerAccount.LeftOut ? LedgerAccount.LeftOut
                            : wrong ? LedgerAccount.Unaccounted
                            : of.Account,
                        of.Rule
                    );
            }
        }

        for (int type = 0; type < same.Length; type++)
            if (kinds[type] is { } counted)
                tally.AddSame(counted.Name, same[type]);

        void Add(string kind, int index, LedgerAccount account, string rule)
        {
            if (account == LedgerAccount.Same)
                tally.AddSame(kind, 1);
            else
                tally.Add(
                    kind,
                    account,
                    account == LedgerAccount.LeftOut
                        ? rule.Length > 0
                            ? rule
                            : Reason(accounts, reasons, index)
                        : rule,
                    () => $"{plan.Sources[source].Label}: {accounts.Label(index)}"
                );
        }
    }

    private static void SumPairs(
        SourceAccounts accounts,
        int index,
        string kind,
        LedgerTally tally,
        Func<SourceAccounts, int, (LedgerAccount, string)>? pairs,
        bool amended
    )
    {
        var members = accounts.Members(index);
        for (int m = 0; m < Math.Max(1, members.Length); m++)
        {
            var (account, rule) = pairs?.Invoke(accounts, index) ?? accounts.Pair(index, m);
            int member = m;
            if (account == LedgerAccount.Same && amended)
                (account, rule) = (LedgerAccount.Changed, AmendedRule);
            if (account == LedgerAccount.Same)
                tally.AddSame(kind, 1);
            else
                tally.Add(kind, account, account == LedgerAccount.LeftOut ? OtherEndStays : rule, () =>
                    $"{accounts.Label(index)} to #{(member < members.Length ? members[member] : 0)}"
                );
        }
    }

    private static string Reason(SourceAccounts accounts, Dictionary<int, string> reasons, int index)
    {
        if (reasons.TryGetValue(index, out string? reason))
            return reason;
        if (accounts.RuleOf(index) is { Length: > 0 } rule)
            return rule;
        var snapshot = accounts.Snapshot;
        if (!snapshot.Model.Is(index, "IfcProduct"))
            return Unused;
        return snapshot.IsStructure(index) ? Empty : Hosted;
    }

    private void Differ(string sentence)
    {
        lock (_differences)
            if (_differences.Count < MaxDifferences)
                _differences.Add(sentence);
    }
}
