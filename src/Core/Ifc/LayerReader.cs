namespace SteadyLintel.Ifc;

/// <summary>Presentation layers of products, assigned to their representations or to the items in them.</summary>
public sealed class LayerReader
{
    private readonly IfcModel _model;
    private readonly Links _layersOf;

    /// <summary>Reads every IfcPresentationLayerAssignment.</summary>
    /// <param name="model">The model.</param>
    public LayerReader(IfcModel model)
    {
        _model = model;
        var links = new Links.Builder();
        var names = new List<string>();
        foreach (int layer in model.OfType("IfcPresentationLayerAssignment"))
        {
            names.Add(model.Name(layer));
            foreach (int item in model.Refs(layer, "AssignedItems"))
                links.Add(item, layer);
        }

        _layersOf = links.Build();
        Names = [.. names.Distinct()];
    }

    /// <summary>All layer names, in file order.</summary>
    public IReadOnlyList<string> Names { get; }

    /// <summary>The layers of a product, without repeats, those of its representations first.</summary>
    /// <param name="product">Its position among the instances of the file.</param>
    public IReadOnlyList<string> Of(int product)
    {
        if (Names.Count == 0)
            return [];
        var names = new List<string>();
        foreach (int representation in _model.Refs(_model.Ref(product, "Representation"), "Representations"))
            Add(representation, names, 0);
        return names;
    }

    private void Add(int representation, List<string> names, int depth)
    {
        Collect(representation, names);
        foreach (int item in _model.Refs(representation, "Items"))
        {
            Collect(item, names);
            if (
                depth < 5
                && _model.Is(item, "IfcMappedItem")
                && _model.Ref(_model.Ref(item, "MappingSource"), "MappedRepresentation") is >= 0 and var mapped
            )
                Add(mapped, names, depth + 1);
        }
    }

    private void Collect(int item, List<string> names)
    {
        foreach (int layer in _layersOf[item])
        {
            string name = _model.Name(layer);
            if (!names.Contains(name))
                names.Add(name);
        }
    }
}
