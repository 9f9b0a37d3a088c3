using SteadyLintel.Cad;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>Drawings that nobody here wrote balance in every form, or each loss is named: made by ezdxf in six versions, and the sample of
/// three-dxf (npm, 1.3.1).</summary>
public class ForeignDrawingTests
{
    public static TheoryData<string> Samples => ["R2000", "R2004", "R2007", "R2010", "R2013", "R2018", "three-dxf"];

    [Theory]
    [MemberData(nameof(Samples))]
    public void It_balances_in_every_form(string sample)
    {
        using var folder = new TestFolder();
        byte[] bytes = File.ReadAllBytes(Sample(sample, folder));
        Assert.True(CadFile.Read(bytes).Drawing.Model.Entities.Count > 20);
        var faults = new List<string>();
        foreach (bool dwg in (bool[])[true, false])
        {
            foreach (var version in new CadForm(dwg, CadVersion.AC1024).Versions)
            {
                var result = DrawingConverter.Convert(bytes, new CadForm(dwg, version));
                if (!result.Balanced)
                    faults.Add($"{(dwg ? "DWG" : "DXF")} {version}: {string.Join("; ", result.Differences.Take(5))}");
                // What has no place is named with its reason, one loss at a time.
                if (result.Ledger.SelectMany(l => l.NotCarried.Keys).Any(string.IsNullOrWhiteSpace))
                    faults.Add($"{dwg} {version}: a loss without a reason");
            }
        }

        Assert.True(faults.Count == 0, string.Join("\n", faults));
    }

    // The reader that made the file finds in ours what it put there.
    [Theory]
    [InlineData("R2000")]
    [InlineData("R2018")]
    public void What_ezdxf_made_ezdxf_finds_again(string sample)
    {
        using var folder = new TestFolder();
        string path = Sample(sample, folder);
        File.WriteAllBytes(
            folder.File("ours.dxf"),
            DrawingConverter.Convert(File.ReadAllBytes(path), new CadForm(false, CadVersion.AC1032)).Bytes
        );
        var (theirs, ours) = (OutsideReaders.Ezdxf(path), OutsideReaders.Ezdxf(folder.File("ours.dxf")));
        Assert.Empty(ours.GetProperty("errors").EnumerateArray());
        Assert.Equal(theirs.GetProperty("byLayer").GetRawText(), ours.GetProperty("byLayer").GetRawText());
        Assert.Equal(theirs.GetProperty("units").GetInt32(), ours.GetProperty("units").GetInt32());
    }

    private static string Sample(string name, TestFolder folder) =>
        name == "three-dxf"
            ? OutsideReaders.SampleOfThreeDxf
            : OutsideReaders.MakeDxf(name, folder.File($"{name}.dxf"));
}
