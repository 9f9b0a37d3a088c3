using SteadyLintel.Cad;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>ezdxf takes the same inserts apart: what it finds in the original lies where ours put it, kind by kind.</summary>
public class ExplodeOutsideTests
{
    [Theory]
    [InlineData("PART")]
    [InlineData("WHOLE")]
    public void Another_program_takes_inserts_apart_alike(string block)
    {
        using var folder = new TestFolder();
        // ezdxf measures texts with fonts of its own, so none are among them.
        var drawing = BlockCases.Create(block, BlockCases.Inserts.Values, texts: false);
        using (var file = File.Create(folder.File("before.dxf")))
            DxfWriter.Write(drawing, file);
        var result = DrawingConverter.Convert(
            File.ReadAllBytes(folder.File("before.dxf")),
            new CadForm(false, CadVersion.AC1027),
            null,
            explode: true
        );
        Assert.True(result.Balanced);
        File.WriteAllBytes(folder.File("after.dxf"), result.Bytes);
        var before = OutsideReaders.Decomposed(folder.File("before.dxf"));
        var after = OutsideReaders.Decomposed(folder.File("after.dxf"));
        Assert.Equal(before.Count, after.Count);
        Assert.Equal(before.CountBy(e => e.Type).OrderBy(c => c.Key), after.CountBy(e => e.Type).OrderBy(c => c.Key));
        // ezdxf leaves layer 0 of a block on 0; ours takes the insert's.
        Assert.All(before.Zip(after), p =>
            Assert.Equal(p.First.Layer == "0" ? "SHOWN" : p.First.Layer, p.Second.Layer)
        );
        foreach (var (theirs, ours) in before.Zip(after))
            Assert.All(theirs.Box.Zip(ours.Box), c =>
                Assert.True(
                    Math.Abs(c.First - c.Second) < 1e-3,
                    $"{theirs.Type}: {string.Join(' ', theirs.Box)} and {string.Join(' ', ours.Box)}"
                )
            );
    }
}
