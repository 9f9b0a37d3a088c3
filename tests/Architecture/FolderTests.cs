using System.Text.RegularExpressions;
using ArchUnitNET.Domain;
using ArchUnitNET.Domain.Extensions;
using ArchUnitNET.Loader;

namespace SteadyLintel.Tests;

/// <summary>Dependencies point one way: between projects, and between the folders of a project.</summary>
public partial class FolderTests
{
    private static readonly string Root = FindRoot();

    private static readonly Architecture Whole = new ArchLoader()
        .LoadAssemblies(
            typeof(Step.StepFile).Assembly,
            typeof(Geometry.Vec3).Assembly,
            typeof(Ifc.IfcModel).Assembly,
            typeof(Cad.Drawing).Assembly,
            typeof(Exchange.HandoverRunner).Assembly,
            typeof(Topics.TopicArchive).Assembly,
            typeof(Store.LintelDb).Assembly,
            typeof(Jobs.Orders).Assembly
        )
        .Build();

    [Theory]
    // The folders below Cad/Model are parts of one thing: a drawing has entities and tables, and these know their drawing's parts.
    [InlineData("Core", "Exchange", true)]
    [InlineData("Core", "Cad", false)]
    [InlineData("Core", "Ifc", true)]
    [InlineData("Core", "Geometry", true)]
    [InlineData("Core", "Topics", true)]
    [InlineData("App", "Jobs", true)]
    public void No_two_folders_go_in_a_circle(string layer, string project, bool nested)
    {
        string folder = Path.Combine(Root, "src", layer, project);
        var homes = Homes(folder, nested);
        var graph = new SortedDictionary<string, SortedDictionary<string, string>>(StringComparer.Ordinal);
        foreach (
            var type in Whole.Types.Where(t =>
                t.FullName.StartsWith($"SteadyLintel.{project}.", StringComparison.Ordinal)
            )
        )
        {
            if (Home(type, homes) is not { } from)
                continue;
            foreach (var target in type.GetTypeDependencies())
                if (Home(target, homes) is { } to && to != from)
                    (graph.TryGetValue(from, out var edges) ? edges : graph[from] = new(StringComparer.Ordinal))[to] =
                        $"{type.Name} → {target.Name}";
        }

        Assert.True(graph.Count > 0, "The folders of the types were not found.");
        Assert.True(Circle(graph) is not { } circle, Circle(graph));
    }

    // Times come in from outside, so that the same gives the same.
    [Fact]
    public void Core_knows_no_clock()
    {
        string[] clocks =
        [
            "DateTime.UtcNow",
            "DateTime.Now",
            "DateTimeOffset.UtcNow",
            "DateTimeOffset.Now",
            "DateTime.Today",
            "TimeProvider",
        ];
        var told = Directory
            .EnumerateFiles(Path.Combine(Root, "src", "Core"), "*.cs", SearchOption.AllDirectories)
            .Where(f => clocks.Any(File.ReadAllText(f).Contains))
            .ToList();
        Assert.Empty(told);
    }

    [Fact]
    public void Core_knows_no_database_no_web_and_no_files()
    {
        string[] foreign =
        [
            "Microsoft.EntityFrameworkCore",
            "Microsoft.AspNetCore",
            "Npgsql",
            "System.IO.File",
            "System.IO.Directory",
            "SteadyLintel.Store",
            "SteadyLintel.Jobs",
            "SteadyLintel.Web",
        ];
        var bad = Whole
            .Types.Where(t => Projects().IsMatch(t.FullName))
            .SelectMany(t =>
                t.GetTypeDependencies()
                    .Where(d =>
                        foreign.Any(f => d.FullName == f || d.FullName.StartsWith(f + ".", StringComparison.Ordinal))
                    )
                    .Select(d => $"{t.FullName} → {d.FullName}")
            )
            .Distinct()
            .ToList();
        Assert.True(bad.Count == 0, string.Join("\n", bad));
    }

    [Fact]
    public void Lines_of_code_are_at_most_140_characters_but_for_long_texts()
    {
        string[] made = ["/obj/", "/bin/", "/Migrations/"];
        var wide = Directory
            .EnumerateFiles(Path.Combine(Root, "src"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !made.Any(m => f.Contains(m, StringComparison.Ordinal)))
            .SelectMany(f =>
                File.ReadLines(f).Select((line, n) => (Line: line, Place: $"{Path.GetRelativePath(Root, f)}:{n + 1}"))
            )
            .Where(l => l.Line.Length > 140 && !l.Line.Contains('"', StringComparison.Ordinal))
            .Select(l => l.Place)
            .ToList();
        Assert.Empty(wide);
    }

    [Fact]
    public void Lines_of_pages_are_at_most_200_characters() =>
        Assert.Empty(
            Directory
                .EnumerateFiles(
                    Path.Combine(Root, "src", "App", "Web", "Pages"),
                    "*.cshtml",
                    SearchOption.AllDirectories
                )
                .SelectMany(f =>
                    File.ReadLines(f)
                        .Index()
                        .Where(l => l.Item.Length > 200)
                        .Select(l => $"{Path.GetFileName(f)}:{l.Index + 1}")
                )
        );

    // A form with an address of its own gets no token by itself, and would be refused.
    [Fact]
    public void Forms_that_send_carry_the_pages_token()
    {
        var without = Directory
            .EnumerateFiles(Path.Combine(Root, "src", "App", "Web", "Pages"), "*.cshtml", SearchOption.AllDirectories)
            .SelectMany(f =>
                File.ReadAllText(f)
                    .Split("<form ")
                    .Skip(1)
                    .Where(form => form.Split('>')[0].Contains("method=\"post\"", StringComparison.Ordinal))
                    .Where(form => form.Split('>')[0].Contains(" action=", StringComparison.Ordinal))
                    .Where(form =>
                        !form.Split("</form>")[0].Contains("AntiForgeryToken()", StringComparison.Ordinal)
                        && !form.Contains("asp-antiforgery=\"true\"", StringComparison.Ordinal)
                    )
                    .Select(form => $"{Path.GetFileName(f)}: {form[..Math.Min(90, form.Length)]}")
            );
        Assert.Empty(without);
    }

    // Pages show; use cases ask and change. What starts the program (Setup, Work, Program.cs) makes the database known to them.
    [Fact]
    public void Pages_name_no_database()
    {
        string web = Path.Combine(Root, "src", "App", "Web");
        string[] words = ["LintelDb", "EntityFrameworkCore", "Npgsql", "Blobs("];
        var named = ((string[])["Access", "Mail", "Pages", "Views"])
            .SelectMany(f => Directory.EnumerateFiles(Path.Combine(web, f), "*.cs*", SearchOption.AllDirectories))
            .Where(f => words.Any(File.ReadAllText(f).Contains))
            .Select(f => Path.GetRelativePath(web, f));
        Assert.Empty(named);
    }

    [Fact]
    public void Use_cases_know_no_web()
    {
        var bad = Whole
            .Types.Where(t => t.FullName.StartsWith("SteadyLintel.Jobs.", StringComparison.Ordinal))
            .SelectMany(t =>
                t.GetTypeDependencies()
                    .Where(d =>
                        d.FullName.StartsWith("Microsoft.AspNetCore.Http", StringComparison.Ordinal)
                        || d.FullName.StartsWith("Microsoft.AspNetCore.Mvc", StringComparison.Ordinal)
                        || d.FullName.StartsWith("Hangfire", StringComparison.Ordinal)
                    )
                    .Select(d => $"{t.Name} → {d.FullName}")
            )
            .ToList();
        Assert.Empty(bad);
    }

    [Fact]
    public void Every_room_of_the_exchange_is_named_in_the_architecture()
    {
        string rooms = File.ReadAllText(Path.Combine(Root, "docs", "architecture.md"));
        var folders = Directory
            .EnumerateDirectories(Path.Combine(Root, "src", "Core", "Exchange"))
            .Select(d => Path.GetFileName(d)!);
        Assert.All(folders.Where(d => d is not ("bin" or "obj")), d =>
            Assert.Contains($"`{d}`", rooms, StringComparison.Ordinal)
        );
    }

    // Files up to a size that a reader takes in at once.
    [Fact]
    public void No_file_of_the_source_is_longer_than_500_lines() =>
        Assert.Empty(
            Directory
                .EnumerateFiles(Path.Combine(Root, "src"), "*.cs", SearchOption.AllDirectories)
                .Where(f =>
                    !Built().IsMatch(f)
                    && !f.Contains("Migrations", StringComparison.Ordinal)
                    && File.ReadLines(f).Count() > 500
                )
                .Select(Path.GetFileName)
        );

    // The folder below the project's of the file that a type is declared in: the first one, or however deep.
    private static Dictionary<string, string> Homes(string project, bool nested)
    {
        var homes = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (
            string file in Directory
                .EnumerateFiles(project, "*.cs", SearchOption.AllDirectories)
                .Where(f => !Built().IsMatch(f))
        )
        {
            string below = Path.GetDirectoryName(Path.GetRelativePath(project, file))!;
            string folder =
                below.Length == 0 ? "."
                : nested ? below
                : below.Split(Path.DirectorySeparatorChar)[0];
            foreach (Match match in Declaration().Matches(File.ReadAllText(file)))
                homes[match.Groups[1].Value] = folder;
        }

        return homes;
    }

    private static string? Home(IType type, Dictionary<string, string> homes)
    {
        // Nested and compiler-made types are at home where their outermost type is.
        string name = type.FullName.Split('.')[^1].Split('+', '/')[0].Split('`', '<')[0];
        return type.FullName.StartsWith("SteadyLintel.", StringComparison.Ordinal)
            ? homes.GetValueOrDefault(name)
            : null;
    }

    private static string? Circle(SortedDictionary<string, SortedDictionary<string, string>> graph)
    {
        var done = new HashSet<string>();
        var path = new List<string>();
        string? Visit(string folder)
        {
            if (path.Contains(folder))
                return string.Join(
                    "\n",
                    path.SkipWhile(p => p != folder)
                        .Append(folder)
                        .Zip(path.SkipWhile(p => p != folder).Skip(1).Append(folder), (a, b) =>
                            $"{a} → {b}: {(graph[a].TryGetValue(b, out string? why) ? why : "")}"
                        )
                );
            if (!done.Add(folder) || !graph.TryGetValue(folder, out var edges))
                return null;
            path.Add(folder);
            foreach (string next in edges.Keys)
                if (Visit(next) is { } found)
                    return found;
            path.RemoveAt(path.Count - 1);
            return null;
        }

        return graph.Keys.Select(Visit).FirstOrDefault(c => c is not null);
    }

    private static string FindRoot()
    {
        string folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "SteadyLintel.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    [GeneratedRegex(
        @"^(?:public|internal)\s+(?:static |sealed |abstract |partial |readonly |ref )*(?:class|record struct|record|struct|enum|interface)\s+(\w+)",
        RegexOptions.Multiline
    )]
    private static partial Regex Declaration();

    [GeneratedRegex(@"[\\/](bin|obj)[\\/]")]
    private static partial Regex Built();

    [GeneratedRegex(@"^SteadyLintel\.(Step|Geometry|Ifc|Cad|Exchange|Topics)\.")]
    private static partial Regex Projects();
}
