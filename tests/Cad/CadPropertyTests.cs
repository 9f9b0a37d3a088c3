using CsCheck;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

public class CadPropertyTests
{
    private static readonly Gen<double> Number = Gen.OneOf(
        Gen.Double[-1e9, 1e9],
        Gen.Const(0.0),
        Gen.Const(1.0),
        Gen.Double[-1e-9, 1e-9]
    );
    private static readonly Gen<Vec3> Place = Gen.Select(Number, Number, Number, (x, y, z) => new Vec3(x, y, z));
    private static readonly Gen<string> Words = Gen.String[Gen.Char["abcÄß梁 %\\{}0129"], 0, 40];

    private static readonly Gen<Entity> AnyEntity = Gen.OneOf(
        Gen.Select(Place, Place, (a, b) => (Entity)new Line { Start = a, End = b }),
        Gen.Select(Place, Gen.Double[0.001, 1e6], (c, r) => (Entity)new Circle { Centre = c, Radius = r }),
        Gen.Select(Place, Words, (p, t) => (Entity)new MText { Insertion = p, Value = t }),
        Gen.Select(Gen.Select(Number, Number, Gen.Double[-2, 2]).Array[1, 30], Gen.Bool, (v, closed) =>
        {
            var line = new LightPolyline { Closed = closed };
            line.Vertices.AddRange(v.Select(x => new LightVertex(new Vec2(x.Item1, x.Item2), x.Item3)));
            return (Entity)line;
        }),
        Gen.Select(Place, Place, Place, Place, Gen.Int[0, 15], (a, b, c, d, h) =>
        {
            var face = new Face3D { Hidden = h };
            new[] { a, b, c, d }.CopyTo(face.Corners, 0);
            return (Entity)face;
        })
    );

    [Fact]
    public void Bit_codes_read_back_what_was_written() =>
        Gen.Select(Gen.Int, Gen.Short, Number, Number, Gen.Long[0, (1L << 55) - 1], Gen.ULong, Gen.Int[0, 7])
            .Sample(
                (a, b, c, d, e, f, skew) =>
                {
                    var writer = new BitWriter();
                    writer.Bits(0, skew);
                    writer.Long(a);
                    writer.Short(b);
                    writer.Double(c);
                    writer.Default(d, c);
                    writer.LongLong(e);
                    writer.Handle(HandleKind.SoftPointer, new Handle(f));
                    writer.ModularChar(a);
                    writer.UnsignedModularChar(f >> 1);
                    writer.RawDouble(d);
                    writer.Align();
                    var reader = new BitReader(writer.Written.ToArray()) { Position = skew };
                    return reader.Long() == a
                        && reader.Short() == b
                        && reader.Double() == c
                        && reader.Default(c) == d
                        && reader.LongLong() == e
                        && reader.Handle() == (4, f)
                        && reader.ModularChar() == a
                        && reader.UnsignedModularChar() == f >> 1
                        && reader.RawDouble() == d;
                }
            );

    // The format begins with at least four literals, and no page is shorter.
    [Fact]
    public void Packed_pages_unpack_to_the_same() =>
        Gen.OneOf(
                Gen.Byte.Array[4, 4000],
                Gen.Byte[0, 3].Array[4, 30000],
                Gen.Select(Gen.Byte.Array[1, 40], Gen.Int[4, 900], (b, n) =>
                    Enumerable.Repeat(b, n).SelectMany(x => x).ToArray()
                )
            )
            .Sample(bytes =>
            {
                byte[] back = new byte[bytes.Length];
                DwgCompression.Decompress(DwgCompression.Compress(bytes), back);
                return back.AsSpan().SequenceEqual(bytes);
            });

    [Fact]
    public void Any_drawing_comes_back_from_any_form() =>
        Gen.Select(
                AnyEntity.List[0, 12],
                Gen.OneOfConst([.. DwgWriter.Versions, CadVersion.AC1021]),
                Gen.Bool,
                Gen.Bool
            )
            .Sample(
                (entities, version, dwg, binary) =>
                {
                    var drawing = Drawing.Create(version);
                    foreach (var entity in entities)
                    {
                        entity.Handle = default;
                        drawing.Add(entity);
                    }

                    DrawingText.Same(
                        drawing,
                        CadFile
                            .Read(dwg ? DwgTests.Write(drawing, version) : DxfTests.Write(drawing, version, binary))
                            .Drawing,
                        version
                    );
                },
                iter: 60
            );

    [Fact]
    public void Pages_of_2007_unpack_to_what_was_packed() =>
        Gen.OneOf(
                Gen.Byte.Array[0, 400],
                Gen.Byte[0, 3].Array[0, 5000],
                Gen.Select(Gen.Byte.Array[1, 40], Gen.Int[1, 200], (some, times) =>
                    Enumerable.Repeat(some, times).SelectMany(s => s).ToArray()
                )
            )
            .Sample(
                data =>
                {
                    byte[] packed = CodedDwg.Pack(data),
                        again = new byte[data.Length];
                    Assert.Equal(data.Length, packed.Length == 0 ? 0 : Dwg2007Compression.Decompress(packed, again));
                    Assert.Equal(data, again);
                },
                iter: 400
            );

    [Theory]
    [InlineData(CadVersion.AC1014)]
    [InlineData(CadVersion.AC1015)]
    [InlineData(CadVersion.AC1018)]
    [InlineData(CadVersion.AC1021)]
    [InlineData(CadVersion.AC1032)]
    public void Damaged_dwg_ends_in_a_sentence_or_a_drawing(CadVersion version) =>
        Fuzz(
            DwgTests.Write(
                version < CadVersion.AC1015 ? OldSink.Create(version) : KitchenSink.Create(version),
                version
            ),
            (int)version
        );

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void Damaged_dxf_ends_in_a_sentence_or_a_drawing(bool binary)
    {
        using var stream = new MemoryStream();
        DxfWriter.Write(KitchenSink.Create(CadVersion.AC1027), stream, binary: binary);
        Fuzz(stream.ToArray(), binary ? 1 : 2);
    }

    [Theory]
    [InlineData(CadVersion.AC1018, true)]
    [InlineData(CadVersion.AC1024, true)]
    [InlineData(CadVersion.AC1032, true)]
    [InlineData(CadVersion.AC1018, false)]
    [InlineData(CadVersion.AC1032, false)]
    public void Damaged_tables_and_solids_end_in_a_sentence_or_a_drawing(CadVersion version, bool dwg)
    {
        var drawing = DwgReader.Read(DwgTests.Write(TableDrawing.Doors(version).Drawing, version));
        foreach (var (mesh, _, _, _, _, _, _) in SolidBodies.All.Values)
            drawing.Add(new ModelerEntity("3DSOLID") { Acis = AcisWriter.Text(Polyhedron.Of(mesh)!) });
        using var stream = new MemoryStream();
        Assert.Empty(CadFile.Write(drawing, stream, new CadForm(dwg, version)));
        Fuzz(stream.ToArray(), (int)version + 1);
    }

    // Pages that are sound hold sections that are not: what a packed file's own checks would hide is tried too.
    [Theory]
    [InlineData(CadVersion.AC1018)]
    [InlineData(CadVersion.AC1024)]
    [InlineData(CadVersion.AC1027)]
    [InlineData(CadVersion.AC1032)]
    public void Damaged_sections_behind_sound_pages_end_in_a_sentence_or_a_drawing(CadVersion version)
    {
        var drawing = KitchenSink.Create(version);
        drawing.Add(new ModelerEntity("3DSOLID") { Acis = AcisWriter.Text(Polyhedron.Of(SolidBodies.Ell)!) });
        var sections = DwgWriter.Sections(drawing, version).ToList();
        int objects = sections.FindIndex(s => s.Name == "AcDb:AcDbObjects");
        Fuzz(
            random =>
            {
                int damaged = random.Next(3) == 0 ? random.Next(sections.Count) : objects;
                var changed = sections
                    .Select((s, i) => i == damaged ? s with { Data = Mutate(s.Data.ToArray(), random) } : s)
                    .ToList();
                using var stream = new MemoryStream();
                Dwg2004Container.Write(stream, version, 30, changed);
                return stream.ToArray();
            },
            (int)version + 2
        );
    }

    private static void Fuzz(byte[] good, int seed) => Fuzz(random => Mutate(good, random), seed);

    // LINTEL_FUZZ=10000 for a long run.
    private static void Fuzz(Func<Random, byte[]> make, int seed)
    {
        int rounds = int.TryParse(Environment.GetEnvironmentVariable("LINTEL_FUZZ"), out int given) ? given : 300;
        var random = new Random(seed);
        for (int i = 0; i < rounds; i++)
        {
            byte[] bytes = make(random);
            using var time = new CancellationTokenSource(TimeSpan.FromSeconds(5));
            long before = GC.GetAllocatedBytesForCurrentThread();
            try
            {
                var drawing = CadFile.Read(bytes, time.Token).Drawing;
                drawing.Extents();
                using var again = new MemoryStream();
                DxfWriter.Write(drawing, again, CadVersion.AC1032, cancel: time.Token);
            }
            catch (CadFormatException) { }

            Assert.True(
                GC.GetAllocatedBytesForCurrentThread() - before < 400_000_000,
                $"round {i} took {GC.GetAllocatedBytesForCurrentThread() - before} bytes"
            );
        }
    }

    private static byte[] Mutate(byte[] good, Random random)
    {
        byte[] bytes = [.. good];
        switch (random.Next(4))
        {
            case 0:
                return bytes[..random.Next(bytes.Length)];
            case 1:
                int from = random.Next(bytes.Length),
                    length = random.Next(Math.Min(200, bytes.Length - from));
                random.NextBytes(bytes.AsSpan(from, length));
                return bytes;
            case 2:
                int a = random.Next(bytes.Length),
                    b = random.Next(bytes.Length);
                return [.. bytes[..Math.Min(a, b)], .. bytes[Math.Max(a, b)..]];
            default:
                for (int i = random.Next(1, 20); i > 0; i--)
                    bytes[random.Next(bytes.Length)] ^= (byte)(1 << random.Next(8));
                return bytes;
        }
    }
}
