using System.Text.Json;
using static SteadyLintel.Tests.CliTests;

namespace SteadyLintel.Tests;

/// <summary><c>lintel properties</c>: lists, fills in, amends, and proves it.</summary>
public class PropertiesCliTests(DemoFolder demo) : IClassFixture<DemoFolder>
{
    private const string Door = "0HQs7vdssW9MWoNrqiwDgr";

    private string Arc => Path.Combine(demo.Path, "HW-ARC-terminal.ifc");

    private string Put(string name, string text)
    {
        string path = Path.Combine(demo.Path, name);
        File.WriteAllText(path, text);
        return path;
    }

    [Fact]
    public void The_list_has_sets_properties_types_units_and_three_counts_by_class()
    {
        var (code, output, _) = Run("properties", Arc, "--list", "--json");
        Assert.Equal(0, code);
        var json = JsonDocument.Parse(output).RootElement;
        Assert.Equal(1, json.GetProperty("version").GetInt32());
        var fire = json.GetProperty("properties")
            .EnumerateArray()
            .Single(p =>
                p.GetProperty("class").GetString() == "IfcWall" && p.GetProperty("property").GetString() == "FireRating"
            );
        Assert.Equal(
            ("Pset_WallCommon", "IfcLabel", 76, 38, 2),
            (
                fire.GetProperty("set").GetString(),
                fire.GetProperty("type").GetString(),
                fire.GetProperty("filled").GetInt32(),
                fire.GetProperty("blank").GetInt32(),
                fire.GetProperty("missing").GetInt32()
            )
        );
        Assert.Equal(0, Run("properties", Arc, "--list").Code);
    }

    [Fact]
    public void Values_and_amendments_are_written_and_balanced_and_the_model_stays()
    {
        byte[] before = File.ReadAllBytes(Arc);
        string target = Path.Combine(demo.Path, "amended.ifc"),
            values = Put(
                "values.csv",
                $"GlobalId,Set,Property,Value,Type,Unit\n{Door},Pset_DoorCommon,FireRating,EI 60,IfcLabel,\n{Door},Schedule,Width,900,IfcLengthMeasure,mm\n{Door},Schedule,Nothing,,IfcLabel,\n"
            ),
            amendments = Put(
                "amendments.json",
                $$"""{"version":1,"amendments":[{"element":"{{Door}}","do":"name","value":"D-101","by":"Ida"}]}"""
            );
        var (code, output, error) = Run("properties", Arc, "--values", values, "--amend", amendments, target, "--json");
        Assert.True(code == 0, error);
        var json = JsonDocument.Parse(output).RootElement;
        Assert.True(json.GetProperty("balanced").GetBoolean());
        Assert.Equal(3, json.GetProperty("applied").GetInt32());
        Assert.Equal(1, json.GetProperty("nothing").GetInt32());
        Assert.NotEmpty(json.GetProperty("ledger").EnumerateArray());
        string text = File.ReadAllText(target);
        Assert.Contains("'EI 60'", text, StringComparison.Ordinal);
        Assert.Contains("'D-101'", text, StringComparison.Ordinal);
        Assert.DoesNotContain("'Nothing'", text, StringComparison.Ordinal);
        Assert.Equal(before, File.ReadAllBytes(Arc));
    }

    [Theory]
    [InlineData("xxx,S,P,1,real,", "Row 3")]
    [InlineData($"{Door},S,P,wide,length,", "Row 3")]
    [InlineData($"{Door},S,P,1,lenght,", "Row 3")]
    [InlineData($"{Door},S,P,1,length,kgs", "Row 3")]
    public void A_wrong_row_is_named_and_no_file_is_written(string row, string says)
    {
        string values = Put("wrong.csv", $"GlobalId,Set,Property,Value,Type,Unit\n{Door},S,Q,1,real,\n{row}\n"),
            target = Path.Combine(demo.Path, "never.ifc");
        var (code, _, error) = Run("properties", Arc, "--values", values, target);
        Assert.Equal(2, code);
        Assert.Contains(says, error, StringComparison.Ordinal);
        Assert.False(File.Exists(target));
    }

    [Fact]
    public void A_template_gives_types_defaults_and_faults()
    {
        string template = Put(
                "template.csv",
                "set,classes,property,type,unit,words,default,required,not for exchange\nSchedule,IfcDoor,Width,length,mm,,900,,\nSchedule,IfcDoor,Fire,,,EI 30; EI 60,,yes,\nSchedule,IfcDoor,Cost,real,,,,,yes\n"
            ),
            values = Put(
                "typed.csv",
                $"GlobalId,Set,Property,Value\n{Door},Schedule,Fire,EI 60\n{Door},Schedule,Cost,410\n"
            ),
            target = Path.Combine(demo.Path, "typed.ifc");
        var (code, output, error) = Run(
            "properties",
            Arc,
            "--template",
            template,
            "--values",
            values,
            target,
            "--json"
        );
        Assert.True(code == 0, error);
        var json = JsonDocument.Parse(output).RootElement;
        Assert.Equal(57, json.GetProperty("defaults").GetInt32());
        Assert.Equal(56, json.GetProperty("faults").GetArrayLength());
        Assert.DoesNotContain("'Cost'", File.ReadAllText(target), StringComparison.Ordinal);
        string wrong = Put("word.csv", $"GlobalId,Set,Property,Value\n{Door},Schedule,Fire,EI60\n");
        var refused = Run("properties", Arc, "--template", template, "--values", wrong, target);
        Assert.Equal(2, refused.Code);
        Assert.Contains("'EI 60'", refused.Error, StringComparison.Ordinal);
    }

    [Fact]
    public void What_is_asked_twice_or_not_at_all_is_refused()
    {
        Assert.Equal(2, Run("properties", Arc).Code);
        Assert.Equal(2, Run("properties", Arc, "out.ifc", "--list").Code);
        Assert.Equal(3, Run("properties", Put("no.ifc", "no model"), "--list").Code);
    }

    [Fact]
    public void A_hand_over_carries_amendments_of_the_terminal()
    {
        string amendments = Put(
                "carried.json",
                $$"""{"amendments":[{"element":"{{Door}}","set":"Schedule","name":"Leaf","value":"2"},{"element":"{{Door}}","do":"mark","value":"D1"}]}"""
            ),
            folder = Path.Combine(demo.Path, "carried");
        var (code, output, error) = Run(
            "handover",
            "--from",
            Arc,
            "--amend",
            $"HW-ARC-terminal={amendments}",
            "--as",
            "ifc",
            "--out",
            folder,
            "--json"
        );
        Assert.True(code == 0, error);
        Assert.True(JsonDocument.Parse(output).RootElement.GetProperty("balanced").GetBoolean());
        Assert.Contains("'Leaf'", File.ReadAllText(Directory.GetFiles(folder)[0]), StringComparison.Ordinal);
        Assert.Equal(
            2,
            Run("handover", "--from", Arc, "--amend", $"Other={amendments}", "--as", "ifc", "--out", folder).Code
        );
    }
}
