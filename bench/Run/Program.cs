using SteadyLintel.Bench;

return args switch
{
    ["generate", var megabytes, var path] => Commands.Generate(path, long.Parse(megabytes) * 1_000_000),
    ["elements", var count, var path] => Commands.GenerateElements(path, int.Parse(count)),
    ["ledger", var path, var times] => LedgerBench.Measure(path, int.Parse(times)),
    ["compare", var count, var times] => CompareBench.Measure(int.Parse(count), int.Parse(times)),
    ["measure", var what, var path, var times] => Commands.Measure(what, path, int.Parse(times)),
    ["drawing", var folder, var share] => CadCommands.Generate(
        folder,
        double.Parse(share, System.Globalization.CultureInfo.InvariantCulture)
    ),
    ["cad", "read" or "write", var path, var times] => CadCommands.Measure(args[1] == "write", path, int.Parse(times)),
    ["cad", "desk", var path] => CadCommands.Desk(path),
    ["cad", "picture", var path, var times] => CadCommands.Picture(path, int.Parse(times)),
    _ => Commands.Usage(),
};
