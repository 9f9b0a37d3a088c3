using System.Collections.Concurrent;
using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Placements in metres, and where products are in the file's world frame. Safe for concurrent use.</summary>
/// <param name="model">The model.</param>
/// <param name="metres">The size of the file's length unit, metres.</param>
public sealed class IfcPlacements(IfcModel model, double metres)
{
    private const int MaxDepth = 200;
    private readonly ConcurrentDictionary<int, Frame> _world = new();

    /// <summary>The frame of a product in the world; the identity when it has no placement.</summary>
    /// <param name="product">Its position among the instances of the file.</param>
    /// <exception cref="ShapeException">The placement is of a kind that is not read, or a chain refers to itself.</exception>
    public Frame Product(int product) => World(model.Ref(product, "ObjectPlacement"), 0);

    /// <summary>An IfcAxis2Placement2D or 3D, or an IfcAxis2PlacementLinear's nothing: the identity when unset.</summary>
    /// <param name="placement">Its position among the instances of the file.</param>
    public Frame Axes(int placement)
    {
        if (placement < 0)
            return Frame.Identity;
        var origin = Point(model.Ref(placement, "Location"));
        if (model.Is(placement, "IfcAxis2Placement2D"))
        {
            var x = Direction(model.Ref(placement, "RefDirection"), Vec3.AxisX);
            return Frame.FromAxes(origin, Vec3.AxisZ, x);
        }

        return Frame.FromAxes(
            origin,
            Direction(model.Ref(placement, "Axis"), Vec3.AxisZ),
            Direction(model.Ref(placement, "RefDirection"), Vec3.AxisX)
        );
    }

    /// <summary>An IfcCartesianPoint in metres; a missing third coordinate is 0.</summary>
    /// <param name="point">Its position among the instances of the file.</param>
    public Vec3 Point(int point)
    {
        if (point < 0)
            return Vec3.Zero;
        Span<double> c = stackalloc double[3];
        c.Clear();
        model.Record(point)[0].Reals(c);
        return double.IsFinite(c[0] + c[1] + c[2])
            ? new Vec3(c[0], c[1], c[2]) * metres
            : throw new ShapeException("A point has a coordinate that is not a number.");
    }

    /// <summary>An IfcDirection, not normalised; the fallback when unset.</summary>
    /// <param name="direction">Its position among the instances of the file.</param>
    /// <param name="fallback">What it is when unset.</param>
    public Vec3 Direction(int direction, Vec3 fallback)
    {
        if (direction < 0)
            return fallback;
        Span<double> c = stackalloc double[3];
        c.Clear();
        model.Record(direction)[0].Reals(c);
        var d = new Vec3(c[0], c[1], c[2]);
        return double.IsFinite(d.Length) && d.Length > 0 ? d : fallback;
    }

    /// <summary>Reads the place of an IfcPointByDistanceExpression; set by whoever can read curves.</summary>
    internal Func<int, Frame>? Along { get; set; }

    /// <summary>Reads the world frame of an IfcGridPlacement; set by whoever can read curves.</summary>
    internal Func<int, Frame>? OnGrid { get; set; }

    // The position that its writer worked out, else the point along the curve: X as the curve runs, Z up, unless said otherwise.
    private Frame Linear(int placement)
    {
        if (model.Ref(placement, "CartesianPosition") is >= 0 and var position)
            return Axes(position);
        int relative = model.Ref(placement, "RelativePlacement"),
            point = model.Ref(relative, "Location");
        if (Along is null || !model.Is(point, "IfcPointByDistanceExpression"))
            throw new ShapeException("A linear placement has no point along a curve.");
        var on = Along(point);
        return Frame.FromAxes(
            on.Origin,
            Direction(model.Ref(relative, "Axis"), on.Z),
            Direction(model.Ref(relative, "RefDirection"), on.X)
        );
    }

    private Frame World(int placement, int depth)
    {
        if (placement < 0)
            return Frame.Identity;
        if (_world.TryGetValue(placement, out var known))
            return known;
        if (depth > MaxDepth)
            throw new ShapeException("A chain of placements refers to itself, or is deeper than 200.");
        // Axes of a grid are given in the grid's frame, whatever the placement is relative to.
        if (OnGrid is not null && model.Is(placement, "IfcGridPlacement"))
            return _world[placement] = OnGrid(placement);
        var parent = World(model.Ref(placement, "PlacementRelTo"), depth + 1);
        var own =
            model.Is(placement, "IfcLocalPlacement") ? Axes(model.Ref(placement, "RelativePlacement"))
            : model.Is(placement, "IfcLinearPlacement") ? Linear(placement)
            : throw new ShapeException($"A placement of kind {model.ClassName(placement)} is not read yet.");
        return _world[placement] = parent.Compose(own);
    }
}
