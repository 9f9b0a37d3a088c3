namespace SteadyLintel.Exchange;

/// <summary>One rule: elements whose field is among the values are kept (<see cref="Keep"/>), or left out.</summary>
/// <param name="Field">What to look at.</param>
/// <param name="Values">The values, compared without regard to case.</param>
/// <param name="Keep">True: whatever does not match is left out. False: whatever matches is left out.</param>
public sealed record SelectionRule(SelectionField Field, IReadOnlyList<string> Values, bool Keep)
{
    /// <summary>The rule's name in a reconciliation: <c>storey not chosen</c>, <c>class left out</c>.</summary>
    public string Reason => $"{(Field == SelectionField.GlobalId ? "element" : Field.ToString().ToLowerInvariant())} {(Keep ? "not chosen" : "left out")}";

    internal bool LeavesOut(SelectionSubject subject) => Matches(subject) != Keep;

    private bool Matches(SelectionSubject subject) => Field switch
    {
        SelectionField.Storey => Has(subject.Storey),
        SelectionField.Class => Has(subject.Class) || Values.Any(v => IsSubtype(subject, v)),
        SelectionField.Layer => subject.Layers.Count == 0 ? Has("") : subject.Layers.Any(Has),
        _ => Values.Contains(subject.GlobalId),
    };

    private static bool IsSubtype(SelectionSubject subject, string wanted) =>
        subject.Schema.Find(wanted.ToUpperInvariant()) is { } entity && subject.Schema.Find(subject.Class.ToUpperInvariant())?.Is(entity.Name) == true;

    private bool Has(string value) => Values.Contains(value, StringComparer.OrdinalIgnoreCase);
}
