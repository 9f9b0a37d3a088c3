using System.CommandLine;
using SteadyLintel.Exchange;

namespace SteadyLintel.Cli;

/// <summary><c>lintel convert IN OUT</c>: a drawing between DXF and DWG, with its balance.</summary>
internal static class ConvertCommand
{
    public static Command Create()
    {
        var from = new Argument<string>("IN") { Description = "A .dwg or .dxf file." };
        var to = new Argument<string>("OUT") { Description = "The file to write; its extension gives the format." };
        var version = new Option<string?>("--version")
        {
            Description =
                "AC1015, AC1018, AC1024, AC1027 or AC1032 (dxf also AC1021); AC1024 for DWG and AC1027 for DXF when not given.",
        };
        var binary = new Option<bool>("--binary") { Description = "With DXF: the binary form." };
        var layers = new Option<string?>("--layers")
        {
            Description = "Only entities on these layers, by name, separated by commas.",
        };
        var withoutLayers = new Option<string?>("--without-layers")
        {
            Description = "Leave the entities on these layers out.",
        };
        var kinds = new Option<string?>("--kinds")
        {
            Description = "Only entities of these kinds, as DXF names them: LINE,TEXT.",
        };
        var withoutKinds = new Option<string?>("--without-kinds")
        {
            Description = "Leave entities of these kinds out.",
        };
        var explode = new Option<bool>("--explode-blocks")
        {
            Description =
                "Explode inserts: lines where blocks were. What cannot be exploded is left as it is and listed.",
        };
        var json = new Option<bool>("--json") { Description = "Machine output." };
        var command = new Command(
            "convert",
            "Writes a drawing as DWG or DXF of another version and accounts for every entity."
        )
        {
            from,
            to,
            version,
            binary,
            layers,
            withoutLayers,
            kinds,
            withoutKinds,
            explode,
            json,
        };
        command.SetAction(parsed =>
            Output.Guard(() =>
            {
                List<SelectionRule> rules =
                [
                    .. Rule(layers, SelectionVerb.Only, RuleField.Layer),
                    .. Rule(withoutLayers, SelectionVerb.Without, RuleField.Layer),
                    .. Rule(kinds, SelectionVerb.Only, RuleField.Class),
                    .. Rule(withoutKinds, SelectionVerb.Without, RuleField.Class),
                ];
                return Run(
                    parsed.GetValue(from)!,
                    parsed.GetValue(to)!,
                    parsed.GetValue(version),
                    parsed.GetValue(binary),
                    rules.Count == 0 ? null : new Selection(rules),
                    parsed.GetValue(explode),
                    parsed.GetValue(json)
                );

                IEnumerable<SelectionRule> Rule(Option<string?> option, SelectionVerb verb, RuleField field) =>
                    parsed.GetValue(option) is { } list
                        ? [new(verb, field, list.Split(',', StringSplitOptions.TrimEntries))]
                        : [];
            })
        );
        return command;
    }

    private static int Run(
        string from,
        string to,
        string? version,
        bool binary,
        Selection? selection,
        bool explode,
        bool json
    )
    {
        var form = DrawingForm.Of(to, version, binary);
        var result = DrawingConverter.Convert(File.ReadAllBytes(from), form, selection, explode);
        File.WriteAllBytes(to, result.Bytes);
        if (json)
            Output.WritePage(Machine(to, result));
        else
            Human(to, result);
        return result.Balanced ? ExitCodes.Done : ExitCodes.NotBalanced;
    }

    private static object Machine(string to, ConversionResult r) =>
        new
        {
            File = Path.GetFileName(to),
            Bytes = r.Bytes.Length,
            Rows = r.Rows.Select(x => new
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
            Ledger = r.Ledger.Select(Output.Line),
            r.Differences,
            Findings = r.Findings.Select(f => new
            {
                f.Code,
                f.Place,
                f.Message,
            }),
            r.Unaccounted,
            r.Balanced,
        };

    private static void Human(string to, ConversionResult r)
    {
        Console.Out.WriteLine($"{Path.GetFileName(to)}: {r.Bytes.Length} bytes");
        foreach (var type in r.Rows.GroupBy(x => x.Type))
            Console.Out.WriteLine(
                $"  {type.Key, -14} in {type.Sum(x => x.In), 7}, left out {type.Sum(x => x.LeftOut), 6}, left behind {type.Sum(x => x.LeftBehind), 6}, exploded {type.Sum(x => x.TakenApart), 6}, made {type.Sum(x => x.Made), 6}, confirmed in the file {type.Sum(x => x.Found), 7}"
            );
        foreach (var l in r.Ledger)
        foreach (var (reason, count) in l.NotCarried)
            Console.Out.WriteLine($"  not transferable, {count} × {l.Kind}: {reason}");
        foreach (string difference in r.Differences.Take(20))
            Console.Out.WriteLine("  " + difference);
        foreach (var f in r.Findings.Take(20))
            Console.Out.WriteLine($"  {f.Code} {f.Place}: {f.Message}");
        Console.Out.WriteLine(r.Balanced ? "balanced" : $"NOT BALANCED: {r.Unaccounted} unaccounted for");
    }
}
