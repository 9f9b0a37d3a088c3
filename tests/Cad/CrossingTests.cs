using SteadyLintel.Cad;

namespace SteadyLintel.Tests;

/// <summary>A drawing handed on and on: through one form after the other, as between parties, nothing that all of them have is
/// lost.</summary>
public class CrossingTests
{
    public static TheoryData<string> Ways =>
        [
            "dwg AC1018 > dxf AC1018 > dwg AC1018",
            "dwg AC1024 > dxf AC1024 > dwg AC1024",
            "dwg AC1032 > dxf AC1032 > dwg AC1032",
            "dxf AC1027 > dwg AC1027 > dxf AC1027",
            "dwg AC1024 > dwg AC1032 > dwg AC1024",
            "dwg AC1027 > dwg AC1024 > dwg AC1027",
            "dwg AC1032 > dxf AC1024 > dwg AC1027",
            "dxf AC1032 > dwg AC1024 > dxf AC1027",
            "dxf AC1018 > dwg AC1018 > dwg AC1032",
            "dwg AC1021 > dwg AC1032 > dxf AC1021",
        ];

    private static byte[] Write(Drawing drawing, string step)
    {
        var version = Enum.Parse<CadVersion>(step[4..]);
        return step.StartsWith("dwg", StringComparison.Ordinal)
            ? DwgTests.Write(drawing, version)
            : DxfTests.Write(drawing, version);
    }

    [Theory]
    [MemberData(nameof(Ways))]
    public void What_every_form_of_the_way_has_arrives(string way)
    {
        string[] steps = way.Split(" > ");
        var oldest = steps.Min(s => Enum.Parse<CadVersion>(s[4..]));
        var drawing = KitchenSink.Create(oldest);
        var passed = steps.Aggregate(drawing, (d, step) => CadFile.Read(Write(d, step)).Drawing);
        Assert.Empty(passed.Findings);
        // Compared in the oldest version: what came later is not in it.
        DrawingText.Same(CadFile.Read(Write(KitchenSink.Create(oldest), steps[0])).Drawing, passed, oldest);
    }

    [Theory]
    [MemberData(nameof(Ways))]
    public void Solids_and_their_places_arrive(string way)
    {
        string[] steps = way.Split(" > ");
        var drawing = Drawing.Create(Enum.Parse<CadVersion>(steps[0][4..]));
        foreach (var body in SolidBodies.All.Values)
            drawing.Add(new ModelerEntity("3DSOLID") { Acis = AcisWriter.Text(Polyhedron.Of(body.Mesh)!, 1000) });
        var passed = steps.Aggregate(drawing, (d, step) => CadFile.Read(Write(d, step)).Drawing);
        var bodies = passed.Model.Entities.Cast<ModelerEntity>().Select(b => b.Faces()!.Value).ToList();
        Assert.Equal(
            SolidBodies.All.Values.Select(b => (b.Faces, b.Points)),
            bodies.Select(b => (b.Faces.Count, b.Points.Count))
        );
        Assert.Equal(drawing.Extents(), passed.Extents());
    }
}
