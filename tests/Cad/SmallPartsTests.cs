using CsCheck;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>What codecs lean on: tables of handles, object coordinates, transforms of inserts, sections kept as they came.</summary>
public class SmallPartsTests
{
    [Fact]
    public void A_table_of_handles_answers_like_a_dictionary_dense_or_not() =>
        Gen.Select(Gen.ULong[0, 3000].Array[1, 60], Gen.ULong[0, ulong.MaxValue].Array[0, 5], Gen.Int[1, 100])
            .Sample(
                (near, far, expected) =>
                {
                    var handles = near.Concat(far).ToArray();
                    var table = new HandleTable<string>(expected, new Handle(near.Max()));
                    var dictionary = new Dictionary<ulong, string>();
                    foreach (ulong h in handles)
                    {
                        table[new Handle(h)] = "v" + h;
                        dictionary[h] = "v" + h;
                    }

                    foreach (ulong h in (ulong[])[.. handles, 1, 2999, 3001, ulong.MaxValue - 1])
                        Assert.Equal(dictionary.GetValueOrDefault(h), table[new Handle(h)]);
                },
                iter: 200
            );

    // DXF reference, "Arbitrary axis algorithm": within 1/64 of the Z axis the Y axis gives X, beyond it the Z axis does.
    [Theory]
    [InlineData(0, 0, 1, 1, 0, 0)]
    [InlineData(0, 0, -1, -1, 0, 0)]
    [InlineData(1, 0, 0, 0, 1, 0)]
    [InlineData(0, 1, 0, -1, 0, 0)]
    [InlineData(0.015, 0, 1, 0.99989, 0, -0.015)]
    [InlineData(0.016, 0, 1, 0, 1, 0)]
    public void The_first_axis_follows_the_reference(double x, double y, double z, double ax, double ay, double az)
    {
        var axes = ObjectCoordinates.Axes(new Vec3(x, y, z));
        Assert.True((axes.X - new Vec3(ax, ay, az)).Length < 1e-4, axes.X.ToString());
        Assert.Equal(1, axes.X.Cross(axes.Y).Dot(axes.Z), 1e-12);
    }

    [Fact]
    public void Object_coordinates_and_back_is_the_same_point() =>
        Gen.Select(Gen.Double[-1, 1], Gen.Double[-1, 1], Gen.Double[-1, 1])
            .Sample(
                (x, y, z) =>
                {
                    var normal = new Vec3(x, y, z + 1e-3).Unit();
                    var p = new Vec3(3, -4, 5);
                    Assert.True(
                        (ObjectCoordinates.FromWorld(ObjectCoordinates.ToWorld(p, normal), normal) - p).Length < 1e-12
                    );
                    Assert.Equal(p.Length, ObjectCoordinates.ToWorld(p, normal).Length, 1e-12);
                },
                iter: 300
            );

    [Fact]
    public void Inserts_within_inserts_compose() =>
        Gen.Select(Gen.Double[0, 6], Gen.Double[0.2, 3], Gen.Double[-9, 9], Gen.Double[0, 6])
            .Sample(
                (turn, scale, x, inner) =>
                {
                    var block = new BlockRecord { Base = new Vec3(1, 2, 0) };
                    var outer = InsertTransform
                        .All(
                            new Insert
                            {
                                Rotation = turn,
                                Scale = new(scale, scale, scale),
                                Location = new(x, 1, 2),
                            },
                            block,
                            1
                        )
                        .Single();
                    var within = InsertTransform
                        .All(new Insert { Rotation = inner, Location = new(5, 0, 0) }, block, 1)
                        .Single();
                    var p = new Vec3(0.5, -1, 2);
                    Assert.True((within.Within(outer).Apply(p) - outer.Apply(within.Apply(p))).Length < 1e-9);
                    // The base point comes to lie where the insert is.
                    Assert.True((outer.Apply(block.Base) - new Vec3(x, 1, 2)).Length < 1e-9);
                },
                iter: 100
            );

    [Theory]
    [InlineData(3, 4, 12)]
    [InlineData(0, 0, 1)]
    [InlineData(1, 5, 5)]
    public void An_array_has_a_place_for_every_column_and_row(int columns, int rows, int places)
    {
        var all = InsertTransform
            .All(new Insert { Array = (columns, rows), Spacing = (10, 20) }, new BlockRecord(), 1000)
            .ToList();
        Assert.Equal(places, all.Count);
        Assert.Equal(new Vec3(10 * (Math.Max(1, columns) - 1), 20 * (Math.Max(1, rows) - 1), 0), all[^1].Origin);
    }

    private static Drawing WithSections() =>
        GroupText.Read(
            GroupText.Section(
                "ACDSDATA",
                "70=2 71=2 0=ACDSSCHEMA 90=0 1=Table 0=ACDSRECORD 90=0 2=AcDbDs::ID 280=10 320=A 2=ASM_Data 280=15 94=4 310=0A0B0C0D"
            ),
            "AC1027"
        );

    [Fact]
    public void Sections_that_have_no_place_are_kept_in_their_version()
    {
        var drawing = WithSections();
        Assert.Equal(("ACDSDATA", 14), (drawing.OtherSections[0].Name, drawing.OtherSections[0].Groups.Count));
        using var stream = new MemoryStream();
        Assert.Empty(DxfWriter.Write(drawing, stream));
        var again = DxfReader.Read(stream.ToArray());
        Assert.Equal(
            drawing.OtherSections[0].Groups.Select(g => g.Code),
            again.OtherSections[0].Groups.Select(g => g.Code)
        );
        Assert.Equal(new byte[] { 10, 11, 12, 13 }, again.OtherSections[0].Groups[^1].Value);
    }

    [Theory]
    [InlineData(false, CadVersion.AC1024)]
    [InlineData(true, CadVersion.AC1027)]
    public void Elsewhere_they_stay_behind_and_it_is_said(bool dwg, CadVersion version)
    {
        using var stream = new MemoryStream();
        var finding = Assert.Single(CadFile.Write(WithSections(), stream, new CadForm(dwg, version)));
        Assert.Equal(("CAD-SECTION-LEFT", "ACDSDATA"), (finding.Code, finding.Place));
    }
}
