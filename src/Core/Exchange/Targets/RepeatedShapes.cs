using SteadyLintel.Cad;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Shapes that many elements share become blocks: the first use waits, and is put as it is when no second one comes.</summary>
/// <param name="drawing">The drawing.</param>
/// <param name="unit">Its unit.</param>
/// <param name="bodies">The entities of a mesh.</param>
internal sealed class RepeatedShapes(Drawing drawing, LengthUnit unit, Func<Mesh, IEnumerable<Entity>> bodies)
{
    private readonly Dictionary<(int Source, int Item, Colour Colour), Use> _uses = [];

    /// <summary>Takes a piece when it can become an insert.</summary>
    /// <param name="source">The source, since items are named within it.</param>
    /// <param name="part">The piece.</param>
    /// <param name="world">Where it is, metres.</param>
    /// <param name="put">Puts an entity into the drawing; kept for a first use.</param>
    /// <returns>False when it has to be put as it is: it is not shared, or no insert can place it so.</returns>
    public bool Take(int source, ShapePart part, Frame world, Action<Entity> put)
    {
        if (part.Shared < 0 || Placed(world) is null)
            return false;
        var key = (source, part.Shared, part.Colour);
        if (!_uses.TryGetValue(key, out var use))
            _uses[key] = new Use(part.Mesh, world, put);
        else
        {
            if (use.Block is null)
            {
                use.Block = Block(source, part);
                use.Put(Insert(use.Block, use.World));
            }

            put(Insert(use.Block, world));
        }

        return true;
    }

    /// <summary>Puts what was used once.</summary>
    public void Finish()
    {
        foreach (var use in _uses.Values.Where(u => u.Block is null))
        foreach (var body in bodies(use.Mesh.Map(use.World)))
            use.Put(body);
        _uses.Clear();
    }

    // On layer 0 and in the block's colour, so that every insert shows it in its own.
    private BlockRecord Block(int source, ShapePart part)
    {
        var block = drawing.AddBlock(
            FormattableString.Invariant(
                $"SHAPE-{source + 1}-{part.Shared}-{part.Colour.R:X2}{part.Colour.G:X2}{part.Colour.B:X2}{part.Colour.A:X2}"
            )
        );
        foreach (var body in bodies(part.Mesh))
        {
            body.Colour = CadColour.ByBlock;
            drawing.Add(body, block);
        }

        return block;
    }

    private Insert Insert(BlockRecord block, Frame world)
    {
        var insert = Placed(world)!;
        insert.Block = block.Handle;
        return insert;
    }

    // Scales along the axes, a rotation about the normal; null for what is skewed.
    private Insert? Placed(Frame world)
    {
        (double x, double y, double z) = (world.X.Length, world.Y.Length, world.Z.Length);
        if (
            Math.Abs(world.X.Dot(world.Y)) + Math.Abs(world.Y.Dot(world.Z)) + Math.Abs(world.Z.Dot(world.X))
                > 1e-9 * x * y * z
            || x * y * z < 1e-12
        )
            return null;
        var normal = world.Z.Unit();
        var along = ObjectCoordinates.FromWorld(world.X.Unit(), normal);
        double rotation = Math.Atan2(along.Y, along.X);
        bool mirrored = world.Determinant < 0;
        return new Insert
        {
            Location = ObjectCoordinates.FromWorld(world.Origin * (1 / unit.Metres), normal),
            Normal = normal,
            Rotation = rotation,
            Scale = new Vec3(x, mirrored ? -y : y, z),
        };
    }

    private sealed class Use(Mesh mesh, Frame world, Action<Entity> put)
    {
        public Mesh Mesh { get; } = mesh;

        public Frame World { get; } = world;

        public Action<Entity> Put { get; } = put;

        public BlockRecord? Block { get; set; }
    }
}
