using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What an attribute is expected to hold when it is read again.</summary>
/// <param name="Text">The value in the standard's text form, references by their names in the source.</param>
/// <param name="Lengths">What numbers of the attribute itself are multiplied by.</param>
/// <param name="TypedLengths">What numbers inside values typed as lengths are multiplied by.</param>
/// <param name="Anything">The value is not compared here: the rule that changed it is checked by what it does.</param>
/// <param name="Longer">Further members may follow those of the list.</param>
public readonly record struct ExpectedValue(
    string Text,
    double Lengths = 1,
    double TypedLengths = 1,
    bool Anything = false,
    bool Longer = false
);

/// <summary>What an instance of a source is expected to be when it is read again: as it came, until the changes of an order have had their
/// say.</summary>
/// <remarks>Changes speak in the order in which they are made, each in its own words: what it expects is not taken from what it
/// writes.</remarks>
public sealed class ExpectedInstance
{
    private readonly List<string> _rules = [];
    private readonly List<string> _losses = [];

    private ExpectedInstance(int index, EntityDef? entity, string keyword, List<ExpectedValue> values) =>
        (Index, Entity, Keyword, Values) = (index, entity, keyword, values);

    /// <summary>The instance in the source.</summary>
    public int Index { get; }

    /// <summary>The entity expected, null when the schema does not know it.</summary>
    public EntityDef? Entity { get; set; }

    /// <summary>The keyword expected; null when any will do because the shape is written in another form.</summary>
    public string? Keyword { get; set; }

    /// <summary>The attributes, position by position.</summary>
    public List<ExpectedValue> Values { get; set; }

    /// <summary>The rules that change it, joined; empty when none does.</summary>
    public string Rule => string.Join(" + ", _rules);

    /// <summary>Why part of it is not carried, joined; empty when all of it is.</summary>
    public string Loss => string.Join("; ", _losses);

    /// <summary>An instance as it came.</summary>
    public static ExpectedInstance Of(IfcModel model, int index)
    {
        var text = InstanceText.Of(model, index);
        return new ExpectedInstance(
            index,
            text.Entity,
            text.Keyword!,
            [.. text.Parts.Select(p => new ExpectedValue(p))]
        );
    }

    /// <summary>Names a rule that changes the instance.</summary>
    public void Change(string rule)
    {
        if (rule.Length > 0 && !_rules.Contains(rule))
            _rules.Add(rule);
    }

    /// <summary>Names part of the instance that has no place in what is written.</summary>
    public void Lose(string reason)
    {
        if (!_losses.Contains(reason))
            _losses.Add(reason);
    }

    /// <summary>The text of an attribute; <c>$</c> when the entity has none of that name.</summary>
    public string this[string attribute] => Position(attribute) is >= 0 and var p ? Values[p].Text : "$";

    /// <summary>Expects a text for an attribute.</summary>
    public void Expect(string attribute, string text, string rule)
    {
        if (Position(attribute) is not (>= 0 and var p))
            return;
        Values[p] = new ExpectedValue(text);
        Change(rule);
    }

    /// <summary>Lets an attribute be anything: the rule is checked by what it does.</summary>
    public void ExpectAnything(string attribute, string rule)
    {
        if (Position(attribute) is not (>= 0 and var p))
            return;
        Values[p] = Values[p] with { Anything = true };
        Change(rule);
    }

    private int Position(string attribute) =>
        Entity?.Position(attribute) is >= 0 and var p && p < Values.Count ? p : -1;
}
