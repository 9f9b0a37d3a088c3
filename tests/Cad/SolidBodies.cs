using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Closed bodies with their topology: what a boundary representation must get right.</summary>
internal static class SolidBodies
{
    private static Vec2[] Square(double size, double at = 0) =>
        [new(at, at), new(at + size, at), new(at + size, at + size), new(at, at + size)];

    /// <summary>A straight prism of a region.</summary>
    public static Mesh Prism(Vec2[] outer, params Vec2[][] holes) =>
        new Prism(
            [Region.Of(outer, holes.Select(h => (IReadOnlyList<Vec2>)h))],
            Frame.Identity,
            new Vec3(0, 0, 3)
        ).ToMesh();

    public static Mesh Box => Prism(Square(2));

    public static Mesh Ell => Prism([new(0, 0), new(3, 0), new(3, 1), new(1, 1), new(1, 3), new(0, 3)]);

    /// <summary>A frame: its two end faces have a hole.</summary>
    public static Mesh Window => Prism(Square(4), Square(2, 1));

    public static Mesh TwoWindows =>
        Prism([new(0, 0), new(9, 0), new(9, 4), new(0, 4)], Square(2, 1), [new(5, 1), new(7, 1), new(7, 3), new(5, 3)]);

    /// <summary>Two boxes apart in one mesh.</summary>
    public static Mesh Apart => Mesh.Join([Box, Box.Map(Frame.At(new Vec3(10, 0, 0)))]);

    /// <summary>A box with a hollow in it.</summary>
    public static Mesh Hollow =>
        Mesh.Join([
            Prism(Square(9)).Map(Frame.At(new Vec3(-3, -3, 0))),
            Box.Map(new Frame(new Vec3(0.5, 0.5, 1), Vec3.AxisX * 0.5, Vec3.AxisY * 0.5, Vec3.AxisZ * 0.3)).Flipped(),
        ]);

    public static Mesh Round => Prism(Arc.Circle(1, Tolerance.Default));

    /// <summary>A dented block: a Boolean whose faces are not convex.</summary>
    public static Mesh Dented => Solids.Subtract(Prism(Square(4)), Prism(Square(2)).Map(Frame.At(new Vec3(1, 1, 2))));

    /// <summary>Name, body, faces, edges, points, rings, shells, volume.</summary>
    public static readonly IReadOnlyDictionary<
        string,
        (Mesh Mesh, int Faces, int Edges, int Points, int Rings, int Shells, double Volume)
    > All = new Dictionary<string, (Mesh, int, int, int, int, int, double)>
    {
        ["box"] = (Box, 6, 12, 8, 0, 1, 12),
        ["ell"] = (Ell, 8, 18, 12, 0, 1, 15),
        ["window"] = (Window, 10, 24, 16, 2, 1, 36),
        ["two windows"] = (TwoWindows, 14, 36, 24, 4, 1, 84),
        ["apart"] = (Apart, 12, 24, 16, 0, 2, 24),
        ["hollow"] = (Hollow, 12, 24, 16, 0, 2, 243 - (12 * 0.075)),
        ["dented"] = (Dented, 11, 24, 16, 1, 1, 48 - 4),
    };
}
