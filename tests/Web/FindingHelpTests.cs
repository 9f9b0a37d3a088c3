using System.Text.RegularExpressions;
using SteadyLintel.Web;

namespace SteadyLintel.Tests;

/// <summary>What people are told to do about findings, and plain names of classes.</summary>
public partial class FindingHelpTests
{
    [Fact]
    public void Each_finding_of_the_program_says_what_to_do_next()
    {
        var codes = Directory
            .EnumerateFiles(Path.Combine(ServerProcess.Root(), "src", "Core"), "*.cs", SearchOption.AllDirectories)
            .SelectMany(f => Code().Matches(File.ReadAllText(f)).Select(m => m.Groups[1].Value))
            .Distinct()
            .ToList();
        Assert.True(codes.Count > 60, $"{codes.Count} codes were found.");
        Assert.All(codes, c => Assert.True(FindingHelp.Next(c) is { Length: > 5 }, c));
    }

    [Theory]
    [InlineData("IfcDuctSegment", "Duct segment")]
    [InlineData("IfcWall", "Wall")]
    [InlineData("IfcWall.PARTITIONING", "Wall.PARTITIONING")]
    [InlineData("IfcBuildingElementProxy", "Building element proxy")]
    public void Classes_are_picked_by_plain_names(string standard, string plain)
    {
        Assert.Equal(plain, ClassNames.Plain(standard));
        Assert.Equal(standard, ClassNames.Standard(plain));
        Assert.Equal(standard, ClassNames.Standard(standard));
    }

    [Fact]
    public void Each_class_of_products_has_a_plain_name_that_leads_back() =>
        Assert.All(Exchange.ClassWords.Names, n =>
            Assert.Equal(n, ClassNames.Standard(ClassNames.Plain(n)), ignoreCase: true)
        );

    [GeneratedRegex("\"((?:STEP|IFC|SET|CAD)-[A-Z0-9]+(?:-[A-Z0-9]+)*)\"")]
    private static partial Regex Code();
}
