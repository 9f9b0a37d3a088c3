using System.Runtime.CompilerServices;

namespace SteadyLintel.Exchange;

/// <summary>The targets there are: reader, schema, page, terminal, preview and run ask this list alone.</summary>
public static class TargetCatalog
{
    /// <summary>IFC.</summary>
    public static Target Ifc { get; } = new ModelTarget();

    /// <summary>Triangles with colours, for those who only look (glTF 2.0, binary).</summary>
    public static Target Glb { get; } = new TriangleTarget(TriangleKind.Glb);

    /// <summary>Triangles by element (Wavefront OBJ).</summary>
    public static Target Obj { get; } = new TriangleTarget(TriangleKind.Obj);

    /// <summary>Triangles to print, binary STL.</summary>
    public static Target Stl { get; } = new TriangleTarget(TriangleKind.Stl);

    /// <summary>Triangles to print, STL as text.</summary>
    public static Target StlText { get; } = new TriangleTarget(TriangleKind.StlText);

    /// <summary>A drawing with elements as bodies.</summary>
    public static Target DrawingMeshes { get; } = new DrawingTarget(DrawnAs.Bodies);

    /// <summary>A drawing with a plan of each storey.</summary>
    public static Target DrawingPlan { get; } = new DrawingTarget(DrawnAs.Plan);

    /// <summary>A drawing of each section or elevation.</summary>
    public static Target DrawingSection { get; } = new DrawingTarget(DrawnAs.Section);

    // Orders are read before anything is written: what they can be written into must be known as soon as the assembly is.
#pragma warning disable CA2255
    [ModuleInitializer]
    internal static void Register()
#pragma warning restore CA2255
    {
        foreach (var target in (Target[])[Ifc, Glb, Obj, Stl, StlText, DrawingMeshes, DrawingPlan, DrawingSection])
            FileForm.Add(target);
    }
}
