using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>The block of a <see cref="MultiLeader"/>.</summary>
public sealed class MultiLeaderBlock
{
    private const int Matrix = 16;

    /// <summary>The block's record (341).</summary>
    public Handle Block { get; set; }

    /// <summary>Normal, place and scale (14, 15, 16), and the turn (46).</summary>
    public (Vec3 Normal, Vec3 Place, Vec3 Scale, double Rotation) Position { get; set; } =
        (Vec3.AxisZ, Vec3.Zero, new(1, 1, 1), 0);

    /// <summary>The colour (93).</summary>
    public CadColour Colour { get; set; } = CadColour.ByBlock;

    /// <summary>The transformation, row by row (47).</summary>
    public List<double> Transformation { get; } = [];

    internal void Exchange(DwgFields d)
    {
        Block = d.Handle(Block, HandleKind.SoftPointer);
        Position = (
            d.Point(14, Position.Normal),
            d.Point(15, Position.Place),
            d.Point(16, Position.Scale),
            d.Double(Position.Rotation)
        );
        Colour = d.Colour(0, Colour);
        Fill();
        for (int i = 0; i < Matrix; i++)
            Transformation[i] = d.Double(Transformation[i]);
    }

    /// <summary>Makes the transformation one of sixteen numbers: scale and place where fewer were given.</summary>
    internal void Fill()
    {
        if (Transformation.Count == Matrix)
            return;
        Transformation.Clear();
        var (_, place, scale, _) = Position;
        Transformation.AddRange([scale.X, 0, 0, place.X, 0, scale.Y, 0, place.Y, 0, 0, scale.Z, place.Z, 0, 0, 0, 1]);
    }
}
