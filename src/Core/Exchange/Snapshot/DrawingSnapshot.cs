using SteadyLintel.Cad;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>An entity of a drawing, in model space, on a sheet or in a block.</summary>
/// <param name="drawing">The drawing.</param>
/// <param name="number">Its place among the drawing's entities, from 0.</param>
/// <param name="entity">The entity.</param>
public sealed class DrawingItem(Drawing drawing, int number, Entity entity) : SourceItem(number, -1)
{
    /// <summary>The entity itself.</summary>
    public Entity Entity => entity;

    /// <inheritdoc/>
    public override string Id => entity.Handle.ToString();

    /// <inheritdoc/>
    public override string Class => entity.Type;

    /// <inheritdoc/>
    public override string Name =>
        entity switch
        {
            TextEntity text => PlainText.Of(text.Value),
            MText text => PlainText.OfMText(text.Value),
            _ => "",
        };

    /// <inheritdoc/>
    public override IReadOnlyList<string> Layers => [drawing.LayerName(entity.Layer)];
}

/// <summary>A drawing read for use: its entities, those of blocks included.</summary>
/// <param name="drawing">The drawing.</param>
public sealed class DrawingSnapshot(Drawing drawing) : SourceSnapshot
{
    /// <summary>The name of the set that the attributes of an insert make, each under its tag.</summary>
    public const string Attributes = "Attributes";

    private readonly List<DrawingItem> _items =
    [
        .. drawing.Blocks.SelectMany(b => b.Entities).Select((e, n) => new DrawingItem(drawing, n, e)),
    ];

    /// <summary>The drawing.</summary>
    public Drawing Drawing => drawing;

    /// <inheritdoc/>
    public override IReadOnlyList<DrawingItem> Items => _items;

    /// <inheritdoc/>
    public override IfcSchema? Schema => null;

    /// <inheritdoc/>
    public override string StoreyName(int storey) => "";

    /// <inheritdoc/>
    public override string TypeName(SourceItem item) =>
        item is DrawingItem { Entity: Insert insert } ? drawing.Blocks[insert.Block]?.Name ?? "" : "";

    /// <inheritdoc/>
    public override IReadOnlyList<string> MaterialNames(SourceItem item) => [];

    /// <inheritdoc/>
    public override IReadOnlyList<PropertySet> PropertySets(SourceItem item) =>
        item is DrawingItem { Entity: Insert { Attributes: { Count: > 0 } attributes } }
            ?
            [
                new PropertySet(
                    -1,
                    Attributes,
                    false,
                    false,
                    [.. attributes.Select(a => new Property(a.Tag, PlainText.Of(a.Value), "", ""))]
                ),
            ]
            : [];
}
