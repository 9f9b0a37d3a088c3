using SteadyLintel.Exchange;

namespace SteadyLintel.Web;

/// <summary>The values that a rule can be given.</summary>
/// <param name="Line">The rule's place in the list.</param>
/// <param name="Values">The values with how many elements have each.</param>
public sealed record RuleValues(int Line, IReadOnlyList<NamedCount> Values);
