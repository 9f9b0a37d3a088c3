using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>What a drawing holds and what is odd about it.</summary>
/// <param name="Format"><c>dwg</c>, <c>dxf</c> or <c>dxf-binary</c>.</param>
/// <param name="Version">$ACADVER.</param>
/// <param name="Unit">The name of the drawing unit, <c>unknown</c> when nothing is said.</param>
/// <param name="Metres">Metres of a unit, or null.</param>
/// <param name="Extents">The box of model space in drawing units.</param>
/// <param name="Layers">The layers in order of their names.</param>
/// <param name="Entities">Kinds of entities with counts, in model space, layouts and blocks.</param>
/// <param name="Blocks">Blocks that are no layouts.</param>
/// <param name="Layouts">Layouts in the order of their tabs.</param>
/// <param name="ExternalReferences">Other files it draws on: drawings, pictures, pages.</param>
/// <param name="Texts">How many texts there are in model space and layouts.</param>
/// <param name="Findings">What is odd.</param>
/// <param name="Place">Where it says it is on the earth, or null.</param>
public sealed record DrawingReport(
    string Format,
    string Version,
    string Unit,
    double? Metres,
    Box Extents,
    IReadOnlyList<DrawingLayer> Layers,
    IReadOnlyList<NamedCount> Entities,
    IReadOnlyList<DrawingBlock> Blocks,
    IReadOnlyList<DrawingLayout> Layouts,
    IReadOnlyList<DrawingReference> ExternalReferences,
    int Texts,
    IReadOnlyList<Finding> Findings,
    DrawingPlace? Place = null
);

/// <summary>A layer: colour as 0xRRGGBB, switches, and how many entities of model space and layouts are on it.</summary>
public sealed record DrawingLayer(string Name, int Rgb, bool On, bool Frozen, bool Locked, int Count);

/// <summary>A block: how many entities it has and how often it is inserted.</summary>
public sealed record DrawingBlock(string Name, int Entities, int Inserts);

/// <summary>A layout with its paper in millimetres and the scales of its viewports (0.01 is 1:100 where model space is in
/// millimetres). Entities are what is drawn on it, the viewport of the paper itself left out; null in reports from before they
/// were counted.</summary>
public sealed record DrawingLayout(
    string Name,
    double PaperWidth,
    double PaperHeight,
    IReadOnlyList<double> ViewportScales,
    int? Entities = null
);

/// <summary>Another file that is drawn on, and whether the writer had it.</summary>
public sealed record DrawingReference(string Name, string Path, bool Loaded)
{
    /// <summary>Whether it is a drawing, to be found among the job's deliveries.</summary>
    public bool IsDrawing =>
        Path.EndsWith(".dwg", StringComparison.OrdinalIgnoreCase)
        || Path.EndsWith(".dxf", StringComparison.OrdinalIgnoreCase);
}
