using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>The meshes that entities of a drawing show: meshes, polyface meshes, solids of plane faces, and inserts of blocks of
/// these.</summary>
/// <param name="drawing">The drawing.</param>
/// <param name="metres">Metres in one drawing unit.</param>
internal sealed class BodyMeshes(Drawing drawing, double metres)
{
    private const int Deepest = 8,
        MostPlaces = 10_000;
    private readonly Dictionary<Handle, IReadOnlyList<Mesh>> _blocks = [];

    /// <summary>The meshes of an entity, metres; none when it shows no body.</summary>
    public IReadOnlyList<Mesh> Of(Entity entity) =>
        [
            .. Units(entity, 0)
                .Select(m =>
                    m.Map(
                        Frame.Identity with
                        {
                            X = Vec3.AxisX * metres,
                            Y = Vec3.AxisY * metres,
                            Z = Vec3.AxisZ * metres,
                        }
                    )
                ),
        ];

    /// <summary>Whether an entity shows solids alone: a 3DSOLID, or an insert of a block that holds nothing else.</summary>
    public bool IsSolid(Entity entity, int depth = 0) =>
        entity is ModelerEntity
        || (
            entity is Insert insert
            && depth < Deepest
            && drawing.Blocks[insert.Block] is { } block
            && block.Entities.All(e => IsSolid(e, depth + 1))
        );

    private IEnumerable<Mesh> Units(Entity entity, int depth) =>
        entity switch
        {
            MeshEntity mesh => [new Mesh([.. mesh.Points], [.. Fans(mesh.Faces)])],
            Polyline { Kind: PolylineKind.Polyface } faces => [Faces(faces)],
            ModelerEntity body => body.Faces() is { } read ? [Filled(read.Points, read.Faces)] : [],
            Insert insert when depth < Deepest && drawing.Blocks[insert.Block] is { } block => InsertTransform
                .All(insert, block, MostPlaces)
                .SelectMany(t => Block(block, depth).Select(m => m.Map(new Frame(t.Origin, t.X, t.Y, t.Z)))),
            _ => [],
        };

    private IReadOnlyList<Mesh> Block(BlockRecord block, int depth)
    {
        if (_blocks.TryGetValue(block.Handle, out var known))
            return known;
        _blocks[block.Handle] = [];
        return _blocks[block.Handle] = [.. block.Entities.SelectMany(e => Units(e, depth + 1))];
    }

    private static Mesh Filled(IReadOnlyList<Vec3> points, IReadOnlyList<PlanarFace> faces)
    {
        var triangles = new List<int>();
        try
        {
            foreach (var face in faces)
                FaceTriangles.Add([.. face.Loops], points, triangles);
        }
        catch (ShapeException)
        {
            // A body of which a face crosses itself shows nothing; the balance then misses it.
            return Mesh.Empty;
        }

        return new Mesh([.. points], [.. triangles]);
    }

    // A count, then so many corners, for each face.
    private static IEnumerable<int> Fans(List<int> faces)
    {
        for (int at = 0; at < faces.Count; at += faces[at] + 1)
        for (int k = 2; k < faces[at] && at + k + 1 < faces.Count; k++)
        {
            yield return faces[at + 1];
            yield return faces[at + k];
            yield return faces[at + k + 1];
        }
    }

    private static Mesh Faces(Polyline polyline)
    {
        var points = polyline.Vertices.Where(v => !v.IsFace).Select(v => v.Location).ToArray();
        var triangles = new List<int>();
        foreach (var face in polyline.Vertices.Where(v => v.IsFace))
        {
            // Negative corners begin edges that are not shown; zero ends the face.
            int[] corners = [.. face.Corners.TakeWhile(c => c != 0).Select(c => Math.Abs(c) - 1)];
            for (int k = 2; k < corners.Length; k++)
                if (corners.All(c => c < points.Length))
                    triangles.AddRange([corners[0], corners[k - 1], corners[k]]);
        }

        return new Mesh(points, [.. triangles]);
    }
}
