using System.Text.RegularExpressions;

namespace SteadyLintel.Tests;

public partial class ShippedTests
{
    // Development tools must not be referenced by anything that ships.
    [Fact]
    public void Nothing_shipped_refers_to_the_outside_readers()
    {
        string root = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(root, "SteadyLintel.slnx")))
            root = Path.GetDirectoryName(root)!;
        var files = Directory
            .EnumerateFiles(Path.Combine(root, "src"), "*", SearchOption.AllDirectories)
            .Where(f =>
                !Skipped().IsMatch(f) && Path.GetExtension(f) is ".cs" or ".csproj" or ".json" or ".js" or ".cshtml"
            )
            .ToList();
        Assert.True(files.Count > 100);
        Assert.DoesNotContain(files, f => Outside().IsMatch(File.ReadAllText(f)));
    }

    // Core knows no database and no web.
    [Fact]
    public void Core_refers_to_nothing_above_it()
    {
        string root = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(root, "SteadyLintel.slnx")))
            root = Path.GetDirectoryName(root)!;
        foreach (
            string project in Directory.EnumerateFiles(
                Path.Combine(root, "src", "Core"),
                "*.csproj",
                SearchOption.AllDirectories
            )
        )
            Assert.DoesNotMatch("EntityFramework|AspNetCore|Npgsql|App/", File.ReadAllText(project));
    }

    [GeneratedRegex("[/\\\\](bin|obj|node_modules|lib)[/\\\\]")]
    private static partial Regex Skipped();

    [GeneratedRegex("web-ifc|ezdxf|libredwg|libdxfrw|dxf-parser|three-dxf")]
    private static partial Regex Outside();
}
