using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Bodies as ACIS text: topology, text and back, in every form of drawing that has them.</summary>
public class AcisTests
{
    public static TheoryData<string> Names => [.. SolidBodies.All.Keys];

    private static Mesh Filled((IReadOnlyList<Vec3> Points, IReadOnlyList<PlanarFace> Faces) body)
    {
        var triangles = new List<int>();
        foreach (var face in body.Faces)
            FaceTriangles.Add([.. face.Loops], body.Points, triangles);
        return new Mesh([.. body.Points], [.. triangles]);
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void Triangles_in_a_plane_become_one_face(string name)
    {
        var (mesh, faces, edges, points, rings, shells, _) = SolidBodies.All[name];
        var body = Polyhedron.Of(mesh)!;
        Assert.Null(body.Problem());
        Assert.Equal(faces, body.Faces.Count);
        Assert.Equal(points, body.Points.Count);
        Assert.Equal(rings, body.Faces.Sum(f => f.Loops.Count - 1));
        Assert.Equal(shells, body.Shells.Count);
        Assert.Equal(2 * edges, body.Faces.Sum(f => f.Loops.Sum(l => l.Length)));
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void Text_reads_back_as_the_same_body(string name)
    {
        var (mesh, faces, _, points, _, _, volume) = SolidBodies.All[name];
        var read = SatReader.Read(AcisWriter.Text(Polyhedron.Of(mesh)!, 1000))!.Value;
        Assert.Equal((faces, points), (read.Faces.Count, read.Points.Count));
        var mass = MassProperties.Of(Filled(read));
        Assert.True(mass.Closed);
        Assert.Equal(volume, mass.Volume / 1e9, 1e-9);
    }

    // Records of the published save format: each names its kind, its links go to the kind the format says.
    [Theory]
    [InlineData("body", "lump")]
    [InlineData("lump", "shell body")]
    [InlineData("shell", "face lump")]
    [InlineData("face", "loop shell plane-surface")]
    [InlineData("loop", "coedge face")]
    [InlineData("coedge", "coedge coedge coedge edge loop")]
    [InlineData("edge", "vertex vertex coedge straight-curve")]
    [InlineData("vertex", "edge point")]
    public void Links_lead_to_the_right_kind_of_record(string kind, string expected)
    {
        string[] records =
        [
            .. AcisWriter.Text(Polyhedron.Of(SolidBodies.Box)!).Split('\n').Skip(3).Where(l => l.EndsWith('#')),
        ];
        foreach (string record in records.Where(r => r.StartsWith(kind + " ", StringComparison.Ordinal)))
        {
            var links = record
                .Split(' ')
                .Where(w => w.StartsWith('$') && w != "$-1")
                .Select(w =>
                    records[int.Parse(w.AsSpan(1), System.Globalization.CultureInfo.InvariantCulture)].Split(' ')[0]
                );
            // Faces but the last have a next one.
            Assert.Equal(expected, string.Join(' ', kind == "face" ? links.Where(l => l != "face") : links));
        }
    }

    [Theory]
    [InlineData(0, "open")]
    [InlineData(1, "twice")]
    public void What_bounds_no_solid_is_refused(int way, string why)
    {
        var box = SolidBodies.Box;
        // A triangle missing; or two boxes that meet along an edge only.
        var mesh =
            way == 0
                ? box with
                {
                    Triangles = box.Triangles[3..],
                }
                : Mesh.Join([box, box.Map(Frame.At(new Vec3(2, 2, 0)))]);
        Assert.True(Polyhedron.Of(mesh)?.Problem() is not null || Polyhedron.Of(mesh) is null, why);
    }

    [Theory]
    [InlineData("")]
    [InlineData("700 0 1 0\nx\ny\nEnd-of-ACIS-data")]
    [InlineData(
        "700 0 1 0\nx\ny\nface $-1 -1 $-1 $-1 $9 $0 $-1 $1 forward single #\nplane-surface $-1 -1 $-1 0 0 0 0 0 1 1 0 0 forward_v I I I I #"
    )]
    [InlineData(
        "700 0 1 0\nx\ny\nface $-1 -1 $-1 $-1 $1 $0 $-1 $2 forward single #\nloop $-1 -1 $-1 $1 $1 $0 #\nplane-surface $-1 -1 $-1 0 0 0 0 0 1 1 0 0 forward_v I I I I #"
    )]
    [InlineData(
        "700 0 1 0\nx\ny\nface $-1 -1 $-1 $-1 $1 $0 $-1 $2 forward single #\nloop $-1 -1 $-1 $-1 $1 $0 #\ncone-surface $-1 -1 $-1 0 0 0 #"
    )]
    public void Text_without_plane_faces_gives_none_and_ends(string text) => Assert.Null(SatReader.Read(text));

    [Fact]
    public void A_body_is_taken_apart_once_until_it_gets_other_data()
    {
        var body = new ModelerEntity("3DSOLID") { Acis = AcisWriter.Text(Polyhedron.Of(SolidBodies.Ell)!) };
        Assert.Same(body.Faces()!.Value.Points, body.Faces()!.Value.Points);
        int corners = body.Faces()!.Value.Points.Count;
        body.Binary = AcisWriter.Binary(Polyhedron.Of(SolidBodies.All.Values.First().Mesh)!);
        Assert.Equal(corners, body.Faces()!.Value.Points.Count);
        body.Acis = "";
        Assert.NotEqual(corners, body.Faces()!.Value.Points.Count);
        body.Binary = [];
        Assert.Null(body.Faces());
    }

    [Fact]
    public void The_disguise_is_its_own_opposite_and_keeps_carets()
    {
        const string text = "body $-1 ^ A z ~ #\n@7 unknown é\n";
        var groups = AcisCipher.ToGroups(text).ToList();
        Assert.DoesNotContain(groups, g => g.Text.Contains("body", StringComparison.Ordinal));
        Assert.Equal(text, AcisCipher.FromGroups(groups));
        string line = new('x', 600);
        groups = [.. AcisCipher.ToGroups(line)];
        Assert.Equal([1, 3, 3], groups.Select(g => g.Code));
        Assert.All(groups, g => Assert.True(g.Text.Length <= 255));
        Assert.Equal(line + "\n", AcisCipher.FromGroups(groups));
    }

    // A body of 2013 in DXF is a number and a name; it comes back as it was.
    [Fact]
    public void A_newer_body_is_kept_in_its_own_version()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        var body = new ModelerEntity("REGION");
        body.Kept.AddRange([new CadGroup(290, true), new CadGroup(2, "{00000000-0000-0000-0000-000000000001}")]);
        drawing.Add(body);
        using var stream = new MemoryStream();
        Assert.Empty(DxfWriter.Write(drawing, stream));
        var again = (ModelerEntity)Assert.Single(DxfReader.Read(stream.ToArray()).Model.Entities);
        Assert.Equal(("REGION", ""), (again.Type, again.Acis));
        Assert.Contains(again.Kept, g => g.Code == 2 && g.Text.StartsWith("{0000", StringComparison.Ordinal));
    }
}
