using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Object coordinates: the system of an entity given only by its direction of extrusion. DXF reference, "Arbitrary axis
/// algorithm".</summary>
public static class ObjectCoordinates
{
    private const double Near = 1.0 / 64;

    /// <summary>The axes of object coordinates in world coordinates.</summary>
    public static (Vec3 X, Vec3 Y, Vec3 Z) Axes(Vec3 normal)
    {
        var z = normal.Unit();
        var x = (Math.Abs(z.X) < Near && Math.Abs(z.Y) < Near ? Vec3.AxisY : Vec3.AxisZ).Cross(z).Unit();
        return (x, z.Cross(x).Unit(), z);
    }

    /// <summary>A point of object coordinates in world coordinates.</summary>
    public static Vec3 ToWorld(Vec3 point, Vec3 normal)
    {
        if (normal == Vec3.AxisZ)
            return point;
        var (x, y, z) = Axes(normal);
        return (x * point.X) + (y * point.Y) + (z * point.Z);
    }

    /// <summary>A point of world coordinates in object coordinates.</summary>
    public static Vec3 FromWorld(Vec3 point, Vec3 normal)
    {
        if (normal == Vec3.AxisZ)
            return point;
        var (x, y, z) = Axes(normal);
        return new Vec3(x.Dot(point), y.Dot(point), z.Dot(point));
    }
}
