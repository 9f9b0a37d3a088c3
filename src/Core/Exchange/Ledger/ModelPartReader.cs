using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Holds what a written model has of one source against that source, instance by instance, and puts each into its
/// account.</summary>
/// <remarks>
/// Instances keep their names, or are renamed by a merge: so each is looked for under its name and compared, byte for byte where nothing
/// changes it. What is missing
/// is judged from the source's own relationships: both ends there and the relationship not, a host without its opening, a reference that
/// leads nowhere.
/// </remarks>
internal sealed class ModelPartReader
{
    private const int Stretch = 8192;
    private readonly WrittenPart _part;
    private readonly SourceAccounts _accounts;
    private readonly ModelSnapshot _source;
    private readonly ModelSnapshot _again;
    private readonly IfcModel _model;
    private readonly RelationIndex _index;
    private readonly MadeInstances _made;
    private readonly Action<string> _differ;
    private readonly int[] _found;
    private readonly InstanceComparer _comparer,
        _pointerComparer;

    public ModelPartReader(
        WrittenPart part,
        SourceAccounts accounts,
        ModelSnapshot again,
        MadeInstances made,
        Action<string> differ
    )
    {
        (_part, _accounts, _source, _again, _made, _differ) = (part, accounts, accounts.Snapshot, again, made, differ);
        (_model, _index) = (_source.Model, _source.RelationIndex);
        _found = Match();
        _comparer = new InstanceComparer(_model, again.Model, part.NameOf, i =>
            _found[i] < 0 && (Role(i) >= InstanceRole.Follower || part.Rewrites.DropOf(i) is not null)
        );
        _pointerComparer = new InstanceComparer(_model, again.Model, part.NameOf, i => _found[i] < 0);
    }

    /// <summary>For every instance of the source its position in the written file, -1 for none.</summary>
    public IReadOnlyList<int> Found => _found;

    /// <summary>Puts every instance of the source into its account.</summary>
    /// <param name="chosen">The elements that were to go into the file.</param>
    /// <param name="unexpected">Told of each product that is there and was not asked for.</param>
    /// <param name="cancel">Stops between stretches.</param>
    public void Read(IReadOnlyList<ModelElement> chosen, Action<int> unexpected, CancellationToken cancel)
    {
        int stretches = (_found.Length + Stretch - 1) / Stretch;
        Parallel.For(0, stretches, new ParallelOptions { CancellationToken = cancel }, s =>
        {
            for (int i = s * Stretch; i < Math.Min(_found.Length, (s + 1) * Stretch); i++)
                if (_found[i] >= 0)
                    Compare(i);
        });
        Missing(chosen);
        Unasked(chosen, unexpected);
    }

    private InstanceRole Role(int index) => _index.Kinds[_model.File.TypeOf(index)].Role;

    private int[] Match()
    {
        var found = new int[_model.File.Count];
        var again = _again.Model.File;
        // Where a file uses a name twice, the second of the source is the second of what was written.
        Dictionary<int, Queue<int>>? shadowed = null;
        for (int i = 0; i < found.Length; i++)
        {
            int id = _model.File.Id(i);
            if (_model.File.IndexOf(id) == i)
                found[i] = again.IndexOf(_part.NameOf(id));
            else
            {
                shadowed ??= Enumerable
                    .Range(0, again.Count)
                    .Where(n => again.IndexOf(again.Id(n)) != n)
                    .GroupBy(again.Id)
                    .ToDictionary(g => g.Key, g => new Queue<int>(g));
                found[i] = shadowed.TryGetValue(_part.NameOf(id), out var rest) && rest.Count > 0 ? rest.Dequeue() : -1;
            }
        }

        return found;
    }

    private void Compare(int index)
    {
        var before = _model.File.Raw(index);
        var after = _again.Model.File.Raw(_found[index]);
        var expected = _part.Rewrites.Expect(index);
        bool plain = expected is null || (expected.Rule.Length == 0 && expected.Loss.Length == 0);
        if (
            plain
            && NothingNew(index)
            && (_part.Merge is null ? before.SequenceEqual(after) : _comparer.SameButNames(before, after))
        )
        {
            _accounts.Put(index, LedgerAccount.Same);
            PutPairs(index, LedgerAccount.Same, "");
            Follow(before);
            return;
        }

        expected ??= ExpectedInstance.Of(_model, index);
        MergeExpectation.Add(expected, _part, _model);
        string? difference = (Role(index) == InstanceRole.Pointer ? _pointerComparer : _comparer).Difference(
            expected,
            _found[index]
        );
        // What was written must be there to the last byte; a merge writes what sources share once, for the first.
        if (
            difference is null
            && _part.Merge?.IsShared(_part.Number, index) != true
            && !_made.IsAsWritten(_again.Model.File.Id(_found[index]), after)
        )
            difference = "what was written";
        if (difference is not null && _part.Merge?.IsShared(_part.Number, index) == true)
        {
            expected.Lose($"{_model.ClassName(index)}.{difference}: merged, the first source's value is used");
            difference = null;
        }

        if (_accounts.HasPairs(index))
            Pairs(index, expected, difference);
        else if (difference is not null)
            _differ($"{_accounts.Label(index)}: {difference} is not as expected.");
        var account =
            difference is not null ? LedgerAccount.Unaccounted
            : expected.Loss.Length > 0 ? LedgerAccount.NotCarried
            : expected.Rule.Length > 0 ? LedgerAccount.Changed
            : LedgerAccount.Same;
        _accounts.Put(
            index,
            account,
            account == LedgerAccount.NotCarried ? expected.Loss
                : account == LedgerAccount.Changed ? expected.Rule
                : ""
        );
        FollowChanged(index, before);
    }

    // The members of a relationship and the subjects of a pointer may stay; whatever else a changed instance refers to is in the file.
    private void FollowChanged(int index, ReadOnlySpan<byte> before)
    {
        var kind = _index.Kinds[_model.File.TypeOf(index)];
        if (kind.Form is not { } form)
        {
            Follow(before);
            return;
        }

        var record = _model.Record(index);
        for (int a = 0, count = record.Count; a < count; a++)
            if (a != form.Many && !form.Others.Contains(a))
                Follow(record[a].Raw);
    }

    private bool NothingNew(int index) =>
        _part.Merge is null
        || (_part.Merge.NewGlobalId(_part.Number, index) is null && _part.Merge.Writes(_part.Number, index));

    // What an instance of the file refers to is in the file.
    private void Follow(ReadOnlySpan<byte> raw)
    {
        int start = raw.Length > 0 && raw[0] == '#' && raw[^1] == ';' ? 1 : 0;
        for (int at = start; StepReferences.Next(raw, ref at, out int id, out _); )
        {
            if (_model.File.IndexOf(id) is not (>= 0 and var target) || _found[target] >= 0)
                continue;
            if (_part.Rewrites.DropOf(target) is { } drop)
                Drop(target, drop);
            else
                Lose(target, "is referred to and is not in the file");
        }
    }

    private void Lose(int index, string how)
    {
        _accounts.Put(index, LedgerAccount.Unaccounted);
        if (_accounts.HasPairs(index))
            PutPairs(index, LedgerAccount.Unaccounted, "");
        _differ($"{_accounts.Label(index)} {how}.");
    }

    private void Drop(int index, (string Reason, DropKind Kind) drop)
    {
        var account = drop.Kind switch
        {
            DropKind.LeftOut => LedgerAccount.LeftOut,
            DropKind.Replaced => LedgerAccount.Changed,
            _ => LedgerAccount.NotCarried,
        };
        _accounts.Put(index, account, drop.Reason);
        if (_accounts.HasPairs(index))
            PutPairs(index, account, drop.Reason);
    }

    private void PutPairs(int index, LedgerAccount account, string rule)
    {
        if (!_accounts.HasPairs(index))
            return;
        int count = Math.Max(1, _accounts.Members(index).Length);
        for (int m = 0; m < count; m++)
            _accounts.PutPair(index, m, account, rule);
    }

    private void Pairs(int index, ExpectedInstance expected, string? difference)
    {
        var members = _accounts.Members(index);
        var account =
            expected.Loss.Length > 0 ? LedgerAccount.NotCarried
            : expected.Rule.Length > 0 ? LedgerAccount.Changed
            : LedgerAccount.Same;
        string rule = expected.Loss.Length > 0 ? expected.Loss : expected.Rule;
        HashSet<int>? there = null;
        if (difference is not null)
        {
            there = OtherAttributesAgree(index, difference) ? [.. Ids(_found[index])] : [];
            _differ($"{_accounts.Label(index)}: {difference} is not as expected.");
        }

        if (members.Length == 0)
            _accounts.PutPair(index, 0, difference is null ? account : LedgerAccount.Unaccounted, rule);
        for (int m = 0; m < members.Length; m++)
        {
            int target = _model.File.IndexOf(members[m]);
            if (target >= 0 && _found[target] < 0)
            {
                if (_part.Rewrites.DropOf(target) is { Kind: DropKind.Lost } drop)
                    _accounts.PutPair(index, m, LedgerAccount.NotCarried, drop.Reason);
                else
                    _accounts.PutPair(index, m, LedgerAccount.LeftOut, ModelLedger.OtherEndStays);
            }
            else if (target >= 0 && _part.Rewrites.LossOf(index, target) is { } loss)
                _accounts.PutPair(index, m, LedgerAccount.NotCarried, loss);
            else if (there is not null && !there.Contains(_part.NameOf(members[m])))
                _accounts.PutPair(index, m, LedgerAccount.Unaccounted);
            else if (SaidElsewhere(index, target))
                _accounts.PutPair(index, m, LedgerAccount.Changed, ModelLedger.SaidOnce);
            else
                _accounts.PutPair(index, m, account, rule);
        }
    }

    private bool OtherAttributesAgree(int index, string difference) =>
        _index.Kinds[_model.File.TypeOf(index)].Form is { Many: >= 0 } form
        && _model.Entity(index)!.Attributes[form.Many].Name == difference
        && _again.Model.Entity(_found[index])?.Position(difference) == form.Many;

    private List<int> Ids(int found)
    {
        var ids = new List<int>();
        var kind = RelationForm.Of(_again.Model.Schema, _again.Model.Entity(found)!);
        int position = kind.Many >= 0 ? kind.Many : DependentInstances.Subject(_again.Model.Entity(found)!);
        StepReferences.Collect(_again.Model.Record(found)[position].Raw, ids);
        return ids;
    }

    // Of two sources that share storey and building, the first says that one is in the other.
    private bool SaidElsewhere(int index, int member) =>
        _part.Merge is { } merge
        && member >= 0
        && _model.Is(index, "IfcRelAggregates")
        && merge.IsShared(_part.Number, member)
        && merge.IsShared(_part.Number, _model.Ref(index, "RelatingObject"));

    private void Missing(IReadOnlyList<ModelElement> chosen)
    {
        foreach (var element in chosen)
            if (_found[element.Index] < 0)
            {
                if (_part.Rewrites.DropOf(element.Index) is { } drop)
                    Drop(element.Index, drop);
                else
                    Lose(element.Index, "is not in the file");
            }

        if (_part.IsWhole)
            for (int i = 0; i < _found.Length; i++)
                if (_found[i] < 0)
                    Judge(i, "is not in the file, which was to hold the whole model");
        foreach (int relationship in _index.Ends)
            Relationship(relationship);
        foreach (int pointer in _index.Points)
            if (_found[pointer] < 0 && Subjects(pointer).Any(s => _found[s] >= 0))
                Judge(pointer, "belongs to what is in the file and is not there");
    }

    private void Judge(int index, string how)
    {
        if (_part.Rewrites.DropOf(index) is { } drop)
            Drop(index, drop);
        else if (_part.Merge?.IsLeft(_part.Number, index) == true)
            _accounts.Put(
                index,
                LedgerAccount.NotCarried,
                $"{_model.ClassName(index)}: merged, the first source's value is used"
            );
        else
            Lose(index, how);
    }

    private void Relationship(int relationship)
    {
        var kind = _index.Kinds[_model.File.TypeOf(relationship)];
        var form = kind.Form!;
        int[] ones = Rooted(relationship, form.One);
        bool one = ones.Length == 0 || Array.Exists(ones, t => _found[t] >= 0);
        if (kind.Carries && ones.Length > 0 && one)
            foreach (
                int feature in Targets(relationship, form.Many)
                    .Where(t => _found[t] < 0 && (_model.Is(t, "IfcFeatureElement") || _model.Is(t, "IfcPort")))
            )
                Judge(feature, "belongs to its host and is not in the file");
        if (_found[relationship] >= 0)
            return;
        int[] many = Rooted(relationship, form.Many);
        bool any = many.Length == 0 || Array.Exists(many, t => _found[t] >= 0);
        bool others = form.Others.All(o =>
            _model.Entity(relationship)!.Attributes[o].Optional
            || Rooted(relationship, o) is not { Length: > 0 } rest
            || rest.Any(t => _found[t] >= 0 || Role(t) == InstanceRole.Follower)
        );
        bool lost = any && others && (one || (kind.Pulls && Array.Exists(ones, t => Role(t) == InstanceRole.Follower)));
        if (!lost || (ones.Length == 0 && many.Length == 0))
            return;
        if (_part.Rewrites.DropOf(relationship) is { } drop)
            Drop(relationship, drop);
        else if (_part.Merge?.IsLeft(_part.Number, relationship) == true)
        {
            _accounts.Put(relationship, LedgerAccount.Changed, ModelLedger.SaidOnce);
            PutPairs(relationship, LedgerAccount.Changed, ModelLedger.SaidOnce);
        }
        else
            Lose(relationship, "has both ends in the file and is not there");
    }

    private void Unasked(IReadOnlyList<ModelElement> chosen, Action<int> unexpected)
    {
        var asked = new HashSet<int>(chosen.Count);
        foreach (var element in chosen)
            asked.Add(element.Index);
        foreach (int product in _model.OfType("IfcProduct"))
        {
            if (_found[product] < 0 || asked.Contains(product) || _source.IsStructure(product))
                continue;
            bool feature = _model.Is(product, "IfcFeatureElement") || _model.Is(product, "IfcPort");
            if (feature && _source.Structure.Parent(product) is >= 0 and var host && _found[host] >= 0)
                continue;
            unexpected(product);
            _differ($"{_accounts.Label(product)} was not asked for.");
        }
    }

    private int[] Targets(int index, int position) =>
        position < 0 ? [] : _model.Targets(_model.Record(index)[position]);

    private int[] Rooted(int index, int position) =>
        [.. Targets(index, position).Where(t => Role(t) >= InstanceRole.Follower)];

    private int[] Subjects(int pointer) => Targets(pointer, _index.Kinds[_model.File.TypeOf(pointer)].Form!.Many);
}
