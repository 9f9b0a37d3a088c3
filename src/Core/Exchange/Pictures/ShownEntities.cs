using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>An entity where it is shown.</summary>
/// <param name="Entity">The entity; no insert and no table, for what they show is shown instead.</param>
/// <param name="At">From its block's coordinates into those of the space.</param>
/// <param name="Layer">The layer it is on there: what lies on layer 0 of a block is on that of its insert.</param>
/// <param name="Rgb">The colour it is seen in, 0xRRGGBB.</param>
/// <param name="Outer">What is in the space itself: the outermost insert, or the entity.</param>
internal readonly record struct ShownEntity(Entity Entity, InsertTransform At, Handle Layer, int Rgb, Entity Outer);

/// <summary>What a space of a drawing shows, inserts within inserts taken to where they are. The drawing stays as it is.</summary>
internal sealed class ShownEntities
{
    /// <summary>The colour of what has none, and of what is white on black.</summary>
    public const int Ink = 0x1C2326;

    private const int DeepestBlock = 16,
        MostArray = 400;
    private const long MostPlaces = 2_000_000;

    private readonly Drawing _drawing;
    private readonly bool _pictures;
    private long _places;
    private Entity _outer = null!;

    private ShownEntities(Drawing drawing, bool pictures) => (_drawing, _pictures) = (drawing, pictures);

    /// <summary>The entities of a space.</summary>
    /// <param name="drawing">The drawing.</param>
    /// <param name="space">Model space or a sheet.</param>
    /// <param name="pictures">Whether dimensions show their pictures; else they are entities of their own.</param>
    public static IEnumerable<ShownEntity> Of(Drawing drawing, BlockRecord space, bool pictures)
    {
        var shown = new ShownEntities(drawing, pictures);
        return space.Entities.SelectMany(e =>
        {
            shown._outer = e;
            return shown.Of(e, InsertTransform.Identity, default, Ink, 0);
        });
    }

    private IEnumerable<ShownEntity> Of(
        Entity entity,
        InsertTransform at,
        Handle blockLayer,
        int blockColour,
        int depth
    )
    {
        // Entities count like points: blocks within blocks may hold more of them than anybody could ever look at.
        if (entity.Invisible || entity is AttributeDefinition || ++_places > MostPlaces)
            return [];
        var layer = depth > 0 && _drawing.LayerName(entity.Layer) == "0" ? blockLayer : entity.Layer;
        int colour =
            entity.Colour.Index == 0 && entity.Colour.Rgb is null
                ? blockColour
                : entity.Colour.Seen ?? _drawing.Layers[layer]?.Colour.Seen ?? Ink;
        return entity switch
        {
            Insert insert => Block(insert, at, layer, colour, depth),
            Table table => Block(table.Shown(), at, layer, colour, depth),
            Dimension dimension
                when _pictures && _drawing.Blocks[dimension.Block] is { } picture && depth < DeepestBlock =>
                picture.Entities.SelectMany(e => Of(e, at, layer, colour, depth + 1)),
            _ => [new ShownEntity(entity, at, layer, colour, _outer)],
        };
    }

    private IEnumerable<ShownEntity> Block(Insert insert, InsertTransform at, Handle layer, int colour, int depth)
    {
        // Attributes that are not hidden (70, bit 1).
        var attributes = insert
            .Attributes.Where(a => (a.Flags & 1) == 0)
            .SelectMany(a => Of(a, at, layer, colour, depth));
        if (depth >= DeepestBlock || _drawing.Blocks[insert.Block] is not { } block)
            return attributes;
        return InsertTransform
            .All(insert, block, MostArray)
            .SelectMany(place => block.Entities.SelectMany(e => Of(e, place.Within(at), layer, colour, depth + 1)))
            .Concat(attributes);
    }
}
