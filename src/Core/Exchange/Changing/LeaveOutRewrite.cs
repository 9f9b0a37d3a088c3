using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Leaves properties, quantities and shapes of spatial structure out, and gives sets and properties the receiver's
/// names.</summary>
public sealed class LeaveOutRewrite : IRewrite
{
    /// <summary>The ledger's name of the rule that gives a value another unit.</summary>
    public const string InUnit = "in the unit of the property list";

    /// <summary>The ledger's name of the rule that renames.</summary>
    public const string Renamed = "renamed by the property list";

    private readonly ModelSnapshot _snapshot;
    private readonly DropCascade _drops;
    private readonly Dictionary<int, string> _reasons = [];
    private readonly Dictionary<int, string> _names = [];
    private readonly Dictionary<int, PropertyUnit> _units = [];
    private readonly HashSet<int> _cut = [];

    // Of properties that several sets list and the list treats differently: what each set leaves out.
    private readonly Dictionary<int, HashSet<int>> _without = [];

    /// <summary>Prepares what is left out of a model.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="wish">Which properties travel; null for all as they are.</param>
    /// <param name="left">Other instances to leave out, with the reason.</param>
    /// <param name="kept">Whether an instance is written at all; null for all.</param>
    /// <exception cref="OrderException">A property that several sets share would need two names.</exception>
    public LeaveOutRewrite(
        ModelSnapshot snapshot,
        PropertyWish? wish,
        IReadOnlyDictionary<int, string> left,
        Func<int, bool>? kept
    )
    {
        _snapshot = snapshot;
        _drops = new DropCascade(snapshot.Model, kept ?? (_ => true), _ => false, _ => false);
        var choices = new Dictionary<int, List<(int Set, PropertyRow? Row, string Reason)>>();
        if (wish is not null)
            foreach (
                int set in snapshot.Model.OfType("IfcPropertySet").Concat(snapshot.Model.OfType("IfcElementQuantity"))
            )
                if (kept is null || kept(set))
                    Choose(set, wish, choices);
        foreach (var (index, reason) in left)
        {
            _reasons[index] = reason;
            _drops.Drop(index, DropReason.NoEntity);
        }

        foreach (var (property, uses) in choices)
            Settle(property, uses);
        if (_reasons.Count > 0)
            _drops.Follow();
        if (_names.Count > 0)
            CheckNames(kept);
        foreach (int index in Enumerable.Range(0, snapshot.Model.File.Count))
            Mark(index);
    }

    /// <inheritdoc/>
    public bool Touches(int index) =>
        _drops.Dropped[index]
        || _cut.Contains(index)
        || _names.ContainsKey(index)
        || _units.ContainsKey(index)
        || _without.ContainsKey(index);

    /// <summary>The properties and quantities that go in another unit, by instance.</summary>
    internal IReadOnlyDictionary<int, PropertyUnit> Units => _units;

    /// <summary>Whether an instance is left out.</summary>
    internal bool Drops(int index) => _drops.Dropped[index];

    /// <summary>Why an instance is left out; null when it is not.</summary>
    internal string? DropOf(int index) =>
        !_drops.Dropped[index] ? null : _reasons.GetValueOrDefault(index, PropertyWish.EmptySet);

    /// <inheritdoc/>
    public void Apply(InstanceText text, NewInstances fresh)
    {
        if (_drops.Dropped[text.Index])
        {
            text.Keyword = null;
            return;
        }

        var stays = _without.GetValueOrDefault(text.Index);
        for (int p = 0; p < text.Parts.Count; p++)
            text.Parts[p] = LiveReferences.Of(text.Parts[p], id =>
                _snapshot.Model.File.IndexOf(id) is >= 0 and var i && (_drops.Dropped[i] || stays?.Contains(i) == true)
            );
        if (_names.TryGetValue(text.Index, out string? name))
            text["Name"] = StepWriter.String(name);
        if (!_units.TryGetValue(text.Index, out var unit))
            return;
        text[PropertyUnit.ValueOf(_snapshot.Model, text.Index)!] = InUnitOf(text.Index, unit);
        text["Unit"] = "#" + UnitInstances.Once(unit, fresh);
    }

    /// <inheritdoc/>
    /// <remarks>That lists are shorter by what is left out follows from what is left out.</remarks>
    public void Expect(ExpectedInstance expected)
    {
        if (_names.TryGetValue(expected.Index, out string? name))
            expected.Expect("Name", StepWriter.String(name), Renamed);
        if (_units.TryGetValue(expected.Index, out var unit))
        {
            expected.Expect(
                PropertyUnit.ValueOf(_snapshot.Model, expected.Index)!,
                InUnitOf(expected.Index, unit),
                InUnit
            );
            // The unit is an instance that no source has: PropertyCheck asks how long it is.
            expected.ExpectAnything("Unit", InUnit);
        }

        if (!_without.TryGetValue(expected.Index, out var stays))
            return;
        string members = Members(expected.Index);
        int p = expected.Entity!.Position(members);
        var gone = stays.Select(i => "#" + _snapshot.Model.File.Id(i)).ToHashSet();
        var kept = InstanceText.Split(expected.Values[p].Text[1..^1]).Where(t => !gone.Contains(t));
        expected.Values[p] = expected.Values[p] with { Text = $"({string.Join(",", kept)})" };
        expected.Change(PropertyWish.NotListed);
    }

    // Each set of an element and each property of a set has a name of its own (ISO 16739-1, IfcObject.UniquePropertySetNames,
    // IfcPropertySet.UniquePropertyNames, IfcElementQuantity.UniqueQuantityNames). What the model has twice already is not of our making.
    private void CheckNames(Func<int, bool>? kept)
    {
        var model = _snapshot.Model;
        foreach (int set in model.OfType("IfcPropertySet").Concat(model.OfType("IfcElementQuantity")))
        {
            if (kept?.Invoke(set) == false || _drops.Dropped[set])
                continue;
            var stays = _without.GetValueOrDefault(set);
            var inside = model
                .Refs(set, Members(set))
                .Where(p => !_drops.Dropped[p] && stays?.Contains(p) != true)
                .ToList();
            if (Twice(inside) is var (a, b))
                throw new OrderException(
                    $"The property list calls two properties of {model.Name(set)} {NameOf(a)}: {model.Name(a)} and {model.Name(b)}. Give one of them another name."
                );
        }

        foreach (int owner in _snapshot.Elements.Select(e => e.Index).Concat(model.OfType("IfcTypeObject")))
        {
            if (kept?.Invoke(owner) == false)
                continue;
            int[] all = model.Is(owner, "IfcTypeObject")
                ? model.Refs(owner, "HasPropertySets")
                : _snapshot.Relations.PropertySets[owner].ToArray();
            if (Twice([.. all.Distinct().Where(s => !_drops.Dropped[s])]) is var (a, b))
                throw new OrderException(
                    $"The property list sends {model.Name(a)} and {model.Name(b)} of {model.ClassName(owner)} {model.GlobalId(owner)} under one name, {NameOf(a)}; an element has each name once. Give one of them another 'as set', or send them as a table beside the file."
                );
        }
    }

    private (int First, int Second)? Twice(List<int> instances)
    {
        var known = new Dictionary<string, int>(StringComparer.Ordinal);
        foreach (int i in instances)
        {
            if (known.TryAdd(NameOf(i), i))
                continue;
            int other = known[NameOf(i)];
            if (_snapshot.Model.Name(other) != _snapshot.Model.Name(i))
                return (other, i);
        }

        return null;
    }

    private string NameOf(int index) => _names.GetValueOrDefault(index, _snapshot.Model.Name(index));

    private string Members(int set) => _snapshot.Model.Is(set, "IfcElementQuantity") ? "Quantities" : "HasProperties";

    private void Choose(
        int set,
        PropertyWish wish,
        Dictionary<int, List<(int Set, PropertyRow? Row, string Reason)>> choices
    )
    {
        var model = _snapshot.Model;
        string name = model.Name(set);
        string? asSet = null;
        bool split = false;
        foreach (int property in model.Refs(set, Members(set)))
        {
            var (row, reason) = wish.Of(name, model.Name(property), IsBlank(property));
            (choices.TryGetValue(property, out var uses) ? uses : choices[property] = []).Add((set, row, reason));
            if (row is null)
                continue;
            split |= asSet is not null && asSet != row.SetName(name);
            asSet = row.SetName(name);
        }

        if (split)
            throw new OrderException(
                $"The property list sends properties of {name} under different sets; a set of a model has one name in the file. Give all of its rows the same 'as set'."
            );
        if (asSet is not null && asSet != name)
            _names[set] = asSet;
    }

    private void Settle(int property, List<(int Set, PropertyRow? Row, string Reason)> uses)
    {
        string own = _snapshot.Model.Name(property);
        if (uses.TrueForAll(u => u.Row is null))
        {
            _reasons[property] = uses[0].Reason;
            _drops.Drop(property, DropReason.NoEntity);
            return;
        }

        foreach (var (set, _, _) in uses.Where(u => u.Row is null))
            (_without.TryGetValue(set, out var list) ? list : _without[set] = []).Add(property);
        var names = uses.Where(u => u.Row is not null).Select(u => u.Row!.Name(own)).Distinct().ToList();
        if (names.Count > 1)
            throw new OrderException(
                $"The property {own} is one and the same in several sets of the model, and the property list calls it {string.Join(" and ", names)}; give it one name."
            );
        if (names[0] != own)
            _names[property] = names[0];
        var units = uses.Where(u => u.Row is not null).Select(u => u.Row!.Unit).Distinct().ToList();
        if (units.Count > 1)
            throw new OrderException(
                $"The property {own} is one and the same in several sets of the model, and the property list gives it several units; give it one."
            );
        if (units[0] is { } unit && double.IsFinite(unit.SizeOf(_snapshot, property)))
            _units[property] = unit;
    }

    // What refers to something that is left out has to be written again.
    private void Mark(int index)
    {
        if (_reasons.Count == 0 || _drops.Dropped[index])
            return;
        var raw = _snapshot.Model.File.Raw(index);
        for (int at = 1; StepReferences.Next(raw, ref at, out int id, out _); )
        {
            if (_snapshot.Model.File.IndexOf(id) is not (>= 0 and var target) || !_drops.Dropped[target])
                continue;
            _cut.Add(index);
            return;
        }
    }

    // A number as its measure: IFCLENGTHMEASURE(1200.) in a property, 1200. in a quantity.
    private string InUnitOf(int property, PropertyUnit unit)
    {
        string attribute = PropertyUnit.ValueOf(_snapshot.Model, property)!;
        var value = _snapshot.Model.Get(property, attribute);
        string number = StepNumber.Format(unit.Convert(value.Inner.Real, unit.SizeOf(_snapshot, property)));
        return value.TypeName is { } measure ? $"{measure}({number})" : number;
    }

    private bool IsBlank(int property)
    {
        var model = _snapshot.Model;
        if (!model.Is(property, "IfcPropertySingleValue"))
            return false;
        var value = model.Get(property, "NominalValue");
        return value.IsNull
            || (value.Kind == StepKind.Typed ? value.Inner : value) is { Kind: StepKind.String, Text: null or "" };
    }
}
