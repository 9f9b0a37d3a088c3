namespace SteadyLintel.Geometry;

/// <summary>Set operations on closed meshes.</summary>
public static class Solids
{
    /// <summary>Bodies with more facets than this are refused: the partition would grow too deep.</summary>
    public const int MaxFacets = 6000;

    /// <summary>The first solid less the second.</summary>
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
    /// <exception cref="ShapeException">A body is too fine, or the result would not be closed.</exception>
    public static Mesh Intersect(Mesh a, Mesh b) => !a.Bounds().Touches(b.Bounds(), 0) ? Mesh.Empty : Run(a, b, (x, y) =>
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
    /// <exception cref="ShapeException">A body is too fine, or the result would not be closed.</exception>
    public static Mesh Unite(Mesh a, Mesh b) => !a.Bounds().Touches(b.Bounds(), 0) ? Mesh.Join([a, b]) : Run(a, b, (x, y) =>
    {
        x.ClipTo(y);
        y.ClipTo(x);
        y.Invert();
        y.ClipTo(x);
        y.Invert();
        x.Add(y.All());
        return x.All();
    });

    private static Mesh Run(Mesh a, Mesh b, Func<Bsp, Bsp, List<Facet>> operation)
    {
        if (a.TriangleCount + b.TriangleCount > MaxFacets) throw new ShapeException($"A Boolean between bodies of {a.TriangleCount} and {b.TriangleCount} facets is too fine to cut.");
        try
        {
            return FacetMesher.ToMesh(operation(new Bsp(FacetMesher.ToFacets(a)), new Bsp(FacetMesher.ToFacets(b))));
        }
        catch (InsufficientExecutionStackException)
        {
            throw new ShapeException("A Boolean between two bodies is nested too deeply to cut.");
        }
    }
}
