using System.Text.Json;
using CsCheck;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>The order as a document: back and forth, its words, its schema.</summary>
public class OrderDocumentTests
{
    private static readonly Gen<OrderDocument> Documents =
        from to in Gen.String[0, 20]
        from rules in (
            from verb in Gen.OneOfConst([.. OrderOptions.RuleVerb.Words])
            from what in Gen.OneOfConst("storey", "class", "layer", "type", "material", "party", "element")
            from are in Gen.String[1, 8].List[1, 3]
            select new OrderRule
            {
                Do = verb,
                What = what,
                Are = are,
            }
        ).List[0, 4]
        from property in Gen.OneOfConst(
            null,
            new OrderRule
            {
                Do = "without",
                What = "property",
                Key = "Pset_WallCommon.IsExternal",
                Are = ["True"],
            }
        )
        from form in Gen.OneOfConst(
            new OrderInto(),
            new OrderInto { Schema = "IFC2X3", Merge = true },
            new OrderInto
            {
                File = "dwg",
                Version = "AC1018",
                As = "solids",
            },
            new OrderInto { File = "dxf", As = "plan" }
        )
        from drawings in Gen.OneOfConst(
            null,
            new OrderDrawings { As = "received" },
            new OrderDrawings
            {
                File = "dwg",
                Version = "AC1018",
                Layers = [new OrderName { From = "A", To = "B" }],
            }
        )
        from unit in Gen.OneOfConst(null, "mm", "m", "ft")
        from split in Gen.OneOfConst("storey", "none")
        select new OrderDocument
        {
            To = to,
            Rules = property is null ? rules : [.. rules, property],
            Into = form,
            Drawings = drawings,
            Unit = unit,
            Split = split,
            Name = "{job}-{storey}",
        };

    [Fact]
    public void A_document_read_again_is_the_same_order() =>
        Documents.Sample(
            document =>
            {
                var again = OrderDocument.Read(document.Write());
                Assert.Equal(document.Write(), again.Write());
                Assert.Equal(JsonSerializer.Serialize(document.ToOrder()), JsonSerializer.Serialize(again.ToOrder()));
            },
            iter: 200
        );

    [Theory]
    [InlineData("{\"versoin\":1}", "'version'")]
    [InlineData("{\"version\":2}", "version 2")]
    [InlineData("{\"rules\":[{\"do\":\"only\",\"what\":\"clas\",\"are\":[\"IfcWall\"]}]}", "'class'")]
    [InlineData("{\"rules\":[{\"do\":\"only\",\"what\":\"property\",\"are\":[\"x\"]}]}", "Set.Property")]
    [InlineData("{\"rules\":[{\"do\":\"only\",\"what\":\"layer\"}]}", "names no layer")]
    [InlineData("{\"into\":{\"file\":\"ifc\",\"as\":\"plan\"}}", "goes with drawings")]
    [InlineData("{\"into\":{\"file\":\"dwg\",\"version\":\"AC1021\"}}", "AC1024")]
    [InlineData("{\"into\":{\"file\":\"dwg\",\"merge\":true}}", "go with IFC")]
    [InlineData("{\"unit\":\"yard\"}", "yd or us-ft")]
    [InlineData("{\"frame\":\"here\"}", "x,y,z,deg")]
    [InlineData("{\"name\":\"{nothing}\"}", "{nothing}")]
    [InlineData(
        "{\"changes\":[{\"do\":\"set property\",\"from\":\"IfcWall\",\"to\":\"x\",\"key\":\"A\"}]}",
        "Set.Property"
    )]
    [InlineData("{\"into\":{\"file\":\"ifc\",\"version\":\"AC1018\"}}", "goes with drawings")]
    [InlineData("{\"changes\":[{\"do\":\"set property\",\"from\":\"IfcWall\",\"to\":\"x\"}]}", "Set.Property")]
    [InlineData(
        "{\"changes\":[{\"do\":\"set property\",\"from\":\"IfcWall\",\"to\":\"x\",\"key\":\".B\"}]}",
        "Set.Property"
    )]
    [InlineData(
        "{\"changes\":[{\"do\":\"set property\",\"from\":\"IfcWall\",\"to\":\"x\",\"key\":\"A.\"}]}",
        "Set.Property"
    )]
    [InlineData("{\"changes\":[{\"do\":\"rename storey\",\"from\":\"A\"}]}", "needs from and to")]
    [InlineData("{\"changes\":[{\"do\":\"rename storey\",\"to\":\"A\"}]}", "needs from and to")]
    [InlineData("{\n\n\"version\":one}", "line 3")]
    [InlineData("[", "cannot be read")]
    [InlineData("{\"rules\":[{\"do\":\"only\",\"what\":\"size\",\"are\":[\"0\"]}]}", "two numbers")]
    [InlineData("{\"rules\":[{\"do\":\"only\",\"what\":\"size\",\"are\":[\"2\",\"1\"]}]}", "the lower first")]
    [InlineData(
        "{\"rules\":[{\"do\":\"only\",\"what\":\"height\",\"is\":\"like\",\"are\":[\"1\",\"2\"]}]}",
        "takes between"
    )]
    [InlineData("{\"rules\":[{\"do\":\"only\",\"what\":\"class\",\"is\":\"liek\",\"are\":[\"IfcWall\"]}]}", "'like'")]
    [InlineData(
        "{\"rules\":[{\"do\":\"only\",\"what\":\"property\",\"key\":\"A.B\",\"is\":\"missing\",\"are\":[\"x\"]}]}",
        "has no values"
    )]
    [InlineData("{\"rules\":[{\"do\":\"only\",\"what\":\"set\",\"are\":[\"Plant\"]}]}", "There is no set 'Plant'")]
    [InlineData("{\"tables\":{\"layers\":\"Office\"},\"into\":{\"file\":\"dwg\"}}", "There is no layer table 'Office'")]
    [InlineData("{\"properties\":{\"list\":\"Mine\"}}", "There is no property list 'Mine'")]
    [InlineData("{\"properties\":{\"blanks\":\"away\"}}", "keep or out")]
    [InlineData("{\"split\":\"none+storey\"}", "none alone")]
    [InlineData("{\"split\":\"storeys\"}", "'storey'")]
    [InlineData("{\"into\":{\"file\":\"glb\",\"as\":\"meshes\"}}", "goes with drawings")]
    [InlineData("{\"into\":{\"file\":\"dwg\",\"as\":\"text\"}}", "goes with stl")]
    [InlineData("{\"into\":{\"file\":\"dxf\",\"as\":\"plan\",\"detail\":\"boxes\"}}", "go in full or coarse")]
    [InlineData("{\"into\":{\"file\":\"stl\",\"chord\":0}}", "above 0")]
    [InlineData("{\"split\":\"property\"}", "Set.Property")]
    [InlineData("{\"name\":\"a/b\"}", "'/'")]
    [InlineData("{\"rules\":null}", "cannot be read")]
    public void What_an_order_cannot_mean_is_refused_with_the_nearest_word(string json, string words) =>
        Assert.Contains(words, Assert.Throws<OrderException>(() => OrderDocument.Read(json).ToOrder()).Message);

    [Fact]
    public void Words_of_a_document_are_words_of_the_order()
    {
        var order = OrderDocument
            .Read(
                """{"split":"none","unit":"ft","changes":[{"do":"set property","from":"IfcWall","to":"EI 60","key":"Pset_WallCommon.FireRating"}]}"""
            )
            .ToOrder();
        Assert.False(order.SplitByStorey);
        Assert.Equal(0.3048, order.Unit!.Metres);
        var edit = Assert.Single(order.Edits);
        Assert.Equal(
            ("IfcWall", "EI 60", "Pset_WallCommon", "FireRating"),
            (edit.From, edit.To, edit.Set, edit.Property)
        );
        Assert.True(OrderDocument.Read("{\"split\":\"storey\"}").ToOrder().SplitByStorey);
        Assert.Null(OrderDocument.Read("{}").ToOrder().Unit);
    }

    // The schema in docs/ and the reader know the same words; members are compared in DocumentFormatTests.
    [Fact]
    public void The_published_schema_has_the_words_that_are_read()
    {
        string folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "SteadyLintel.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        using var schema = JsonDocument.Parse(File.ReadAllText(Path.Combine(folder, "docs", "order.schema.json")));
        var properties = schema.RootElement.GetProperty("properties");
        var rule = properties.GetProperty("rules").GetProperty("items").GetProperty("properties");
        var change = properties.GetProperty("changes").GetProperty("items").GetProperty("properties");
        var into = properties.GetProperty("into").GetProperty("properties");
        var sheet = into.GetProperty("sheet").GetProperty("properties");
        var wish = properties.GetProperty("properties").GetProperty("properties");
        Assert.Equal(OrderOptions.Before.Words, Enum(into.GetProperty("before")));
        Assert.Equal(OrderOptions.Hidden.Words, Enum(into.GetProperty("hidden")));
        Assert.Equal(OrderOptions.Paper.Words, Enum(sheet.GetProperty("paper")));
        Assert.Equal(OrderOptions.RuleTest.Words, Enum(rule.GetProperty("is")));
        Assert.Equal(OrderOptions.Blanks.Words, Enum(wish.GetProperty("blanks")));
        Assert.Equal(OrderOptions.Table.Words, Enum(wish.GetProperty("table")));
        Assert.Equal(OrderOptions.Storeys.Words, Enum(properties.GetProperty("storeys")));
        Assert.Equal(OrderOptions.Every.Words, Enum(properties.GetProperty("every")));
        static string[] Enum(JsonElement of) =>
            [
                .. of.GetProperty("enum")
                    .EnumerateArray()
                    .Where(e => e.ValueKind == JsonValueKind.String)
                    .Select(e => e.GetString()!),
            ];
        Assert.Equal(OrderOptions.RuleVerb.Words, Enum(rule.GetProperty("do")));
        Assert.Equal(OrderOptions.RuleField.Words, Enum(rule.GetProperty("what")));
        Assert.Equal(OrderOptions.Change.Words, Enum(change.GetProperty("do")));
        Assert.Equal(OrderOptions.File.Words, Enum(into.GetProperty("file")));
        Assert.Equal(OrderOptions.Schema.Words, Enum(into.GetProperty("schema")));
        Assert.Equal(OrderOptions.Content.Words, Enum(into.GetProperty("as")));
        Assert.Equal(OrderOptions.Detail.Words, Enum(into.GetProperty("detail")));
        Assert.Equal(OrderOptions.Unit.Words, Enum(properties.GetProperty("unit")));
        string pattern = properties.GetProperty("split").GetProperty("pattern").GetString()!;
        Assert.All(OrderOptions.Split.Words, w => Assert.Matches(pattern, w));
        Assert.Matches(pattern, "storey+party");
        Assert.DoesNotMatch(pattern, "none+storey");
    }
}
