using System.Numerics;
using System.Runtime.InteropServices;
using SharpGLTF.Memory;
using SharpGLTF.Schema2;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;
using Mesh = SteadyLintel.Geometry.Mesh;

namespace SteadyLintel.Exchange;

/// <summary>Gathers shapes into a binary glTF file (glTF 2.0): a mesh an element, named by its GlobalId, a material a colour, metres, Y
/// up.</summary>
public sealed class GlbScene
{
    private readonly ModelRoot _root = ModelRoot.CreateModel();
    private readonly Scene _scene;
    private readonly Dictionary<Colour, Material> _materials = [];
    private Vec3? _origin;

    /// <summary>Begins a file.</summary>
    public GlbScene() => _scene = _root.UseScene(0);

    /// <summary>Adds an element with its shape, metres, Z up.</summary>
    /// <returns>Whether it has a triangle to add.</returns>
    public bool Add(ModelElement product, Shape shape)
    {
        // glTF is single precision: far coordinates go to the scene's node, near ones to the mesh.
        _origin ??= shape.Measure().Bounds.Centre;
        var mesh = _root.CreateMesh(product.GlobalId);
        foreach (var part in shape.Parts.SelectMany(p => p.ByColour()).Where(p => p.Mesh.TriangleCount > 0))
        {
            var world = part.Mesh.Map(shape.World.Compose(part.Frame));
            var points = world
                .Points.Select(p => p - _origin.Value)
                .Select(p => new Vector3((float)p.X, (float)p.Z, (float)-p.Y))
                .ToArray();
            AddPrimitive(mesh, points, world.Triangles, MaterialOf(part.Colour));
        }

        if (mesh.Primitives.Count == 0)
            return false;
        var node = _scene.CreateNode(product.Label);
        node.Mesh = mesh;
        node.LocalTransform = Matrix4x4.CreateTranslation(
            (float)_origin.Value.X,
            (float)_origin.Value.Z,
            (float)-_origin.Value.Y
        );
        return true;
    }

    /// <summary>Writes the file.</summary>
    public void Save(Stream target) => _root.WriteGLB(target);

    /// <summary>The elements of a file, by GlobalId: what they show, metres, Z up, and their colours.</summary>
    public static IReadOnlyList<(string GlobalId, Mesh Mesh, IReadOnlyList<Colour> Colours)> Read(
        ReadOnlyMemory<byte> bytes
    )
    {
        var root = ModelRoot.ReadGLB(new MemoryStream(bytes.ToArray()));
        var found = new List<(string, Mesh, IReadOnlyList<Colour>)>();
        foreach (var node in root.LogicalNodes.Where(n => n.Mesh is not null))
        {
            var matrix = node.WorldMatrix;
            var parts = node.Mesh.Primitives.Select(p => new Mesh(
                [
                    .. p.GetVertexAccessor("POSITION")
                        .AsVector3Array()
                        .Select(v => new Vec3(
                            v.X + (double)matrix.M41,
                            -(v.Z + (double)matrix.M43),
                            v.Y + (double)matrix.M42
                        )),
                ],
                [.. p.GetIndices().Select(i => (int)i)]
            ));
            found.Add(
                (node.Mesh.Name, Mesh.Join([.. parts]), [.. node.Mesh.Primitives.Select(p => ColourOf(p.Material))])
            );
        }

        return found;
    }

    private static Colour ColourOf(Material material)
    {
        var c = material.FindChannel("BaseColor")!.Value.Color;
        byte Byte(float f) => (byte)Math.Round(f * 255);
        return new Colour(Byte(c.X), Byte(c.Y), Byte(c.Z), Byte(c.W));
    }

    private void AddPrimitive(SharpGLTF.Schema2.Mesh mesh, Vector3[] points, int[] triangles, Material material)
    {
        var primitive = mesh.CreatePrimitive();
        var positions = _root.CreateAccessor();
        positions.SetVertexData(
            _root.UseBufferView(MemoryMarshal.AsBytes(points.AsSpan()).ToArray(), 0, null, 0, BufferMode.ARRAY_BUFFER),
            0,
            points.Length,
            AttributeFormat.Float3
        );
        primitive.SetVertexAccessor("POSITION", positions);
        var indices = _root.CreateAccessor();
        indices.SetIndexData(
            _root.UseBufferView(
                MemoryMarshal.AsBytes(triangles.AsSpan()).ToArray(),
                0,
                null,
                0,
                BufferMode.ELEMENT_ARRAY_BUFFER
            ),
            0,
            triangles.Length,
            IndexEncodingType.UNSIGNED_INT
        );
        primitive.SetIndexAccessor(indices);
        primitive.DrawPrimitiveType = PrimitiveType.TRIANGLES;
        primitive.Material = material;
    }

    private Material MaterialOf(Colour colour)
    {
        if (_materials.TryGetValue(colour, out var known))
            return known;
        var material = _root.CreateMaterial($"{colour.R:X2}{colour.G:X2}{colour.B:X2}{colour.A:X2}");
        material.InitializePBRMetallicRoughness();
        var channel = material.FindChannel("BaseColor")!.Value;
        channel.Color = new Vector4(colour.R, colour.G, colour.B, colour.A) / 255f;
        if (colour.A < 255)
            material.Alpha = AlphaMode.BLEND;
        return _materials[colour] = material;
    }
}
