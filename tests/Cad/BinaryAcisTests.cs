using CsCheck;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Bodies in their binary form: what others write is read, and it crosses between the versions that have text and those that do
/// not.</summary>
public class BinaryAcisTests
{
    private const double Sixth = 1.0 / 6;

    public static TheoryData<string> Names => [.. SolidBodies.All.Keys];

    public static TheoryData<CadVersion, bool> Forms()
    {
        var forms = new TheoryData<CadVersion, bool>();
        foreach (bool dwg in (bool[])[false, true])
        foreach (var version in new CadForm(dwg, CadVersion.AC1024).Versions)
            forms.Add(version, dwg);
        return forms;
    }

    private static double Volume((IReadOnlyList<Vec3> Points, IReadOnlyList<PlanarFace> Faces) body)
    {
        var triangles = new List<int>();
        foreach (var face in body.Faces)
            FaceTriangles.Add([.. face.Loops], body.Points, triangles);
        var mass = MassProperties.Of(new Mesh([.. body.Points], [.. triangles]));
        Assert.True(mass.Closed);
        return mass.Volume;
    }

    private static string Told((IReadOnlyList<Vec3> Points, IReadOnlyList<PlanarFace> Faces) body) =>
        string.Join(
            '\n',
            body.Faces.Select(f =>
                string.Join(" / ", f.Loops.Select(l => string.Join(' ', l.Select(c => body.Points[c]))))
            )
        );

    private static Drawing With(ModelerEntity body, CadVersion version)
    {
        var drawing = Drawing.Create(version);
        drawing.Add(body);
        return drawing;
    }

    // Without the handles of the drawing it was in.
    private static ModelerEntity Again(ModelerEntity body) => new(body.Type) { Acis = body.Acis, Binary = body.Binary };

    private static ModelerEntity Through(Drawing drawing, CadForm form)
    {
        using var stream = new MemoryStream();
        Assert.Empty(CadFile.Write(drawing, stream, form));
        var again = CadFile.Read(stream.ToArray()).Drawing;
        Assert.Empty(again.Findings);
        Assert.Empty(again.Stored);
        return Assert.IsType<ModelerEntity>(Assert.Single(again.Model.Entities));
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void Both_forms_tell_the_same_body(string name)
    {
        var body = Polyhedron.Of(SolidBodies.All[name].Mesh)!;
        var binary = SabReader.Read(AcisWriter.Binary(body, 1000))!.Value;
        Assert.Equal(Told(SatReader.Read(AcisWriter.Text(body, 1000))!.Value), Told(binary));
        Assert.Equal(SolidBodies.All[name].Volume, Volume(binary) / 1e9, 1e-9);
        var again = Polyhedron.Of(binary.Points, binary.Faces);
        Assert.Null(again.Problem());
        Assert.Equal(SolidBodies.All[name].Shells, again.Shells.Count);
    }

    [Theory]
    [InlineData("ACIS BinaryFile", "ACIS", 700)]
    [InlineData("ASM BinaryFile4", "ASM", 22300)]
    [InlineData("ASM BinaryFile8", "ASM", 22300)]
    public void Data_of_other_writers_are_read(string signature, string maker, int version) =>
        Assert.Equal(
            Sixth,
            Volume(SabReader.Read(new BinaryAcis(signature, version).Tetrahedron().Bytes(maker))!.Value),
            1e-12
        );

    // The direction of a curve says nothing about the way an edge runs: from its first vertex to its second.
    [Fact]
    public void Edges_against_their_curves_bound_the_same_body() =>
        Assert.Equal(
            Told(SabReader.Read(new BinaryAcis().Tetrahedron().Bytes())!.Value),
            Told(SabReader.Read(new BinaryAcis().Tetrahedron(edgesReversed: true).Bytes())!.Value)
        );

    [Theory]
    [InlineData("1 0 0 0 1 0 0 0 1 5 6 7 1 no_rotate no_reflect no_shear ", 5, 6, 7, 1)]
    [InlineData("0 1 0 -1 0 0 0 0 1 0 0 0 2 rotate no_reflect no_shear ", -2, 0, 0, 8)]
    [InlineData("-1 0 0 0 1 0 0 0 1 0 0 0 1 no_rotate reflect no_shear ", -1, 0, 0, 1)]
    public void A_body_may_be_moved_turned_scaled_and_mirrored(
        string transform,
        double x,
        double y,
        double z,
        double times
    )
    {
        var binary = SabReader.Read(new BinaryAcis().Tetrahedron(transform: transform).Bytes())!.Value;
        Assert.Equal(times * Sixth, Volume(binary), 1e-12);
        Assert.Equal(new Vec3(x, y, z), Box.Of(binary.Points).Min);
        // The same in text, where the transform is a record among the others.
        string text = AcisWriter.Text(Polyhedron.Of(SolidBodies.Box)!);
        string moved = text.Replace("$1 $-1 $-1 #", "$1 $-1 $85 #", StringComparison.Ordinal)
            .Replace("End-of", $"transform $-1 -1 {transform}#\nEnd-of", StringComparison.Ordinal);
        Assert.Equal(times * 12, Volume(SatReader.Read(moved)!.Value), 1e-9);
    }

    [Theory]
    [MemberData(nameof(Forms))]
    public void A_body_goes_through_every_form_from_either(CadVersion version, bool dwg)
    {
        var body = Polyhedron.Of(SolidBodies.Window)!;
        var text = Through(
            With(new ModelerEntity("3DSOLID") { Acis = AcisWriter.Text(body, 1000) }, version),
            new CadForm(dwg, version)
        );
        var binary = Through(
            With(new ModelerEntity("3DSOLID") { Binary = AcisWriter.Binary(body, 1000) }, version),
            new CadForm(dwg, version)
        );
        Assert.Equal(version <= ModelerEntity.LastText, text.Acis.Length > 0);
        Assert.Equal(Told(text.Faces()!.Value), Told(binary.Faces()!.Value));
        Assert.Equal(36, Volume(text.Faces()!.Value) / 1e9, 1e-9);
        // From there into the other form, and back.
        var other = version <= ModelerEntity.LastText ? CadVersion.AC1032 : CadVersion.AC1018;
        var crossed = Through(With(Again(text), other), new CadForm(!dwg, other));
        Assert.Equal(version <= ModelerEntity.LastText, crossed.Acis.Length == 0);
        var back = Through(With(Again(crossed), version), new CadForm(dwg, version));
        Assert.Equal(Told(text.Faces()!.Value), Told(back.Faces()!.Value));
    }

    // Bent faces are not taken apart here: their data stay what they are, where they have a form.
    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void A_bent_body_is_kept_byte_for_byte_and_not_told_anew(bool dwg)
    {
        byte[] bent = new BinaryAcis()
            .Record("body", -1, -1, -1, -1)
            .Record("face", -1, -1, -1, -1, -1, 2, false, false)
            .Record("torus-surface", -1, 5.0)
            .Bytes();
        var region = Through(
            With(new ModelerEntity("REGION") { Binary = bent }, CadVersion.AC1027),
            new CadForm(dwg, CadVersion.AC1032)
        );
        Assert.Equal(bent, region.Binary);
        Assert.Equal("REGION", region.Type);
        Assert.Null(region.Faces());
        using var stream = new MemoryStream();
        Assert.Equal(
            "CAD-LEFT-BEHIND",
            Assert
                .Single(
                    CadFile.Write(With(Again(region), CadVersion.AC1032), stream, new CadForm(dwg, CadVersion.AC1018))
                )
                .Code
        );
        Assert.Empty(CadFile.Read(stream.ToArray()).Drawing.Model.Entities);
    }

    // Before 2013 the binary form may lie within the bits of the entity, without a length, up to the words that end it.
    [Theory]
    [InlineData(CadVersion.AC1018)]
    [InlineData(CadVersion.AC1024)]
    public void Data_among_the_bits_are_read_to_their_end(CadVersion version)
    {
        byte[] data = new BinaryAcis().Tetrahedron().Bytes();
        var text = new CadText(CodePages.Encoding("ANSI_1252"));
        var write = new DwgWriteFields(version, text);
        write.Bit(false);
        write.Bit(false);
        write.Short(2);
        write.Bytes(data, data.Length);
        write.RawLong(12345);
        long handles = write.Close();
        byte[] bits = write.Data.Written.ToArray();
        var read = new DwgReadFields(bits, version, text);
        read.Open(0, handles, bits.Length * 8L);
        var body = new ModelerEntity("BODY");
        body.Exchange(read);
        Assert.Equal(data, body.Binary);
        Assert.Equal(Sixth, Volume(body.Faces()!.Value), 1e-12);
    }

    [Fact]
    public void Damaged_data_give_a_body_or_none_and_end()
    {
        byte[] whole = AcisWriter.Binary(Polyhedron.Of(SolidBodies.Ell)!);
        Gen.Select(Gen.Int[15, whole.Length - 1], Gen.Byte, Gen.Int[15, whole.Length])
            .Sample(
                (at, value, length) =>
                {
                    byte[] broken = [.. whole];
                    broken[at] = value;
                    _ = SabReader.Read(broken)?.Faces.Count;
                    _ = SabReader.Read(broken[..length])?.Faces.Count;
                },
                iter: 2000
            );
    }

    [Fact]
    public void A_loop_that_never_comes_back_gives_none()
    {
        byte[] round = new BinaryAcis()
            .Record("face", -1, -1, 1, -1, -1, 2, false, false)
            .Record("loop", -1, 1, 3, 0)
            .Record("plane-surface", -1)
            .Record("coedge", -1, 4, 4, -1, 5, false, 1, -1)
            .Record("coedge", -1, 4, 4, -1, 5, false, 1, -1)
            .Record("edge", -1, 7, 0.0, 7, 1.0, 4, 6, false)
            .Record("straight-curve", -1)
            .Record("vertex", -1, 5, 8)
            .Record("point", -1, (double[])[0, 0, 0])
            .Bytes();
        Assert.Null(SabReader.Read(round));
    }
}
