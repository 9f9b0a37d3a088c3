using System.CommandLine;
using System.Globalization;
using SteadyLintel.Exchange;
using SteadyLintel.Files;
using SteadyLintel.Ifc;

namespace SteadyLintel.Cli;

/// <summary><c>lintel properties MODEL [--template T] [--values V] [--amend A] OUT.ifc</c>: says what is missing beside a file and writes
/// it into another; <c>--list</c> lists what is there.</summary>
internal static class PropertiesCommand
{
    private static readonly Argument<string> Model = new("MODEL") { Description = "A model: .ifc or .ifczip." };

    private static readonly Argument<string?> Out = new("OUT")
    {
        Description = "The amended model, .ifc; the model itself is not changed.",
        Arity = ArgumentArity.ZeroOrOne,
    };

    private static readonly Option<string?> Template = new("--template")
    {
        Description =
            "Property set templates: .csv, .xlsx, .json (docs/template.schema.json) or .ifc. Values are held against them, and their defaults filled in.",
    };

    private static readonly Option<string?> Values = new("--values")
    {
        Description =
            "Values as a table, .csv or .xlsx: GlobalId, Set, Property, Value, Type, Unit. An empty value is blank: nothing is written for it.",
    };

    private static readonly Option<string?> Amend = new("--amend")
    {
        Description = "Amendments of every kind (docs/amendments.schema.json).",
    };

    private static readonly Option<bool> List = new("--list")
    {
        Description =
            "Lists sets, properties, types and units, and how many values are filled, blank and missing, by class.",
    };

    private static readonly Option<string> Time = new("--time")
    {
        Description = "The time of amendments that have none, ISO 8601.",
        DefaultValueFactory = _ => "2000-01-01T00:00:00Z",
    };

    private static readonly Option<bool> Json = new("--json") { Description = "Machine output." };

    public static Command Create()
    {
        var command = new Command(
            "properties",
            "Lists the properties of a model, or writes it with values and amendments added, and proves that nothing else changed."
        )
        {
            Model,
            Out,
            Template,
            Values,
            Amend,
            List,
            Time,
            Json,
        };
        command.SetAction(parsed => Output.Guard(() => Run(parsed)));
        return command;
    }

    private static int Run(ParseResult parsed)
    {
        bool list = parsed.GetValue(List);
        string? target = parsed.GetValue(Out);
        if (list == target is not null)
            throw new OrderException("Name the file to write, or say --list.");
        using var delivered = DeliveredFile.Open(parsed.GetValue(Model)!);
        var snapshot = ModelSnapshot.Open(delivered.Bytes);
        var template = parsed.GetValue(Template) is { } path ? TemplateFile.Read(path) : null;
        if (list)
            return WriteList(parsed, snapshot, template);
        var asked = Asked(parsed, template);
        var defaults = template is null ? [] : TemplateDefaults.Of(snapshot, template, asked.Select(a => a.Amendment));
        var all = AmendedModel.ForExchange([.. defaults, .. asked.Select(a => a.Amendment)]);
        var amended = AmendedModel.Of(snapshot, all, TimeOf(parsed));
        Check(amended, asked);
        var balance = AmendmentLedger.Of(amended);
        Write(target!, amended.Snapshot.Model.File.Bytes);
        var faults = template is null ? [] : TemplateCheck.Faults(amended.Snapshot, template).ToList();
        if (parsed.GetValue(Json))
            Output.WritePage(Machine(parsed.GetValue(Model)!, target!, amended, balance, defaults.Count, faults));
        else
            Human(target!, amended, balance, defaults.Count, faults);
        return balance.Balanced ? ExitCodes.Done : ExitCodes.NotBalanced;
    }

    // What the table and the document ask for, each with what to call its place in a sentence.
    private static List<(string Place, Amendment Amendment)> Asked(ParseResult parsed, TemplateDocument? template)
    {
        var asked = new List<(string, Amendment)>();
        if (parsed.GetValue(Values) is { } values)
            asked.AddRange(
                ValueTable
                    .Read(TableFile.Read(File.ReadAllBytes(values)), template)
                    .Select(v => (FormattableString.Invariant($"Row {v.Row}"), v.Amendment))
            );
        if (parsed.GetValue(Amend) is { } amendments)
            asked.AddRange(
                AmendmentDocument
                    .Read(File.ReadAllText(amendments))
                    .Amendments.Select((a, n) => (FormattableString.Invariant($"Amendment {n + 1}"), a))
            );
        return asked;
    }

    // A row that cannot be applied is wrong: nothing is written.
    private static void Check(AmendedModel amended, List<(string Place, Amendment Amendment)> asked)
    {
        var wrong = amended
            .Results.Where(r => r.Outcome is AmendmentOutcome.Gone or AmendmentOutcome.Refused)
            .ToDictionary<AmendmentResult, object, string>(
                r => r.Amendment,
                r => r.Sentence,
                ReferenceEqualityComparer.Instance
            );
        var problems = asked
            .Where(a => wrong.ContainsKey(a.Amendment))
            .Select(a => $"{a.Place}: {a.Amendment.Element}, {a.Amendment.About}: {wrong[a.Amendment]}")
            .ToList();
        if (problems.Count > 0)
            throw new TableException(problems);
    }

    private static DateTime TimeOf(ParseResult parsed) =>
        DateTime.TryParse(
            parsed.GetValue(Time),
            CultureInfo.InvariantCulture,
            DateTimeStyles.AdjustToUniversal | DateTimeStyles.AssumeUniversal,
            out var time
        )
            ? time
            : throw new OrderException($"--time takes a time as ISO 8601 has it, not '{parsed.GetValue(Time)}'.");

    private static void Write(string path, ReadOnlyMemory<byte> bytes)
    {
        string part = path + ".part";
        using (var file = File.Create(part))
            file.Write(bytes.Span);
        File.Move(part, path, true);
    }

    private static int WriteList(ParseResult parsed, ModelSnapshot snapshot, TemplateDocument? template)
    {
        var uses = PropertyListing.Read(snapshot, template);
        if (parsed.GetValue(Json))
        {
            Output.WritePage(
                new
                {
                    Version = 1,
                    File = Path.GetFileName(parsed.GetValue(Model)!),
                    Schema = snapshot.Model.File.Header.Schema,
                    Elements = snapshot.Elements.Count,
                    Properties = uses.Select(u => new
                    {
                        u.Class,
                        u.Set,
                        u.Property,
                        u.Type,
                        u.Unit,
                        u.Filled,
                        u.Blank,
                        u.Missing,
                    }),
                }
            );
            return ExitCodes.Done;
        }

        foreach (var type in uses.GroupBy(u => u.Class))
        {
            Console.Out.WriteLine(type.Key);
            foreach (var u in type)
                Console.Out.WriteLine(
                    $"  {u.Set + "." + u.Property, -52} {u.Type, -24} {u.Unit, -4} {u.Filled, 6} filled {u.Blank, 6} blank {u.Missing, 6} missing"
                );
        }

        return ExitCodes.Done;
    }

    private static object Machine(
        string model,
        string target,
        AmendedModel amended,
        AmendmentBalance balance,
        int defaults,
        IReadOnlyList<TemplateFault> faults
    ) =>
        new
        {
            Version = 1,
            File = Path.GetFileName(model),
            Out = Path.GetFileName(target),
            Schema = amended.Snapshot.Model.File.Header.Schema,
            Applied = amended.Results.Count(r => r.Outcome == AmendmentOutcome.Applied),
            Nothing = amended.Results.Count(r => r.Outcome == AmendmentOutcome.Nothing),
            Defaults = defaults,
            Amendments = amended.Results.Select(r => new
            {
                r.Amendment.Element,
                r.Amendment.Do,
                About = r.Amendment.About,
                r.Amendment.Value,
                Outcome = r.Outcome.ToString().ToLowerInvariant(),
            }),
            Ledger = balance.Lines.Select(Output.Line),
            Checks = balance.Checks.Select(c => new
            {
                c.Name,
                c.Same,
                c.Differ,
            }),
            balance.Differences,
            Faults = faults.Select(f => new
            {
                f.GlobalId,
                f.Class,
                f.Set,
                f.Property,
                f.What,
            }),
            balance.Unaccounted,
            balance.Balanced,
        };

    private static void Human(
        string target,
        AmendedModel amended,
        AmendmentBalance balance,
        int defaults,
        IReadOnlyList<TemplateFault> faults
    )
    {
        int applied = amended.Results.Count(r => r.Outcome == AmendmentOutcome.Applied);
        Console.Out.WriteLine(
            $"{Path.GetFileName(target)}: {applied} amendments applied ({defaults} defaults), {amended.Results.Count - applied} were so already or blank; unaccounted for {balance.Unaccounted}: {(balance.Balanced ? "balanced" : "NOT BALANCED")}"
        );
        foreach (var line in balance.Lines.Where(l => l.Same < l.Things || l.Unaccounted > 0))
            Console.Out.WriteLine(
                $"  {line.Kind}: {line.Things} items, {line.Same} the same, {line.Changed.Values.Sum()} changed, {line.LeftOut.Values.Sum()} left out, {line.Unaccounted} unaccounted for"
            );
        foreach (string difference in balance.Differences.Take(20))
            Console.Out.WriteLine("  " + difference);
        foreach (var fault in faults.Take(20))
            Console.Out.WriteLine($"  {fault.Class} {fault.GlobalId}: {fault.Set}.{fault.Property} {fault.What}");
        if (faults.Count > 20)
            Console.Out.WriteLine($"  and {faults.Count - 20} more");
    }
}
