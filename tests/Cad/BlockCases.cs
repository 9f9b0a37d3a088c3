using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>A drawing whose model space shows one block in every way an insert can: moved, turned, mirrored, scaled, on its side, in an
/// array, within another block.</summary>
internal static class BlockCases
{
    /// <summary>Ways an insert shows its block, by name.</summary>
    public static readonly IReadOnlyDictionary<string, Insert> Inserts = new Dictionary<string, Insert>
    {
        ["moved"] = new() { Location = new(100, 50, 3) },
        ["turned and scaled"] = new()
        {
            Location = new(-20, 10, 0),
            Rotation = 0.7,
            Scale = new(2, 2, 2),
        },
        ["mirrored"] = new()
        {
            Location = new(10, 10, 0),
            Scale = new(-1, 1, 1),
            Rotation = 0.3,
        },
        ["upside down"] = new()
        {
            Location = new(10, 10, 5),
            Normal = new(0, 0, -1),
            Rotation = 1.1,
        },
        ["on its side"] = new()
        {
            Location = new(4, 5, 6),
            Normal = new(0, -1, 0),
            Scale = new(1.5, 1.5, 1.5),
        },
        ["aslant"] = new()
        {
            Location = new(4, 5, 6),
            Normal = new Vec3(1, 2, 3).Unit(),
            Rotation = 2.2,
        },
        ["in an array"] = new()
        {
            Location = new(0, 0, 0),
            Array = (3, 2),
            Spacing = (40, 60),
            Rotation = 0.5,
        },
    };

    /// <summary>How WHOLE turns PART.</summary>
    public static Frame Within => Frame.FromAxes(Vec3.Zero, Vec3.AxisZ, new Vec3(Math.Cos(Turn), Math.Sin(Turn), 0));

    private const double Turn = 0.4;

    /// <summary>A drawing with the block PART, the block WHOLE around it, and inserts of one of them.</summary>
    public static Drawing Create(string block, IEnumerable<Insert> inserts, bool texts = true)
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        var own = drawing.AddLayer("OWN");
        var part = drawing.AddBlock("PART");
        part.Base = new Vec3(1, 2, 0);
        foreach (var entity in Entities(texts))
            drawing.Add(entity, part);
        part.Entities[0].Layer = own.Handle;
        var whole = drawing.AddBlock("WHOLE");
        drawing.Add(new Line { End = new(7, 0, 0) }, whole);
        drawing.Add(
            new Insert
            {
                Block = part.Handle,
                Location = new(3, 4, 0),
                Rotation = Turn,
                Scale = new(0.5, 0.5, 0.5),
            },
            whole
        );
        var shown = drawing.AddLayer("SHOWN");
        foreach (var insert in inserts)
        {
            (insert.Block, insert.Layer, insert.Handle) = (drawing.Blocks[block]!.Handle, shown.Handle, default);
            drawing.Add(insert);
        }

        return drawing;
    }

    private static IEnumerable<Entity> Entities(bool texts)
    {
        yield return new Line { Start = new(0, 0, 0), End = new(10, 0, 1) };
        yield return new Circle { Centre = new(5, 5, 0), Radius = 2 };
        yield return new ArcEntity
        {
            Centre = new(5, 5, 0),
            Radius = 4,
            Start = 0.2,
            End = 2.5,
        };
        yield return new ArcEntity
        {
            Centre = new(-5, 5, 2),
            Radius = 3,
            Start = 5,
            End = 1,
            Normal = new(0, 0, -1),
        };
        yield return new Ellipse
        {
            Centre = new(0, 20, 0),
            Axis = new(6, 2, 0),
            Ratio = 0.4,
            Start = 0.5,
            End = 4,
        };
        yield return new Point { Location = new(3, 9, 0) };
        var bulged = new LightPolyline { Closed = true, Elevation = 1 };
        bulged.Vertices.AddRange([new(new(0, 30), 0.5), new(new(10, 30), 0, 0.1, 0.2), new(new(10, 36), -0.3)]);
        yield return bulged;
        var space = new Polyline(PolylineKind.Space);
        foreach (var at in new Vec3[] { new(0, 40, 0), new(5, 42, 3), new(9, 40, 1) })
            space.Vertices.Add(new Vertex(PolylineKind.Space) { Location = at });
        yield return space;
        var flat = new Polyline(PolylineKind.Flat) { Elevation = 2 };
        foreach (
            var (at, bulge) in new[] { (new Vec3(20, 0, 0), 1.0), (new Vec3(24, 0, 0), 0.0), (new Vec3(24, 5, 0), 0.0) }
        )
            flat.Vertices.Add(new Vertex(PolylineKind.Flat) { Location = at, Bulge = bulge });
        yield return flat;
        var face = new Face3D();
        new Vec3[] { new(0, 50, 0), new(4, 50, 1), new(4, 53, 2), new(0, 53, 1) }.CopyTo(face.Corners, 0);
        yield return face;
        var solid = new Solid();
        new Vec3[] { new(20, 20, 0), new(24, 20, 0), new(20, 23, 0), new(24, 23, 0) }.CopyTo(solid.Corners, 0);
        yield return solid;
        var spline = new Spline { Degree = 2 };
        spline.Knots.AddRange([0, 0, 0, 1, 1, 1]);
        spline.Controls.AddRange([new(30, 0, 0), new(34, 6, 0), new(38, 0, 0)]);
        yield return spline;
        yield return new Ray(false) { Start = new(40, 0, 0), Direction = new(0.6, 0.8, 0) };
        yield return new Ray(true) { Start = new(40, 10, 2), Direction = new(0, 0, 1) };
        var mesh = new MeshEntity();
        mesh.Points.AddRange([new(40, 20, 0), new(44, 20, 0), new(44, 23, 0), new(42, 21, 4)]);
        mesh.Faces.AddRange([3, 0, 2, 1, 3, 0, 1, 3, 3, 1, 2, 3, 3, 2, 0, 3]);
        yield return mesh;
        if (!texts)
            yield break;
        yield return new Text
        {
            Value = "Gate",
            Insertion = new(30, 30, 0),
            Height = 1.5,
            Rotation = 0.2,
        };
        var leader = new Leader();
        leader.Points.AddRange([new(40, 30, 0), new(42, 34, 1), new(46, 34, 1)]);
        yield return leader;
        yield return new MText
        {
            Value = "Two\\Plines",
            Insertion = new(30, 40, 0),
            Height = 1,
            Direction = new(0.8, 0.6, 0),
        };
    }
}
