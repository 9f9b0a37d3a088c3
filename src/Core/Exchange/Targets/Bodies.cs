using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Bodies as entities of a drawing: 3DSOLID where asked for and possible, else MESH where the version has it, polyface meshes
/// before.</summary>
internal static class Bodies
{
    /// <summary>The reason of the ledger for elements whose bodies cannot be solids.</summary>
    public const string NotSolid =
        "bodies whose surface is open or touches itself along an edge went as meshes, not as solids";

    // A face of a polyface names its corners in sixteen bits.
    private const int MostCorners = 32_000;

    /// <summary>The entities of a mesh.</summary>
    /// <param name="mesh">The mesh in metres.</param>
    /// <param name="scale">Drawing units a metre.</param>
    /// <param name="version">The version; MESH came with 2010.</param>
    public static IEnumerable<Entity> Of(Mesh mesh, double scale, CadVersion version) =>
        version >= CadVersion.AC1024 ? [AsMesh(mesh, scale)] : AsPolyfaces(mesh, scale);

    /// <summary>The solid of a mesh; null when it bounds none.</summary>
    /// <param name="mesh">The mesh in metres.</param>
    /// <param name="scale">Drawing units a metre.</param>
    /// <param name="version">The version: bodies are text up to 2010, binary from then on.</param>
    public static Entity? Solid(Mesh mesh, double scale, CadVersion version)
    {
        if (Polyhedron.Of(mesh) is not { } body || body.Problem() is not null || !CanBeFilled(body))
            return null;
        return version <= ModelerEntity.LastText
            ? new ModelerEntity("3DSOLID") { Acis = AcisWriter.Text(body, scale) }
            : new ModelerEntity("3DSOLID") { Binary = AcisWriter.Binary(body, scale) };
    }

    // Whoever shows a face with holes cuts it into triangles; a face that cannot be cut is better written as the triangles it came as.
    private static bool CanBeFilled(Polyhedron body)
    {
        try
        {
            var triangles = new List<int>();
            foreach (var face in body.Faces.Where(f => f.Loops.Count > 1))
                FaceTriangles.Add([.. face.Loops], body.Points, triangles);
            return true;
        }
        catch (ShapeException)
        {
            return false;
        }
    }

    private static MeshEntity AsMesh(Mesh mesh, double scale)
    {
        var entity = new MeshEntity();
        entity.Points.AddRange(mesh.Points.Select(p => p * scale));
        for (int i = 0; i < mesh.Triangles.Length; i += 3)
            entity.Faces.AddRange([3, mesh.Triangles[i], mesh.Triangles[i + 1], mesh.Triangles[i + 2]]);
        return entity;
    }

    private static IEnumerable<Polyline> AsPolyfaces(Mesh mesh, double scale)
    {
        for (int from = 0; from < mesh.Triangles.Length; )
        {
            var corners = new Dictionary<int, int>();
            var points = new List<Vertex>();
            var faces = new List<Vertex>();
            for (; from < mesh.Triangles.Length && points.Count < MostCorners; from += 3)
            {
                var face = new Vertex(PolylineKind.Polyface, true);
                for (int k = 0; k < 3; k++)
                    face.Corners[k] = Corner(mesh.Triangles[from + k]);
                faces.Add(face);
            }

            var body = new Polyline(PolylineKind.Polyface) { Counts = (points.Count, faces.Count) };
            body.Vertices.AddRange(points);
            body.Vertices.AddRange(faces);
            yield return body;

            int Corner(int point)
            {
                if (corners.TryGetValue(point, out int known))
                    return known;
                points.Add(new Vertex(PolylineKind.Polyface) { Location = mesh.Points[point] * scale });
                return corners[point] = points.Count;
            }
        }
    }
}
