namespace SteadyLintel.Cad;

/// <summary>Takes inserts apart: their block's entities are put where the insert shows them, with its layer, colour and line type where
/// they ask for the block's.</summary>
/// <remarks>
/// Inserts within inserts are exploded too; attributes become texts. An insert stays whole when one of its entities has no exact image
/// (an opaque kind, a text scaled unlike along its axes), when it refers to another
/// file or its block is missing, or when the result would be too large. What is not here does not keep what is around it whole. Named
/// blocks that nothing shows afterwards are taken out.
/// </remarks>
public sealed class BlockExploder
{
    private const string Missing = "its block is missing",
        Elsewhere = "it refers to another file";
    private const int Deepest = 32,
        MostMade = 5_000_000,
        MostArray = 10_000;
    private readonly Drawing _drawing;
    private readonly HashSet<Handle> _open = [];
    private readonly HashSet<Handle> _takenApart = [];
    private readonly List<CadFinding> _whole = [];
    private int _made;

    private BlockExploder(Drawing drawing) => _drawing = drawing;

    /// <summary>Takes apart what can be.</summary>
    /// <param name="drawing">The drawing; changed in place.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Inserts that stay whole, with the reason.</returns>
    public static IReadOnlyList<CadFinding> Explode(Drawing drawing, CancellationToken cancel = default) =>
        new BlockExploder(drawing).Run(cancel);

    private List<CadFinding> Run(CancellationToken cancel)
    {
        foreach (var block in _drawing.Blocks.Where(b => b.IsSpace).ToList())
        {
            var entities = new List<Entity>(block.Entities.Count);
            foreach (var entity in block.Entities)
            {
                cancel.ThrowIfCancellationRequested();
                if (entity is not Insert insert)
                {
                    entities.Add(entity);
                    continue;
                }

                int before = _made,
                    told = _whole.Count;
                var parts = new List<Entity>();
                if (Reason(insert, parts, 0) is { } reason)
                {
                    _made = before;
                    // What stays whole tells for all within it.
                    _whole.RemoveRange(told, _whole.Count - told);
                    entities.Add(insert);
                    Tell(insert, reason);
                    continue;
                }

                _takenApart.Add(insert.Block);
                foreach (var part in parts)
                    Name(part, block.Handle);
                entities.AddRange(parts);
            }

            block.Entities.Clear();
            block.Entities.AddRange(entities);
        }

        Unused();
        return [.. _whole.Distinct()];
    }

    private void Tell(Insert insert, string reason) =>
        _whole.Add(
            new CadFinding(
                "CAD-INSERT-WHOLE",
                $"handle {insert.Handle}",
                $"The insert of '{_drawing.Blocks[insert.Block]?.Name}' was not exploded: {reason}."
            )
        );

    // Adds what an insert shows; tells why it cannot be exploded.
    private string? Reason(Insert insert, List<Entity> parts, int depth)
    {
        if (_drawing.Blocks[insert.Block] is not { } block)
            return Missing;
        if (block.IsXref)
            return Elsewhere;
        if (depth > Deepest || !_open.Add(block.Handle))
            return "its block holds itself";
        try
        {
            if ((long)Math.Max(1, insert.Array.Columns) * Math.Max(1, insert.Array.Rows) > MostArray)
                return "its array is too large";
            foreach (var place in InsertTransform.All(insert, block, MostArray))
            {
                var map = new EntityTransform(place);
                foreach (var entity in block.Entities)
                    if (Add(entity, map, insert, parts, depth) is { } reason)
                        return reason;
            }

            foreach (var attribute in insert.Attributes)
                parts.Add(AsText(attribute, insert));
            return null;
        }
        finally
        {
            _open.Remove(block.Handle);
        }
    }

    private string? Add(Entity entity, EntityTransform map, Insert insert, List<Entity> parts, int depth)
    {
        // A definition shows nothing itself: its attribute does.
        if (entity is AttributeDefinition)
            return null;
        if (++_made > MostMade)
            return "the drawing would become too large";
        var source = entity is Dimension dimension ? Picture(dimension) : entity;
        if (source is Insert nested)
        {
            var inner = new List<Entity>();
            if (Reason(nested, inner, depth + 1) is { } reason)
            {
                if (reason is not (Missing or Elsewhere))
                    return reason;
                inner.Add(nested);
                Tell(nested, reason);
            }

            foreach (var part in inner)
            {
                if (map.Of(part) is not { } moved)
                    return $"a {part.Type} in it cannot be scaled so";
                Inherit(moved, insert);
                parts.Add(moved);
            }

            return null;
        }

        if (map.Of(source) is not { } image)
            return source is OpaqueEntity
                ? $"a {source.Type} in it is not understood"
                : $"a {source.Type} in it cannot be scaled so";
        Inherit(image, insert);
        parts.Add(image);
        return null;
    }

    // A dimension within a block becomes what its own block shows.
    private static Entity Picture(Dimension dimension) =>
        new Insert
        {
            Block = dimension.Block,
            Layer = dimension.Layer,
            Colour = dimension.Colour,
            LineType = dimension.LineType,
            LineWeight = dimension.LineWeight,
        };

    private Text AsText(AttributeEntity attribute, Insert insert)
    {
        var text = (Text)new EntityTransform(InsertTransform.Identity).Of(attribute)!;
        Inherit(text, insert);
        return text;
    }

    private void Inherit(Entity part, Insert insert)
    {
        if (_drawing.LayerName(part.Layer) == "0")
            part.Layer = insert.Layer;
        if (part.Colour == CadColour.ByBlock)
            part.Colour = insert.Colour;
        if (part.LineType == _drawing.ByBlock && !part.LineType.IsNull)
            part.LineType = insert.LineType;
        if (part.LineWeight == LineWeights.ByBlock)
            part.LineWeight = insert.LineWeight;
    }

    private void Name(Entity entity, Handle owner)
    {
        (entity.Handle, entity.Owner) = (_drawing.NextHandle(), owner);
        foreach (var part in entity.Parts)
            Name(part, entity.Handle);
        if (entity is CompoundEntity { Parts.Count: > 0 } compound)
            compound.End = _drawing.NextHandle();
    }

    // Of the blocks that were exploded and those within them, the ones that nothing shows any more.
    private void Unused()
    {
        var candidates = Reached(_drawing.Blocks.Where(b => _takenApart.Contains(b.Handle)));
        candidates.RemoveWhere(h =>
            _drawing.Blocks[h] is not { IsXref: false, IsAnonymous: false, IsSpace: false } block
            || block.Name.StartsWith('_')
        );
        var used = Reached(_drawing.Blocks.Where(b => !candidates.Contains(b.Handle)));
        foreach (
            var block in _drawing.Blocks.Where(b => candidates.Contains(b.Handle) && !used.Contains(b.Handle)).ToList()
        )
            _drawing.Blocks.Remove(block);
    }

    private HashSet<Handle> Reached(IEnumerable<BlockRecord> from)
    {
        var reached = new HashSet<Handle>();
        var open = new Stack<BlockRecord>(from);
        while (open.TryPop(out var block))
        {
            if (!reached.Add(block.Handle))
                continue;
            foreach (var entity in block.Entities)
                if (
                    _drawing.Blocks[
                        entity switch
                        {
                            Insert i => i.Block,
                            Dimension d => d.Block,
                            _ => default,
                        }
                    ] is
                    { } next
                )
                    open.Push(next);
        }

        return reached;
    }
}
