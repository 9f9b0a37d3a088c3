namespace SteadyLintel.Exchange;

/// <summary>One rule: elements whose field is among the values are kept (<see cref="Keep"/>), or left out.</summary>
/// <param name="Field">What to look at.</param>
/// <param name="Values">The values, compared without regard to case.</param>
/// <param name="Keep">True: whatever does not match is left out. False: whatever matches is left out.</param>
public sealed record SelectionRule(SelectionField Field, IReadOnlyList<string> Values, bool Keep)
{
    /// <summary>The rule's name in a reconciliation: <c>storey not chosen</c>, <c>class left out</c>.</summary>
    public string Reason => $"{(Field == SelectionField.GlobalId ? "element" : Field.ToString().ToLowerInvariant())} {(Keep ? "not chosen" : "left out")}";

    internal bool LeavesOut(ModelSnapshot snapshot, ModelElement element) => Matches(snapshot, element) != Keep;

    private bool Matches(ModelSnapshot snapshot, ModelElement element) => Field switch
    {
        SelectionField.Storey => Has(snapshot.StoreyName(element.Storey)) || (element.Storey >= 0 && Values.Contains(snapshot.Structure.Storeys[element.Storey].GlobalId)),
        SelectionField.Class => Has(element.Class) || Values.Any(v => snapshot.Model.Schema.Find(v.ToUpperInvariant()) is { } entity && snapshot.Model.Is(element.Index, entity.Name)),
        SelectionField.Layer => element.Layers.Count == 0 ? Has("") : element.Layers.Any(Has),
        _ => Values.Contains(element.GlobalId),
    };

    private bool Has(string value) => Values.Contains(value, StringComparer.OrdinalIgnoreCase);
}
