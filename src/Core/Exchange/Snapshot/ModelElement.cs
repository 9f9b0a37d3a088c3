namespace SteadyLintel.Exchange;

/// <summary>An element: a product that is accounted for by itself. Openings, projections and ports go with their host, spatial structure
/// above is no element.</summary>
/// <remarks>Its texts are read from the model each time they are asked for: most elements are only counted.</remarks>
/// <param name="snapshot">The model.</param>
/// <param name="number">Its place among the model's elements, from 0.</param>
/// <param name="index">The instance's position in the file.</param>
/// <param name="storey">The number of its storey in the model, -1 when it is in none.</param>
public sealed class ModelElement(ModelSnapshot snapshot, int number, int index, int storey) : SourceItem(number, storey)
{
    /// <summary>The instance's position in the file.</summary>
    public int Index => index;

    /// <summary>As written, empty when missing.</summary>
    public string GlobalId => snapshot.Model.Record(index)[0].Text ?? ""; // IfcRoot: GlobalId, OwnerHistory, Name.

    /// <inheritdoc/>
    public override string Id => GlobalId;

    /// <inheritdoc/>
    public override string Class => snapshot.Model.ClassName(index);

    /// <inheritdoc/>
    public override string Name => snapshot.Model.Record(index)[2].Text ?? "";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Layers => snapshot.Layers.Of(index);

    /// <summary>What people call it: its name, else its class.</summary>
    public string Label => Name is { Length: > 0 } name ? name : Class;
}
