using CsCheck;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

public class SplineTests
{
    private static readonly Gen<(int Degree, double[] Knots, int Count)> Bases =
        from degree in Gen.Int[1, 5]
        from spans in Gen.Double[0.01, 3].Array[1, 6]
        select (degree, Clamped(degree, spans), spans.Length + degree);

    private static double[] Clamped(int degree, double[] spans)
    {
        var inner = new List<double> { 0 };
        foreach (double span in spans)
            inner.Add(inner[^1] + span);
        return [.. Enumerable.Repeat(0.0, degree), .. inner, .. Enumerable.Repeat(inner[^1], degree)];
    }

    // The weights of a B-spline basis are never negative and add up to one (The NURBS Book, P2.3 and P2.4).
    [Fact]
    public void Weights_add_up_to_one() =>
        Bases
            .Select(Gen.Double[0, 1])
            .Sample(
                (b, share) =>
                {
                    var basis = new BSplineBasis(b.Degree, b.Knots, b.Count);
                    Span<double> weights = stackalloc double[b.Degree + 1];
                    int first = basis.Weights(basis.From + ((basis.To - basis.From) * share), weights);
                    double sum = 0;
                    bool positive = true;
                    foreach (double w in weights)
                    {
                        sum += w;
                        positive &= w >= -1e-12;
                    }

                    return positive && Math.Abs(sum - 1) < 1e-9 && first >= 0 && first + b.Degree < b.Count;
                },
                iter: 500
            );

    [Fact]
    public void A_clamped_curve_begins_and_ends_at_its_points() =>
        Bases.Sample(
            b =>
            {
                var random = new Random(b.Count);
                var points = Enumerable
                    .Range(0, b.Count)
                    .Select(_ => new Vec3(random.NextDouble(), random.NextDouble(), random.NextDouble()))
                    .ToArray();
                var curve = new BSplineCurve(new BSplineBasis(b.Degree, b.Knots, b.Count), points, null);
                return (curve.Point(curve.Basis.From) - points[0]).Length < 1e-9
                    && (curve.Point(curve.Basis.To) - points[^1]).Length < 1e-9;
            },
            iter: 200
        );

    [Fact]
    public void A_rational_quarter_circle_is_round()
    {
        var curve = new BSplineCurve(
            new BSplineBasis(2, [0, 0, 0, 1, 1, 1], 3),
            [new(1, 0, 0), new(1, 1, 0), new(0, 1, 0)],
            [1, Math.Sqrt(0.5), 1]
        );
        for (int i = 0; i <= 20; i++)
            Assert.Equal(1, curve.Point(i / 20.0).Length, 12);
    }

    [Theory]
    [InlineData(0, new[] { 0.0, 1 }, 1)]
    [InlineData(2, new[] { 0.0, 0, 0, 1, 1 }, 3)]
    [InlineData(1, new[] { 0.0, 0, 0, 0 }, 2)]
    [InlineData(1, new[] { 0.0, 1, 0.5, 1 }, 2)]
    [InlineData(1, new[] { 0.0, double.NaN, 1, 1 }, 2)]
    public void Knots_that_do_not_fit_are_told(int degree, double[] knots, int count) =>
        Assert.Throws<ShapeException>(() => new BSplineBasis(degree, knots, count));

    [Fact]
    public void Samples_keep_to_the_curve_and_can_be_cut()
    {
        Vec3 Circle(double t) => new(Math.Cos(t), Math.Sin(t), 0);
        var samples = CurveSamples.Of(Circle, [0, Math.PI], Tolerance.Default);
        Assert.All(samples.Points, p => Assert.Equal(1, p.Length, 12));
        for (int i = 1; i < samples.Points.Count; i++)
            Assert.True(((samples.Points[i] + samples.Points[i - 1]) * 0.5).Length > 0.999);
        var part = samples.Between(1, 2, Circle);
        Assert.True((part[0] - Circle(1)).Length < 1e-12 && (part[^1] - Circle(2)).Length < 1e-12);
        var back = samples.Between(2, 1, Circle);
        Assert.Equal(part.AsEnumerable().Reverse(), back);
        Assert.Equal(0.7, samples.Nearest(Circle(0.7)), 0.01);
        Assert.Equal(Math.PI, samples.Nearest(new Vec3(-5, -1, 0)), 1e-9);
    }

    // Parameters found for a point of a surface give that point again.
    [Fact]
    public void A_point_of_a_surface_has_its_parameters()
    {
        var frame = Frame.FromAxes(new Vec3(1, 2, 3), new Vec3(0.3, 0.4, 0.8), Vec3.AxisX);
        var line = new CurveSamples([0, 1], [new(2, 0, 0), new(1, 0, 3)]);
        Vec3[][] net =
        [
            .. Enumerable
                .Range(0, 4)
                .Select(i => Enumerable.Range(0, 4).Select(j => new Vec3(i, j, Math.Sin(i + j))).ToArray()),
        ];
        var cubic = new BSplineBasis(3, [0, 0, 0, 0, 1, 1, 1, 1], 4);
        Surface[] surfaces =
        [
            new PlaneSurface(frame),
            new CylinderSurface(frame, 2),
            new SphereSurface(frame, 2),
            new TorusSurface(frame, 3, 1),
            new ExtrusionSurface(line, new Vec3(0, 1, 0.2)),
            new RevolutionSurface(line, Vec3.Zero, Vec3.AxisZ),
            new BSplineSurface(cubic, cubic, net, null),
        ];
        Gen.Select(Gen.Int[0, surfaces.Length - 1], Gen.Double[0.02, 0.98], Gen.Double[0.02, 0.98])
            .Sample(
                (n, u, v) =>
                {
                    var p = surfaces[n].Point(u, v);
                    var uv = surfaces[n].Uv(p, null);
                    return (surfaces[n].Point(uv.X, uv.Y) - p).Length < 1e-6;
                },
                iter: 300
            );
    }

    [Fact]
    public void Points_at_one_place_are_one()
    {
        var builder = new MeshBuilder();
        int a = builder.Point(new Vec3(1, 2, 3)),
            b = builder.Point(new Vec3(1 + 1e-9, 2 - 1e-9, 3)),
            c = builder.Point(new Vec3(1.001, 2, 3));
        Assert.Equal(a, b);
        Assert.NotEqual(a, c);
        builder.Triangle(a, b, c);
        Assert.Empty(builder.ToMesh().Triangles);
    }
}
