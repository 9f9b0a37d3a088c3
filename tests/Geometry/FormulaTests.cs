using CsCheck;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Bodies and areas against the formulas of any handbook: round ones come nearer the finer they are, and never larger.</summary>
public class FormulaTests
{
    private static readonly Frame Somewhere = new(
        new Vec3(10, -20, 5),
        new Vec3(0, 1, 0),
        new Vec3(-1, 0, 0),
        new Vec3(0, 0, 1)
    );

    private static readonly Tolerance[] Steps =
    [
        .. new[] { 0.05, 0.005, 0.0005 }.Select(chord => Tolerance.Default with { Chord = chord }),
    ];

    public static TheoryData<string> Bodies => ["cone", "sphere", "torus", "cylinder"];

    private static (Mesh Mesh, double Volume, double Area) Body(string name, Tolerance tolerance) =>
        name switch
        {
            // r = 1.5, h = 4: π r² h / 3; π r (r + s) with the slant height s.
            "cone" => (
                Primitives.Cone(Somewhere, 1.5, 4, tolerance),
                Math.PI * 1.5 * 1.5 * 4 / 3,
                Math.PI * 1.5 * (1.5 + Math.Sqrt((1.5 * 1.5) + 16))
            ),
            // 4/3 π r³; 4 π r².
            "sphere" => (Primitives.Sphere(Somewhere, 2, tolerance), 4.0 / 3 * Math.PI * 8, 4 * Math.PI * 4),
            // 2 π² R r²; 4 π² R r.
            "torus" => (
                Primitives.Torus(Somewhere, 3, 0.5, tolerance),
                2 * Math.PI * Math.PI * 3 * 0.25,
                4 * Math.PI * Math.PI * 3 * 0.5
            ),
            // π r² h; 2 π r (r + h).
            _ => (
                new Prism([Region.Of(Arc.Circle(1.5, tolerance))], Somewhere, new Vec3(0, 0, 4)).ToMesh(),
                Math.PI * 1.5 * 1.5 * 4,
                2 * Math.PI * 1.5 * 5.5
            ),
        };

    [Theory]
    [MemberData(nameof(Bodies))]
    public void Round_bodies_come_near_their_formulas(string name)
    {
        double before = double.MaxValue;
        foreach (var tolerance in Steps)
        {
            var (mesh, volume, area) = Body(name, tolerance);
            var mass = MassProperties.Of(mesh);
            Assert.True(mass.Closed);
            double missing = 1 - (mass.Volume / volume);
            Assert.InRange(missing, -1e-9, before + 1e-9);
            Assert.InRange(1 - (mass.Area / area), -0.02, Math.Max(0.03, missing * 2));
            before = missing;
        }

        Assert.True(before < 0.004, $"{name}: {before:P2} missing at the finest");
    }

    [Fact]
    public void A_pyramid_is_a_third_of_its_prism()
    {
        var mass = MassProperties.Of(Primitives.Pyramid(Somewhere, 3, 4, 5));
        Assert.Equal(20, mass.Volume, 1e-9);
        // Base, and two pairs of triangles with the slant heights of each side.
        Assert.Equal(12 + (4 * Math.Sqrt(25 + 2.25)) + (3 * Math.Sqrt(25 + 4)), mass.Area, 1e-9);
    }

    // Cavalieri: the areas of cuts, one on the other, are the volume.
    [Theory]
    [MemberData(nameof(Bodies))]
    public void Cuts_one_on_the_other_are_the_volume(string name)
    {
        var mesh = Body(name, Steps[1]).Mesh;
        var box = mesh.Bounds();
        const int slices = 400;
        double step = box.Size.Z / slices,
            sum = 0;
        for (int i = 0; i < slices; i++)
            sum += Section.Cut(mesh, box.Min.Z + ((i + 0.5) * step)).Sum(l => Region.SignedArea([.. l])) * step;
        Assert.Equal(1, Math.Abs(sum) / MassProperties.Of(mesh).Volume, 5e-3);
    }

    // A star of any shape, with a hole in its middle: its triangles have its area, each turns its way, none uses a point that is not its
    // own.
    [Fact]
    public void Triangles_cover_a_region_of_any_shape() =>
        Gen.Select(Gen.Double[0.6, 3].Array[5, 40], Gen.Double[0.05, 0.5])
            .Sample(
                (radii, hole) =>
                {
                    Vec2 At(double radius, double turn) => new(radius * Math.Cos(turn), radius * Math.Sin(turn));
                    var outer = radii.Select((r, i) => At(r, 2 * Math.PI * i / radii.Length)).ToArray();
                    // The straight sides of a star of few points pass nearer to its middle than its points do.
                    double inner = hole * radii.Min() * Math.Cos(Math.PI / radii.Length);
                    var ring = Enumerable.Range(0, 6).Select(i => At(inner, -2 * Math.PI * i / 6)).ToArray();
                    var region = Region.Of(outer, [ring]);
                    int[] triangles = Triangulator.Triangulate(region);
                    var points = region.Loops.SelectMany(l => l).ToArray();
                    double sum = 0;
                    for (int t = 0; t < triangles.Length; t += 3)
                    {
                        double area =
                            (points[triangles[t + 1]] - points[triangles[t]]).Cross(
                                points[triangles[t + 2]] - points[triangles[t]]
                            ) / 2;
                        Assert.True(area >= -1e-12);
                        sum += area;
                    }

                    Assert.Equal(Math.Abs(Region.SignedArea(outer)) - Math.Abs(Region.SignedArea(ring)), sum, 1e-9);
                },
                iter: 400
            );

    [Fact]
    public void What_two_regions_share_counts_once() =>
        Gen.Select(Gen.Double[-3, 3], Gen.Double[-3, 3], Gen.Double[0.2, 3])
            .Sample(
                (x, y, size) =>
                {
                    Region Square(double left, double bottom, double side) =>
                        Region.Of([
                            new(left, bottom),
                            new(left + side, bottom),
                            new(left + side, bottom + side),
                            new(left, bottom + side),
                        ]);
                    double Overlap(double a, double b) => Math.Max(0, Math.Min(a + 2, b + size) - Math.Max(a, b));
                    double shared = Overlap(0, x) * Overlap(0, y);
                    double Area(IReadOnlyList<Region> regions) =>
                        regions.Sum(r => r.Loops.Sum(l => Region.SignedArea(l)));
                    Assert.Equal(
                        4 + (size * size) - shared,
                        Area(Overlay.Union([Square(0, 0, 2), Square(x, y, size)])),
                        1e-6
                    );
                    Assert.Equal(4 - shared, Area(Overlay.Subtract(Square(0, 0, 2), [Square(x, y, size)])), 1e-6);
                },
                iter: 300
            );
}
