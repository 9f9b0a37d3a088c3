namespace SteadyLintel.Exchange;

/// <summary>Ordered rules applied to a model's elements; each element remembers the rule that decided.</summary>
/// <param name="Rules">The first rule that leaves an element out decides.</param>
public sealed record Selection(IReadOnlyList<SelectionRule> Rules)
{
    /// <summary>Everything.</summary>
    public static readonly Selection All = new([]);

    /// <summary>The reason a subject is left out, or null when it goes.</summary>
    public string? Decide(SelectionSubject subject) => Rules.FirstOrDefault(r => r.LeavesOut(subject))?.Reason;

    /// <summary>For every element, in order, the reason it is left out, or null when it goes.</summary>
    public IReadOnlyList<string?> Decide(ModelSnapshot snapshot) => [.. snapshot.Elements.Select(e => Decide(SelectionSubject.Of(snapshot, e)))];
}
