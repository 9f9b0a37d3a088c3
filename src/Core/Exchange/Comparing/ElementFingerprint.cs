using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Where an element lies, in its source's frame, metres.</summary>
/// <param name="Centre">The centroid of its surface; its origin when it has no shape.</param>
/// <param name="Origin">The origin of its placement.</param>
/// <param name="X">The X axis of its placement.</param>
/// <param name="Z">The Z axis of its placement.</param>
public readonly record struct ElementPlace(Vec3 Centre, Vec3 Origin, Vec3 X, Vec3 Z)
{
    /// <summary>The numbers, as they are kept: centre, origin, X, Z.</summary>
    public double[] ToArray() =>
        [Centre.X, Centre.Y, Centre.Z, Origin.X, Origin.Y, Origin.Z, X.X, X.Y, X.Z, Z.X, Z.Y, Z.Z];

    /// <summary>The place, from kept numbers.</summary>
    public static ElementPlace Of(double[] n) =>
        new(new(n[0], n[1], n[2]), new(n[3], n[4], n[5]), new(n[6], n[7], n[8]), new(n[9], n[10], n[11]));

    /// <summary>The place in another frame.</summary>
    public ElementPlace In(Frame frame) =>
        new(frame.Point(Centre), frame.Point(Origin), frame.Direction(X), frame.Direction(Z));
}

/// <summary>What is kept of an element to tell what becomes of it in the next revision.</summary>
/// <param name="GlobalId">As written.</param>
/// <param name="Class">The class.</param>
/// <param name="Type">The name of its type.</param>
/// <param name="Name">Its name.</param>
/// <param name="Storey">What tells its storey from others: the storey's GlobalId, else its name; empty for none.</param>
/// <param name="Layers">Its layers, one a line.</param>
/// <param name="Place">Where it lies; null where nothing says.</param>
/// <param name="Shape">Its shape; null without one.</param>
/// <param name="Sets">The numbers of its property sets among those of its revision.</param>
public sealed record ElementFingerprint(
    string GlobalId,
    string Class,
    string Type,
    string Name,
    string Storey,
    string Layers,
    ElementPlace? Place,
    ShapeMeasure? Shape,
    int[] Sets
)
{
    /// <summary>The names of its materials, one a line, sorted.</summary>
    public string Materials { get; init; } = "";

    /// <summary>Its predefined type; empty without one.</summary>
    public string Predefined { get; init; } = "";

    /// <summary>The names of the systems, zones and other groups it is in, one a line, sorted.</summary>
    public string Groups { get; init; } = "";

    /// <summary>The codes and names of its classifications, one a line, sorted.</summary>
    public string Classifications { get; init; } = "";

    /// <summary>What it is related to (<see cref="ElementRelations"/>).</summary>
    public IReadOnlyList<string> Relations { get; init; } = [];

    /// <summary>Names one a line, sorted, each once.</summary>
    public static string Lines(IEnumerable<string> names) =>
        string.Join(
            '\n',
            names.Where(n => n.Length > 0).Distinct(StringComparer.Ordinal).Order(StringComparer.Ordinal)
        );

    /// <summary>Measures an element's shape and place.</summary>
    public static (ElementPlace? Place, ShapeMeasure? Shape) Measure(
        ModelSnapshot snapshot,
        ModelElement element,
        Shape? shape
    )
    {
        if (shape is { Parts.Count: > 0 })
        {
            var local = LocalShape.Of(shape).Measure;
            var world = shape.World;
            return (new ElementPlace(world.Point(local.Centroid), world.Origin, world.X, world.Z), local);
        }

        if (snapshot.Model.Ref(element.Index, "ObjectPlacement") < 0)
            return (null, null);
        try
        {
            var frame = snapshot.Shapes.Placements.Product(element.Index);
            return (new ElementPlace(frame.Origin, frame.Origin, frame.X, frame.Z), null);
        }
        catch (ShapeException)
        {
            return (null, null);
        }
    }
}
