using System.Text;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Every kind of solid and profile written in another edition of the schema: the same body, by that edition's rules, or it is said
/// what could not be carried.</summary>
public class SchemaShapeTests
{
    /// <summary>Name, instances around #100, schema.</summary>
    public static TheoryData<string, string, string> Bodies
    {
        get
        {
            var bodies = new TheoryData<string, string, string>();
            foreach (ITheoryDataRow row in UnitShapeTests.Bodies)
            foreach (string schema in (string[])["IFC2X3", "IFC4X3"])
                bodies.Add((string)row.GetData()[0]!, (string)row.GetData()[1]!, schema);
            return bodies;
        }
    }

    private static ModelSnapshot Rewritten(ModelSnapshot source, string schema, out RewriteSet set)
    {
        using var stream = new MemoryStream();
        set = new RewriteSet(source, null, new RewriteOptions { Schema = schema });
        SubsetWriter.Write(source, null, set, "x", "", stream);
        return ModelSnapshot.Open(stream.ToArray());
    }

    [Theory]
    [MemberData(nameof(Bodies))]
    public void The_body_is_the_same(string name, string data, string schema)
    {
        var source = ModelSnapshot.Open(Encoding.ASCII.GetBytes(Sample.ProxyText(data)));
        var other = Rewritten(source, schema, out _);
        Assert.StartsWith(schema, other.Model.Schema.Name);
        var before = source.Shapes.Read(source.Elements.Single().Index)!.Measure();
        var shape = other.Shapes.Read(other.Elements.Single().Index);
        Assert.True(
            shape is { Problems.Count: 0, Parts.Count: > 0 },
            $"{name}: {string.Join("; ", shape?.Problems.Select(p => p.ToString()) ?? [])}"
        );
        var after = shape!.Measure();
        Assert.Equal(before.Volume, after.Volume, 1e-3 * Math.Max(1e-6, before.Volume));
        Assert.True(
            (before.Bounds.Min - after.Bounds.Min).Length + (before.Bounds.Max - after.Bounds.Max).Length
                < 2e-3 * before.Bounds.Size.Length,
            name
        );
        string[] rules = ["IFC-ATTRIBUTE", "IFC-SELECT", "IFC-ENUMERATION", "IFC-LIST", "IFC-REFERENCE", "IFC-ENTITY"];
        var known = RuleCheck.Read(source).Select(f => f.Code).ToHashSet();
        Assert.DoesNotContain(RuleCheck.Read(other), f =>
            !known.Contains(f.Code) && rules.Any(r => f.Code.StartsWith(r, StringComparison.Ordinal))
        );
    }
}
