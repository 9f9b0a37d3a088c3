using System.Globalization;
using System.Text;
using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Units that values of properties go in: how large they are, how they are written, and that no value is another size.</summary>
public class PropertyUnitTests(DemoModels demo) : IClassFixture<DemoModels>
{
    // NIST SP 811 (2008), B.8, digits from memory: ft, in, ft², in², ft³, lb, °; the others are powers of ten of SI units.
    [Theory]
    [InlineData("ft", 3.048e-1)]
    [InlineData("in", 2.54e-2)]
    [InlineData("ft2", 9.290304e-2)]
    [InlineData("in²", 6.4516e-4)]
    [InlineData("ft³", 2.831685e-2)]
    [InlineData("lb", 453.59237)]
    [InlineData("deg", 1.745329e-2)]
    [InlineData("l", 1e-3)]
    [InlineData("t", 1e6)]
    [InlineData("mm²", 1e-6)]
    public void A_unit_is_as_large_as_the_handbook_says(string symbol, double size) =>
        Assert.Equal(size, PropertyUnit.Find(symbol)!.Factor, size * 1e-6);

    [Fact]
    public void No_two_units_have_one_symbol_and_what_is_none_is_not_found()
    {
        Assert.Equal(PropertyUnit.All.Count, PropertyUnit.All.Select(u => u.Symbol).Distinct().Count());
        Assert.All(PropertyUnit.All, u => Assert.Same(u, PropertyUnit.Find(u.Symbol)));
        Assert.Null(PropertyUnit.Find("furlong"));
        Assert.Null(PropertyUnit.Find(""));
    }

    [Fact]
    public void A_value_comes_back_from_every_unit()
    {
        foreach (
            var (unit, other) in PropertyUnit.All.SelectMany(
                u => PropertyUnit.All.Where(o => o.Kind == u.Kind),
                (u, o) => (u, o)
            )
        )
            Assert.Equal(17.25, unit.Convert(other.Convert(17.25, unit.Factor), other.Factor), 1e-12);
    }

    public static TheoryData<string> Symbols() => [.. PropertyUnit.All.Select(u => u.Symbol)];

    // Every value of the unit's kind, in every unit there is, beside a length unit of the file that is another still.
    [Theory]
    [MemberData(nameof(Symbols))]
    public void Every_value_of_the_kind_goes_in_the_unit_and_keeps_its_size(string symbol)
    {
        var unit = PropertyUnit.Find(symbol)!;
        var source = new HandoverSource("ALL", "all", ModelSnapshot.Open(Having(unit.Kind)));
        var list = PropertyList.Read(
            TableFile.Read(Encoding.UTF8.GetBytes($"set,property,as set,as,blanks,unit\n*,*,,,,{symbol}"))
        );
        var order = new OrderDocument
        {
            Properties = new OrderProperties { List = "List" },
            Unit = "yd",
            Name = "out",
        }.ToOrder(new OrderLibrary { Properties = new Dictionary<string, PropertyList> { ["List"] = list } });
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(order, [source], files) { Job = "HW", TimeStamp = "2026-11-29T08:00:00" }
        );
        Assert.True(result.Balanced, string.Join('\n', result.Reconciliation.Differences.Take(5)));
        var again = ModelSnapshot.Open(files.Read("out.ifc"));
        // One GlobalId of the demo is there twice.
        var before = source
            .Snapshot.Elements.GroupBy(e => e.GlobalId)
            .Where(g => g.Count() == 1)
            .ToDictionary(g => g.Key, g => Values(source.Snapshot, g.Single()));
        int compared = 0;
        foreach (var element in again.Elements)
        {
            foreach (var ((name, kind), (value, own)) in Values(again, element))
            {
                if (
                    kind != unit.Kind
                    || !before.TryGetValue(element.GlobalId, out var values)
                    || !values.TryGetValue((name, kind), out var was)
                )
                    continue;
                Assert.Equal(unit.Factor, again.Units.Factor(own), unit.Factor * 1e-12);
                double size =
                    was.Unit >= 0
                        ? source.Snapshot.Units.Factor(was.Unit)
                        : source.Snapshot.Units.Factor(source.Snapshot.Units.ByKind[kind]);
                Assert.Equal(was.Value * size, value * unit.Factor, Math.Abs(was.Value * size) * 1e-12);
                compared++;
            }
        }

        Assert.True(compared > 0, $"nothing is in {symbol}");
    }

    // The architecture has lengths and volumes, which serve as areas too; the services have weights, which serve as angles.
    private byte[] Having(string kind)
    {
        string text = Encoding.Latin1.GetString(demo.Bytes[kind is "MASSUNIT" or "PLANEANGLEUNIT" ? "SRV" : "ARC"]);
        return Encoding.Latin1.GetBytes(
            kind switch
            {
                "AREAUNIT" => text.Replace("IFCQUANTITYVOLUME(", "IFCQUANTITYAREA(", StringComparison.Ordinal),
                "PLANEANGLEUNIT" => text.Replace("IFCMASSMEASURE(", "IFCPLANEANGLEMEASURE(", StringComparison.Ordinal),
                _ => text,
            }
        );
    }

    private static Dictionary<(string Name, string Kind), (double Value, int Unit)> Values(
        ModelSnapshot snapshot,
        ModelElement element
    ) =>
        snapshot
            .PropertySets(element)
            .SelectMany(s => s.Properties.Select(p => (Name: $"{s.Name}.{p.Name}", Property: p)))
            .Where(p =>
                MeasureKinds.UnitKind(p.Property.Measure) is not null
                && double.TryParse(p.Property.Value, NumberStyles.Float, CultureInfo.InvariantCulture, out _)
            )
            .DistinctBy(p => p.Name)
            .ToDictionary(
                p => (p.Name, MeasureKinds.UnitKind(p.Property.Measure)!),
                p => (double.Parse(p.Property.Value, CultureInfo.InvariantCulture), p.Property.OwnUnit)
            );
}
