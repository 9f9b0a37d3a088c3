using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>One rule over elements.</summary>
/// <param name="Verb">What becomes of what it matches.</param>
/// <param name="Field">What it looks at.</param>
/// <param name="Values">The values, compared without regard to case; GlobalIds letter by letter. Of a property, no value means that the
/// property is missing or blank.</param>
/// <param name="Key">With <see cref="SelectionField.Property"/>: <c>Set.Property</c>.</param>
public sealed record SelectionRule(SelectionVerb Verb, SelectionField Field, IReadOnlyList<string> Values, string Key = "")
{
    /// <summary>A rule that keeps what matches, or leaves it out.</summary>
    public SelectionRule(SelectionField field, IReadOnlyList<string> values, bool keep)
        : this(keep ? SelectionVerb.Only : SelectionVerb.Without, field, values)
    {
    }

    /// <summary>With <see cref="SelectionField.Storey"/>: the storeys meant, each as a source and its storey's number; null when they go by
    /// name.</summary>
    /// <remarks>A party that counts from 0 calls its second storey as another calls the first: a name of the job's schedule means one level
    /// of each source.</remarks>
    public IReadOnlySet<(int Source, int Storey)>? Storeys { get; init; }

    /// <summary>The rule's name in a reconciliation: <c>storey not chosen</c>, <c>class left out</c>.</summary>
    public string Reason => $"{Word} {(Verb == SelectionVerb.Only ? "not chosen" : "left out")}";

    private string Word =>
        Field switch { SelectionField.GlobalId => "element", SelectionField.Property => Key, _ => Field.ToString().ToLowerInvariant() };

    /// <summary>Whether the rule is about an element.</summary>
    public bool Matches(SelectionSubject subject) => Field switch
    {
        SelectionField.Storey => Storeys?.Contains((subject.Source, subject.StoreyNumber)) ?? Has(subject.Storey),
        SelectionField.Class => Has(subject.Class) || Values.Any(v => IsSubtype(subject, v)),
        SelectionField.Layer => subject.Layers.Count == 0 ? Has("") : subject.Layers.Any(Has),
        SelectionField.Type => Has(subject.Type),
        SelectionField.Material => subject.Materials.Count == 0 ? Has("") : subject.Materials.Any(Has),
        SelectionField.Party => Has(subject.Party),
        SelectionField.Property => MatchesProperty(subject.Property(Key)),
        _ => Values.Contains(subject.GlobalId),
    };

    // A property that an element has twice matches by either value.
    private bool MatchesProperty(IReadOnlyList<string> values) => Values.Count == 0 ? values.All(v => v.Length == 0) : values.Any(Has);

    private static bool IsSubtype(SelectionSubject subject, string wanted) =>
        subject.Schema?.Find(wanted.ToUpperInvariant()) is { } entity
            && subject.Schema.Find(subject.Class.ToUpperInvariant())?.Is(entity.Name) == true;

    private bool Has(string value) => Values.Contains(value, StringComparer.OrdinalIgnoreCase);
}
