using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

// What the edits lead one to expect of an instance, from the order and the schema, apart from what is written.
public sealed partial class EditRewrite
{
    /// <inheritdoc/>
    public void Expect(ExpectedInstance expected)
    {
        var model = _snapshot.Model;
        string name = model.Name(expected.Index);
        if (expected.Entity?.Name == "IfcBuildingStorey" && _storeys.TryGetValue(name, out string? storey))
            expected.Expect("Name", StepWriter.String(storey), "storey renamed");
        else if (
            expected.Entity?.Is("IfcPresentationLayerAssignment") == true
            && _layers.TryGetValue(name, out string? layer)
        )
            expected.Expect("Name", StepWriter.String(layer), "layer renamed");
        // Which value a property has afterwards is checked on the elements it was ordered for.
        if (_values.ContainsKey(expected.Index))
            expected.ExpectAnything(
                model.Is(expected.Index, "IfcPropertyEnumeratedValue") ? "EnumerationValues" : "NominalValue",
                PropertyRule
            );
        if (_longer.ContainsKey(expected.Index) || _swapped.ContainsKey(expected.Index))
        {
            int p = expected.Entity!.Position("HasProperties");
            var replaced = _swapped
                .GetValueOrDefault(expected.Index)
                ?.Keys.Select(i => "#" + model.File.Id(i))
                .ToHashSet()
                ?? [];
            var kept = InstanceText.Split(expected.Values[p].Text[1..^1]).Where(t => !replaced.Contains(t));
            expected.Values[p] = expected.Values[p] with { Text = $"({string.Join(",", kept)})", Longer = true };
            expected.Change(PropertyRule);
        }

        if (NewName(expected.Index) is var (attribute, called))
            expected.Expect(attribute, StepWriter.String(called), RenameRule);
        if (_types?.CutOf(expected.Index) is { } cut)
        {
            expected.Expect(
                "RelatedObjects",
                Without(expected["RelatedObjects"], cut),
                "without elements of another class"
            );
            return;
        }

        if (_types?.NewClass(expected.Index) is { } type)
        {
            var words = ExpectEntity(expected, type, TypeChange.Rule);
            if (words is { } kind)
            {
                if (expected["ElementType"] == "$")
                    expected.Expect("ElementType", $"'{kind}'", TypeChange.Rule);
                expected.Expect("PredefinedType", ".USERDEFINED.", TypeChange.Rule);
            }

            return;
        }

        if (NewClass(expected.Index) is { } other)
            ExpectClass(expected, other);
    }

    // The attributes of the other entity; returns the word of the predefined type that it does not have.
    private string? ExpectEntity(ExpectedInstance expected, EntityDef other, string rule)
    {
        var entity = expected.Entity!;
        expected.Change(rule);
        foreach (var (attribute, value) in entity.Attributes.Zip(expected.Values))
            if (other.Position(attribute.Name) < 0 && value.Text is not ("$" or "*"))
                expected.Lose($"{entity.Name}.{attribute.Name} has no place in {other.Name}");
        var values = other
            .Attributes.Select(a =>
                a.IsDerived ? new ExpectedValue("*")
                : entity.Position(a.Name) is >= 0 and var p
                && p < expected.Values.Count
                && (a.Optional || expected.Values[p].Text != "$")
                    ? expected.Values[p]
                : new ExpectedValue(a.Optional ? "$" : Undefined(a) ?? "$")
            )
            .ToList();
        (expected.Entity, expected.Keyword, expected.Values) = (other, other.Keyword, values);
        return Word(other, expected["PredefinedType"]);
    }

    private void ExpectClass(ExpectedInstance expected, EntityDef other)
    {
        var entity = expected.Entity!;
        string? left = ExpectEntity(expected, other, $"class changed from {entity.Name} to {other.Name}");
        if (_single.TryGetValue(expected.Index, out var one) && one.Predefined.Length > 0)
        {
            expected.Expect(
                "PredefinedType",
                $".{one.Predefined}.",
                $"class changed from {entity.Name} to {other.Name}"
            );
            return;
        }

        if (left is not { } word)
            return;
        if (expected["ObjectType"] == "$")
            expected.Expect("ObjectType", $"'{word}'", $"word moved to ObjectType");
        else
            expected.Lose($"{other.Name} has no PredefinedType {word}");
        expected.ExpectAnything("PredefinedType", $"class changed from {entity.Name} to {other.Name}");
    }
}
