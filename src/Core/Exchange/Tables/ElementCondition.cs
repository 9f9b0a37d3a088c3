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
        foreach (var rule in Rules())
            if (!rule.MatchesItself(subject))
                return false;
        return true;
    }

    /// <summary>The condition as rules, all of which match; none where every element is meant.</summary>
    /// <remarks>A row is about an element itself, not about its parts, so the rules are of the verb that does not choose parts.</remarks>
    public IReadOnlyList<SelectionRule> Rules()
    {
        var rules = new List<SelectionRule>(2);
        if (Class != "*")
            rules.Add(new SelectionRule(SelectionVerb.Without, RuleField.Class, [Class]));
        if (Key.Length > 0)
            rules.Add(
                new SelectionRule(SelectionVerb.Without, RuleField.Property, Value.Length == 0 ? [] : [Value], Key)
                {
                    Test = Value.Length == 0 ? RuleTest.Equals : RuleTest.Like,
                }
            );
        return rules;
    }

    /// <summary>Whether every element that another condition means is meant here too, so that a row after this one never decides.</summary>
    public bool Covers(ElementCondition other)
    {
        var ((name, type), (otherName, otherType)) = (Parts(Class), Parts(other.Class));
        bool classes = name == "*" || (otherName != "*" && ClassWords.Covers(name, otherName));
        bool types = type.Length == 0 || type.Equals(otherType, StringComparison.OrdinalIgnoreCase);
        bool values =
            Key.Length == 0
            || (
                Key.Equals(other.Key, StringComparison.OrdinalIgnoreCase)
                && (
                    Value.Length == 0
                        ? other.Value.Length == 0
                        : other.Value.Length > 0 && Wildcards.Covers(Value, other.Value)
                )
            );
        return classes && types && values;

        static (string Name, string Type) Parts(string word) =>
            word.Split('.', 2) is [var a, var b] ? (a, b) : (word, "");
    }

    /// <summary>As it is said in sentences.</summary>
    public override string ToString() =>
        Class + (Key.Length == 0 ? "" : $" with {Key} {(Value.Length == 0 ? "blank" : Value)}");

    /// <summary>Reads the cells of a row.</summary>
    internal static ElementCondition Of(RowReader row)
    {
        string type = row["predefined type"],
            property = row["property"];
        if (row["class"] is { Length: > 0 } name and not "*" && ClassWords.Problem(name) is { } unknown)
            row.Problem($"names a class that is none: {unknown.TrimEnd('.')}");
        if (property.Length > 0 && !property.Contains('.', StringComparison.Ordinal))
            row.Problem($"property takes Set.Property, not '{property}'");
        if (row["value"].Length > 0 && property.Length == 0)
            row.Problem("has a value and no property that it belongs to");
        return new ElementCondition(type.Length == 0 ? row["class"] : $"{row["class"]}.{type}", property, row["value"]);
    }
}
