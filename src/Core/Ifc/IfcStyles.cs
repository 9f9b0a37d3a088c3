namespace SteadyLintel.Ifc;

/// <summary>Colours of representation items, from styled items and from materials with a representation.</summary>
public sealed class IfcStyles
{
    private readonly Dictionary<int, Colour> _items = [];
    private readonly Dictionary<int, Colour> _materials = [];
    private readonly Dictionary<int, int> _maps = [];
    private readonly IfcModel _model;

    /// <summary>Reads every IfcStyledItem.</summary>
    /// <param name="model">The model.</param>
    public IfcStyles(IfcModel model)
    {
        _model = model;
        foreach (int styled in model.OfType("IfcStyledItem"))
        {
            int item = model.Ref(styled, "Item");
            if (item >= 0 && ColourOf(styled) is { } colour)
                _items.TryAdd(item, colour);
        }

        foreach (int map in model.OfType("IfcIndexedColourMap"))
            if (model.Ref(map, "MappedTo") is >= 0 and var set)
                _maps.TryAdd(set, map);
        FacesAreStyled = _items.Keys.Any(i => model.Is(i, "IfcFace"));

        foreach (int definition in model.OfType("IfcMaterialDefinitionRepresentation"))
        {
            int material = model.Ref(definition, "RepresentedMaterial");
            foreach (int representation in model.Refs(definition, "Representations"))
            foreach (int item in model.Refs(representation, "Items"))
                if (model.Is(item, "IfcStyledItem") && ColourOf(item) is { } colour)
                    _materials.TryAdd(material, colour);
        }
    }

    /// <summary>The colour of a representation item, null when it has no style.</summary>
    /// <param name="item">Its position among the instances of the file.</param>
    public Colour? Item(int item) => _items.TryGetValue(item, out var colour) ? colour : null;

    /// <summary>Whether some face of a shell has a style of its own.</summary>
    public bool FacesAreStyled { get; }

    /// <summary>The colours of the faces of a tessellation, in their order (IfcIndexedColourMap); null when it has no map.</summary>
    /// <param name="set">Its position among the instances of the file.</param>
    public IReadOnlyList<Colour?>? Faces(int set)
    {
        if (!_maps.TryGetValue(set, out int map))
            return null;
        var colours = new List<Colour?>();
        double opacity = _model.Get(map, "Opacity").Real;
        byte alpha = Byte(double.IsNaN(opacity) ? 1 : opacity);
        Span<double> rgb = stackalloc double[3];
        foreach (var item in _model.Get(_model.Ref(map, "Colours"), "ColourList").Items)
            colours.Add(item.Reals(rgb) == 3 ? new Colour(Byte(rgb[0]), Byte(rgb[1]), Byte(rgb[2]), alpha) : null);
        var faces = new List<Colour?>();
        foreach (var index in _model.Get(map, "ColourIndex").Items)
            faces.Add(index.Integer is var n && n >= 1 && n <= colours.Count ? colours[n - 1] : null);
        return faces;
    }

    /// <summary>The colour of a material, null when it has no style.</summary>
    /// <param name="material">Its position among the instances of the file.</param>
    public Colour? Material(int material) => _materials.TryGetValue(material, out var colour) ? colour : null;

    private Colour? ColourOf(int styled)
    {
        foreach (int style in _model.Refs(styled, "Styles"))
        {
            // IFC2X3 wraps styles in an assignment; IFC4 allows both.
            int[] styles = _model.Is(style, "IfcPresentationStyleAssignment") ? _model.Refs(style, "Styles") : [style];
            foreach (int surface in styles.Where(s => _model.Is(s, "IfcSurfaceStyle")))
            foreach (int element in _model.Refs(surface, "Styles"))
                if (_model.Is(element, "IfcSurfaceStyleShading"))
                    return Shading(element);
        }

        return null;
    }

    private Colour? Shading(int element)
    {
        int rgb = _model.Ref(element, "SurfaceColour");
        if (rgb < 0)
            return null;
        double clear = _model.Get(element, "Transparency").Real;
        return new Colour(
            Byte(_model.Get(rgb, "Red").Real),
            Byte(_model.Get(rgb, "Green").Real),
            Byte(_model.Get(rgb, "Blue").Real),
            Byte(1 - (double.IsNaN(clear) ? 0 : clear))
        );
    }

    private static byte Byte(double part) =>
        (byte)Math.Clamp(Math.Round((double.IsNaN(part) ? 0 : part) * 255), 0, 255);
}
