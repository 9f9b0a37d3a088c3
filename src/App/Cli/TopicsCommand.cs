using System.CommandLine;
using SteadyLintel.Exchange;
using SteadyLintel.Topics;

namespace SteadyLintel.Cli;

/// <summary><c>lintel topics FILE</c> lists the topics of a BCF file; <c>--to VERSION OUT</c> converts it; <c>A B --merge OUT</c> merges
/// two.</summary>
internal static class TopicsCommand
{
    private static readonly Argument<string[]> Files = new("FILE")
    {
        Description = "A BCF file, .bcf or .bcfzip; with --to also the file to write, with --merge two BCF files.",
        Arity = ArgumentArity.OneOrMore,
    };

    private static readonly Option<string?> To = new("--to")
    {
        Description = "Writes the topics as another version: 2.1 or 3.0. Lists what has no place there.",
    };

    private static readonly Option<string?> Merge = new("--merge")
    {
        Description = "Writes the topics of two files as one. Nothing that either has is lost.",
    };

    private static readonly Option<string?> Base = new("--base")
    {
        Description = "With --merge: the file that both were made from, so that what one side changed is known.",
    };

    private static readonly Option<string> Take = new("--take")
    {
        Description =
            "With --merge: whose word is taken where two changed the same and neither is newer, ours (the first file) or theirs.",
        DefaultValueFactory = _ => "ours",
    };

    private static readonly Option<bool> Json = new("--json") { Description = "Machine output." };

    public static Command Create()
    {
        var command = new Command("topics", "Lists, converts and merges topics: BCF 2.0, 2.1 and 3.0.")
        {
            Files,
            To,
            Merge,
            Base,
            Take,
            Json,
        };
        Take.AcceptOnlyFromAmong("ours", "theirs");
        command.SetAction(parsed => Output.Guard(() => Run(parsed)));
        return command;
    }

    private static int Run(ParseResult parsed)
    {
        string[] files = parsed.GetValue(Files)!;
        string? to = parsed.GetValue(To),
            merge = parsed.GetValue(Merge);
        if (to is not null && merge is not null)
            throw new OrderException("--to and --merge are two commands; merge first, then convert.");
        int wanted = to is null && merge is null ? 1 : 2;
        if (files.Length != wanted)
            throw new OrderException(
                to is not null ? "--to needs the BCF file and the file to write."
                : merge is not null ? "--merge needs two BCF files."
                : "Name one BCF file; say --merge OUT to merge two."
            );
        bool json = parsed.GetValue(Json);
        using var first = TopicFile.Open(files[0]);
        if (to is not null)
            return Convert(first.Archive, TopicVersions.Written(to), files[1], json);
        if (merge is null)
            return List(first.Archive, json);
        using var second = TopicFile.Open(files[1]);
        using var common = parsed.GetValue(Base) is { } path ? TopicFile.Open(path) : null;
        var result = TopicMerge.Merge(first.Archive, second.Archive, common?.Archive, _ =>
            parsed.GetValue(Take) == "theirs"
        );
        TopicFile.Write(result.Archive, merge);
        WriteMerge(result, merge, json);
        return ExitCodes.Done;
    }

    private static int List(TopicArchive archive, bool json)
    {
        if (json)
        {
            Output.WritePage(TopicMachine.Of(archive));
            return ExitCodes.Done;
        }

        foreach (var t in archive.Topics)
            Console.Out.WriteLine(
                $"  {t.Status ?? "-", -12} {t.Type ?? "-", -14} {t.Title}"
                    + $"{(t.AssignedTo is null ? "" : $", {t.AssignedTo}")}{(t.DueDate is null ? "" : $", due {t.DueDate}")}"
                    + $" ({Counted(t.Comments.Count, "comment")}, {Counted(t.Viewpoints.Count, "viewpoint")})"
            );
        Console.Out.WriteLine(
            $"{Counted(archive.Topics.Count, "topic")}, BCF {archive.Version.Text()}{(archive.ProjectName is { Length: > 0 } p ? $", {p}" : "")}."
        );
        WriteFindings(archive.Findings);
        return ExitCodes.Done;
    }

    private static int Convert(TopicArchive archive, TopicVersion version, string target, bool json)
    {
        var converted = TopicConversion.To(archive, version);
        TopicFile.Write(converted, target);
        if (json)
            Output.WritePage(
                new
                {
                    Version = version.Text(),
                    File = target,
                    Topics = converted.Topics.Count,
                    Findings = TopicMachine.Findings(converted.Findings),
                }
            );
        else
        {
            Console.Out.WriteLine($"{Counted(converted.Topics.Count, "topic")} written as BCF {version.Text()}.");
            WriteFindings(converted.Findings);
        }

        return ExitCodes.Done;
    }

    private static void WriteMerge(TopicMergeResult result, string target, bool json)
    {
        if (json)
        {
            Output.WritePage(
                new
                {
                    Version = result.Archive.Version.Text(),
                    File = target,
                    Topics = result.Archive.Topics.Count,
                    Added = result.Added.Select(t => t.Guid),
                    Changed = result.Changed.Select(t => t.Guid),
                    Same = result.Same.Select(t => t.Guid),
                    OnlyFirst = result.OnlyOurs.Select(t => t.Guid),
                    result.Conflicts,
                    Findings = TopicMachine.Findings(result.Archive.Findings),
                }
            );
            return;
        }

        var o = Console.Out;
        o.WriteLine(
            $"  {result.Added.Count, 7}  added\n  {result.Changed.Count, 7}  changed\n  {result.Same.Count, 7}  the same\n  {result.OnlyOurs.Count, 7}  only in the first"
        );
        foreach (var c in result.Conflicts)
            o.WriteLine($"  both changed {c.What} of '{c.Title}'{Values(c)}");
        if (result.Conflicts.Count > 0)
            o.WriteLine(
                "Say --take ours or --take theirs to decide what both changed; the first file was taken unless you said so."
            );
        WriteFindings(result.Archive.Findings);
    }

    // A whole viewpoint says nothing on a line.
    private static string Values(TopicConflict c) =>
        (c.Ours?.Length ?? 0) + (c.Theirs?.Length ?? 0) > 120 ? "" : $": '{c.Ours}' and '{c.Theirs}'";

    private static void WriteFindings(IReadOnlyList<Finding> findings)
    {
        foreach (var f in findings)
            Console.Out.WriteLine($"{f.Severity}: {f.Message} ({f.Code})");
    }

    private static string Counted(int count, string what) => count == 1 ? $"1 {what}" : $"{count} {what}s";
}
