namespace SteadyLintel.Geometry;

/// <summary>Set operations on closed meshes.</summary>
public static class Solids
{
    /// <summary>Bodies with more facets than this are refused: the partition would grow too deep.</summary>
    public const int MaxFacets = 6000;

    // Beyond this, metres, doubles are farther apart than planes are thick: everything would be cut by everything.
    private const double Farthest = 1e8;

    /// <summary>The first solid less the second.</summary>
    /// <param name="a">A closed body, metres.</param>
    /// <param name="b">Another, in the same frame.</param>
    /// <exception cref="ShapeException">A body is too fine, or the result would not be closed.</exception>
    public static Mesh Subtract(Mesh a, Mesh b) => !a.Bounds().Touches(b.Bounds(), 0) ? a : Run(a, b, (x, y) =>
            {
                x.Invert();
                x.ClipTo(y);
                y.ClipTo(x);
                y.Invert();
                y.ClipTo(x);
                y.Invert();
                x.Add(y.All());
                x.Invert();
                return x.All();
            });

    /// <summary>What both solids share.</summary>
    /// <param name="a">A closed body, metres.</param>
    /// <param name="b">Another, in the same frame.</param>
    /// <exception cref="ShapeException">A body is too fine, or the result would not be closed.</exception>
    public static Mesh Intersect(Mesh a, Mesh b) =>
        !a.Bounds().Touches(b.Bounds(), 0) ? Mesh.Empty : Run(a, b, (x, y) =>
            {
                x.Invert();
                y.ClipTo(x);
                y.Invert();
                x.ClipTo(y);
                y.ClipTo(x);
                x.Add(y.All());
                x.Invert();
                return x.All();
            });

    /// <summary>Both solids in one.</summary>
    /// <param name="a">A closed body, metres.</param>
    /// <param name="b">Another, in the same frame.</param>
    /// <exception cref="ShapeException">A body is too fine, or the result would not be closed.</exception>
    public static Mesh Unite(Mesh a, Mesh b) =>
        !a.Bounds().Touches(b.Bounds(), 0) ? Mesh.Join([a, b]) : Run(a, b, (x, y) =>
            {
                x.ClipTo(y);
                y.ClipTo(x);
                y.Invert();
                y.ClipTo(x);
                y.Invert();
                x.Add(y.All());
                return x.All();
            });

    // Planes that nearly coincide can leave a gap. Then the bodies are tried on a grid, and moved apart by some micrometres.
    private static Mesh Run(Mesh a, Mesh b, Func<Bsp, Bsp, List<Facet>> operation)
    {
        if (a.TriangleCount + b.TriangleCount > MaxFacets)
            throw new ShapeException(
                $"A Boolean between bodies of {a.TriangleCount} and {b.TriangleCount} facets is too fine to cut."
            );
        if (!IsNear(a.Bounds()) || !IsNear(b.Bounds()))
            throw new ShapeException("A Boolean between bodies more than 100 000 km from their origin cannot be cut.");
        try
        {
            var result = Once(a, b, operation);
            if (IsClosed(result) || !IsClosed(a) || !IsClosed(b))
                return result;
            if (Once(OnGrid(a), OnGrid(b), operation) is var snapped && IsClosed(snapped))
                return snapped;
            foreach (var shift in Shifts)
                if (Once(a, b.Map(Frame.At(shift)), operation) is var moved && IsClosed(moved))
                    return moved;
        }
        catch (InsufficientExecutionStackException)
        {
            throw new ShapeException("A Boolean between two bodies is nested too deeply to cut.");
        }

        throw new ShapeException("A Boolean between two bodies whose faces nearly coincide would leave a gap.");
    }

    private static bool IsNear(Box box) =>
        box.IsEmpty
        || (
            Math.Max(Math.Max(-box.Min.X, -box.Min.Y), -box.Min.Z) < Farthest
            && Math.Max(Math.Max(box.Max.X, box.Max.Y), box.Max.Z) < Farthest
        );

    private const double Grid = 4e-6;

    private static readonly Vec3[] Shifts =
    [
        new(5.1e-6, 3.3e-6, 4.7e-6),
        new(-4.3e-6, -5.9e-6, -3.1e-6),
        new(9.7e-6, -8.3e-6, 1.13e-5),
    ];

    private static Mesh Once(Mesh a, Mesh b, Func<Bsp, Bsp, List<Facet>> operation) =>
        FacetMesher.ToMesh(operation(new Bsp(FacetMesher.ToFacets(a)), new Bsp(FacetMesher.ToFacets(b))));

    private static bool IsClosed(Mesh mesh) => mesh.Triangles.Length == 0 || MassProperties.Of(mesh).Closed;

    private static Mesh OnGrid(Mesh mesh) =>
        mesh with
        {
            Points = Array.ConvertAll(mesh.Points, p => new Vec3(
                Math.Round(p.X / Grid) * Grid,
                Math.Round(p.Y / Grid) * Grid,
                Math.Round(p.Z / Grid) * Grid
            )),
        };
}
