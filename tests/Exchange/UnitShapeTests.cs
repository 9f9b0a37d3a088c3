using System.Text;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Every kind of solid and profile rewritten in millimetres and feet and at map coordinates: the same body comes back.</summary>
public class UnitShapeTests
{
    /// <summary>Name and instances around #100, in metres.</summary>
    public static TheoryData<string, string> Bodies
    {
        get
        {
            var bodies = new TheoryData<string, string>();
            foreach (ITheoryDataRow row in SolidCases.Solids)
                bodies.Add((string)row.GetData()[0]!, (string)row.GetData()[1]!);
            foreach (ITheoryDataRow row in ProfileCases.Areas)
                bodies.Add(
                    (string)row.GetData()[0]! + " " + row.GetData()[1],
                    ProfileCases.Extruded((string)row.GetData()[0]!, (string)row.GetData()[1]!)
                );
            return bodies;
        }
    }

    private static ModelSnapshot Model(string data) =>
        ModelSnapshot.Open(
            Encoding.ASCII.GetBytes(Sample.ProxyText(data + "#900=IFCLOCALPLACEMENT($,#2);", "m", "#900"))
        );

    private static ModelSnapshot Rewritten(ModelSnapshot source, HandoverOrder order)
    {
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(order, [new HandoverSource("X", "x", source)], files)
            {
                Job = "J",
                TimeStamp = "2026-11-26T10:00:00",
            }
        );
        Assert.True(result.Reconciliation.Balanced, string.Join("\n", result.Reconciliation.Differences));
        return ModelSnapshot.Open(files.Read(Assert.Single(result.Files).Name).ToArray());
    }

    private static MassProperties Measure(ModelSnapshot model)
    {
        var shape = model.Shapes.Read(model.Elements.Single().Index)!;
        Assert.Empty(shape.Problems);
        return shape.Measure();
    }

    [Theory]
    [MemberData(nameof(Bodies))]
    public void In_another_unit_it_is_the_same_body(string name, string data)
    {
        var source = Model(data);
        var expected = Measure(source);
        foreach (string unit in (string[])["mm", "ft"])
        {
            var again = Rewritten(
                source,
                new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, LengthUnit.Find(unit))
            );
            Assert.Equal(LengthUnit.Find(unit)!.Metres, again.Units.Metres, 1e-12);
            var found = Measure(again);
            Assert.True(
                Math.Abs((found.Volume / expected.Volume) - 1) < 1e-6,
                $"{name} in {unit}: {found.Volume} for {expected.Volume}"
            );
            Assert.True(
                Math.Abs((found.Area / expected.Area) - 1) < 1e-6,
                $"{name} in {unit}: {found.Area} for {expected.Area}"
            );
            Assert.True(
                (found.Bounds.Min - expected.Bounds.Min).Length + (found.Bounds.Max - expected.Bounds.Max).Length
                    < 1e-6,
                name
            );
        }
    }

    [Theory]
    [MemberData(nameof(Bodies))]
    public void Turned_and_moved_5500_km_it_is_the_same_body(string name, string data)
    {
        var source = Model(data);
        var expected = Measure(source);
        var frame = FrameChoice.Parse("500000,5500000,50,30")!;
        var there = Rewritten(
            source,
            new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, LengthUnit.Find("mm")) { Frame = frame }
        );
        var found = Measure(there);
        Assert.True(
            Math.Abs((found.Volume / expected.Volume) - 1) < 1e-5,
            $"{name}: {found.Volume} for {expected.Volume}"
        );
        Assert.InRange(found.Bounds.Min.Y, 5_499_900, 5_500_100);
        // And back to its own origin.
        var back = Measure(
            Rewritten(
                there,
                new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, LengthUnit.Find("m"))
                {
                    Frame = FrameChoice.Parse(Inverse)!,
                }
            )
        );
        Assert.True(
            (back.Bounds.Min - expected.Bounds.Min).Length + (back.Bounds.Max - expected.Bounds.Max).Length < 1e-5,
            $"{name}: {back.Bounds.Min} for {expected.Bounds.Min}"
        );
    }

    // x' = T + R(30°) x, so x = R(−30°) x' − R(−30°) T.
    private static string Inverse
    {
        get
        {
            double c = Math.Cos(Math.PI / 6),
                s = Math.Sin(Math.PI / 6);
            return FormattableString.Invariant(
                $"{-((c * 500000) + (s * 5500000)):R},{-((-s * 500000) + (c * 5500000)):R},-50,-30"
            );
        }
    }
}
