using System.Text.Json;

namespace SteadyLintel.Tests;

/// <summary>Every option of the command line on the demo's files.</summary>
public class OptionTests(DemoFolder demo) : IClassFixture<DemoFolder>
{
    private string Arc => Path.Combine(demo.Path, "HW-ARC-terminal.ifc");

    private string Str => Path.Combine(demo.Path, "HW-STR-frame.ifc");

    private string Folder(string name) => Path.Combine(demo.Path, name);

    private static JsonElement Json(string text) => JsonDocument.Parse(text).RootElement;

    private static List<JsonElement> Lines(string text) =>
        [.. text.Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(Json)];

    private JsonElement Handover(string name, params string[] arguments)
    {
        var (code, output, error) = CliTests.Run([
            "handover",
            .. arguments,
            "--out",
            Folder(name),
            "--time",
            "2026-11-26T10:00:00",
            "--json",
        ]);
        Assert.Equal((0, ""), (code, error));
        var json = Json(output);
        Assert.True(json.GetProperty("balanced").GetBoolean());
        return json;
    }

    private string File(string name, JsonElement handover) =>
        Path.Combine(Folder(name), handover.GetProperty("files")[0].GetProperty("name").GetString()!);

    private static JsonElement Inspect(string path) => Json(CliTests.Run("inspect", path, "--json").Out);

    [Fact]
    public void Types_have_shapes_of_their_own()
    {
        var lines = Lines(CliTests.Run("mesh", Arc, "--types", "--json").Out);
        Assert.NotEmpty(lines);
        Assert.All(lines, l => Assert.EndsWith("Type", l.GetProperty("class").GetString()));
        Assert.Contains("types shaped", CliTests.Run("mesh", Arc, "--types").Out);
    }

    [Fact]
    public void Layers_of_a_wall_add_up_to_the_wall()
    {
        string wall = Folder("wall.ifc");
        System.IO.File.WriteAllText(
            wall,
            """
            ISO-10303-21;HEADER;FILE_DESCRIPTION((''),'2;1');FILE_NAME('','',(''),(''),'','','');FILE_SCHEMA(('IFC4'));ENDSEC;DATA;
            #1=IFCCARTESIANPOINT((0.,0.,0.));#2=IFCAXIS2PLACEMENT3D(#1,$,$);#5=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);#6=IFCUNITASSIGNMENT((#5));
            #7=IFCPROJECT('0000000000000000000001',$,'P',$,$,$,$,(#8),#6);#8=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,1.E-05,#2,$);
            #10=IFCBLOCK(#2,4.,0.3,3.);#11=IFCSHAPEREPRESENTATION(#8,'Body','CSG',(#10));#12=IFCPRODUCTDEFINITIONSHAPE($,$,(#11));#13=IFCWALL('0000000000000000000013',$,'W',$,$,$,#12,$,$);
            #20=IFCMATERIAL('Brick',$,$);#21=IFCMATERIAL('Wool',$,$);#22=IFCMATERIALLAYER(#20,0.1,$,$,$,$,$);#23=IFCMATERIALLAYER(#21,0.2,$,$,$,$,$);#24=IFCMATERIALLAYERSET((#22,#23),'Outer',$);
            #25=IFCMATERIALLAYERSETUSAGE(#24,.AXIS2.,.POSITIVE.,0.,$);#26=IFCRELASSOCIATESMATERIAL('0000000000000000000026',$,$,$,(#13),#25);
            ENDSEC;END-ISO-10303-21;
            """
        );
        var layers = Assert
            .Single(Lines(CliTests.Run("mesh", wall, "--by-layers", "--json").Out))
            .GetProperty("layers")
            .EnumerateArray()
            .ToList();
        Assert.Equal(
            [("Brick", 0.1, 1.2), ("Wool", 0.2, 2.4)],
            layers.Select(l =>
                (
                    l.GetProperty("material").GetString()!,
                    l.GetProperty("thickness").GetDouble(),
                    Math.Round(l.GetProperty("volume").GetDouble(), 9)
                )
            )
        );
        Assert.False(Assert.Single(Lines(CliTests.Run("mesh", wall, "--json").Out)).TryGetProperty("layers", out _));
    }

    [Fact]
    public void Finer_chords_give_more_triangles_and_the_same_volume()
    {
        string pipes = Path.Combine(demo.Path, "HW-SRV-services.ifc");
        if (!System.IO.File.Exists(pipes))
            pipes = Directory.GetFiles(demo.Path, "HW-SRV*.ifc")[0];
        var coarse = Lines(CliTests.Run("mesh", pipes, "--json", "--chord", "0.01", "--sides", "12").Out);
        var fine = Lines(CliTests.Run("mesh", pipes, "--json", "--chord", "0.0001", "--sides", "96").Out);
        Assert.Equal(coarse.Count, fine.Count);
        Assert.True(
            coarse.Sum(l => l.GetProperty("triangles").GetInt32())
                < fine.Sum(l => l.GetProperty("triangles").GetInt32())
        );
        Assert.InRange(
            coarse.Sum(l => l.GetProperty("volume").GetDouble()) / fine.Sum(l => l.GetProperty("volume").GetDouble()),
            0.99,
            1.01
        );
    }

    [Theory]
    [InlineData("--chord", "0")]
    [InlineData("--sides", "3")]
    [InlineData("--sides", "9999")]
    public void Fineness_that_makes_no_sense_is_refused(string option, string value)
    {
        var (code, _, error) = CliTests.Run("mesh", Arc, option, value);
        Assert.Equal(2, code);
        Assert.Contains("--chord", error);
    }

    // What a rule keeps and what it leaves out are all there is.
    [Theory]
    [InlineData("types", "IPE 240")]
    [InlineData("materials", "Steel S355")]
    public void Elements_are_chosen_by_every_field_that_has_names_and_written_in_every_form(string field, string value)
    {
        int Count(string name, params string[] rule)
        {
            var json = Handover(field + name, ["--from", Str, "--as", "glb", .. rule]);
            Assert.Equal("glTF"u8.ToArray(), System.IO.File.ReadAllBytes(File(field + name, json))[..4]);
            return json.GetProperty("files")[0].GetProperty("elements").GetInt32();
        }

        int all = Count("all"),
            only = Count("only", $"--{field}", value),
            without = Count("without", $"--without-{field}", value);
        Assert.InRange(only, 1, all - 1);
        Assert.Equal(all, only + without);
    }

    [Theory]
    [InlineData("IFC2X3")]
    [InlineData("IFC4")]
    [InlineData("IFC4X3")]
    public void Another_schema_is_written(string schema)
    {
        var json = Handover(
            "schema" + schema,
            "--from",
            Arc,
            "--as",
            "ifc",
            "--schema",
            schema,
            "--storeys",
            "Gallery"
        );
        Assert.StartsWith(schema, Inspect(File("schema" + schema, json)).GetProperty("schema").GetString());
    }

    [Theory]
    [InlineData("local", 0, 200)]
    [InlineData("1000,2000,3,0", 990, 1100)]
    [InlineData("source", -10, 100)]
    public void Another_frame_is_written(string frame, double low, double high)
    {
        string name = "frame" + frame.Split(',')[0];
        var json = Handover(name, "--from", Str, "--as", "ifc", "--frame", frame, "--storeys", "Gallery");
        Assert.InRange(
            Inspect(File(name, json)).GetProperty("boundingBox").GetProperty("min")[0].GetDouble(),
            low,
            high
        );
    }

    [Fact]
    public void Sources_are_merged_under_one_project()
    {
        var json = Handover("merged", "--from", Arc, Str, "--as", "ifc", "--merge", "--unit", "m");
        Assert.Equal(1, json.GetProperty("files").GetArrayLength());
        var merged = Inspect(File("merged", json));
        Assert.Equal(
            Inspect(Arc)
                .GetProperty("classes")
                .EnumerateArray()
                .First(c => c.GetProperty("name").GetString() == "IfcWall")
                .GetProperty("count")
                .GetInt32(),
            merged
                .GetProperty("classes")
                .EnumerateArray()
                .First(c => c.GetProperty("name").GetString() == "IfcWall")
                .GetProperty("count")
                .GetInt32()
        );
        Assert.Contains(merged.GetProperty("classes").EnumerateArray(), c =>
            c.GetProperty("name").GetString() == "IfcColumn"
        );
    }

    [Fact]
    public void Edits_are_written()
    {
        var json = Handover(
            "edited",
            "--from",
            Arc,
            "--as",
            "ifc",
            "--rename-storey",
            "Gallery=Level 02",
            "--move-layer",
            "A-WALL-INT=PARTITION",
            "--set-property",
            "IfcWall:HW_Check.Seen=yes",
            "--classes",
            "IfcWall"
        );
        var edited = Inspect(File("edited", json));
        Assert.Contains(edited.GetProperty("storeys").EnumerateArray(), s =>
            s.GetProperty("name").GetString() == "Level 02"
        );
        Assert.Contains(edited.GetProperty("layers").EnumerateArray(), l =>
            l.GetProperty("name").GetString() == "PARTITION"
        );
        Assert.Contains(edited.GetProperty("propertySets").EnumerateArray(), p =>
            p.GetProperty("name").GetString() == "HW_Check"
        );
    }

    [Theory]
    [InlineData("dxf", "AC1027", "", Traits = ["Slow", "yes"])]
    [InlineData("dwg", "AC1024", "", Traits = ["Slow", "yes"])]
    [InlineData("dwg", "AC1032", "--version AC1032")]
    public void Solids_are_written_in_the_usual_version_when_nothing_else_is_said(
        string format,
        string version,
        string options
    )
    {
        var json = Handover(
            "solids" + version,
            [
                "--from",
                Str,
                "--as",
                format,
                "--solids",
                "--storeys",
                "Gallery",
                .. options.Split(' ', StringSplitOptions.RemoveEmptyEntries),
            ]
        );
        var drawing = Inspect(File("solids" + version, json));
        Assert.Equal(version, drawing.GetProperty("version").GetString());
        Assert.Contains(drawing.GetProperty("entities").EnumerateArray(), e =>
            e.GetProperty("type").GetString() == "3DSOLID"
        );
    }

    [Fact]
    public void Blocks_are_taken_apart_on_request()
    {
        var json = Handover("blocks", "--from", Arc, "--as", "dxf", "--storeys", "Gallery");
        string whole = File("blocks", json),
            apart = Path.Combine(Folder("blocks"), "apart.dwg");
        Assert.NotEmpty(Inspect(whole).GetProperty("blocks").EnumerateArray());
        var (code, output, error) = CliTests.Run("convert", whole, apart, "--explode-blocks", "--json");
        Assert.Equal((0, ""), (code, error));
        var rows = Json(output).GetProperty("rows").EnumerateArray().ToList();
        Assert.True(rows.Sum(r => r.GetProperty("takenApart").GetInt32()) > 0);
        Assert.All(rows, r => Assert.Equal(0, r.GetProperty("unaccounted").GetInt32()));
        var drawing = Inspect(apart);
        Assert.DoesNotContain(drawing.GetProperty("entities").EnumerateArray(), e =>
            e.GetProperty("type").GetString() == "INSERT"
        );
        Assert.Empty(drawing.GetProperty("blocks").EnumerateArray());
    }

    [Theory]
    [InlineData("--as dxf --plan --solids", "bodies")]
    [InlineData("--as ifc --solids", "bodies")]
    [InlineData("--as ifc --plan", "--plan is for")]
    [InlineData("--as dxf --schema IFC4", "go with IFC")]
    [InlineData("--as ifc --schema IFC9", "IFC2X3, IFC4 or IFC4X3")]
    [InlineData("--as ifc --frame here", "--frame takes")]
    [InlineData("--as ifc --unit yards", "--unit takes")]
    [InlineData("--as ifc --split floor", "--split takes")]
    [InlineData("--as ifc --set-property IfcWall", "a ':' is missing|a '=' is missing")]
    public void Words_that_do_not_go_together_are_told(string arguments, string words)
    {
        var (code, _, error) = CliTests.Run([
            "handover",
            "--from",
            Str,
            .. arguments.Split(' '),
            "--out",
            Folder("refused"),
        ]);
        Assert.Equal(2, code);
        Assert.Contains(words.Split('|'), w => error.Contains(w, StringComparison.Ordinal));
        Assert.Single(error.Trim().Split('\n'));
    }

    [Fact]
    public void Validate_prints_the_rule_check()
    {
        var (code, output, _) = CliTests.Run("validate", Arc, "--json");
        Assert.Equal(0, code);
        Assert.True(Json(output).ValueKind is JsonValueKind.Object or JsonValueKind.Array);
    }
}
