using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>The layers of elements in a drawing: that of the order's layer table, else the source's own as DXF allows it, never two of
/// these under one name.</summary>
/// <remarks>DXF forbids some characters, allows 255, and takes no account of case: <c>A-Wall</c> and <c>A-WALL</c> become <c>A-Wall</c> and
/// <c>A-WALL-2</c>.</remarks>
internal sealed class DrawingLayerNames
{
    // Room behind a name for what a plan adds to it, _CUT, _BELOW, _ABOVE.
    private const int Longest = 240;
    private static readonly HashSet<RuleField> Needed = [RuleField.Class, RuleField.Property];
    private readonly Dictionary<string, string> _names = new(StringComparer.Ordinal);
    private readonly Dictionary<(int Source, int Element), LayerRow> _rows = [];

    /// <summary>Finds the layers of what a plan gives.</summary>
    public DrawingLayerNames(HandoverPlan plan)
    {
        var used = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        for (int s = 0; s < plan.Sources.Count && plan.Order.Layers is not null; s++)
            foreach (var element in plan.Going(s))
                if (plan.Order.Layers.Find(SelectionSubject.Of(plan.Sources[s].Snapshot, element, Needed)) is { } row)
                    _rows[(s, element.Number)] = row;
        foreach (string name in plan.Sources.SelectMany(s => s.Snapshot.Elements).Select(Source).Distinct())
        {
            string clean = LayerNames.Clean(name),
                unique = clean.Length > Longest ? clean[..Longest] : clean;
            for (int n = 2; !used.Add(unique); n++)
                unique = $"{(clean.Length > Longest - 5 ? clean[..(Longest - 5)] : clean)}-{n}";
            _names[name] = unique;
        }
    }

    /// <summary>The row of the layer table that decides about an element; null where none does.</summary>
    public LayerRow? Row(int source, ModelElement element) => _rows.GetValueOrDefault((source, element.Number));

    /// <summary>The layer an element is drawn on.</summary>
    /// <param name="source">The source's place in the order.</param>
    /// <param name="element">The element.</param>
    /// <param name="suffix">What a plan adds: <c>_CUT</c>, <c>_BELOW</c>, <c>_ABOVE</c>; empty for bodies.</param>
    public string Of(int source, ModelElement element, string suffix) =>
        (Row(source, element)?.Layer ?? _names[Source(element)]) + suffix;

    /// <summary>The rule that gave an element another layer than its own; null where it kept it.</summary>
    public string? ChangeOf(int source, ModelElement element) =>
        Row(source, element) is { } row
            ? row.Layer == Source(element)
                ? null
                : "layer by the layer table"
            : _names[Source(element)] == Source(element)
                ? null
                : "name made fit for a drawing";

    // The first layer; an element on none has its class for one.
    private static string Source(ModelElement element) => element.Layers.Count > 0 ? element.Layers[0] : element.Class;
}
