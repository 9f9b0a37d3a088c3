using System.IO.Hashing;
using System.Runtime.InteropServices;

namespace SteadyLintel.Geometry;

/// <summary>What a mesh holds, short: meshes of the same points and triangles have the same, others another.</summary>
/// <param name="Hash">A hash of 128 bits over points and triangles (XXH3).</param>
/// <param name="Points">How many points.</param>
/// <param name="Corners">How many corners of triangles.</param>
public readonly record struct MeshContent(UInt128 Hash, int Points, int Corners)
{
    /// <summary>The content of a mesh.</summary>
    /// <param name="mesh">Whose points and triangles count as they are numbered.</param>
    public static MeshContent Of(Mesh mesh) =>
        new(
            XxHash128.HashToUInt128(
                MemoryMarshal.AsBytes<Vec3>(mesh.Points),
                (long)XxHash3.HashToUInt64(MemoryMarshal.AsBytes<int>(mesh.Triangles))
            ),
            mesh.Points.Length,
            mesh.Triangles.Length
        );
}
