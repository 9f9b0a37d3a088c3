using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Brings a model under the project of another: values keep their unit by naming it, numbers that cannot name one are
/// converted.</summary>
/// <remarks>Lengths are not touched here: they are rewritten in the unit of the file. A kind of unit that the other project does not assign
/// counts as another unit.</remarks>
internal sealed class OwnUnitRewrite : IRewrite
{
    /// <summary>The rule's name in the ledger.</summary>
    public const string Rule = "unit named with the value";

    private readonly ModelSnapshot _snapshot;

    // Kinds of units that differ, with what a number is multiplied by to be in the other's; NaN when nothing can be said.
    private readonly Dictionary<string, double> _kinds = [];
    private readonly Dictionary<EntityDef, bool> _measures = [];

    /// <summary>Prepares to bring a model under the units of another.</summary>
    /// <exception cref="OrderException">The two measure angles differently: parameters of curves would change their meaning.</exception>
    public OwnUnitRewrite(ModelSnapshot snapshot, ModelSnapshot first, string label)
    {
        _snapshot = snapshot;
        if (Math.Abs(snapshot.Units.Radians - first.Units.Radians) > 1e-9)
            throw new OrderException(
                $"{label} measures angles in another unit than the first source; they cannot be merged."
            );
        foreach (var (kind, unit) in snapshot.Units.ByKind)
        {
            if (kind is "LENGTHUNIT" or "PLANEANGLEUNIT")
                continue;
            bool assigned = first.Units.ByKind.TryGetValue(kind, out int other);
            if (assigned && snapshot.Units.Signature(unit) == first.Units.Signature(other))
                continue;
            // Degrees Celsius and kelvins differ by more than a factor.
            _kinds[kind] =
                assigned && kind is not ("THERMODYNAMICTEMPERATUREUNIT" or MeasureKinds.Money)
                    ? snapshot.Units.Factor(unit) / first.Units.Factor(other)
                    : double.NaN;
        }
    }

    /// <inheritdoc/>
    public bool Touches(int index) =>
        _kinds.Count > 0 && _snapshot.Model.Entity(index) is { } entity && HasMeasures(entity);

    /// <inheritdoc/>
    public void Apply(InstanceText text, NewInstances fresh)
    {
        var entity = text.Entity!;
        for (int p = 0; p < entity.Attributes.Count && p < text.Parts.Count; p++)
        {
            if (
                KindOf(entity.Attributes[p], text.Parts[p]) is not { } kind
                || OwnUnits.Of(_snapshot.Model, text.Index, entity.Attributes[p].Name) >= 0
            )
                continue;
            string unit = "#" + _snapshot.Model.File.Id(_snapshot.Units.ByKind[kind]);
            if (entity.Name == "IfcPropertyEnumeratedValue")
            {
                // The value can name a unit only through an enumeration; one that exists gets the unit itself.
                if (text["EnumerationReference"] == "$")
                    text["EnumerationReference"] =
                        "#"
                        + fresh.Once(
                            "IFCPROPERTYENUMERATION",
                            $"{StepWriter.String("Values of " + _snapshot.Model.Name(text.Index))},{text.Parts[p]},{unit}"
                        );
            }
            else if (OwnUnits.Attribute(entity, entity.Attributes[p].Name) is { } attribute)
                text[attribute] = unit;
            else if (double.IsFinite(_kinds[kind]))
                text.Parts[p] = Converted(text.Parts[p], _kinds[kind]);
        }
    }

    /// <inheritdoc/>
    public void Expect(ExpectedInstance expected)
    {
        var entity = expected.Entity!;
        for (int p = 0; p < entity.Attributes.Count && p < expected.Values.Count; p++)
        {
            if (
                KindOf(entity.Attributes[p], expected.Values[p].Text) is not { } kind
                || OwnUnits.Of(_snapshot.Model, expected.Index, entity.Attributes[p].Name) >= 0
            )
                continue;
            string unit = "#" + _snapshot.Model.File.Id(_snapshot.Units.ByKind[kind]);
            if (entity.Name == "IfcPropertyEnumeratedValue")
            {
                if (expected["EnumerationReference"] == "$")
                    expected.ExpectAnything("EnumerationReference", Rule);
            }
            else if (OwnUnits.Attribute(entity, entity.Attributes[p].Name) is { } attribute)
                expected.Expect(attribute, unit, Rule);
            else if (double.IsFinite(_kinds[kind]))
            {
                expected.Values[p] = expected.Values[p] with { Lengths = _kinds[kind] };
                expected.Change("value converted to the unit of the first source");
            }
            else
                expected.Lose(
                    $"{entity.Name}.{entity.Attributes[p].Name} is in a unit that the first source does not assign"
                );
        }
    }

    private bool HasMeasures(EntityDef entity)
    {
        if (_measures.TryGetValue(entity, out bool known))
            return known;
        bool has =
            !entity.Is("IfcMeasureWithUnit")
            && (
                entity.Name
                    is "IfcPropertySingleValue"
                        or "IfcPropertyListValue"
                        or "IfcPropertyBoundedValue"
                        or "IfcPropertyTableValue"
                        or "IfcPropertyEnumeratedValue"
                        or "IfcPropertyEnumeration"
                || entity.Attributes.Any(a => MeasureKinds.UnitKind(a.Type) is { } kind && _kinds.ContainsKey(kind))
            );
        lock (_measures)
            return _measures[entity] = has;
    }

    // The kind of unit that differs for an attribute: by its type, or by the type its values name.
    private string? KindOf(AttributeDef attribute, string text)
    {
        if (text is "$" or "*" || text.Length == 0)
            return null;
        string? kind = MeasureKinds.UnitKind(attribute.Type);
        if (kind is null && text.Contains("MEASURE(", StringComparison.OrdinalIgnoreCase))
        {
            int end = text.IndexOf("MEASURE(", StringComparison.OrdinalIgnoreCase) + 7,
                start = end;
            while (start > 0 && char.IsLetter(text[start - 1]))
                start--;
            kind = MeasureKinds.UnitKind(text[start..end]);
        }

        return kind is not null && _kinds.ContainsKey(kind) ? kind : null;
    }

    private static string Converted(string text, double factor)
    {
        if (text[0] == '(')
            return $"({string.Join(",", InstanceText.Split(text[1..^1]).Select(t => Converted(t, factor)))})";
        return StepNumber.TryParse(System.Text.Encoding.ASCII.GetBytes(text), out double value)
            ? StepNumber.Format(StepNumber.Rounded(value * factor))
            : text;
    }
}
