using System.CommandLine;
using System.Globalization;
using SteadyLintel.Exchange;
using SteadyLintel.Files;
using static SteadyLintel.Cli.HandoverOptions;

namespace SteadyLintel.Cli;

/// <summary><c>lintel handover</c>: runs an order and prints its balance sheet.</summary>
internal static class HandoverCommand
{
    public static Command Create()
    {
        var command = new Command(
            "handover",
            "Writes a chosen part of models for another party and proves that nothing was lost."
        )
        {
            From,
            Setting,
            OrderFile,
            As,
            Plan,
            Solids,
            FileVersion,
            Split,
            Unit,
            Schema,
            Frame,
            Merge,
            RenameStorey,
            MoveLayer,
            ChangeClass,
            SetProperty,
            Drawings,
            DrawingFile,
            DrawingVersion,
            RenameDrawingLayer,
            KeepReferences,
            Placed,
            Prepared,
            Levels,
            Detail,
            Table,
            Amend,
            KeptSet,
            KeptView,
            Job,
            Name,
            Out,
            Time,
            Json,
        };
        foreach (var (_, _, option) in Rules)
            command.Add(option);
        command.SetAction(parsed => Output.Guard(() => Run(parsed)));
        return command;
    }

    private static int Run(ParseResult parsed)
    {
        var document = Document(parsed);
        var order = Order(document, parsed);
        string folder = parsed.GetValue(Out)!;
        Directory.CreateDirectory(folder);
        var (drawn, models) = Parted(parsed.GetValue(From)!);
        var drawings = drawn
            .Where(p => document.Drawings?.Sources is not { Count: > 0 } chosen || chosen.Contains(NameOf(p)))
            .Select(p => FileOf(p, parsed))
            .ToList();
        var delivered = Chosen(models, document).Select(path => (Path: path, File: DeliveredFile.Open(path))).ToList();
        using var files = new FolderFileSet(folder);
        try
        {
            var read = delivered.ConvertAll(d => ModelSnapshot.Open(d.File.Bytes, default, order.Fineness));
            var job = FileJob.Of(
                [
                    .. delivered.Select(
                        (d, n) =>
                            new JobFile(d.Path, SettingOf(d.Path, parsed))
                            {
                                Storeys = LevelSchedule.StoreysOf([read[n]]),
                            }
                    ),
                ],
                drawings,
                LevelDocument.Read(parsed.GetValue(Levels) is { } levels ? File.ReadAllText(levels) : null)
            );
            var result = HandoverRunner.Run(
                new HandoverRun(
                    order,
                    [
                        .. job.Models.Select(
                            (m, n) => new HandoverSource(m.Name, m.Name, read[n], m.Place?.Document.Frame)
                        ),
                    ],
                    files
                )
                {
                    Job = parsed.GetValue(Job)!,
                    TimeStamp = parsed.GetValue(Time)!,
                    Levels = job.Schedule,
                    Drawings = [.. drawings.Zip(job.Drawings, (file, source) => Drawing(file, source, job, drawn))],
                    Amendments = Amendments(parsed, [.. job.Models.Select(m => m.Name)]),
                }
            );
            files.Commit();
            if (parsed.GetValue(Json))
                Output.WritePage(Machine(result));
            else
                Human(result);
            return result.Balanced ? ExitCodes.Done : ExitCodes.NotBalanced;
        }
        finally
        {
            foreach (var d in delivered)
                d.File.Dispose();
        }
    }

    // What is said beside the models, by their place.
    private static Dictionary<int, IReadOnlyList<Amendment>> Amendments(ParseResult parsed, List<string> models)
    {
        var amendments = new Dictionary<int, IReadOnlyList<Amendment>>();
        foreach (string pair in parsed.GetValue(Amend) ?? [])
        {
            var (name, path) = Halves(pair, '=', Amend.Name);
            int at = models.FindIndex(m => m.Equals(name, StringComparison.OrdinalIgnoreCase));
            if (at < 0)
                throw new OrderException($"--amend names '{name}', which --from does not give.");
            amendments[at] = AmendmentDocument.Read(File.ReadAllText(path)).Amendments;
        }

        return amendments;
    }

    private static bool IsDrawing(string path) => Path.GetExtension(path).ToLowerInvariant() is ".dwg" or ".dxf";

    private static string NameOf(string path) => Path.GetFileNameWithoutExtension(path);

    private static (string[] Drawings, string[] Models) Parted(string[] paths) =>
        ([.. paths.Where(IsDrawing)], [.. paths.Where(p => !IsDrawing(p))]);

    private static JobFile FileOf(string path, ParseResult parsed)
    {
        string? steps = FileFor(path, parsed, Prepared);
        return new JobFile(path, SettingOf(path, parsed))
        {
            Preparation = PreparationDocument.Read(steps is null ? null : File.ReadAllText(steps)) with
            {
                Details = PrepareCommand.Read(parsed.GetValue(Detail)),
            },
        };
    }

    private static HandoverDrawing Drawing(JobFile file, JobSource source, JobModel job, string[] drawn) =>
        new(source.Party, source.Name, Path.GetExtension(file.Path), File.ReadAllBytes(file.Path), file.Place)
        {
            Frame = file.Place is null ? null : job.FrameOf(source),
            Storey = JobModel.LevelOf(file.Place, job.Schedule)?.Name ?? "",
            References = References(drawn),
            Preparation = file.Preparation,
        };

    private static SettingOutDocument? SettingOf(string path, ParseResult parsed)
    {
        string? setting = FileFor(path, parsed, Placed);
        return setting is null ? null : SettingOutDocument.Read(File.ReadAllText(setting));
    }

    // The file that an option of pairs names for a source; null for none.
    private static string? FileFor(string path, ParseResult parsed, Option<string[]> pairs) =>
        (parsed.GetValue(pairs) ?? [])
            .Select(p => Halves(p, '=', pairs.Name))
            .FirstOrDefault(p => p.Item1.Equals(NameOf(path), StringComparison.OrdinalIgnoreCase))
            .Item2;

    // Drawings may refer to one another.
    private static Dictionary<string, byte[]> References(string[] paths) =>
        paths
            .DistinctBy(p => DrawingReferences.NameOf(Path.GetFileName(p)))
            .ToDictionary(p => DrawingReferences.NameOf(Path.GetFileName(p)), File.ReadAllBytes);

    // What the words of the command line say of drawings; nothing where none are given.
    private static OrderDrawings? OfDrawings(ParseResult parsed)
    {
        Option[] words = [Drawings, DrawingFile, DrawingVersion, RenameDrawingLayer, KeepReferences];
        if (!parsed.GetValue(From)!.Any(IsDrawing))
            return words.FirstOrDefault(o => parsed.GetResult(o) is { Implicit: false }) is { } word
                ? throw new OrderException($"{word.Name} needs a .dwg or .dxf file with --from.")
                : null;
        return new OrderDrawings
        {
            As = parsed.GetValue(Drawings) ?? "prepared",
            File = parsed.GetValue(DrawingFile),
            Version = parsed.GetValue(DrawingVersion),
            References = parsed.GetValue(KeepReferences) ? "keep" : "bind",
            Layers =
            [
                .. (parsed.GetValue(RenameDrawingLayer) ?? [])
                    .Select(p => Halves(p, '=', RenameDrawingLayer.Name))
                    .Select(p => new OrderName { From = p.Item1, To = p.Item2 }),
            ],
        };
    }

    private static HandoverOrder Order(OrderDocument document, ParseResult parsed)
    {
        try
        {
            var order = document.ToOrder(
                LibraryFiles.Read(parsed.GetValue(Table), parsed.GetValue(KeptSet), parsed.GetValue(KeptView))
            );
            if (parsed.GetValue(Setting) is not { } setting)
                return order;
            if (order.Frame.Kind != FrameKind.Party)
                throw new OrderException("--setting is for --frame party.");
            return order with
            {
                Frame = order.Frame with { Receiver = SettingOutDocument.Read(File.ReadAllText(setting)).Frame },
            };
        }
        catch (OrderException e)
            when (parsed.GetValue(OrderFile) is null && FlagWords.Contains(e.Message.Split(' ')[0]))
        {
            throw new OrderException("--" + e.Message);
        }
    }

    // Words of the document that are flags here.
    private static readonly string[] FlagWords = ["schema", "frame", "unit", "split", "version"];

    // A document may name sources by their file names.
    private static List<string> Chosen(string[] paths, OrderDocument document)
    {
        if (document.Sources.Count == 0)
            return [.. paths];
        var names = paths.ToLookup(p => Path.GetFileNameWithoutExtension(p), StringComparer.OrdinalIgnoreCase);
        if (document.Sources.FirstOrDefault(s => !names.Contains(s)) is { } missing)
            throw new OrderException($"The order wants the source '{missing}', which --from does not give.");
        return [.. document.Sources.SelectMany(s => names[s])];
    }

    // The words of the command line make the same document as a page does.
    private static OrderDocument Document(ParseResult parsed)
    {
        if (parsed.GetValue(OrderFile) is { } path)
        {
            Option[] words =
            [
                As,
                Plan,
                Solids,
                FileVersion,
                .. Rules.Select(r => r.Option),
                Split,
                Unit,
                Schema,
                Frame,
                Merge,
                RenameStorey,
                MoveLayer,
                ChangeClass,
                SetProperty,
                Drawings,
                DrawingFile,
                DrawingVersion,
                RenameDrawingLayer,
                KeepReferences,
                Name,
            ];
            if (words.FirstOrDefault(o => parsed.GetResult(o) is { Implicit: false }) is { } word)
                throw new OrderException($"{word.Name} does not go with --order, which says it all.");
            return OrderDocument.Read(File.ReadAllText(path));
        }

        string file = parsed.GetValue(As)
            ?? throw new OrderException($"Say --as {OrderOptions.File.Listed}, or --order FILE.json.");
        if (!OrderOptions.File.Words.Contains(file))
            throw new OrderException($"--as takes {OrderOptions.File.Listed}, not '{file}'.");
        bool versions = FileForm.All.Any(f => f.HasVersions && f.Files.ContainsKey(file));
        if (!versions && parsed.GetValue(Plan))
            throw new OrderException("--plan is for --as dxf or dwg.");
        if (!versions && parsed.GetValue(FileVersion) is not null)
            throw new OrderException("--version is for --as dxf or dwg.");
        if (parsed.GetValue(Solids) && (!versions || parsed.GetValue(Plan)))
            throw new OrderException("Solids go with drawings of bodies, not with IFC or plans.");
        return new OrderDocument
        {
            Rules =
            [
                .. Rules.OrderBy(r => RuleOrder(r.Field)).SelectMany(r => Rule(r.Verb, r.Field.Word, r.Option, parsed)),
            ],
            Into = new OrderInto
            {
                File = file,
                Schema = parsed.GetValue(Schema),
                Merge = parsed.GetValue(Merge) ? true : null,
                Version = parsed.GetValue(FileVersion),
                As =
                    parsed.GetValue(Plan) ? "plan"
                    : parsed.GetValue(Solids) ? "solids"
                    : null,
            },
            Unit = parsed.GetValue(Unit),
            Frame = parsed.GetValue(Frame)!,
            Split = parsed.GetValue(Split)!,
            Changes = Changes(parsed),
            Drawings = OfDrawings(parsed),
            Name = parsed.GetValue(Name)!,
        };
    }

    // The storey first, as in the sentence of a page.
    private static int RuleOrder(RuleField field) => field == RuleField.Storey ? 0 : 1;

    private static OrderRule[] Rule(string verb, string what, Option<string?> option, ParseResult parsed) =>
        parsed.GetValue(option) is { } list
            ?
            [
                new OrderRule
                {
                    Do = verb,
                    What = what,
                    Are = list.Split(',', StringSplitOptions.TrimEntries),
                },
            ]
            : [];

    private static List<OrderChange> Changes(ParseResult parsed)
    {
        var changes = new List<OrderChange>();
        foreach (
            var (option, what) in new[]
            {
                (RenameStorey, "rename storey"),
                (MoveLayer, "move layer"),
                (ChangeClass, "change class"),
            }
        )
        {
            foreach (string pair in parsed.GetValue(option) ?? [])
            {
                var (from, to) = Halves(pair, '=', option.Name);
                changes.Add(
                    new OrderChange
                    {
                        Do = what,
                        From = from,
                        To = to,
                    }
                );
            }
        }

        foreach (string text in parsed.GetValue(SetProperty) ?? [])
        {
            var (place, value) = Halves(text, '=', SetProperty.Name);
            var (about, path) = Halves(place, ':', SetProperty.Name);
            if (!path.Contains('.', StringComparison.Ordinal))
                throw new OrderException($"{SetProperty.Name} cannot read '{text}': a '.' is missing.");
            changes.Add(
                new OrderChange
                {
                    Do = "set property",
                    From = about,
                    To = value,
                    Key = path,
                }
            );
        }

        return changes;
    }

    private static (string, string) Halves(string text, char sign, string option)
    {
        int at = text.IndexOf(sign, StringComparison.Ordinal);
        return at > 0 && at < text.Length - 1
            ? (text[..at].Trim(), text[(at + 1)..].Trim())
            : throw new OrderException($"{option} cannot read '{text}': a '{sign}' is missing.");
    }

    private static object Machine(HandoverResult result) =>
        new
        {
            Files = result.Files.Select(f => new
            {
                f.Name,
                f.Bytes,
                f.Sha256,
                f.Elements,
            }),
            Rows = result.Reconciliation.Rows.Select(r => new
            {
                r.Storey,
                r.Class,
                r.In,
                r.LeftOut,
                r.Written,
                r.Found,
                r.Unaccounted,
                r.Reasons,
            }),
            Checks = result.Reconciliation.Checks.Select(c => new
            {
                c.Name,
                c.Same,
                c.Differ,
                Largest = Math.Round(c.Largest, 6),
            }),
            result.Reconciliation.Differences,
            NotCarried = result.Reconciliation.NotCarried.Select(n => new { n.What, n.Count }),
            Ledger = result.Reconciliation.Ledger.Select(Output.Line),
            Drawings = result.Drawings.Select(d => new
            {
                d.Source,
                d.File,
                Rows = d.Rows.Select(x => new
                {
                    x.Type,
                    x.Layer,
                    x.In,
                    x.LeftOut,
                    x.LeftBehind,
                    x.TakenApart,
                    x.Made,
                    x.Found,
                    x.Unaccounted,
                }),
                Steps = d.Steps.Select(s => new
                {
                    s.Number,
                    s.Do,
                    s.Off,
                    s.Dropped,
                    s.Changed,
                    s.Finding,
                }),
                Ledger = d.Ledger.Select(Output.Line),
                Checks = d.Checks.Select(c => new
                {
                    c.Name,
                    c.Same,
                    c.Differ,
                }),
                d.Differences,
                d.Unaccounted,
                d.Balanced,
            }),
            result.Unmatched,
            result.Unaccounted,
            result.Balanced,
        };

    private static void Human(HandoverResult result)
    {
        var drawn = result.Drawings.ToDictionary(d => d.File);
        foreach (var f in result.Files)
            Console.Out.WriteLine(
                $"{f.Name}: {(drawn.ContainsKey(f.Name) ? "drawing" : $"{f.Elements} elements")}, {f.Bytes} bytes"
            );
        var r = result.Reconciliation;
        Console.Out.WriteLine(
            $"in {r.Rows.Sum(x => x.In)}, left out {r.Rows.Sum(x => x.LeftOut)}, written {r.Rows.Sum(x => x.Written)}, confirmed in the file {r.Rows.Sum(x => x.Found)}, unaccounted for {r.Unaccounted}: {(r.Balanced ? "balanced" : "NOT BALANCED")}"
        );
        foreach (var l in r.Ledger.Where(l => l.Unaccounted > 0 || l.NotCarried.Count > 0))
            Console.Out.WriteLine(
                $"  {l.Kind}: {l.Things} items, {l.Same} the same, {l.Changed.Values.Sum()} changed, {l.LeftOut.Values.Sum()} left out, {l.NotCarried.Values.Sum()} not transferable, {l.Unaccounted} unaccounted for"
            );
        foreach (var u in result.Unmatched.Take(20))
            Console.Out.WriteLine($"  no row in the {u.Table}: {u.Name}, {u.Count} ×");
        foreach (var n in r.NotCarried)
            Console.Out.WriteLine($"  not transferable, {n.Count} ×: {n.What}");
        foreach (string difference in r.Differences.Take(20))
            Console.Out.WriteLine("  " + difference);
        foreach (var d in result.Drawings)
        {
            string count =
                d.Rows.Count == 0
                    ? "as received"
                    : $"in {d.Rows.Sum(x => x.In)}, left out {d.Rows.Sum(x => x.LeftOut)}, confirmed in the file {d.Rows.Sum(x => x.Found)}, unaccounted for {d.Unaccounted}";
            Console.Out.WriteLine($"{d.File}: {count}: {(d.Balanced ? "balanced" : "NOT BALANCED")}");
            foreach (var s in d.Steps.Where(s => s.Finding is not null))
                Console.Out.WriteLine($"  step {s.Number} {s.Do}: {s.Finding}");
            foreach (string difference in d.Differences.Take(20))
                Console.Out.WriteLine("  " + difference);
        }
    }
}
