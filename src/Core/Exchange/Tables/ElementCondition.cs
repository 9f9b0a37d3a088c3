namespace SteadyLintel.Exchange;

/// <summary>Which elements a row of a table is about.</summary>
/// <param name="Class">The class, subtypes included; a word after a point is the predefined type; <c>*</c> for every class.</param>
/// <param name="Key">A property, <c>Set.Property</c>; empty for none.</param>
/// <param name="Value">The value it must have, with <c>*</c> and <c>?</c>.</param>
public readonly record struct ElementCondition(string Class, string Key, string Value)
{
    /// <summary>Whether an element is meant.</summary>
    public bool Holds(SelectionSubject subject)
    {
        if (Class != "*" && !new SelectionRule(SelectionVerb.With, SelectionField.Class, [Class]).Matches(subject)) return false;
        return Key.Length == 0 || new SelectionRule(SelectionVerb.With, SelectionField.Property, Value.Length == 0 ? [] : [Value], Key)
        { Test = Value.Length == 0 ? RuleTest.Equals : RuleTest.Like }.Matches(subject);
    }

    /// <summary>As it is said in sentences.</summary>
    public override string ToString() => Class + (Key.Length == 0 ? "" : $" with {Key} {(Value.Length == 0 ? "blank" : Value)}");

    /// <summary>Reads the cells of a row.</summary>
    internal static ElementCondition Of(RowReader row)
    {
        string type = row["predefined type"], property = row["property"];
        if (property.Length > 0 && !property.Contains('.', StringComparison.Ordinal)) row.Problem($"property takes Set.Property, not '{property}'");
        if (row["value"].Length > 0 && property.Length == 0) row.Problem("has a value and no property that it belongs to");
        return new ElementCondition(type.Length == 0 ? row["class"] : $"{row["class"]}.{type}", property, row["value"]);
    }
}
