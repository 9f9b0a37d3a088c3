using System.Diagnostics;
using System.Text.Json;
using SteadyLintel.Cad;

namespace SteadyLintel.Tests;

/// <summary>The demo's files in a folder, written by the command line.</summary>
public sealed class DemoFolder : IDisposable
{
    public string Path { get; } = Directory.CreateTempSubdirectory("lintel-cli-").FullName;

    public DemoFolder() => Assert.Equal(0, CliTests.Run("demo", "--out", Path).Code);

    public void Dispose() => Directory.Delete(Path, true);
}

public class CliTests(DemoFolder demo) : IClassFixture<DemoFolder>
{
    private string Arc => Path.Combine(demo.Path, "HW-ARC-terminal.ifc");

    internal static (int Code, string Out, string Error) Run(params string[] arguments)
    {
        var start = new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "lintel.dll"), .. arguments])
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        using var process = Process.Start(start)!;
        var error = process.StandardError.ReadToEndAsync();
        string output = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return (process.ExitCode, output, error.Result);
    }

    [Fact]
    public void Inspect_gives_the_agreed_json()
    {
        var (code, output, _) = Run("inspect", Arc, "--json");
        Assert.Equal(0, code);
        var json = JsonDocument.Parse(output).RootElement;
        Assert.Equal(
            [
                "file",
                "format",
                "schema",
                "application",
                "lengthUnit",
                "project",
                "storeys",
                "classes",
                "products",
                "layers",
                "propertySets",
                "boundingBox",
                "findings",
            ],
            json.EnumerateObject().Select(p => p.Name)
        );
        Assert.Equal(0.001, json.GetProperty("lengthUnit").GetProperty("metres").GetDouble());
        Assert.Equal(
            ["Quay level", "Concourse", "Gallery", "Roof"],
            json.GetProperty("storeys").EnumerateArray().Select(s => s.GetProperty("name").GetString())
        );
        Assert.Equal(12.4, json.GetProperty("storeys")[3].GetProperty("elevation").GetDouble(), 9);
        Assert.Equal(
            ["code", "severity", "message", "count"],
            json.GetProperty("findings")[0].EnumerateObject().Select(p => p.Name)
        );
        Assert.Equal(60, json.GetProperty("boundingBox").GetProperty("max")[0].GetDouble(), 6);
        Assert.Equal(output, Run("inspect", Arc, "--json").Out);
    }

    // The drawing lies at the level of the schedule that is given, and a model's storeys are on its levels under its names.
    [Fact]
    public void Handover_takes_a_level_schedule()
    {
        string folder = Directory.CreateDirectory(Path.Combine(demo.Path, "levels")).FullName,
            levels = Path.Combine(folder, "levels.json"),
            setting = Path.Combine(folder, "lies.json");
        string drawing = Path.Combine(demo.Path, "HW-STR-S100-foundations.dwg");
        File.WriteAllText(
            levels,
            $$"""
            { "levels": [ { "id": 7, "name": "Deck", "elevation": 4.8 }, { "id": 8, "name": "Crown", "elevation": 12.4 } ],
              "matches": [ { "source": "{{Path.GetFileNameWithoutExtension(
                Arc
            )}}", "storey": "Concourse", "level": 7 } ] }
            """
        );
        File.WriteAllText(setting, """{ "shift": [10, 20, -1.2], "scale": 0.001, "level": 7 }""");
        var (code, output, error) = Run(
            "handover",
            "--from",
            Arc,
            drawing,
            "--as",
            "ifc",
            "--storeys",
            "Deck",
            "--levels",
            levels,
            "--placed",
            $"HW-STR-S100-foundations={setting}",
            "--unit",
            "m",
            "--frame",
            "job",
            "--split",
            "storey",
            "--name",
            "{source}-{storey}",
            "--out",
            folder,
            "--json"
        );
        Assert.True(code == 0, error);
        var json = JsonDocument.Parse(output).RootElement;
        string[] files =
        [
            .. json.GetProperty("files").EnumerateArray().Select(f => f.GetProperty("name").GetString()!),
        ];
        Assert.Equal(
            [$"{Path.GetFileNameWithoutExtension(Arc)}-Concourse.ifc", "HW-STR-S100-foundations-Deck.dwg"],
            files
        );
        var written = CadFile.Read(File.ReadAllBytes(Path.Combine(folder, files[1]))).Drawing;
        Assert.All(written.Model.Entities.OfType<Line>(), l => Assert.Equal(4.8, l.Start.Z, 6));
    }

    [Fact]
    public void Handover_takes_drawings_beside_models_and_alone()
    {
        string folder = Directory.CreateDirectory(Path.Combine(demo.Path, "with drawings")).FullName,
            setting = Path.Combine(folder, "lies.json");
        string drawing = Path.Combine(demo.Path, "HW-STR-S100-foundations.dwg");
        File.WriteAllText(
            setting,
            """{ "version": 1, "shift": [10, 20, -1.2], "turnDegrees": 90, "scale": 0.001, "why": "by hand" }"""
        );
        string steps = Path.Combine(folder, "steps.json");
        File.WriteAllText(steps, """{ "version": 1, "steps": [{ "do": "drop", "kinds": ["DIMENSION"] }] }""");
        var (code, output, error) = Run(
            "handover",
            "--from",
            drawing,
            "--as",
            "none",
            "--placed",
            $"HW-STR-S100-foundations={setting}",
            "--prepared",
            $"HW-STR-S100-foundations={steps}",
            "--unit",
            "m",
            "--frame",
            "job",
            "--drawing-file",
            "dxf",
            "--rename-drawing-layer",
            "S-FNDN-BEAM=BEAMS",
            "--out",
            folder,
            "--json"
        );
        Assert.True(code == 0, error);
        var balance = JsonDocument.Parse(output).RootElement.GetProperty("drawings")[0];
        Assert.True(balance.GetProperty("balanced").GetBoolean());
        Assert.Equal(0, balance.GetProperty("checks")[0].GetProperty("differ").GetInt32());
        var written = CadFile
            .Read(File.ReadAllBytes(Path.Combine(folder, balance.GetProperty("file").GetString()!)))
            .Drawing;
        Assert.Equal(6, written.Units);
        Assert.NotNull(written.Layers["BEAMS"]);
        Assert.DoesNotContain(written.Model.Entities, e => e.Type == "DIMENSION");
        // Nobody has said where it lies.
        (code, _, error) = Run("handover", "--from", drawing, "--as", "none", "--unit", "m", "--out", folder);
        Assert.Equal(2, code);
        Assert.Contains("The scale and place of", error, StringComparison.Ordinal);
        (code, output, _) = Run(
            "handover",
            "--from",
            Arc,
            drawing,
            "--as",
            "ifc",
            "--drawings",
            "received",
            "--out",
            folder
        );
        Assert.Equal(0, code);
        Assert.Contains("as received: balanced", output, StringComparison.Ordinal);
        Assert.Equal(
            File.ReadAllBytes(drawing),
            File.ReadAllBytes(Path.Combine(folder, "HW-STR-S100-foundations.dwg"))
        );
    }

    [Fact]
    public void Mesh_gives_a_line_a_product_and_a_glb()
    {
        string glb = Path.Combine(demo.Path, "out.glb");
        var (code, output, _) = Run("mesh", Arc, "--json", "--glb", glb);
        Assert.Equal(0, code);
        var lines = output
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(l => JsonDocument.Parse(l).RootElement)
            .ToList();
        Assert.Equal(
            ["id", "globalId", "class", "storey", "volume", "area", "triangles", "closed", "min", "max"],
            lines[0].EnumerateObject().Select(p => p.Name)
        );
        Assert.Equal(928, lines.Count);
        Assert.All(lines, l => Assert.True(l.GetProperty("closed").GetBoolean()));
        var bytes = File.ReadAllBytes(glb);
        Assert.Equal("glTF"u8.ToArray(), bytes[..4]);
        Assert.Equal(bytes.Length, BitConverter.ToInt32(bytes, 8));
    }

    [Fact]
    public void Handover_balances_and_is_the_same_every_time()
    {
        string[] order =
        [
            "handover",
            "--from",
            Arc,
            "--as",
            "ifc",
            "--split",
            "storey",
            "--classes",
            "IfcWall,IfcDoor",
            "--unit",
            "m",
            "--time",
            "2026-11-23T10:00:00",
            "--json",
            "--out",
        ];
        var (code, output, _) = Run([.. order, Path.Combine(demo.Path, "a")]);
        Assert.Equal(0, code);
        var json = JsonDocument.Parse(output).RootElement;
        Assert.True(json.GetProperty("balanced").GetBoolean());
        Assert.Equal(0, json.GetProperty("unaccounted").GetInt32());
        Assert.All(json.GetProperty("rows").EnumerateArray(), r =>
            Assert.Equal(
                r.GetProperty("in").GetInt32(),
                r.GetProperty("leftOut").GetInt32() + r.GetProperty("found").GetInt32()
            )
        );
        Assert.Equal(output, Run([.. order, Path.Combine(demo.Path, "b")]).Out);
        string name = json.GetProperty("files")[0].GetProperty("name").GetString()!;
        Assert.Equal(
            File.ReadAllBytes(Path.Combine(demo.Path, "a", name)),
            File.ReadAllBytes(Path.Combine(demo.Path, "b", name))
        );
    }

    [Theory]
    [InlineData(2, "handover", "--from", "x.ifc", "--as", "pdf", "--out", "o")]
    [InlineData(2, "handover", "--as", "ifc")]
    [InlineData(2, "nonsense")]
    [InlineData(3, "inspect", "does-not-exist.ifc")]
    public void Errors_are_one_sentence_and_a_code(int expected, params string[] arguments)
    {
        var (code, _, error) = Run(arguments);
        Assert.Equal(expected, code);
        Assert.Single(error.Trim().Split('\n'));
    }

    [Fact]
    public void A_drawing_in_disguise_is_recognised()
    {
        string path = Path.Combine(demo.Path, "drawing.ifc");
        File.WriteAllBytes(path, [.. "AC1032"u8, .. new byte[64]]);
        var (code, _, error) = Run("inspect", path);
        Assert.Equal(3, code);
        Assert.Contains("DWG", error);
    }

    [Fact]
    public void Help_names_the_commands()
    {
        var (code, output, _) = Run("--help");
        Assert.Equal(0, code);
        Assert.All(new[] { "inspect", "mesh", "handover", "demo" }, c => Assert.Contains(c, output));
    }

    [Fact]
    public void Drawings_are_handed_over_inspected_and_converted()
    {
        string folder = Path.Combine(demo.Path, "dwg");
        var (code, output, error) = Run(
            "handover",
            "--from",
            Path.Combine(demo.Path, "HW-STR-frame.ifc"),
            "--as",
            "dwg",
            "--version",
            "AC1018",
            "--split",
            "storey",
            "--out",
            folder,
            "--json"
        );
        Assert.Equal((0, ""), (code, error));
        Assert.True(JsonDocument.Parse(output).RootElement.GetProperty("balanced").GetBoolean());
        string dwg = Directory.GetFiles(folder, "*.dwg")[0];
        var inspected = JsonDocument.Parse(Run("inspect", dwg, "--json").Out).RootElement;
        Assert.Equal(
            [
                "file",
                "format",
                "version",
                "lengthUnit",
                "extents",
                "layers",
                "entities",
                "blocks",
                "layouts",
                "externalReferences",
                "texts",
                "findings",
            ],
            inspected.EnumerateObject().Select(p => p.Name)
        );
        Assert.Equal("AC1018", inspected.GetProperty("version").GetString());
        Assert.Equal(1, inspected.GetProperty("lengthUnit").GetProperty("metres").GetDouble());
        Assert.Empty(inspected.GetProperty("findings").EnumerateArray());

        string dxf = Path.Combine(folder, "again.dxf");
        (code, output, _) = Run("convert", dwg, dxf, "--binary", "--json");
        var converted = JsonDocument.Parse(output).RootElement;
        Assert.Equal(0, code);
        Assert.True(converted.GetProperty("balanced").GetBoolean());
        Assert.Equal(
            inspected.GetProperty("entities").ToString(),
            JsonDocument.Parse(Run("inspect", dxf, "--json").Out).RootElement.GetProperty("entities").ToString()
        );
        string layer = inspected
            .GetProperty("layers")
            .EnumerateArray()
            .First(l => l.GetProperty("count").GetInt32() > 0)
            .GetProperty("name")
            .GetString()!;
        Assert.Equal(0, Run("convert", dxf, Path.Combine(folder, "one.dwg"), "--layers", layer).Code);
        Assert.Equal(2, Run("convert", dxf, Path.Combine(folder, "one.dwg"), "--version", "AC1021").Code);
        Assert.Equal(3, Run("convert", Arc, Path.Combine(folder, "one.dwg")).Code);
    }

    [Fact]
    public void A_drawing_that_says_where_it_stands_is_inspected_with_its_place()
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        drawing.Objects.Add(
            new GeoData
            {
                Handle = drawing.NextHandle(),
                System = "UTM84-33N",
                Reference = new(385_000, 5_820_000, 0),
                North = new(0, 1),
            }
        );
        string path = Path.Combine(demo.Path, "placed.dwg");
        using (var file = File.Create(path))
            DwgWriter.Write(drawing, file);
        var place = JsonDocument.Parse(Run("inspect", path, "--json").Out).RootElement.GetProperty("place");
        Assert.Equal(
            ("UTM84-33N", 5_820_000, 90),
            (
                place.GetProperty("system").GetString(),
                place.GetProperty("reference")[1].GetDouble(),
                place.GetProperty("north").GetDouble()
            )
        );
        Assert.Contains("385000, 5820000 in UTM84-33N; north at 90°", Run("inspect", path).Out);
    }
}
