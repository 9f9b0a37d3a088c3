using System.Text;
using System.Text.Json;
using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Property set templates: what they take, how they travel, and what they find.</summary>
public class TemplateTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private static readonly TemplateDocument Doors = new()
    {
        Sets =
        [
            new PropertySetTemplate
            {
                Name = "Door schedule",
                Description = "By the office",
                Classes = ["IfcDoor", "IfcWindow.SKYLIGHT"],
                Properties =
                [
                    new PropertyTemplate
                    {
                        Name = "Fire",
                        Form = "choice",
                        Words = ["EI 30", "EI 60"],
                        Required = true,
                    },
                    new PropertyTemplate
                    {
                        Name = "Clear width",
                        Type = "IfcLengthMeasure",
                        Unit = "mm",
                        Default = "900",
                    },
                    new PropertyTemplate { Name = "Code", Pattern = "D-[0-9]{3}" },
                    new PropertyTemplate
                    {
                        Name = "Cost",
                        Type = "IfcReal",
                        NotForExchange = true,
                    },
                    new PropertyTemplate
                    {
                        Name = "Range",
                        Type = "IfcReal",
                        Form = "range",
                    },
                ],
            },
        ],
    };

    private static TableRows Table(params string[] lines) =>
        TableFile.Read(Encoding.UTF8.GetBytes(string.Join('\n', lines)));

    [Fact]
    public void JSON_CSV_and_XLSX_hold_all_of_a_template()
    {
        string json = Doors.Write();
        Assert.Equal(json, TemplateDocument.Read(json).Write());
        var rows = TemplateTable.Write(Doors);
        var plain = Doors with { Sets = [Doors.Sets[0] with { Description = "" }] };
        Assert.Equal(plain.Write(), TemplateTable.Read(TableFile.Read(TableFile.WriteCsv(rows))).Write());
        Assert.Equal(plain.Write(), TemplateTable.Read(TableFile.Read(TableFile.WriteXlsx(rows, "Doors"))).Write());
    }

    [Theory]
    [InlineData("IFC4")]
    [InlineData("IFC4X3")]
    public void A_model_of_templates_holds_what_it_has_a_place_for_and_the_rest_is_named(string schema)
    {
        using var stream = new MemoryStream();
        TemplateModel.Write(Doors, schema, "Office", "2026-11-30T00:00:00", stream);
        var model = IfcModel.Open(stream.ToArray());
        Assert.True(model.SchemaKnown);
        var read = TemplateModel.Read(model);
        Assert.Equal(Doors.Sets[0].Classes, read.Sets[0].Classes);
        Assert.Equal(
            Doors.Sets[0].Properties.Select(p => (p.Name, p.Type, p.Form, p.Unit, string.Join(",", p.Words))),
            read.Sets[0].Properties.Select(p => (p.Name, p.Type, p.Form, p.Unit, string.Join(",", p.Words)))
        );
        Assert.Equal(
            [
                "Door schedule.Fire: that it is required",
                "Door schedule.Clear width: the default '900'",
                "Door schedule.Code: the pattern D-[0-9]{3}",
                "Door schedule.Cost: that it is not for exchange",
            ],
            TemplateModel.Losses(Doors)
        );
        // A library has no project, no storeys and no units.
        Assert.DoesNotContain(RuleCheck.Read(ModelSnapshot.Open(model)), f =>
            f.Severity == Severity.Error && f.Code is not ("IFC-PROJECT-COUNT" or "IFC-STOREY-NONE" or "IFC-UNIT-NONE")
        );
        Assert.Throws<OrderException>(() => TemplateModel.Write(Doors, "IFC2X3", "Office", "", Stream.Null));
    }

    [Theory]
    [InlineData("T,IfcDor,P,label,", "Nearest: 'IfcDoor'")]
    [InlineData("S,IfcDoor,P,lable,", "Nearest: 'label'")]
    [InlineData("S,IfcDoor,P,length,kg", "has the unit 'kg'")]
    [InlineData("S,IfcDoor,,label,", "has no name")]
    public void A_wrong_row_is_named_with_its_number(string row, string says)
    {
        var e = Assert.Throws<TableException>(() =>
            TemplateTable.Read(Table("set,classes,property,type,unit", "S,IfcDoor,First,label,", row))
        );
        Assert.StartsWith("Row 3", e.Problems[0], StringComparison.Ordinal);
        Assert.Contains(e.Problems, p => p.Contains(says, StringComparison.Ordinal));
    }

    public static TheoryData<string, string, string?> Values() =>
        new()
        {
            { "IfcBoolean", "yes", "True" },
            { "IfcBoolean", "maybe", null },
            { "IfcLogical", "unknown", "Unknown" },
            { "IfcBoolean", "unknown", null },
            { "IfcInteger", "3", "3" },
            { "IfcInteger", "3.5", null },
            { "IfcInteger", "three", null },
            { "IfcReal", "1e3", "1000" },
            { "IfcReal", "1,5", null },
            { "IfcLengthMeasure", "1.2 m", "1.2" },
            { "IfcLengthMeasure", "4'-2\"", "1.27" },
            { "IfcLengthMeasure", "12 kg", null },
            { "IfcAreaMeasure", "12 m2", "12" },
            { "IfcMassMeasure", "450 kg", "450" },
            { "IfcDate", "2026-11-30", "2026-11-30" },
            { "IfcDate", "30.11.2026", null },
            { "IfcLabel", "False", "False" },
        };

    [Theory]
    [MemberData(nameof(Values))]
    public void A_value_is_understood_as_people_write_it_or_refused(string type, string text, string? value)
    {
        if (value is null)
            Assert.Throws<FormatException>(() => TypedValue.Read(text, PropertyForm.Single, type));
        else
            Assert.Equal(value, TypedValue.Read(text, PropertyForm.Single, type).Parts[0].Text);
        Assert.True(TypedValue.Read("  ", PropertyForm.Single, type).IsBlank);
    }

    [Fact]
    public void A_label_has_255_letters_at_most_and_a_text_has_not()
    {
        string letters = new('x', 256);
        Assert.Throws<FormatException>(() => TypedValue.Read(letters, PropertyForm.Single, "IfcLabel"));
        Assert.Equal(letters, TypedValue.Read(letters, PropertyForm.Single, "IfcText").Parts[0].Text);
        Assert.Equal("IfcText", TypedValue.TypeOf(letters));
    }

    [Fact]
    public void Words_and_patterns_are_kept_and_the_nearest_word_is_offered()
    {
        var fire = Doors.Sets[0].Properties[0];
        Assert.Equal("EI 60", fire.Read("EI 60").Parts[0].Text);
        var e = Assert.Throws<FormatException>(() => fire.Read("EI60"));
        Assert.Contains("'EI 60'", e.Message, StringComparison.Ordinal);
        Assert.Throws<FormatException>(() => fire.Read("EI 30; EI 60"));
        var code = Doors.Sets[0].Properties[2];
        Assert.Equal("D-101", code.Read("D-101").Parts[0].Text);
        Assert.Throws<FormatException>(() => code.Read("XD-101"));
    }

    [Fact]
    public void Defaults_are_filled_in_and_what_is_required_is_found()
    {
        var model = demo.Snapshots["ARC"];
        int doors = model.Elements.Count(e => e.Class == "IfcDoor");
        string first = model.Elements.First(e => e.Class == "IfcDoor").GlobalId;
        var known = new Amendment
        {
            Element = first,
            Set = "Door schedule",
            Name = "Clear width",
            Value = "1000",
        };
        var filled = TemplateDefaults.Of(model, Doors, [known]);
        Assert.Equal(doors - 1, filled.Count);
        Assert.All(filled, f => Assert.Equal(("Clear width", "900", "mm"), (f.Name, f.Value, f.Unit)));
        Assert.Equal(doors, TemplateCheck.Faults(model, Doors).Count(f => f.What == TemplateCheck.Missing));
        var amended = AmendedModel.Of(
            model,
            [
                new Amendment
                {
                    Element = first,
                    Set = "Door schedule",
                    Name = "Fire",
                    Value = "EI 45",
                },
            ],
            DateTime.UnixEpoch
        );
        Assert.Contains(TemplateCheck.Faults(amended.Snapshot, Doors), f =>
            f.GlobalId == first && f.What.Contains("'EI 45' is not one of", StringComparison.Ordinal)
        );
    }

    // ISO 16739-1, Pset_DoorCommon and Pset_WallCommon; the properties and their types from memory of the standard's pages.
    [Theory]
    [InlineData("IFC2X3")]
    [InlineData("IFC4")]
    [InlineData("IFC4X3")]
    public void The_table_of_the_standards_sets_agrees_with_its_pages(string schema)
    {
        var sets = StandardPropertySet.Of(schema).ToDictionary(s => s.Name);
        var door = sets["Pset_DoorCommon"];
        Assert.Contains("IfcDoor", door.Classes);
        var types = door.Properties.ToDictionary(p => p.Name, p => p.Type);
        Assert.Equal("IfcIdentifier", types["Reference"]);
        Assert.Equal("IfcLabel", types["FireRating"]);
        Assert.Equal("IfcBoolean", types["IsExternal"]);
        Assert.Equal("IfcBoolean", types["SelfClosing"]);
        Assert.Equal("IfcThermalTransmittanceMeasure", types["ThermalTransmittance"]);
        var wall = sets["Pset_WallCommon"].Properties.Select(p => p.Name).ToList();
        Assert.Contains("LoadBearing", wall);
        Assert.Contains("Combustible", wall);
        var edition = IfcSchema.Named(schema);
        Assert.All(
            sets.Values.SelectMany(s => s.Properties),
            // What is no value refers to something.
            p =>
                Assert.True(
                    PropertyTypes.Find(p.Type) is not null
                        || p.Type
                            is "IfcTimeSeries"
                                or "IfcCostValue"
                                or "IfcExternalReference"
                                or "IfcMaterialDefinition"
                                or "IfcMaterial"
                                or "IfcPerson"
                                or "IfcDocumentReference"
                                or "IfcClassificationReference"
                                or "IfcOrganization",
                    p.Type
                )
        );
        // Every class it names is one of the edition.
        Assert.All(sets.Values.SelectMany(s => s.Classes), c =>
            Assert.NotNull(edition.Find(c.Split('/')[0].ToUpperInvariant()))
        );
        Assert.Contains(TemplateStarters.OfStandard(schema, ["IfcDoor"]).Sets, s => s.Name == "Pset_DoorCommon");
        Assert.Empty(TemplateStarters.OfStandard(schema, ["IfcDoor", "IfcWall", "IfcBeam"]).Problems());
    }

    [Fact]
    public void A_template_can_start_from_what_a_source_has()
    {
        var template = TemplateStarters.OfModel(demo.Snapshots["ARC"]);
        var wall = template.Sets.Single(s => s.Name == "Pset_WallCommon");
        Assert.Equal(["IfcWall"], wall.Classes);
        Assert.Equal("IfcThermalTransmittanceMeasure", wall.Find("ThermalTransmittance")!.Type);
    }

    [Fact]
    public void The_published_schemas_have_the_words_that_are_read()
    {
        string folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "SteadyLintel.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        JsonElement Properties(string file) =>
            JsonDocument
                .Parse(File.ReadAllText(Path.Combine(folder, "docs", file)))
                .RootElement.GetProperty("properties");
        var amendment = Properties("amendments.schema.json")
            .GetProperty("amendments")
            .GetProperty("items")
            .GetProperty("properties");
        Assert.Equal(
            AmendmentKinds.All.Select(k => k.Word),
            amendment.GetProperty("do").GetProperty("enum").EnumerateArray().Select(v => v.GetString())
        );
        var set = Properties("template.schema.json").GetProperty("sets").GetProperty("items").GetProperty("properties");
        var property = set.GetProperty("properties").GetProperty("items").GetProperty("properties");
        Assert.Equal(
            PropertyForms.All.Select(f => f.Word),
            property.GetProperty("form").GetProperty("enum").EnumerateArray().Select(v => v.GetString())
        );
    }

    [Fact]
    public void Values_travel_as_a_table_and_a_wrong_row_is_named()
    {
        var read = ValueTable.Read(
            Table("GlobalId,Set,Property,Value,Type,Unit", "a,S,P,1.5,length,mm", "a,S,Q,,label,"),
            null
        );
        Assert.Equal([(2, "1.5"), (3, "")], read.Select(r => (r.Row, r.Amendment.Value!)));
        var again = ValueTable.Read(
            TableFile.Read(TableFile.WriteXlsx(ValueTable.Write(read.Select(r => r.Amendment)), "Values")),
            null
        );
        Assert.Equal(read.Select(r => r.Amendment), again.Select(r => r.Amendment));
        var e = Assert.Throws<TableException>(() =>
            ValueTable.Read(
                Table("GlobalId,Set,Property,Value,Type,Unit", "a,S,P,wide,length,mm", "b,S,P,1,,furlong", "a,S,P,2,,"),
                null
            )
        );
        Assert.Equal([2, 3, 4], e.Problems.Select(p => p[4] - '0'));
    }
}
