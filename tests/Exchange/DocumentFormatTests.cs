using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization.Metadata;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>One reader for all documents: what it refuses and how it says so, older versions, and the schemas in docs/.</summary>
public class DocumentFormatTests
{
    public static TheoryData<string> Schemas =>
        ["order", "setting-out", "preparation", "amendments", "template", "set", "view", "levels"];

    private static JsonTypeInfo MembersOf(string schema) =>
        schema switch
        {
            "order" => OrderDocument.Format.Members,
            "setting-out" => SettingOutDocument.Format.Members,
            "preparation" => PreparationDocument.Format.Members,
            "amendments" => AmendmentDocument.Format.Members,
            "template" => TemplateDocument.Format.Members,
            "set" => SetDocument.Format.Members,
            "view" => ViewDocument.Format.Members,
            _ => LevelDocument.Format.Members,
        };

    private static string Docs
    {
        get
        {
            string folder = AppContext.BaseDirectory;
            while (!File.Exists(Path.Combine(folder, "SteadyLintel.slnx")))
                folder = Path.GetDirectoryName(folder)!;
            return Path.Combine(folder, "docs");
        }
    }

    [Theory]
    [MemberData(nameof(Schemas))]
    public void The_published_schema_has_the_members_that_are_read(string name) =>
        Compare(Schema($"{name}.schema.json"), $"{name}.schema.json", MembersOf(name), name);

    private static JsonElement Schema(string file) =>
        JsonDocument.Parse(File.ReadAllText(Path.Combine(Docs, file))).RootElement;

    private static void Compare(JsonElement schema, string file, JsonTypeInfo read, string path)
    {
        while (schema.TryGetProperty("$ref", out var reference))
        {
            string[] parts = reference.GetString()!.Split('#');
            file = parts[0].Length > 0 ? parts[0] : file;
            schema = parts[1]
                .Split('/', StringSplitOptions.RemoveEmptyEntries)
                .Aggregate(Schema(file), (at, name) => at.GetProperty(name));
        }

        if (read.ElementType is { } entry)
        {
            if (read.Options.GetTypeInfo(entry) is { Kind: not JsonTypeInfoKind.None } of)
                Compare(schema.GetProperty("items"), file, of, path + "[]");
            return;
        }

        if (read.Kind != JsonTypeInfoKind.Object)
            return;
        Assert.False(schema.GetProperty("additionalProperties").GetBoolean(), path);
        var members = read.Properties.Where(p => p.Set is not null).ToDictionary(p => p.Name);
        var said = schema.GetProperty("properties").EnumerateObject().ToDictionary(p => p.Name, p => p.Value);
        Assert.Equal(
            (path, string.Join(' ', members.Keys.Order(StringComparer.Ordinal))),
            (path, string.Join(' ', said.Keys.Order(StringComparer.Ordinal)))
        );
        foreach (var (name, member) in members)
            Compare(said[name], file, read.Options.GetTypeInfo(member.PropertyType), $"{path}.{name}");
    }

    [Theory]
    [InlineData(
        "{\n\"rules\": [{ \"do\": 3 }] }",
        "line 2, at rules[0].do: a value of another kind is expected there."
    )]
    [InlineData("{\n\"ruels\": [] }", "has the word 'ruels' (line 2), which is not known.")]
    [InlineData("{ \"version\": 7 }", "has version 7; this program reads version 1.")]
    [InlineData("{ \"version\": 0 }", "has version 0; this program reads version 1.")]
    [InlineData("[", "cannot be read, line 1")]
    [InlineData("[1]", "a value of another kind is expected there.")]
    [InlineData("null", "is empty")]
    [InlineData("", "cannot be read")]
    [InlineData("{ \"version\": \"x\" }", "at version: a value of another kind is expected there.")]
    public void What_is_refused_is_named_with_its_place(string json, string sentence) =>
        Assert.Contains(
            sentence,
            Assert.Throws<OrderException>(() => SetDocument.Read(json)).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void Depth_and_length_have_limits()
    {
        string deep = string.Concat(Enumerable.Repeat("[", 100)) + string.Concat(Enumerable.Repeat("]", 100));
        Assert.Throws<OrderException>(() => SetDocument.Read($$"""{"rules":{{deep}}}"""));
        Assert.Throws<OrderException>(() => SetDocument.Read($$"""{"other":{{deep}},"version":2}"""));
        string wide = new('x', DocumentFormat<SetDocument>.Longest);
        Assert.Contains(
            "longer than 64 million",
            Assert.Throws<OrderException>(() => SetDocument.Read($"\"{wide}\"")).Message,
            StringComparison.Ordinal
        );
    }

    // Two versions that only this test knows: a word became a list, and the list got another name.
    [Fact]
    public void An_older_version_is_brought_up_step_by_step()
    {
        var format = new DocumentFormat<ThirdDocument>(
            "third",
            d => d["storeys"] = new JsonArray(d["storey"]!.GetValue<string>()),
            d =>
            {
                d["levels"] = d["storeys"]!.DeepClone();
                d.Remove("storeys");
                d.Remove("storey");
            }
        );
        Assert.Equal(3, format.Current);
        var read = format.Read("""{ "storey": "Ground", "version": 1, }""");
        Assert.Equal((3, "Ground"), (read.Version, Assert.Single(read.Levels)));
        Assert.Equal("Upper", Assert.Single(format.Read("""{"version":2,"storeys":["Upper"]}""").Levels));
        Assert.Equal("Roof", Assert.Single(format.Read(format.Write(new ThirdDocument { Levels = ["Roof"] })).Levels));
        Assert.Contains(
            "reads version 1 to 3",
            Assert.Throws<OrderException>(() => format.Read("""{"version":4}""")).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "'storey'",
            Assert.Throws<OrderException>(() => format.Read("""{"version":3,"storey":"Ground"}""")).Message,
            StringComparison.Ordinal
        );
    }
}

/// <summary>A document in its third version.</summary>
public sealed record ThirdDocument
{
    public int Version { get; init; } = 3;

    public IReadOnlyList<string> Levels { get; init; } = [];
}
