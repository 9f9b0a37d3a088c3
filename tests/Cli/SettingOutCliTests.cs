using System.Text.Json;

namespace SteadyLintel.Tests;

/// <summary>Frames, fits and comparisons from the terminal.</summary>
public class SettingOutCliTests(DemoFolder demo) : IClassFixture<DemoFolder>
{
    private string Arc => Path.Combine(demo.Path, "HW-ARC-terminal.ifc");

    private static JsonElement Json(string text) => JsonDocument.Parse(text).RootElement;

    [Fact]
    public void Frames_tell_what_each_file_declares_and_looks_like()
    {
        var (code, output, _) = CliTests.Run("frames", Arc, Path.Combine(demo.Path, "HW-SRV-services.ifc"), "--json");
        Assert.Equal(0, code);
        var frames = Json(output);
        Assert.Equal(0.001, frames[0].GetProperty("frame").GetProperty("metres").GetDouble());
        Assert.Equal(2.1, frames[0].GetProperty("frame").GetProperty("doors").GetProperty("median").GetDouble(), 3);
        // The services model has a storey that stands lower than it says.
        Assert.Contains(
            "Gallery says +8.600 m but is placed at +8.300 m",
            frames[1].GetProperty("frame").GetProperty("disagreements")[0].GetString()
        );
        Assert.Contains("door", CliTests.Run("frames", Arc).Out, StringComparison.Ordinal);
        Assert.Equal(3, CliTests.Run("frames", Path.Combine(demo.Path, "none.ifc")).Code);
    }

    [Fact]
    public void Points_are_fitted_and_kept_as_a_setting_out_that_a_hand_over_takes()
    {
        string table = Path.Combine(demo.Path, "points.csv"),
            setting = Path.Combine(demo.Path, "setting.json"),
            folder = Path.Combine(demo.Path, "party");
        File.WriteAllText(
            table,
            "name,sx,sy,sz,jx,jy,jz\nA,0,0,0,100,0,30.48\nB,10,0,0,100,10,30.48\nC,0,10,0,90,0,30.48\nD,10,10,0,90.5,10,30.48\n"
        );
        var (code, output, _) = CliTests.Run("fit", table, "--json", "--setting", setting);
        Assert.Equal(0, code);
        var fit = Json(output);
        string[] wanted = ["shift", "turnDegrees", "scale", "rms", "largest", "points", "undetermined"];
        Assert.Empty(wanted.Except(fit.EnumerateObject().Select(p => p.Name)));
        Assert.Equal(30.48, fit.GetProperty("shift")[2].GetDouble(), 9);
        Assert.True(fit.GetProperty("points")[3].GetProperty("outlier").GetBoolean());
        Assert.Equal(JsonValueKind.Null, fit.GetProperty("undetermined").ValueKind);
        Assert.Equal(
            0,
            CliTests
                .Run(
                    "handover",
                    "--from",
                    Arc,
                    "--as",
                    "ifc",
                    "--frame",
                    "party",
                    "--setting",
                    setting,
                    "--out",
                    folder
                )
                .Code
        );
        // The file lies where the inverse of the setting-out puts it.
        var jump = Json(CliTests.Run("compare", Arc, Directory.GetFiles(folder, "*.ifc").Single(), "--json").Out)
            .GetProperty("frameJump");
        double turn = fit.GetProperty("turnDegrees").GetDouble();
        Assert.Equal(-turn, jump.GetProperty("turnDegrees").GetDouble(), 5);
        Assert.Equal(-30.48, jump.GetProperty("shift")[2].GetDouble(), 4);
        Assert.Equal(
            2,
            CliTests.Run("handover", "--from", Arc, "--as", "ifc", "--setting", setting, "--out", folder).Code
        );
        Assert.Equal(2, CliTests.Run("fit", table, "--grids").Code);
    }

    [Fact]
    public void Grids_of_two_models_fit_and_a_model_compared_with_itself_is_the_same()
    {
        var fit = Json(CliTests.Run("fit", "--grids", Arc, Arc, "--json").Out);
        Assert.Equal(
            (0, 0, 0),
            (
                fit.GetProperty("turnDegrees").GetDouble(),
                Math.Round(fit.GetProperty("shift")[0].GetDouble(), 9),
                Math.Round(fit.GetProperty("shift")[1].GetDouble(), 9)
            )
        );
        Assert.True(fit.GetProperty("points").GetArrayLength() >= 20);
        var (code, output, _) = CliTests.Run("compare", Arc, Arc, "--json");
        Assert.Equal(0, code);
        var same = Json(output);
        Assert.Equal(796, same.GetProperty("same").GetInt32());
        foreach (
            string list in (string[])
                [
                    "added",
                    "removed",
                    "moved",
                    "reshaped",
                    "reclassed",
                    "retyped",
                    "relayered",
                    "restoreyed",
                    "renamed",
                    "propertiesChanged",
                ]
        )
            Assert.Equal(0, same.GetProperty(list).GetArrayLength());
        Assert.Equal(
            (JsonValueKind.Null, false),
            (same.GetProperty("frameJump").ValueKind, same.GetProperty("pairedByShape").GetBoolean())
        );
    }

    [Fact]
    public void Units_for_services_are_written()
    {
        string folder = Path.Combine(demo.Path, "units");
        Assert.Equal(0, CliTests.Run("admin", "units", folder, "--host", "lintel.example.org").Code);
        Assert.Contains(
            "ExecStart=/usr/bin/dotnet /opt/steady-lintel/SteadyLintel.Web.dll work",
            File.ReadAllText(Path.Combine(folder, "steady-lintel-work.service")),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "server_name lintel.example.org;",
            File.ReadAllText(Path.Combine(folder, "nginx-steady-lintel.conf")),
            StringComparison.Ordinal
        );
    }
}
