using SteadyLintel.Cad;

namespace SteadyLintel.Tests;

/// <summary>Bodies we write as 3DSOLID, read by others: ezdxf takes the ACIS text apart, libredwg finds the same text in DWG.</summary>
public class SolidOutsideTests
{
    // ezdxf 0.18.1 looks for the second shell of a lump under a wrong name, and cannot read one.
    private static readonly string[] TwoShells = ["hollow"];

    private static Drawing Solids(CadVersion version, params string[] without)
    {
        var drawing = Drawing.Create(version);
        foreach (var (name, body) in SolidBodies.All.Where(b => !without.Contains(b.Key)))
            drawing.Add(new ModelerEntity("3DSOLID") { Acis = AcisWriter.Text(Polyhedron.Of(body.Mesh)!) });
        return drawing;
    }

    [Theory]
    [InlineData(CadVersion.AC1015)]
    [InlineData(CadVersion.AC1018)]
    [InlineData(CadVersion.AC1024)]
    [InlineData(CadVersion.AC1027)]
    [InlineData(CadVersion.AC1032)]
    public void Another_reader_takes_the_bodies_apart_alike(CadVersion version)
    {
        using var folder = new TestFolder();
        using (var file = File.Create(folder.File("solids.dxf")))
            Assert.Empty(DxfWriter.Write(Solids(version, TwoShells), file));
        var theirs = OutsideReaders.Solids(folder.File("solids.dxf"));
        Assert.Empty(theirs.GetProperty("errors").EnumerateArray());
        foreach (
            var ((name, ours), solid) in SolidBodies
                .All.Where(b => !TwoShells.Contains(b.Key))
                .Zip(theirs.GetProperty("solids").EnumerateArray())
        )
        {
            Assert.Equal(ours.Faces, solid.GetProperty("faces").GetInt32());
            Assert.Equal(name == "apart" ? 2 : 1, solid.GetProperty("lumps").GetInt32());
            // ezdxf leaves holes of faces out of its meshes; volumes compare where there are none.
            if (ours.Rings == 0)
                Assert.Equal(ours.Volume, solid.GetProperty("volume").GetDouble(), 1e-6);
            var box = ours.Mesh.Bounds();
            Assert.Equal(
                new[] { box.Max.X, box.Max.Y, box.Max.Z },
                solid.GetProperty("max").EnumerateArray().Select(v => Math.Round(v.GetDouble(), 9))
            );
        }
    }

    // The bodies as they are, and as libredwg tells them of our DWG.
    private static (List<ModelerEntity> Ours, List<ModelerEntity> Found) ThroughDwg(CadVersion version)
    {
        using var folder = new TestFolder();
        var drawing = Solids(version);
        using (var file = File.Create(folder.File("solids.dwg")))
            Assert.Empty(DwgWriter.Write(drawing, file));
        var theirs = OutsideReaders.Dwg(folder.File("solids.dwg"), folder.File("theirs.dxf"));
        Assert.Equal(0, theirs.GetProperty("error").GetInt32());
        using var back = File.OpenRead(folder.File("theirs.dxf"));
        return (
            [.. drawing.Model.Entities.Cast<ModelerEntity>()],
            [.. DxfReader.Read(back).Model.Entities.OfType<ModelerEntity>()]
        );
    }

    [Theory]
    [InlineData(CadVersion.AC1015)]
    [InlineData(CadVersion.AC1018)]
    [InlineData(CadVersion.AC1024)]
    public void Another_reader_finds_the_text_in_DWG(CadVersion version)
    {
        var (ours, found) = ThroughDwg(version);
        Assert.Equal(ours.Count, found.Count);
        foreach (var (a, b) in ours.OrderBy(e => e.Handle.Value).Zip(found.OrderBy(e => e.Handle.Value)))
        {
            var (mine, yours) = (SatReader.Read(a.Acis)!.Value, SatReader.Read(b.Acis)!.Value);
            Assert.Equal(mine.Points, yours.Points);
            Assert.Equal(
                mine.Faces.Select(f => string.Join('|', f.Loops.Select(l => string.Join(' ', l)))),
                yours.Faces.Select(f => string.Join('|', f.Loops.Select(l => string.Join(' ', l))))
            );
        }
    }

    // libredwg looks through the store of data for bodies, turns each into text of its own and puts it into the entity of its place. Of
    // what it makes the first body is left out,
    // a text ends after 4096 characters, and records have no number of their own: planes and lines of the beginning are compared, value by
    // value.
    [Theory]
    [InlineData(CadVersion.AC1027)]
    [InlineData(CadVersion.AC1032)]
    public void Another_reader_finds_the_binary_form_in_the_store_of_DWG(CadVersion version)
    {
        var (ours, found) = ThroughDwg(version);
        foreach (var body in ours.Skip(1))
        {
            var (mine, yours) = (Values(body.Acis), Values(found.Single(b => b.Handle == body.Handle).Acis));
            Assert.True(yours.Count >= 8, $"{yours.Count} records in {body.Handle}");
            Assert.Equal(mine.Take(yours.Count), yours);
        }
    }

    // The numbers of planes (three vectors) and lines (two), in order; a record cut off at the end is left out.
    private static List<string> Values(string acis) =>
        [
            .. acis.Split('\n')
                .Where(l => l.EndsWith('#'))
                .Select(l => l.Split(' '))
                .Where(w => w[0] is "plane-surface" or "straight-curve")
                .Select(Vectors),
        ];

    private static string Vectors(string[] record)
    {
        var numbers = record
            .Select(w =>
                double.TryParse(w, System.Globalization.CultureInfo.InvariantCulture, out double number)
                    ? number
                    : double.NaN
            )
            .Where(n => !double.IsNaN(n));
        return string.Join(' ', numbers.TakeLast(record[0] == "plane-surface" ? 9 : 6).Select(n => Math.Round(n, 6)));
    }
}
