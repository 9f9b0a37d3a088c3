using SteadyLintel.Cad;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>A drawing with every kind of entity, converted into every form: each is found again, or it is said why not.</summary>
public class ConversionTests
{
    public static TheoryData<CadVersion, bool, CadVersion, bool> Ways()
    {
        var ways = new TheoryData<CadVersion, bool, CadVersion, bool>();
        foreach (
            var (from, fromDwg) in new[]
            {
                (CadVersion.AC1018, true),
                (CadVersion.AC1024, false),
                (CadVersion.AC1032, true),
                (CadVersion.AC1032, false),
            }
        )
        foreach (bool dwg in (bool[])[false, true])
        foreach (var version in new CadForm(dwg, CadVersion.AC1024).Versions)
            ways.Add(from, fromDwg, version, dwg);
        return ways;
    }

    internal static Selection OnLayers(params string[] layers) =>
        new([new(SelectionVerb.Only, RuleField.Layer, layers)]);

    internal static byte[] Sink(CadVersion version, bool dwg)
    {
        var drawing = KitchenSink.Create(version);
        foreach (var body in (Geometry.Mesh[])[SolidBodies.Box, SolidBodies.Window])
            drawing.Add(new ModelerEntity("3DSOLID") { Acis = AcisWriter.Text(Polyhedron.Of(body)!) });
        using var stream = new MemoryStream();
        Assert.Empty(CadFile.Write(drawing, stream, new CadForm(dwg, version)));
        return stream.ToArray();
    }

    [Theory]
    [MemberData(nameof(Ways))]
    public void Nothing_goes_without_a_word(CadVersion from, bool fromDwg, CadVersion to, bool toDwg)
    {
        var result = DrawingConverter.Convert(Sink(from, fromDwg), new CadForm(toDwg, to));
        Assert.All(result.Rows, r => Assert.True(r.Unaccounted == 0, r.ToString()));
        Assert.All(result.Rows.Where(r => r.LeftBehind > 0), r =>
            Assert.Contains(result.Findings, f => f.Message.Contains(r.Type, StringComparison.Ordinal))
        );
        Assert.Equal(2, result.Rows.Single(r => r.Type == "3DSOLID").Found);
    }

    [Theory]
    [InlineData(CadVersion.AC1018, true)]
    [InlineData(CadVersion.AC1027, false)]
    public void Taken_apart_or_by_layers_the_balance_holds(CadVersion version, bool dwg)
    {
        byte[] bytes = Sink(CadVersion.AC1024, false);
        var apart = DrawingConverter.Convert(bytes, new CadForm(dwg, version), explode: true);
        Assert.All(apart.Rows, r => Assert.Equal(0, r.Unaccounted));
        Assert.True(apart.Rows.Single(r => r.Type == "INSERT").TakenApart > 0);
        var some = DrawingConverter.Convert(bytes, new CadForm(dwg, version), OnLayers("A-WALL"));
        Assert.All(some.Rows, r => Assert.Equal(0, r.Unaccounted));
        // The sheet's own viewports stay; everything else on other layers is left out.
        Assert.All(some.Rows.Where(r => r.Layer != "A-WALL" && r.Type != "VIEWPORT"), r =>
            Assert.Equal((0, r.In), (r.Found, r.LeftOut))
        );
    }

    [Fact]
    public void Entities_are_chosen_by_kind_block_and_attribute_as_elements_are_by_class_type_and_property()
    {
        var drawing = CadFile.Read(Sink(CadVersion.AC1032, false)).Drawing;
        var insert = drawing.Blocks.SelectMany(b => b.Entities).OfType<Insert>().First(i => i.Attributes.Count > 0);
        string block = drawing.Blocks[insert.Block]!.Name,
            tag = insert.Attributes[0].Tag,
            value = insert.Attributes[0].Value;
        foreach (
            var rule in new SelectionRule[]
            {
                new(SelectionVerb.Only, RuleField.Class, ["insert"]),
                new(SelectionVerb.Only, RuleField.Type, [block]),
                new(SelectionVerb.Only, RuleField.Property, [value], $"Attributes.{tag}"),
                new(SelectionVerb.Only, RuleField.GlobalId, [insert.Handle.ToString()]),
            }
        )
        {
            var result = DrawingConverter.Convert(
                Sink(CadVersion.AC1032, false),
                new CadForm(true, CadVersion.AC1032),
                new Selection([rule])
            );
            Assert.True(result.Balanced, string.Join("\n", result.Differences));
            var left = CadFile
                .Read(result.Bytes)
                .Drawing.Blocks.SelectMany(b => b.Entities)
                .Where(e => e is not Viewport)
                .ToList();
            Assert.NotEmpty(left);
            Assert.All(left, e => Assert.IsType<Insert>(e));
        }
    }

    [Theory]
    [InlineData("layer", "A-WAL", "No source has the layer 'A-WAL'. Nearest: 'A-WALL'")]
    [InlineData("class", "LIN", "Nearest: 'LINE'")]
    [InlineData("storey", "Gallery", "not chosen by storey")]
    public void A_rule_that_names_what_the_drawing_has_not_is_refused(string field, string value, string sentence)
    {
        var selection = new Selection([new(SelectionVerb.Only, RuleField.Find(field)!, [value])]);
        var e = Assert.Throws<OrderException>(() =>
            DrawingConverter.Convert(Sink(CadVersion.AC1032, false), CadForm.Default, selection)
        );
        Assert.Contains(sentence, e.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void What_is_no_drawing_is_refused_with_a_sentence() =>
        Assert.NotEmpty(
            Assert
                .Throws<CadFormatException>(() =>
                    DrawingConverter.Convert("ISO-10303-21;"u8.ToArray(), CadForm.Default)
                )
                .Message
        );
}
