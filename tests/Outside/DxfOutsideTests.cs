using SteadyLintel.Cad;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Tests;

/// <summary>ezdxf reads the DXF we write: its auditor finds nothing, and it sees the same layers, counts, extents and unit.</summary>
public class DxfOutsideTests
{
    [Theory]
    [InlineData(HandoverFormat.DrawingMeshes, "mm", 4)]
    [InlineData(HandoverFormat.DrawingMeshes, "m", 6)]
    [InlineData(HandoverFormat.DrawingPlan, "mm", 4)]
    [InlineData(HandoverFormat.DrawingPlan, "ft", 2)]
    public void Drawings_are_sound_to_another_reader(HandoverFormat format, string unit, int units)
    {
        using var folder = new TestFolder();
        var sources = HeronWharf.Models.Where(d => d.Party != "SRV").Select(d =>
        {
            using var stream = new MemoryStream();
            d.Write(stream);
            return new HandoverSource(d.Party, d.Source, ModelSnapshot.Open(stream.ToArray()));
        }).ToList();
        using var files = new FolderFileSet(folder.Path);
        var order = new HandoverOrder(new Selection([new(SelectionField.Storey, ["Gallery", "Roof"], true)]), format, true, LengthUnit.Find(unit));
        var result = HandoverRunner.Run(order, sources, "HW", "2026-11-23T10:00:00", files);
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
            Assert.Equal(ours.Layers.Select(l => l.Name).Order(StringComparer.Ordinal), theirs.GetProperty("layers").EnumerateArray().Select(l => l.GetString()).Where(l => l != "Defpoints").Order(StringComparer.Ordinal));
            Assert.Equal(ours.Model.Entities.CountBy(e => ours.LayerName(e.Layer)).ToDictionary(), theirs.GetProperty("byLayer").EnumerateObject().ToDictionary(p => p.Name, p => p.Value.GetInt32()));
            var box = ours.Extents();
            double[] extents = [box.Min.X, box.Min.Y, box.Min.Z, box.Max.X, box.Max.Y, box.Max.Z];
            Assert.All(extents.Zip(theirs.GetProperty("min").EnumerateArray().Concat(theirs.GetProperty("max").EnumerateArray()).Select(v => v.GetDouble())), p => Assert.Equal(p.First, p.Second, 1e-6));
            Assert.Equal(file.Elements, theirs.GetProperty("ids").GetArrayLength());
        }
    }
}
