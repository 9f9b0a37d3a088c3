using System.Collections.Concurrent;
using System.IO.Hashing;
using System.Runtime.InteropServices;

namespace SteadyLintel.Geometry;

/// <summary>Meshes of a model, each content once: whoever asks for a content that is there gets the same object, so that whatever depends
/// on the mesh alone is computed once (<see cref="MeshFacts"/>). Safe for concurrent use.</summary>
/// <remarks>
/// Models repeat: of 89 115 bodies of a tower 360 differ. A prism is looked for by its regions, frame and sweep before it is cut into
/// triangles, compared number by number; any other mesh by <see cref="MeshFacts.Content"/>. The first <see cref="MostBytes"/> are held; what
/// comes after is made each time, so nothing but time may rest on two meshes being one object.
/// </remarks>
public sealed class MeshPool
{
    /// <summary>How much is held, bytes.</summary>
    public const long MostBytes = 32 << 20;

    private readonly ConcurrentDictionary<PrismKey, Mesh> _prisms = new();
    private readonly ConcurrentDictionary<MeshContent, Mesh> _meshes = new();
    private readonly ConcurrentDictionary<LoopsKey, int[]> _caps = new();
    private long _bytes;

    private bool HasRoom => Interlocked.Read(ref _bytes) < MostBytes;

    /// <summary>The mesh of a prism, in the prism's outer frame.</summary>
    /// <param name="prism">In its outer frame, metres.</param>
    /// <exception cref="ShapeException">Its regions cross themselves.</exception>
    public Mesh Of(Prism prism) => Of([prism], () => prism.ToMesh(Caps));

    /// <summary>The mesh of a prism less others, made once for the same prisms.</summary>
    /// <param name="body">What is cut.</param>
    /// <param name="tools">What is cut out.</param>
    /// <param name="cut">Cuts it.</param>
    /// <exception cref="ShapeException">It cannot be cut.</exception>
    public Mesh Cut(Prism body, IReadOnlyList<Prism> tools, Func<Mesh> cut) => Of([body, .. tools], cut);

    /// <summary>The mesh of the same points and triangles that came first.</summary>
    /// <param name="mesh">Which is not changed afterwards.</param>
    public Mesh Of(Mesh mesh)
    {
        var content = MeshFacts.Of(mesh).Content;
        if (_meshes.TryGetValue(content, out var known))
            return known;
        return HasRoom ? Held(_meshes.GetOrAdd(content, mesh), mesh) : mesh;
    }

    private Mesh Of(IReadOnlyList<Prism> prisms, Func<Mesh> make)
    {
        var key = new PrismKey(prisms);
        if (_prisms.TryGetValue(key, out var known))
        {
            // A shape that uses a mesh a million times has a million meshes, whoever made them.
            WorkBudget.Spend(known.Points.Length + known.Triangles.Length);
            return known;
        }

        var mesh = make();
        return HasRoom ? Held(_prisms.GetOrAdd(key, mesh), mesh) : mesh;
    }

    // Of two that make it at once the first counts.
    private Mesh Held(Mesh held, Mesh made)
    {
        if (ReferenceEquals(held, made))
            Interlocked.Add(ref _bytes, (made.Points.Length * 24L) + (made.Triangles.Length * 4L));
        return held;
    }

    private int[] Caps(Region region)
    {
        var key = new LoopsKey([.. region.Loops]);
        if (_caps.TryGetValue(key, out int[]? known))
            return known;
        int[] caps = Triangulator.Triangulate(region);
        if (HasRoom && _caps.TryAdd(key, caps))
            Interlocked.Add(ref _bytes, (caps.Length * 4L) + (region.Loops.Sum(l => l.Length) * 16L));
        return caps;
    }

    /// <summary>Loops, compared number by number.</summary>
    private readonly struct LoopsKey : IEquatable<LoopsKey>
    {
        private readonly Vec2[][] _loops;
        private readonly int _hash;

        public LoopsKey(Vec2[][] loops)
        {
            var hash = new HashCode();
            foreach (var loop in loops)
                hash.Add(Hash(MemoryMarshal.AsBytes<Vec2>(loop)));
            (_loops, _hash) = (loops, hash.ToHashCode());
        }

        public bool Equals(LoopsKey other)
        {
            if (_hash != other._hash || _loops.Length != other._loops.Length)
                return false;
            for (int n = 0; n < _loops.Length; n++)
                if (!Same<Vec2>(_loops[n], other._loops[n]))
                    return false;
            return true;
        }

        public override bool Equals(object? obj) => obj is LoopsKey other && Equals(other);

        public override int GetHashCode() => _hash;
    }

    private readonly struct PrismKey : IEquatable<PrismKey>
    {
        private readonly LoopsKey _loops;
        private readonly Vec3[] _numbers;
        private readonly int _hash;

        public PrismKey(IReadOnlyList<Prism> prisms)
        {
            // Loops tell which region they are of: outer ones run counter-clockwise, holes clockwise. The last number parts the prisms.
            _loops = new LoopsKey([.. prisms.SelectMany(p => p.Regions).SelectMany(r => r.Loops)]);
            _numbers =
            [
                .. prisms.SelectMany(p =>
                    (Vec3[])
                        [
                            p.Frame.Origin,
                            p.Frame.X,
                            p.Frame.Y,
                            p.Frame.Z,
                            p.Sweep,
                            new Vec3(p.Regions.Count, p.Regions.Sum(r => r.Holes.Count), 0),
                        ]
                ),
            ];
            _hash = HashCode.Combine(_loops, Hash(MemoryMarshal.AsBytes<Vec3>(_numbers)));
        }

        public bool Equals(PrismKey other) =>
            _hash == other._hash && Same<Vec3>(_numbers, other._numbers) && _loops.Equals(other._loops);

        public override bool Equals(object? obj) => obj is PrismKey other && Equals(other);

        public override int GetHashCode() => _hash;
    }

    private static int Hash(ReadOnlySpan<byte> bytes) => (int)XxHash3.HashToUInt64(bytes);

    // By bits: a zero and a negative zero are two contents, and what is no number equals itself.
    private static bool Same<T>(T[] a, T[] b)
        where T : struct => MemoryMarshal.AsBytes<T>(a).SequenceEqual(MemoryMarshal.AsBytes<T>(b));
}
