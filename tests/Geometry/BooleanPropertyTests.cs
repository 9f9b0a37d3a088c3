using CsCheck;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Set operations on bodies whose faces, edges and corners often coincide: what set algebra promises must hold of the volumes, and
/// every result is closed.</summary>
public class BooleanPropertyTests
{
    // Corners on a coarse grid: two of these share a plane more often than not.
    private static readonly Gen<(Vec3 Corner, Vec3 Size)> Block = Gen.Select(
        Gen.Int[0, 4],
        Gen.Int[0, 4],
        Gen.Int[0, 4],
        Gen.Int[1, 3],
        Gen.Int[1, 3],
        Gen.Int[1, 3],
        (x, y, z, w, d, h) => (new Vec3(x, y, z), new Vec3(w, d, h))
    );

    private static readonly Gen<Vec2[]> Outline = Gen.OneOfConst<Vec2[]>(
        [new(0, 0), new(3, 0), new(3, 1), new(1, 1), new(1, 3), new(0, 3)],
        [new(0, 0), new(4, 0), new(4, 2), new(3, 2), new(3, 1), new(1, 1), new(1, 2), new(0, 2)],
        [new(0, 0), new(2, 0), new(3, 2), new(1, 3)],
        [new(0, 0), new(3, 0), new(1.5, 2.5)]
    );

    private static readonly Gen<Frame> Turn = Gen.Select(
        Gen.Double[0, 6.2],
        Gen.Double[-2, 2],
        Gen.Double[-2, 2],
        Gen.Double[-2, 2],
        (angle, x, y, z) =>
            new Frame(
                new Vec3(x, y, z),
                new Vec3(Math.Cos(angle), Math.Sin(angle), 0),
                new Vec3(-Math.Sin(angle), Math.Cos(angle), 0),
                Vec3.AxisZ
            )
    );

    private static Mesh Mesh((Vec3 Corner, Vec3 Size) b) =>
        Prism.Box(b.Corner, new Vec3(b.Size.X, 0, 0), new Vec3(0, b.Size.Y, 0), new Vec3(0, 0, b.Size.Z)).ToMesh();

    private static double Volume((Vec3 Corner, Vec3 Size) b) => b.Size.X * b.Size.Y * b.Size.Z;

    private static double Shared((Vec3 Corner, Vec3 Size) a, (Vec3 Corner, Vec3 Size) b)
    {
        static double Along(double p, double w, double q, double v) =>
            Math.Max(0, Math.Min(p + w, q + v) - Math.Max(p, q));
        return Along(a.Corner.X, a.Size.X, b.Corner.X, b.Size.X)
            * Along(a.Corner.Y, a.Size.Y, b.Corner.Y, b.Size.Y)
            * Along(a.Corner.Z, a.Size.Z, b.Corner.Z, b.Size.Z);
    }

    // Boxes whose common part is known by arithmetic.
    [Fact]
    public void Boxes_on_a_grid_obey_arithmetic() =>
        Gen.Select(Block, Block)
            .Sample(
                (a, b) =>
                {
                    double shared = Shared(a, b);
                    Holds(Solids.Subtract(Mesh(a), Mesh(b)), Volume(a) - shared);
                    Holds(Solids.Intersect(Mesh(a), Mesh(b)), shared);
                    Holds(Solids.Unite(Mesh(a), Mesh(b)), Volume(a) + Volume(b) - shared);
                },
                iter: 300
            );

    [Fact]
    public void Three_boxes_one_after_the_other_still_do() =>
        Gen.Select(Block, Block, Block)
            .Sample(
                (a, b, c) =>
                {
                    var left = Solids.Subtract(Solids.Subtract(Mesh(a), Mesh(b)), Mesh(c));
                    var other = Solids.Subtract(Solids.Subtract(Mesh(a), Mesh(c)), Mesh(b));
                    var (x, y) = (Mass(left), Mass(other));
                    Assert.True(x.Closed && y.Closed);
                    Assert.Equal(x.Volume, y.Volume, 1e-9);
                },
                iter: 150
            );

    [Fact]
    public void Turned_prisms_obey_set_algebra() =>
        Gen.Select(Outline, Outline, Turn)
            .Sample(
                (first, second, turn) =>
                {
                    var a = new Prism([Region.Of(first)], Frame.Identity, new Vec3(0, 0, 2)).ToMesh();
                    var b = new Prism([Region.Of(second)], turn, new Vec3(0, 0, 2)).ToMesh();
                    double shared = Mass(Solids.Intersect(a, b)).Volume;
                    // The generator likes turns and shifts of less than a micrometre, where one body is moved by some of them.
                    Holds(Solids.Subtract(a, b), Mass(a).Volume - shared, Micrometres);
                    Holds(Solids.Subtract(b, a), Mass(b).Volume - shared, Micrometres);
                    Holds(Solids.Unite(a, b), Mass(a).Volume + Mass(b).Volume - shared, Micrometres);
                },
                iter: 150
            );

    [Fact]
    public void A_body_and_itself() =>
        Gen.Select(Outline, Turn)
            .Sample(
                (outline, turn) =>
                {
                    var a = new Prism([Region.Of(outline)], turn, new Vec3(0, 0, 2)).ToMesh();
                    double volume = Mass(a).Volume;
                    Holds(Solids.Subtract(a, a), 0);
                    Holds(Solids.Intersect(a, a), volume);
                    Holds(Solids.Unite(a, a), volume);
                },
                iter: 50
            );

    // No triangle of a result is flat, none stands back to back with another: what the next operation and others' solids need.
    [Fact]
    public void Results_have_no_flat_triangles() =>
        Gen.Select(Outline, Outline, Turn)
            .Sample(
                (first, second, turn) =>
                {
                    var a = new Prism([Region.Of(first)], Frame.Identity, new Vec3(0, 0, 2)).ToMesh();
                    var cut = Solids.Subtract(a, new Prism([Region.Of(second)], turn, new Vec3(0, 0, 2)).ToMesh());
                    var seen = new HashSet<(int, int, int)>();
                    for (int i = 0; i < cut.Triangles.Length; i += 3)
                    {
                        int[] t = [.. cut.Triangles[i..(i + 3)].Order()];
                        Assert.Equal(3, t.Distinct().Count());
                        Assert.True(seen.Add((t[0], t[1], t[2])));
                    }
                },
                iter: 150
            );

    [Fact]
    public void In_the_plane_and_in_space_a_wall_with_openings_is_the_same() =>
        Gen.Select(Gen.Int[0, 6], Gen.Int[0, 2], Gen.Int[1, 3], Gen.Int[1, 3], Gen.Int[0, 6])
            .Sample(
                (x, z, w, h, x2) =>
                {
                    var wall = Prism.Box(Vec3.Zero, new Vec3(8, 0, 0), new Vec3(0, 0, 3), new Vec3(0, 0.3, 0));
                    Prism Opening(double at, double up, double wide, double high) =>
                        Prism.Box(
                            new Vec3(at, -0.1, up),
                            new Vec3(wide, 0, 0),
                            new Vec3(0, 0, high),
                            new Vec3(0, 0.5, 0)
                        );
                    Prism[] tools = [Opening(x, z, w, h), Opening(x2, 1, 1, 1)];
                    var plane = wall.Less(tools)!.ToMesh();
                    var space = tools.Aggregate(wall.ToMesh(), (body, tool) => Solids.Subtract(body, tool.ToMesh()));
                    var (a, b) = (Mass(plane), Mass(space));
                    Assert.True(a.Closed && b.Closed);
                    Assert.Equal(a.Volume, b.Volume, 1e-9);
                    Assert.Equal(a.Area, b.Area, 1e-6);
                },
                iter: 200
            );

    private static MassProperties Mass(Mesh mesh) =>
        mesh.Triangles.Length == 0 ? new MassProperties(0, 0, true, Box.Empty) : MassProperties.Of(mesh);

    // A surface of some twenty square metres, moved by ten micrometres.
    private const double Micrometres = 5e-4;

    private static void Holds(Mesh mesh, double volume, double within = 1e-6)
    {
        var mass = Mass(mesh);
        Assert.True(mass.Closed, "not closed");
        Assert.Equal(volume, mass.Volume, within);
    }
}
