using SteadyLintel.Cad;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Tests;

/// <summary>ezdxf reads the DXF we write: its auditor finds nothing, and it sees the same layers, counts, extents and unit.</summary>
public class DxfOutsideTests
{
    // The demo's drawing as each version of DXF.
    [Theory]
    [InlineData(CadVersion.AC1015)]
    [InlineData(CadVersion.AC1024)]
    [InlineData(CadVersion.AC1032)]
    public void The_demos_drawing_is_sound_to_another_reader(CadVersion version)
    {
        using var folder = new TestFolder();
        using var stream = new MemoryStream();
        HeronWharf.Drawings[0].Write(stream);
        File.WriteAllBytes(
            folder.File("plan.dxf"),
            DrawingConverter.Convert(stream.ToArray(), new CadForm(false, version)).Bytes
        );
        var ours = DwgReader.Read(stream.ToArray());
        var theirs = OutsideReaders.Ezdxf(folder.File("plan.dxf"));
        Assert.Empty(theirs.GetProperty("errors").EnumerateArray());
        Assert.Empty(theirs.GetProperty("fixes").EnumerateArray());
        Assert.Equal(
            ours.Model.Entities.CountBy(e => ours.LayerName(e.Layer)).ToDictionary(),
            theirs.GetProperty("byLayer").EnumerateObject().ToDictionary(p => p.Name, p => p.Value.GetInt32())
        );
    }

    // And as it is sent: DWG of 2010.
    [Fact]
    public void The_demos_drawing_is_read_by_two_others_as_DWG()
    {
        using var folder = new TestFolder();
        using (var file = File.Create(folder.File("plan.dwg")))
            HeronWharf.Drawings[0].Write(file);
        var seen = OutsideReaders.Dwg(folder.File("plan.dwg"), folder.File("theirs.dxf"));
        // What it reads behind each ATTRIB of 2010: see CadOutsideTests.
        Assert.Equal(64, seen.GetProperty("error").GetInt32());
        var ours = DwgReader.Read(File.ReadAllBytes(folder.File("plan.dwg")));
        var theirs = DxfReader.Read(File.ReadAllBytes(folder.File("theirs.dxf")));
        Assert.Equal(
            ours.Model.Entities.Select(e => (e.Handle, e.Type, ours.LayerName(e.Layer))).Order(),
            theirs.Model.Entities.Select(e => (e.Handle, e.Type, theirs.LayerName(e.Layer))).Order()
        );
    }

    [Theory]
    [InlineData("DrawingMeshes", "mm", 4)]
    [InlineData("DrawingMeshes", "m", 6)]
    [InlineData("DrawingPlan", "mm", 4)]
    [InlineData("DrawingPlan", "ft", 2)]
    public void Drawings_are_sound_to_another_reader(string form, string unit, int units)
    {
        using var folder = new TestFolder();
        var sources = HeronWharf
            .Models.Where(d => d.Party != "SRV")
            .Select(d =>
            {
                using var stream = new MemoryStream();
                d.Write(stream);
                return new HandoverSource(d.Party, d.Source, ModelSnapshot.Open(stream.ToArray()));
            })
            .ToList();
        using var files = new FolderFileSet(folder.Path);
        var order = new HandoverOrder(
            new Selection([new(RuleField.Storey, ["Gallery", "Roof"], true)]),
            TargetNames.Of(form),
            true,
            LengthUnit.Find(unit)
        );
        var result = HandoverRunner.Run(
            new HandoverRun(order, sources, files) { Job = "HW", TimeStamp = "2026-11-23T10:00:00" }
        );
        files.Commit();
        Assert.True(result.Reconciliation.Balanced);
        Assert.Equal(2, result.Files.Count);
        foreach (var file in result.Files)
        {
            var theirs = OutsideReaders.Ezdxf(folder.File(file.Name));
            using var stream = File.OpenRead(folder.File(file.Name));
            var ours = DxfReader.Read(stream);
            Assert.Equal("AC1027", theirs.GetProperty("version").GetString());
            Assert.Empty(theirs.GetProperty("errors").EnumerateArray());
            Assert.Empty(theirs.GetProperty("fixes").EnumerateArray());
            Assert.Equal(units, theirs.GetProperty("units").GetInt32());
            // ezdxf adds Defpoints to every document it loads.
            Assert.Equal(
                ours.Layers.Select(l => l.Name).Order(StringComparer.Ordinal),
                theirs
                    .GetProperty("layers")
                    .EnumerateArray()
                    .Select(l => l.GetString())
                    .Where(l => l != "Defpoints")
                    .Order(StringComparer.Ordinal)
            );
            Assert.Equal(
                ours.Model.Entities.CountBy(e => ours.LayerName(e.Layer)).ToDictionary(),
                theirs.GetProperty("byLayer").EnumerateObject().ToDictionary(p => p.Name, p => p.Value.GetInt32())
            );
            var box = ours.Extents();
            double[] extents = [box.Min.X, box.Min.Y, box.Min.Z, box.Max.X, box.Max.Y, box.Max.Z];
            Assert.All(
                extents.Zip(
                    theirs
                        .GetProperty("min")
                        .EnumerateArray()
                        .Concat(theirs.GetProperty("max").EnumerateArray())
                        .Select(v => v.GetDouble())
                ),
                p => Assert.Equal(p.First, p.Second, 1e-6)
            );
            Assert.Equal(file.Elements, theirs.GetProperty("ids").GetArrayLength());
        }
    }
}
