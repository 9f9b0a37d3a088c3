using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Breps on curved surfaces against their formulas, at the tolerance of ordinary use.</summary>
public class AdvancedBrepTests
{
    private const double Pi = Math.PI;

    private static void Check(BrepText brep, double volume, double area)
    {
        var shape = Sample.Shape(brep.Brep(), tolerance: Tolerance.Default);
        Assert.Empty(shape.Problems);
        var mass = shape.Measure();
        Assert.True(mass.Closed);
        Assert.InRange(mass.Volume / volume, 0.999, 1.001);
        if (area > 0)
            Assert.InRange(mass.Area / area, 0.999, 1.001);
    }

    // Radius 0.5, height 2; its side has one face with a seam, or two loops and none.
    private static BrepText Cylinder(bool seam)
    {
        var b = new BrepText();
        int low = b.Vertex(0.5, 0, 0),
            high = b.Vertex(0.5, 0, 2);
        int bottom = b.Edge(low, low, b.Add($"IFCCIRCLE(#{b.Place(0, 0, 0)},0.5)")),
            top = b.Edge(high, high, b.Add($"IFCCIRCLE(#{b.Place(0, 0, 2)},0.5)"));
        int side = b.Add($"IFCCYLINDRICALSURFACE(#{b.Place(0, 0, 0)},0.5)");
        if (seam)
        {
            int line = b.Straight(low, high);
            b.Face(side, true, [bottom, line, -top, -line]);
        }
        else
            b.Face(side, true, [bottom], [-top]);
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 0)})"), false, [-bottom]);
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 2)})"), true, [top]);
        return b;
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void A_cylinder_with_and_without_a_seam(bool seam) => Check(Cylinder(seam), Pi / 2, 2.5 * Pi);

    [Fact]
    public void A_cylinder_cut_in_two_halves()
    {
        var b = new BrepText();
        int a0 = b.Vertex(0.5, 0, 0),
            b0 = b.Vertex(-0.5, 0, 0),
            a1 = b.Vertex(0.5, 0, 2),
            b1 = b.Vertex(-0.5, 0, 2);
        int low = b.Add($"IFCCIRCLE(#{b.Place(0, 0, 0)},0.5)"),
            high = b.Add($"IFCCIRCLE(#{b.Place(0, 0, 2)},0.5)");
        int front0 = b.Edge(a0, b0, low),
            back0 = b.Edge(b0, a0, low),
            front1 = b.Edge(a1, b1, high),
            back1 = b.Edge(b1, a1, high),
            la = b.Straight(a0, a1),
            lb = b.Straight(b0, b1);
        int side = b.Add($"IFCCYLINDRICALSURFACE(#{b.Place(0, 0, 0)},0.5)");
        b.Face(side, true, [front0, lb, -front1, -la]);
        b.Face(side, true, [back0, la, -back1, -lb]);
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 0)})"), false, [-back0, -front0]);
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 2)})"), true, [front1, back1]);
        Check(b, Pi / 2, 2.5 * Pi);
    }

    [Fact]
    public void A_sphere_over_its_seam_and_half_of_one()
    {
        var b = new BrepText();
        int south = b.Vertex(0, 0, -1),
            north = b.Vertex(0, 0, 1);
        int meridian = b.Edge(
            south,
            north,
            b.Add(
                $"IFCCIRCLE(#{b.Add($"IFCAXIS2PLACEMENT3D(#{b.Point(0, 0, 0)},#{b.Direction(0, -1, 0)},#{b.Direction(1, 0, 0)})")},1.)"
            )
        );
        b.Face(b.Add($"IFCSPHERICALSURFACE(#{b.Place(0, 0, 0)},1.)"), true, [meridian, -meridian]);
        Check(b, 4 * Pi / 3, 4 * Pi);

        var half = new BrepText();
        int start = half.Vertex(1, 0, 0);
        int equator = half.Edge(start, start, half.Add($"IFCCIRCLE(#{half.Place(0, 0, 0)},1.)"));
        half.Face(half.Add($"IFCSPHERICALSURFACE(#{half.Place(0, 0, 0)},1.)"), true, [equator]);
        half.Face(half.Add($"IFCPLANE(#{half.Place(0, 0, 0)})"), false, [-equator]);
        Check(half, 2 * Pi / 3, 3 * Pi);

        // The same with a seam from the equator to the pole and back.
        var seamed = new BrepText();
        int east = seamed.Vertex(1, 0, 0),
            pole = seamed.Vertex(0, 0, 1);
        int round = seamed.Edge(east, east, seamed.Add($"IFCCIRCLE(#{seamed.Place(0, 0, 0)},1.)"));
        int up = seamed.Edge(
            east,
            pole,
            seamed.Add(
                $"IFCCIRCLE(#{seamed.Add($"IFCAXIS2PLACEMENT3D(#{seamed.Point(0, 0, 0)},#{seamed.Direction(0, -1, 0)},#{seamed.Direction(1, 0, 0)})")},1.)"
            )
        );
        seamed.Face(seamed.Add($"IFCSPHERICALSURFACE(#{seamed.Place(0, 0, 0)},1.)"), true, [round, up, -up]);
        seamed.Face(seamed.Add($"IFCPLANE(#{seamed.Place(0, 0, 0)})"), false, [-round]);
        Check(seamed, 2 * Pi / 3, 3 * Pi);
    }

    [Fact]
    public void A_torus_over_its_two_seams()
    {
        var b = new BrepText();
        int v = b.Vertex(1.25, 0, 0);
        int around = b.Edge(v, v, b.Add($"IFCCIRCLE(#{b.Place(0, 0, 0)},1.25)"));
        int tube = b.Edge(
            v,
            v,
            b.Add(
                $"IFCCIRCLE(#{b.Add($"IFCAXIS2PLACEMENT3D(#{b.Point(1, 0, 0)},#{b.Direction(0, -1, 0)},#{b.Direction(1, 0, 0)})")},0.25)"
            )
        );
        b.Face(b.Add($"IFCTOROIDALSURFACE(#{b.Place(0, 0, 0)},1.,0.25)"), true, [around, tube, -around, -tube]);
        // Pappus.
        Check(b, Pi / 16 * 2 * Pi, Pi / 2 * 2 * Pi);
    }

    [Fact]
    public void A_cone_on_a_surface_of_revolution()
    {
        var b = new BrepText();
        int low = b.Vertex(1, 0, 0),
            high = b.Vertex(0.5, 0, 1);
        int bottom = b.Edge(low, low, b.Add($"IFCCIRCLE(#{b.Place(0, 0, 0)},1.)")),
            top = b.Edge(high, high, b.Add($"IFCCIRCLE(#{b.Place(0, 0, 1)},0.5)")),
            line = b.Straight(low, high);
        int profile = b.Add(
            $"IFCARBITRARYOPENPROFILEDEF(.CURVE.,$,#{b.Add($"IFCPOLYLINE((#{b.Point(1, 0, 0)},#{b.Point(0.5, 0, 1)}))")})"
        );
        b.Face(
            b.Add(
                $"IFCSURFACEOFREVOLUTION(#{profile},$,#{b.Add($"IFCAXIS1PLACEMENT(#{b.Point(0, 0, 0)},#{b.Direction(0, 0, 1)})")})"
            ),
            true,
            [bottom, line, -top, -line]
        );
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 0)})"), false, [-bottom]);
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 1)})"), true, [top]);
        Check(b, Pi / 3 * 1.75, Pi * (1.25 + (1.5 * Math.Sqrt(1.25))));
    }

    // A quarter of a cylinder as a rational B-spline patch (Piegl and Tiller, The NURBS Book, section 7.3): radius 1, height 1.
    [Fact]
    public void A_quarter_cylinder_on_a_rational_spline()
    {
        var b = new BrepText();
        int o0 = b.Vertex(0, 0, 0),
            x0 = b.Vertex(1, 0, 0),
            y0 = b.Vertex(0, 1, 0),
            o1 = b.Vertex(0, 0, 1),
            x1 = b.Vertex(1, 0, 1),
            y1 = b.Vertex(0, 1, 1);
        string Arc(double z) =>
            $"IFCRATIONALBSPLINECURVEWITHKNOTS(2,(#{b.Point(1, 0, z)},#{b.Point(1, 1, z)},#{b.Point(0, 1, z)}),.UNSPECIFIED.,.F.,.F.,(3,3),(0.,1.),.UNSPECIFIED.,(1.,0.7071067811865476,1.))";
        int low = b.Edge(x0, y0, b.Add(Arc(0))),
            high = b.Edge(x1, y1, b.Add(Arc(1)));
        int lx = b.Straight(x0, x1),
            ly = b.Straight(y0, y1),
            lo = b.Straight(o0, o1),
            ox0 = b.Straight(o0, x0),
            oy0 = b.Straight(o0, y0),
            ox1 = b.Straight(o1, x1),
            oy1 = b.Straight(o1, y1);
        int[] net =
        [
            b.Point(1, 0, 0),
            b.Point(1, 0, 1),
            b.Point(1, 1, 0),
            b.Point(1, 1, 1),
            b.Point(0, 1, 0),
            b.Point(0, 1, 1),
        ];
        int patch = b.Add(
            $"IFCRATIONALBSPLINESURFACEWITHKNOTS(2,1,((#{net[0]},#{net[1]}),(#{net[2]},#{net[3]}),(#{net[4]},#{net[5]})),.UNSPECIFIED.,.F.,.F.,.F.,(3,3),(2,2),(0.,1.),(0.,1.),.UNSPECIFIED.,((1.,1.),(0.7071067811865476,0.7071067811865476),(1.,1.)))"
        );
        b.Face(patch, true, [low, ly, -high, -lx]);
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 0)})"), false, [oy0, -low, -ox0]);
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 1)})"), true, [ox1, high, -oy1]);
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 0, 0, -1, 0)})"), true, [ox0, lx, -ox1, -lo]);
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 0, -1, 0, 0)})"), true, [lo, oy1, -ly, -oy0]);
        Check(b, Pi / 4, (Pi / 2) + (Pi / 2) + 2);
    }

    [Fact]
    public void A_face_on_an_extruded_curve()
    {
        // A half disc, its round side on a surface of linear extrusion over a trimmed circle.
        var b = new BrepText();
        int a0 = b.Vertex(1, 0, 0),
            c0 = b.Vertex(-1, 0, 0),
            a1 = b.Vertex(1, 0, 1),
            c1 = b.Vertex(-1, 0, 1);
        int low = b.Edge(a0, c0, b.Add($"IFCCIRCLE(#{b.Place(0, 0, 0)},1.)")),
            high = b.Edge(a1, c1, b.Add($"IFCCIRCLE(#{b.Place(0, 0, 1)},1.)"));
        int la = b.Straight(a0, a1),
            lc = b.Straight(c0, c1),
            flat0 = b.Straight(c0, a0),
            flat1 = b.Straight(c1, a1);
        int curve = b.Add(
            $"IFCTRIMMEDCURVE(#{b.Add($"IFCCIRCLE(#{b.Place(0, 0, 0)},1.)")},(IFCPARAMETERVALUE(0.)),(IFCPARAMETERVALUE(3.141592653589793)),.T.,.PARAMETER.)"
        );
        b.Face(
            b.Add(
                $"IFCSURFACEOFLINEAREXTRUSION(#{b.Add($"IFCARBITRARYOPENPROFILEDEF(.CURVE.,$,#{curve})")},$,#{b.Direction(0, 0, 1)},1.)"
            ),
            true,
            [low, lc, -high, -la]
        );
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 0, 0, -1, 0)})"), true, [flat0, la, -flat1, -lc]);
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 0)})"), false, [-flat0, -low]);
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 1)})"), true, [high, flat1]);
        Check(b, Pi / 2, Pi + Pi + 2);
    }

    [Fact]
    public void A_face_with_a_round_hole_in_its_side()
    {
        // A plate 2 × 2 × 0.2 with a hole of radius 0.5.
        var b = new BrepText();
        (double X, double Y)[] corners = [(-1, -1), (1, -1), (1, 1), (-1, 1)];
        var low = corners.Select(c => b.Vertex(c.X, c.Y, 0)).ToArray();
        var high = corners.Select(c => b.Vertex(c.X, c.Y, 0.2)).ToArray();
        var lows = Enumerable.Range(0, 4).Select(i => b.Straight(low[i], low[(i + 1) % 4])).ToArray();
        var highs = Enumerable.Range(0, 4).Select(i => b.Straight(high[i], high[(i + 1) % 4])).ToArray();
        var ups = Enumerable.Range(0, 4).Select(i => b.Straight(low[i], high[i])).ToArray();
        int h0 = b.Vertex(0.5, 0, 0),
            h1 = b.Vertex(0.5, 0, 0.2);
        int hole0 = b.Edge(h0, h0, b.Add($"IFCCIRCLE(#{b.Place(0, 0, 0)},0.5)")),
            hole1 = b.Edge(h1, h1, b.Add($"IFCCIRCLE(#{b.Place(0, 0, 0.2)},0.5)"));
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 0)})"), false, [-lows[3], -lows[2], -lows[1], -lows[0]], [hole0]);
        b.Face(b.Add($"IFCPLANE(#{b.Place(0, 0, 0.2)})"), true, [highs[0], highs[1], highs[2], highs[3]], [-hole1]);
        for (int i = 0; i < 4; i++)
        {
            double nx = corners[i].Y == corners[(i + 1) % 4].Y ? 0 : corners[i].X,
                ny = corners[i].Y == corners[(i + 1) % 4].Y ? corners[i].Y : 0;
            b.Face(
                b.Add($"IFCPLANE(#{b.Place(corners[i].X, corners[i].Y, 0, nx, ny, 0)})"),
                true,
                [lows[i], ups[(i + 1) % 4], -highs[i], -ups[i]]
            );
        }

        b.Face(b.Add($"IFCCYLINDRICALSURFACE(#{b.Place(0, 0, 0)},0.5)"), false, [-hole0], [hole1]);
        Check(b, (4 - (Pi / 4)) * 0.2, (2 * (4 - (Pi / 4))) + (8 * 0.2) + (Pi * 0.2));
    }

    [Fact]
    public void A_face_that_runs_round_with_one_bound_only_is_told()
    {
        var b = new BrepText();
        int low = b.Vertex(0.5, 0, 0);
        b.Face(
            b.Add($"IFCCYLINDRICALSURFACE(#{b.Place(0, 0, 0)},0.5)"),
            true,
            [b.Edge(low, low, b.Add($"IFCCIRCLE(#{b.Place(0, 0, 0)},0.5)"))]
        );
        Assert.Contains("bounded on one side only", Assert.Single(Sample.Shape(b.Brep()).Problems));
    }
}
