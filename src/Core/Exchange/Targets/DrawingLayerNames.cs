using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>The names of layers in a drawing: a layer of a source as DXF allows it, never two of them under one name.</summary>
/// <remarks>DXF forbids some characters, allows 255, and takes no account of case: <c>A-Wall</c> and <c>A-WALL</c> become <c>A-Wall</c> and
/// <c>A-WALL-2</c>.</remarks>
internal sealed class DrawingLayerNames
{
    // Room behind a name for what a plan adds to it, _CUT, _BELOW, _ABOVE.
    private const int Longest = 240;
    private readonly Dictionary<string, string> _names = new(StringComparer.Ordinal);

    public DrawingLayerNames(IReadOnlyList<HandoverSource> sources)
    {
        var used = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        foreach (string name in sources.SelectMany(s => s.Snapshot.Elements).Select(Source).Distinct())
        {
            string clean = LayerNames.Clean(name), unique = clean.Length > Longest ? clean[..Longest] : clean;
            for (int n = 2; !used.Add(unique); n++) unique = $"{(clean.Length > Longest - 5 ? clean[..(Longest - 5)] : clean)}-{n}";
            _names[name] = unique;
        }
    }

    /// <summary>The layer an element is drawn on.</summary>
    /// <param name="element">The element.</param>
    /// <param name="suffix">What a plan adds: <c>_CUT</c>, <c>_BELOW</c>, <c>_ABOVE</c>; empty for bodies.</param>
    public string Of(ModelElement element, string suffix) => _names[Source(element)] + suffix;

    /// <summary>Whether the layer's name had to be changed.</summary>
    public bool IsChanged(ModelElement element) => Source(element) is var name && _names[name] != name;

    // The first layer; an element on none has its class for one.
    private static string Source(ModelElement element) => element.Layers.Count > 0 ? element.Layers[0] : element.Class;
}
