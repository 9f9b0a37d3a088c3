namespace SteadyLintel.Exchange;

/// <summary>What an order can name: kept sets and views, and mapping tables. In a job they are in its library, at the terminal they are
/// files.</summary>
public sealed record OrderLibrary
{
    /// <summary>Nothing.</summary>
    public static readonly OrderLibrary Empty = new();

    /// <summary>Kept sets by name.</summary>
    public IReadOnlyDictionary<string, SetDocument> Sets { get; init; } = new Dictionary<string, SetDocument>();

    /// <summary>Kept views by name.</summary>
    public IReadOnlyDictionary<string, ViewDocument> Views { get; init; } = new Dictionary<string, ViewDocument>();

    /// <summary>Layer tables by name.</summary>
    public IReadOnlyDictionary<string, LayerTable> Layers { get; init; } = new Dictionary<string, LayerTable>();

    /// <summary>Class tables by name.</summary>
    public IReadOnlyDictionary<string, ClassTable> Classes { get; init; } = new Dictionary<string, ClassTable>();

    /// <summary>Name tables by name.</summary>
    public IReadOnlyDictionary<string, NameTable> Names { get; init; } = new Dictionary<string, NameTable>();

    /// <summary>Property lists by name.</summary>
    public IReadOnlyDictionary<string, PropertyList> Properties { get; init; } = new Dictionary<string, PropertyList>();

    /// <summary>What sets or views choose together.</summary>
    /// <exception cref="OrderException">There is none of a name.</exception>
    internal Selection Chosen(string what, IReadOnlyList<string> names, int depth)
    {
        var selections = names.Select(n =>
            what == "set"
                ? OrderReader.Rules(Named(Sets, what, n).Rules, this, depth)
                : OrderReader.Rules(Named(Views, what, n).Rules(), this, depth)
        );
        // Several are chosen together: what one of them lets go.
        return selections.ToList() is [var one]
            ? one
            : new Selection([
                .. names.Select(n => new SelectionRule(SelectionVerb.With, RuleField.Find(what)!, [n])
                {
                    Inside = Chosen(what, [n], depth),
                }),
            ]);
    }

    /// <summary>The one of a name.</summary>
    /// <exception cref="OrderException">There is none.</exception>
    internal static T Named<T>(IReadOnlyDictionary<string, T> kept, string what, string name) =>
        kept.TryGetValue(name, out var found)
            ? found
            : throw new OrderException($"There is no {what} '{name}' to order by.{NearestNames.Of(name, kept.Keys)}");
}
