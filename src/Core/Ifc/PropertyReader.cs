using System.Globalization;
using SteadyLintel.Step;

namespace SteadyLintel.Ifc;

/// <summary>Reads property sets and quantities, those of the type included. Safe for concurrent use.</summary>
/// <param name="model">The model.</param>
/// <param name="relations">Its relationships.</param>
/// <param name="units">Its units.</param>
public sealed class PropertyReader(IfcModel model, IfcRelations relations, IfcUnits units)
{
    private const int MaxKnownLength = 128;

    // Sets of types serve many elements; most others serve one. A small table keeps what was read lately and forgets without harm.
    private readonly PropertySet?[] _recent = new PropertySet?[1024];
    private readonly StepTextCache _texts = new();
    private readonly StepTextCache _values = new(raw => Text(new StepValue(raw)));
    private readonly Measure?[] _measures = new Measure?[256];
    private readonly Known?[] _known = new Known?[16384];
    private readonly EntityDef? _sets = model.Schema.Find("IFCPROPERTYSET");
    private readonly int _setMembers = model.Schema.Find("IFCPROPERTYSET")?.Position("HasProperties") ?? -1;
    private readonly EntityDef? _quantities = model.Schema.Find("IFCELEMENTQUANTITY");
    private readonly EntityDef? _single = model.Schema.Find("IFCPROPERTYSINGLEVALUE");

    /// <summary>All sets of an object: its own first, then its type's. A property that both have is taken from the object.</summary>
    /// <param name="element">Its position among the instances of the file.</param>
    public IReadOnlyList<PropertySet> Of(int element)
    {
        var links = relations.PropertySets[element];
        var own = new PropertySet[links.Length];
        for (int i = 0; i < own.Length; i++)
            own[i] = Set(links[i]);
        int type = relations.Type.First(element);
        var inherited = type < 0 ? [] : model.Refs(type, "HasPropertySets");
        if (inherited.Length == 0)
            return own;
        var all = new List<PropertySet>(own);
        foreach (int set in inherited)
            AddInherited(all, own, Set(set));
        return all;
    }

    /// <summary>One IfcPropertySet or IfcElementQuantity; other definitions come back empty under their class name.</summary>
    /// <param name="index">Its position among the instances of the file.</param>
    public PropertySet Set(int index)
    {
        ref var slot = ref _recent[index & (_recent.Length - 1)];
        var known = slot;
        return known?.Index == index ? known : slot = Read(index);
    }

    private static void AddInherited(List<PropertySet> all, PropertySet[] own, PropertySet inherited)
    {
        var overriding = own.Where(s => s.Name == inherited.Name)
            .SelectMany(s => s.Properties)
            .Select(p => p.Name)
            .ToHashSet();
        var left =
            overriding.Count == 0
                ? inherited.Properties
                : [.. inherited.Properties.Where(p => !overriding.Contains(p.Name))];
        if (left.Count > 0)
            all.Add(new PropertySet(inherited.Index, inherited.Name, inherited.IsQuantity, true, left));
    }

    private PropertySet Read(int index)
    {
        var record = model.Record(index);
        string name = _texts.Get(record[2].Coded);
        var entity = model.Entity(index);
        bool quantity = entity == _quantities;
        var members = record[
            entity == _sets ? _setMembers : entity?.Position(quantity ? "Quantities" : "HasProperties") ?? -1
        ].Raw;
        var properties = new List<Property>(members.IsEmpty ? 0 : members.Count((byte)',') + 1);
        if (!quantity && entity != _sets)
            name = name.Length > 0 ? name : model.ClassName(index);
        for (int at = 0; StepReferences.Next(members, ref at, out int id, out _); )
        {
            int member = model.File.IndexOf(id);
            if (member < 0)
                continue;
            if (quantity)
                AddQuantity(member, "", properties, 0);
            else
                AddProperty(member, "", properties, 0);
        }

        return new PropertySet(index, name, quantity, false, properties);
    }

    private void AddProperty(int p, string prefix, List<Property> properties, int depth)
    {
        if (model.Entity(p) == _single)
        {
            AddSingle(p, prefix, properties);
            return;
        }

        string name = prefix + model.Name(p);
        switch (model.ClassName(p))
        {
            case "IfcPropertyEnumeratedValue":
                AddList(p, name, model.Get(p, "EnumerationValues"), model.Ref(p, "EnumerationReference"), properties);
                break;
            case "IfcPropertyListValue":
                AddList(p, name, model.Get(p, "ListValues"), p, properties);
                break;
            case "IfcPropertyBoundedValue":
                AddBounded(p, name, properties);
                break;
            case "IfcPropertyTableValue":
                AddTable(p, name, properties);
                break;
            case "IfcPropertyReferenceValue":
                int target = model.Ref(p, "PropertyReference");
                properties.Add(
                    new Property(
                        name,
                        target < 0 ? "" : $"{model.ClassName(target)} {model.Name(target)}".TrimEnd(),
                        "",
                        ""
                    )
                );
                break;
            case "IfcComplexProperty" when depth < 10:
                foreach (int part in model.Refs(p, "HasProperties"))
                    AddProperty(part, name + ".", properties, depth + 1);
                break;
        }
    }

    // Nearly all properties are of this kind. The same property with the same value is thousands of times in a model: the same bytes
    // give the same object.
    private void AddSingle(int p, string prefix, List<Property> properties)
    {
        var record = model.Record(p);
        var raw = record.Raw;
        if (prefix.Length > 0 || raw.Length > MaxKnownLength)
        {
            properties.Add(Single(record, prefix));
            return;
        }

        // Two places for a hash, the latest first: with one, two values that share it would drive each other out all the time.
        int slot = (int)(StepHash.Of(raw) % (uint)_known.Length);
        var known = _known[slot];
        if (known is null || !raw.SequenceEqual(known.Raw))
        {
            var second = _known[slot ^ 1];
            if (second is null || !raw.SequenceEqual(second.Raw))
            {
                _known[slot ^ 1] = known;
                second = _known[slot] = new Known(raw.ToArray(), Single(record, prefix));
            }

            known = second;
        }

        properties.Add(known.Property);
    }

    private Property Single(StepRecord record, string prefix)
    {
        var name = record[0];
        var value = record[2];
        string text = name.Kind == StepKind.String ? _texts.Get(name.Coded) : "";
        var measure = value.Kind == StepKind.Typed ? MeasureOf(value.TypeBytes) : Measure.None;
        int unit = model.Target(record[3]);
        return new Property(
            prefix.Length == 0 ? text : prefix + text,
            _values.Get(value.Inner.Raw),
            measure.Name,
            unit >= 0 ? units.Symbol(unit) : measure.Symbol
        )
        {
            OwnUnit = unit,
        };
    }

    // A file uses a few measures, so the table forgets almost never.
    private Measure MeasureOf(ReadOnlySpan<byte> keyword)
    {
        string name = _texts.Get(keyword);
        ref var slot = ref _measures[
            (keyword.Length * 7 + keyword[^1] + keyword[keyword.Length / 2]) % _measures.Length
        ];
        var known = slot;
        if (known is not null && ReferenceEquals(known.Written, name))
            return known;
        string capitals = name.ToUpperInvariant();
        return slot = new Measure(name, capitals, units.SymbolFor(capitals));
    }

    private sealed record Known(byte[] Raw, Property Property);

    private sealed record Measure(string Written, string Name, string Symbol)
    {
        public static readonly Measure None = new("", "", "");
    }

    private void AddList(int p, string name, StepValue list, int unitOwner, List<Property> properties)
    {
        var texts = new List<string>();
        string measure = "",
            unit = "";
        foreach (var item in list.Items)
        {
            texts.Add(Text(item));
            measure = item.TypeName ?? "";
            unit = Unit(unitOwner, "Unit", item);
        }

        properties.Add(new Property(name, string.Join(", ", texts.Where(t => t.Length > 0)), measure, unit));
    }

    private void AddBounded(int p, string name, List<Property> properties)
    {
        var lower = model.Get(p, "LowerBoundValue");
        var upper = model.Get(p, "UpperBoundValue");
        var set = model.Get(p, "SetPointValue");
        string text =
            lower.IsNull && upper.IsNull
                ? Text(set)
                : $"{Text(lower)} … {Text(upper)}" + (set.IsNull ? "" : $" ({Text(set)})");
        var typed =
            !lower.IsNull ? lower
            : !upper.IsNull ? upper
            : set;
        properties.Add(new Property(name, text, typed.TypeName ?? "", Unit(p, "Unit", typed)));
    }

    private void AddTable(int p, string name, List<Property> properties)
    {
        var keys = new List<string>();
        var values = new List<string>();
        foreach (var item in model.Get(p, "DefiningValues").Items)
            keys.Add(Text(item));
        foreach (var item in model.Get(p, "DefinedValues").Items)
            values.Add(Text(item));
        properties.Add(new Property(name, string.Join("; ", keys.Zip(values, (k, v) => $"{k} → {v}")), "", ""));
    }

    private void AddQuantity(int q, string prefix, List<Property> properties, int depth)
    {
        string name = prefix + model.Name(q);
        if (model.Is(q, "IfcPhysicalComplexQuantity") && depth < 10)
        {
            foreach (int part in model.Refs(q, "HasQuantities"))
                AddQuantity(part, name + ".", properties, depth + 1);
            return;
        }

        // Each simple quantity's fourth attribute is its value: LengthValue, AreaValue …
        var definition = model.Entity(q)?.Attributes.ElementAtOrDefault(3);
        if (definition is null)
            return;
        var value = model.Record(q)[3];
        int unit = model.Ref(q, "Unit");
        properties.Add(
            new Property(
                name,
                Text(value),
                definition.Type.ToUpperInvariant(),
                unit >= 0 ? units.Symbol(unit) : units.SymbolFor(definition.Type)
            )
            {
                OwnUnit = unit,
            }
        );
    }

    private string Unit(int owner, string attribute, StepValue value)
    {
        int unit = model.Ref(owner, attribute);
        return unit >= 0 ? units.Symbol(unit)
            : value.TypeName is { } measure ? units.SymbolFor(measure)
            : "";
    }

    /// <summary>A value as people read it: numbers as written less their trailing full stop, logicals as True, False, Unknown.</summary>
    /// <param name="value">Of an attribute.</param>
    public static string Text(StepValue value)
    {
        var inner = value.Inner;
        return inner.Kind switch
        {
            StepKind.String => inner.Text ?? "",
            StepKind.Number => inner.Real.ToString("R", CultureInfo.InvariantCulture),
            StepKind.Enumeration => inner.Enumeration switch
            {
                "T" => "True",
                "F" => "False",
                "U" => "Unknown",
                var other => other ?? "",
            },
            StepKind.List => List(inner),
            _ => "",
        };
    }

    private static string List(StepValue list)
    {
        var texts = new List<string>();
        foreach (var item in list.Items)
            texts.Add(Text(item));
        return string.Join(", ", texts);
    }
}
