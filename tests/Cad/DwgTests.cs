using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

public class DwgTests
{
    public static TheoryData<CadVersion> Versions => [.. DwgWriter.Versions];

    internal static byte[] Write(Drawing drawing, CadVersion version)
    {
        using var stream = new MemoryStream();
        Assert.Empty(DwgWriter.Write(drawing, stream, version));
        return stream.ToArray();
    }

    [Theory]
    [MemberData(nameof(Versions))]
    public void Every_entity_comes_back_in_every_version(CadVersion version)
    {
        var drawing = KitchenSink.Create(version);
        var again = DwgReader.Read(Write(drawing, version));
        Assert.Equal("", string.Join("\n", again.Findings));
        Assert.Equal(version, again.Version);
        DrawingText.Same(drawing, again, version);
    }
}
