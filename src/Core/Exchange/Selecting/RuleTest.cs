namespace SteadyLintel.Exchange;

/// <summary>How a rule compares.</summary>
public enum RuleTest
{
    /// <summary>With one of the values; a class also with its subtypes.</summary>
    Equals,

    /// <summary>With one of the values, of classes without their subtypes, of layers with all of an element's, joined by
    /// <c> + </c>.</summary>
    Exactly,

    /// <summary>With a pattern: <c>*</c> for any letters, <c>?</c> for one.</summary>
    Like,

    /// <summary>Whether a number lies between two, both included; an empty bound is open.</summary>
    Between,

    /// <summary>Whether there is no such property.</summary>
    Missing,

    /// <summary>Whether the property is there and has no value.</summary>
    Blank,
}

/// <summary>What a rule does with what it matches.</summary>
public enum SelectionVerb
{
    /// <summary>Whatever does not match is left out.</summary>
    Only,

    /// <summary>Whatever matches is left out.</summary>
    Without,

    /// <summary>Whatever matches goes, though an earlier rule left it out.</summary>
    With,
}

/// <summary>The words of rules, as documents have them and as pages show them.</summary>
public static class RuleWords
{
    /// <summary>What becomes of what a rule matches.</summary>
    public static IReadOnlyList<Choice<SelectionVerb>> Verbs { get; } =
    [
        new("only", "only", SelectionVerb.Only),
        new("without", "without", SelectionVerb.Without),
        new("with", "also", SelectionVerb.With),
    ];

    /// <summary>How a rule compares; which field takes which is for <see cref="RuleField.Takes"/>.</summary>
    public static IReadOnlyList<Choice<RuleTest>> Tests { get; } =
    [
        new("equals", "is", RuleTest.Equals),
        new("exactly", "is exactly", RuleTest.Exactly),
        new("like", "is like", RuleTest.Like),
        new("between", "between", RuleTest.Between),
        new("missing", "is missing", RuleTest.Missing),
        new("blank", "is blank", RuleTest.Blank),
    ];

    /// <summary>The word of a test in a document.</summary>
    public static string Word(RuleTest test) => Tests.First(t => t.Value == test).Word;
}
