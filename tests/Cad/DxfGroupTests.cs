using System.Text;
using CsCheck;
using SteadyLintel.Cad;

namespace SteadyLintel.Tests;

/// <summary>Groups of DXF of every kind of value, through both forms, and written as strangers write them.</summary>
public class DxfGroupTests
{
    private static readonly int[] Codes =
    [
        1,
        2,
        10,
        40,
        62,
        70,
        90,
        102,
        140,
        160,
        170,
        210,
        270,
        281,
        290,
        300,
        310,
        330,
        370,
        390,
        400,
        420,
        440,
        460,
        480,
        1000,
    ];

    private static readonly Gen<CadGroup> AnyGroup = Gen.OneOfConst(Codes)
        .SelectMany(code =>
            GroupCodes.Kind(code) switch
            {
                GroupKind.Double => Gen.OneOf(
                        Gen.Double[-1e300, 1e300],
                        Gen.Double[-1, 1],
                        Gen.Int[-5, 5].Select(i => (double)i)
                    )
                    .Select(d => new CadGroup(code, d)),
                GroupKind.Short => Gen.Short.Select(s => new CadGroup(code, (long)s)),
                GroupKind.Int => Gen.Int.Select(i => new CadGroup(code, (long)i)),
                GroupKind.Long => Gen.Long.Select(l => new CadGroup(code, l)),
                GroupKind.Bool => Gen.Bool.Select(b => new CadGroup(code, b)),
                GroupKind.Handle => Gen.ULong.Select(h => new CadGroup(code, new Handle(h))),
                GroupKind.Binary => Gen.Byte.Array[1, 127].Select(b => new CadGroup(code, b)),
                _ => Gen.String[Gen.Char["abc Äß梁%^\\{}019"], 0, 60].Select(s => new CadGroup(code, s.TrimEnd())),
            }
        );

    private static string Told(CadGroup g) =>
        $"{g.Code}={(g.Value is byte[] bytes ? Convert.ToHexString(bytes) : g.Value is string s ? s : g.Value is Handle h ? h.ToString() : g.Number.ToString("R", System.Globalization.CultureInfo.InvariantCulture))}";

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void Groups_of_any_kind_come_back(bool binary) =>
        AnyGroup
            .List[1, 40]
            .Sample(
                groups =>
                {
                    var drawing = Drawing.Create(CadVersion.AC1027);
                    drawing.OtherSections.Add(("STRANGE", groups));
                    var again = DxfReader.Read(DxfTests.Write(drawing, CadVersion.AC1027, binary));
                    Assert.Equal(groups.Select(Told), again.OtherSections.Single().Groups.Select(Told));
                },
                iter: 150
            );

    private static string Usual =>
        Encoding.UTF8.GetString(DxfTests.Write(KitchenSink.Create(CadVersion.AC1024), CadVersion.AC1024));

    // Line ends, blanks around codes and values, comments, lower case in handles, a mark of the encoding, something behind the end.
    [Theory]
    [InlineData("LF")]
    [InlineData("blanks")]
    [InlineData("comments")]
    [InlineData("mark")]
    [InlineData("behind")]
    public void Strangers_may_write_it_so(string way)
    {
        string text = Usual;
        string[] lines = text.Split("\r\n");
        text = way switch
        {
            "LF" => text.Replace("\r\n", "\n", StringComparison.Ordinal),
            "blanks" => string.Join(
                "\r\n",
                lines.Select(
                    (l, i) =>
                        i % 2 == 0 ? $"   {l.Trim()}  "
                        : l is "SECTION" or "HEADER" or "TABLES" or "ENDSEC" or "LINE" ? $" {l} "
                        : l
                )
            ),
            "comments" => "999\r\nmade by hand\r\n"
                + text.Replace("  0\r\nSECTION", "999\r\nhere it begins\r\n  0\r\nSECTION", StringComparison.Ordinal),
            "mark" => "\uFEFF" + text,
            _ => text + "\r\n\r\nmore of something\r\n",
        };
        var read = DxfReader.Read(Encoding.UTF8.GetBytes(text));
        Assert.Empty(read.Findings);
        DrawingText.Same(DxfReader.Read(Encoding.UTF8.GetBytes(Usual)), read, CadVersion.AC1024);
    }

    // A body's record may name a schema of another number, stand among others, and name an entity that is not there.
    [Fact]
    public void Bodies_of_strangers_find_their_entities()
    {
        string data = Convert.ToHexString(new BinaryAcis().Tetrahedron().Bytes());
        string chunks = string.Join(' ', data.Chunk(200).Select(c => "310=" + new string(c)));
        var drawing = GroupText.Read(
            GroupText.Section(
                "ENTITIES",
                "0=3DSOLID 5=A1 8=W 100=AcDbEntity 100=AcDbModelerGeometry 290=1 2={6F1E2D3C-0000-0000-0000-00000000000A} 100=AcDb3dSolid 350=0"
            )
                + GroupText.Section(
                    "ACDSDATA",
                    $"70=2 71=2 0=ACDSSCHEMA 90=0 1=AcDb_Thumbnail_Schema 0=ACDSSCHEMA 90=7 1=AcDb3DSolid_ASM_Data 0=ACDSRECORD 90=0 2=AcDbDs::ID 280=10 320=10 2=Thumbnail_Data 280=15 94=2 310=0102 0=ACDSRECORD 90=7 2=AcDbDs::ID 280=10 320=A1 2=ASM_Data 280=15 94={data.Length / 2} {chunks} 0=ACDSRECORD 90=7 2=AcDbDs::ID 280=10 320=FFFF 2=ASM_Data 280=15 94=1 310=00"
                ),
            "AC1027"
        );
        var body = Assert.IsType<ModelerEntity>(Assert.Single(drawing.Model.Entities));
        Assert.Equal((4, 4), (body.Faces()!.Value.Points.Count, body.Faces()!.Value.Faces.Count));
        Assert.Contains(body.Kept, g => g.Text.StartsWith("{6F1E2D3C", StringComparison.Ordinal));
        // Written again: what is not a body here stays, and the record keeps the number of its schema.
        var written = DxfReader.Read(DxfTests.Write(drawing, CadVersion.AC1032));
        var groups = Encoding.ASCII.GetString(DxfTests.Write(drawing, CadVersion.AC1032)).Split("\r\n");
        Assert.Equal(3, groups.Count(g => g == "ACDSRECORD"));
        Assert.Equal(
            " 90\r\n7\r\n  2\r\nAcDbDs::ID\r\n280\r\n10\r\n320\r\nA1".Split("\r\n")[1],
            groups[Array.LastIndexOf(groups, "ACDSRECORD") + 2]
        );
        Assert.Equal(body.Binary, ((ModelerEntity)written.Model.Entities[0]).Binary);
    }
}
