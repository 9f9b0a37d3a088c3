using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Web;

namespace SteadyLintel.Tests;

public class ViewTests
{
    [Theory]
    [InlineData(4.8, "+4.800")]
    [InlineData(-1.2, "−1.200")]
    [InlineData(0, "±0.000")]
    [InlineData(-0.0001, "±0.000")]
    public void Heights_are_written_as_on_drawings(double metres, string text) =>
        Assert.Equal(text, DisplayText.Height(metres));

    [Theory]
    [InlineData("IfcDuctSegment", "Duct segment", "duct segments")]
    [InlineData("IfcWall", "Wall", "walls")]
    [InlineData("IfcFurniture", "Furniture", "furniture")]
    [InlineData("IfcElementAssembly", "Element assembly", "element assemblies")]
    [InlineData("IfcStairs", "Stairs", "stairs")]
    [InlineData("OTHER", "Other", "others")]
    public void Classes_are_said_in_words(string name, string one, string many)
    {
        Assert.Equal(one, DisplayText.Class(name));
        Assert.Equal(many, DisplayText.Classes(name));
    }

    [Theory]
    [InlineData(0, "0 B")]
    [InlineData(18_400, "18 kB")]
    [InlineData(1_940_000, "1.9 MB")]
    public void Sizes_are_short(long bytes, string text) => Assert.Equal(text, DisplayText.Bytes(bytes));

    [Fact]
    public void Counts_agree_with_their_noun()
    {
        Assert.Equal("1 finding", DisplayText.Count(1, "finding", "findings"));
        Assert.Equal("2\u202F846 findings", DisplayText.Count(2846, "finding", "findings"));
    }

    [Fact]
    public void A_ladder_is_to_scale_and_keeps_its_labels_apart()
    {
        var schedule = LevelSchedule.Match([new(0, 0, "A", 0, 0), new(0, 1, "B", 0.4, 0.4), new(0, 2, "C", 10, 10)]);
        var ladder = new Ladder(schedule, 50, 250);
        Assert.Equal([250, 242, 50], new[] { 0, 0.4, 10 }.Select(e => Math.Round(ladder.Y(e), 6)));
        Assert.All(ladder.Labels.Zip(ladder.Labels.Skip(1)), pair => Assert.True(pair.First - pair.Second >= 16));
    }

    [Fact]
    public void A_storey_off_its_level_is_said()
    {
        var rung = new Rung("Gallery", 8.6, []);
        Assert.Null(Ladder.Off(rung, new SourceStorey(0, 0, "Gallery", 8.6, 8.6)));
        Assert.Contains("is placed at +8.300", Ladder.Off(rung, new SourceStorey(0, 0, "Gallery", 8.6, 8.3)));
        Assert.Contains("the job's level at +8.600", Ladder.Off(rung, new SourceStorey(0, 0, "L2", 8.51, 8.51)));
    }

    [Fact]
    public void The_words_of_a_sentence_are_rules_of_the_document_and_back()
    {
        var sentence = new OrderSentence
        {
            To = " SRV ",
            Storeys = ["Gallery"],
            Classes = ["IfcWall"],
            Form = "dxf-plan",
            Unit = "mm",
            Split = ["storey"],
            Name = "{storey}",
        };
        var kept = new OrderRule
        {
            Do = "with",
            What = "element",
            Are = ["0000000000000000000001"],
        };
        sentence.Rules = [RuleLine.Of(kept)];
        var document = sentence.In(
            Orders.Everything with
            {
                Rules =
                [
                    new OrderRule
                    {
                        Do = "only",
                        What = "class",
                        Are = ["IfcSlab"],
                    },
                ],
            }
        );
        Assert.Equal(
            [("only", "storey"), ("only", "class"), ("with", "element")],
            document.Rules.Select(r => (r.Do, r.What))
        );
        Assert.Equal(["IfcWall"], document.Rules[1].Are);
        var order = document.ToOrder();
        Assert.Equal(
            ((FileForm)TargetCatalog.DrawingPlan, LengthUnit.Millimetre, true),
            (order.Into, order.Unit, order.SplitByStorey)
        );
        var again = OrderSentence.Of(OrderDocument.Read(document.Write()));
        Assert.Equal(
            ("SRV", "dxf-plan", "mm", true, "{storey}"),
            (again.To, again.Form, again.Unit, again.Split.Contains("storey"), again.Name)
        );
        Assert.Equal(["Gallery", "IfcWall"], again.Storeys.Concat(again.Classes));
        Assert.Equal(
            ("with", "element", "0000000000000000000001"),
            (again.Rules[0].Do, again.Rules[0].What, again.Rules[0].Are)
        );
    }

    [Theory]
    [InlineData("size", "", "; 0.5", null, new[] { "", "0.5" })]
    [InlineData("property", "between", "10;20", "between", new[] { "10", "20" })]
    [InlineData("type", "like", "*240*; none", "like", new[] { "*240*", "" })]
    [InlineData("property", "missing", "", "missing", new string[0])]
    [InlineData("class", "", " IfcWall ;; IfcSlab.FLOOR", null, new[] { "IfcWall", "IfcSlab.FLOOR" })]
    public void A_line_of_the_page_is_a_rule_and_back(
        string what,
        string test,
        string are,
        string? kept,
        string[] values
    )
    {
        var rule = new RuleLine
        {
            Do = "without",
            What = what,
            Is = test,
            Key = "A.B",
            Are = are,
        }.ToRule();
        Assert.Equal((kept, what == "property" ? "A.B" : null), (rule.Is, rule.Key));
        Assert.Equal(values, rule.Are);
        Assert.Equal(
            System.Text.Json.JsonSerializer.Serialize(rule),
            System.Text.Json.JsonSerializer.Serialize(RuleLine.Of(rule).ToRule())
        );
    }

    [Fact]
    public void Every_word_of_the_sentence_is_in_the_document_and_comes_back()
    {
        var sentence = new OrderSentence
        {
            Form = "ifc-4",
            Zip = true,
            Merge = true,
            Detail = "coarse",
            JobStoreys = true,
            ClassTable = "C",
            NameTable = "N",
            PropertyList = "P",
            BlanksOut = true,
            Computed = true,
            PropertyTable = "xlsx",
            Every = true,
            Split = ["storey", "property"],
            SplitKey = "A.B",
            Name = "{n}",
        };
        var document = sentence.In(new OrderDocument());
        Assert.Equal(
            ("ifczip", "IFC4", "coarse", "storey+property", "revision"),
            (document.Into.File, document.Into.Schema, document.Into.Detail, document.Split, document.Every)
        );
        Assert.Equal(document.Write(), OrderSentence.Of(document).In(new OrderDocument()).Write());
        Assert.Equal("ifc-4", OrderSentence.Of(document).Form);
        foreach (string form in OrderWords.Forms)
            Assert.Equal(
                form,
                OrderWords.FormOf(
                    new OrderSentence { Form = form }
                        .In(new OrderDocument())
                        .Into
                )
            );
    }

    // Words of line work go with plans and sections; with other forms they wait.
    [Theory]
    [InlineData("dwg-section-2010", 2)]
    [InlineData("dwg-plan-2018", 0)]
    [InlineData("dwg-skins-2010", null)]
    public void Line_work_is_in_the_document_and_comes_back(string form, int? lines)
    {
        var sentence = new OrderSentence
        {
            Form = form,
            Together = form.Contains("skins", StringComparison.Ordinal),
            Attributes = true,
            Drawn = new DrawnSentence
            {
                Cut = "1,5",
                Depth = "12",
                Hidden = "dashed",
                NothingBefore = true,
                Hatch = true,
                Symbols = true,
                Marks = true,
                Lines = "South: -5,-10 to 85,-10 deep 12\n\nA: 0.5, 3 to 20,3",
                Paper = "A1",
                Scale = 50,
                References = true,
                Chord = "2",
                Angle = "15",
            },
            Split = ["storey"],
            Name = "{storey}{section}",
        };
        var document = sentence.In(new OrderDocument());
        var into = document.Into;
        Assert.Equal(
            (
                lines is null ? null : "dashed",
                lines is null ? null : (bool?)true,
                into.As == "plan" ? 1.5 : (double?)null
            ),
            (into.Hidden, into.Hatch, into.Cut)
        );
        Assert.Equal(("A1", 50, true), (into.Sheet!.Paper, into.Sheet.Scale, into.Sheet.References));
        Assert.Equal((0.002, 15), (into.Chord, into.Angle));
        Assert.Equal(lines ?? 0, into.Lines?.Count ?? 0);
        if (lines > 0)
            Assert.Equal(
                ("South", -5, 85, 12),
                (into.Lines![0].Name, into.Lines[0].From[0], into.Lines[0].To[0], into.Lines[0].Depth)
            );
        Assert.Equal(document.Write(), OrderSentence.Of(document).In(new OrderDocument()).Write());
        _ = document.ToOrder();
        Assert.NotEqual("as they are", DrawnSentence.Words(into));
    }

    [Theory]
    [InlineData("South -5,-10 to 85,-10", "needs from and to")]
    [InlineData("South: here to there", "needs from and to")]
    public void A_line_that_cannot_be_read_is_refused(string line, string words)
    {
        var document = new OrderSentence
        {
            Form = "dwg-section-2010",
            Drawn = new DrawnSentence { Lines = line },
            Name = "{section}",
        }.In(new OrderDocument());
        Assert.Contains(
            words,
            Assert.Throws<OrderException>(() => document.ToOrder()).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void What_is_no_number_is_refused() =>
        Assert.Contains(
            "depth takes",
            Assert
                .Throws<OrderException>(() =>
                    new OrderSentence
                    {
                        Form = "dwg-plan-2010",
                        Drawn = new DrawnSentence { Depth = "deep" },
                        Name = "x",
                    }
                        .In(new OrderDocument())
                        .ToOrder()
                )
                .Message,
            StringComparison.Ordinal
        );

    [Theory]
    [InlineData("dxf-meshes", "DrawingMeshes", false, Cad.CadVersion.AC1027, false)]
    [InlineData("dxf-solids", "DrawingMeshes", false, Cad.CadVersion.AC1024, true)]
    [InlineData("dwg-solids-2018", "DrawingMeshes", true, Cad.CadVersion.AC1032, true)]
    [InlineData("dwg-solids-2000", "DrawingMeshes", true, Cad.CadVersion.AC1015, true)]
    [InlineData("dwg-plan-2018", "DrawingPlan", true, Cad.CadVersion.AC1032, false)]
    public void A_form_of_drawing_is_a_word(string word, string form, bool dwg, Cad.CadVersion version, bool solids)
    {
        var into = FileForm.Choice(word)!.Into;
        var order = (Orders.Everything with { Into = into }).ToOrder();
        Assert.Equal(
            (TargetNames.Of(form), dwg, version, solids),
            (Target.Of(order), order.Form.Dwg, order.Form.Version, order.Solids)
        );
        Assert.Equal(word, OrderWords.FormOf(into));
    }

    [Fact]
    public void Every_form_that_is_offered_makes_an_order() =>
        Assert.All(
            FileForm
                .All.SelectMany(f => f.Choices.Select(c => (Form: f, Choice: c)))
                .Where(c => !c.Choice.Word.Contains("section")),
            c => Assert.Equal(c.Form, (Orders.Everything with { Into = c.Choice.Into, Name = "{n}" }).ToOrder().Into)
        );

    [Fact]
    public void A_sentences_blanks_become_defaults()
    {
        var document = new OrderSentence().In(Orders.Everything);
        Assert.Equal(("ifc", null, "", "none"), (document.Into.File, document.Unit, document.To, document.Split));
        Assert.Contains("empty", Assert.Throws<OrderException>(() => document.ToOrder()).Message);
    }
}
