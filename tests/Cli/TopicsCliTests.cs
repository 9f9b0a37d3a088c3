using System.IO.Compression;
using System.Text.Json;
using SteadyLintel.Topics;
using static SteadyLintel.Tests.CliTests;

namespace SteadyLintel.Tests;

/// <summary><c>lintel topics</c>: lists, converts and merges.</summary>
public sealed class TopicsCliTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("topics").FullName;

    public void Dispose() => Directory.Delete(_folder, true);

    private string Path(string name) => System.IO.Path.Combine(_folder, name);

    private string Put(string name, string status, string modified, string comment)
    {
        using var file = File.Create(Path(name));
        TopicArchiveWriter.Write(
            new TopicArchive
            {
                ProjectId = "p",
                ProjectName = "Heron Wharf",
                Topics =
                [
                    new Topic
                    {
                        Guid = "t-1",
                        ServerAssignedId = "HW-1",
                        Title = "Who moves?",
                        Type = "Question",
                        Status = status,
                        CreationDate = "2026-11-01T00:00:00Z",
                        CreationAuthor = "ann@arc.example",
                        ModifiedDate = modified,
                        AssignedTo = "bo@mep.example",
                        DueDate = "2026-12-01T00:00:00Z",
                        Labels = ["Ducts"],
                        Comments = [new TopicComment { Guid = comment, Text = comment }],
                        Viewpoints =
                        [
                            new Viewpoint
                            {
                                Guid = "v-1",
                                Info = new ViewInfo
                                {
                                    Perspective = new ViewCamera(new(1, 2, 3), new(0, 1, 0), new(0, 0, 1), 50, 1.5),
                                    Selection = [new ViewComponent("0HQs7vdssW9MWoNrqiwDgr", null, null)],
                                },
                            },
                        ],
                    },
                ],
            },
            file
        );
        return Path(name);
    }

    private string Old => Put("old.bcfzip", "Open", "2026-11-02T00:00:00Z", "c-1");

    private string New => Put("new.bcfzip", "Closed", "2026-11-03T00:00:00Z", "c-2");

    [Fact]
    public void Topics_are_listed()
    {
        var (code, output, error) = Run("topics", Old, "--json");
        Assert.True(code == 0, error);
        var json = JsonDocument.Parse(output).RootElement;
        Assert.Equal("3.0", json.GetProperty("version").GetString());
        Assert.Equal("Heron Wharf", json.GetProperty("project").GetProperty("name").GetString());
        Assert.Empty(json.GetProperty("findings").EnumerateArray());
        var t = json.GetProperty("topics").EnumerateArray().Single();
        string?[] texts = ["guid", "title", "status", "type", "assignee", "dueDate"];
        Assert.Equal(
            ["t-1", "Who moves?", "Open", "Question", "bo@mep.example", "2026-12-01T00:00:00Z"],
            texts.Select(n => t.GetProperty(n!).GetString())
        );
        Assert.Equal(JsonValueKind.Null, t.GetProperty("priority").ValueKind);
        Assert.Equal("Ducts", t.GetProperty("labels")[0].GetString());
        Assert.Equal("c-1", t.GetProperty("comments")[0].GetProperty("comment").GetString());
        var view = t.GetProperty("viewpoints")[0];
        Assert.Equal("perspective", view.GetProperty("camera").GetProperty("type").GetString());
        Assert.Equal(2, view.GetProperty("camera").GetProperty("viewPoint")[1].GetDouble());
        Assert.Equal(
            "0HQs7vdssW9MWoNrqiwDgr",
            view.GetProperty("components").GetProperty("selection")[0].GetProperty("ifcGuid").GetString()
        );
        Assert.Contains("Who moves?", Run("topics", Old).Out, StringComparison.Ordinal);
    }

    [Fact]
    public void Topics_are_converted_with_a_ledger()
    {
        var (code, output, error) = Run("topics", Old, "--to", "2.1", Path("two.bcfzip"), "--json");
        Assert.True(code == 0, error);
        var finding = JsonDocument.Parse(output).RootElement.GetProperty("findings").EnumerateArray().Single();
        Assert.Equal(
            ("BCF-TO-LEFT-OUT", 2),
            (finding.GetProperty("code").GetString(), finding.GetProperty("count").GetInt32())
        );
        using var zip = ZipFile.OpenRead(Path("two.bcfzip"));
        Assert.Contains(zip.Entries, e => e.FullName == "t-1/markup.bcf");
        Assert.Equal(
            "2.1",
            JsonDocument
                .Parse(Run("topics", Path("two.bcfzip"), "--json").Out)
                .RootElement.GetProperty("version")
                .GetString()
        );
    }

    [Fact]
    public void Topics_are_merged()
    {
        var (code, output, error) = Run("topics", Old, New, "--merge", Path("both.bcfzip"), "--json");
        Assert.True(code == 0, error);
        var json = JsonDocument.Parse(output).RootElement;
        Assert.Equal("t-1", json.GetProperty("changed")[0].GetString());
        Assert.Empty(json.GetProperty("conflicts").EnumerateArray());
        var t = JsonDocument.Parse(Run("topics", Path("both.bcfzip"), "--json").Out).RootElement.GetProperty("topics")[
            0
        ];
        Assert.Equal("Closed", t.GetProperty("status").GetString());
        Assert.Equal(2, t.GetProperty("comments").GetArrayLength());
    }

    [Fact]
    public void Both_sides_of_a_common_file_are_asked_about()
    {
        string common = Put("common.bcfzip", "Active", "2026-11-01T00:00:00Z", "c-0");
        string[] merge = ["topics", Old, New, "--base", common, "--merge", Path("both.bcfzip")];
        var conflict = JsonDocument
            .Parse(Run([.. merge, "--json"]).Out)
            .RootElement.GetProperty("conflicts")
            .EnumerateArray()
            .Single();
        Assert.Equal(("status", "Open", "Closed"), (Text("what"), Text("ours"), Text("theirs")));
        Assert.Contains("--take", Run(merge).Out, StringComparison.Ordinal);
        Assert.Contains("Open", Run("topics", Path("both.bcfzip")).Out, StringComparison.Ordinal);
        Run([.. merge, "--take", "theirs"]);
        Assert.Contains("Closed", Run("topics", Path("both.bcfzip")).Out, StringComparison.Ordinal);

        string? Text(string name) => conflict.GetProperty(name).GetString();
    }

    [Fact]
    public void What_cannot_be_done_ends_in_a_sentence()
    {
        File.WriteAllText(Path("no.bcfzip"), "no archive");
        Assert.Equal((3, true), Said(Run("topics", Path("no.bcfzip")), "no BCF file"));
        Assert.Equal((2, true), Said(Run("topics", Old, "--to", "4.0", Path("x.bcf")), "2.1 or 3.0"));
        Assert.Equal((2, true), Said(Run("topics", Old, "--merge", Path("x.bcf")), "two BCF files"));
        Assert.False(File.Exists(Path("x.bcf")));
    }

    private static (int, bool) Said((int Code, string Out, string Error) run, string sentence) =>
        (run.Code, run.Error.Contains(sentence, StringComparison.Ordinal));
}
