using SteadyLintel.Exchange;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>The words of an order's sentence, as people read them.</summary>
public static class OrderWords
{
    /// <summary>The forms an order can have, by word.</summary>
    public static IReadOnlyList<string> Forms =>
        [.. FileForm.All.SelectMany(f => f.Choices).Select(c => c.Word), FileForm.None];

    /// <summary>The units an order can have; empty for each source's own.</summary>
    public static IReadOnlyList<string> Units => ["", .. OrderOptions.Unit.Words];

    /// <summary>The frames that can be chosen.</summary>
    public static readonly IReadOnlyList<string> Frames = ["source", "job", "party", "map", "local"];

    /// <summary>The forms prepared drawings can have; empty for the one that came.</summary>
    public static readonly string[] DrawingForms = ["", .. DrawingFiles.All.Keys];

    /// <summary>What a file can be of.</summary>
    public static IReadOnlyList<OrderWord> Splits => [.. OrderOptions.Split.Choices().Where(c => c.Word != "none")];

    /// <summary>A form in words.</summary>
    public static string FormName(string form) => FileForm.Choice(form)?.Name ?? "no model";

    /// <summary>The file of a form: <c>DWG 2010</c> of <c>DWG 2010, plans</c>.</summary>
    public static string FormFile(string form) => FileForm.Choice(form)?.File ?? "No model, drawings alone";

    /// <summary>What a form carries, as a heading.</summary>
    public static string FormContent(string form) => FileForm.Choice(form)?.Content ?? "Drawings alone";

    /// <summary>The word of what an order is written into.</summary>
    public static string FormOf(OrderInto into) => FileForm.ChoiceOf(into)?.Word ?? FileForm.None;

    /// <summary>A unit in words.</summary>
    public static string UnitName(string code) =>
        code.Length == 0 ? "the source's unit" : OrderOptions.Unit.Label(code);

    /// <summary>A frame in the sentence.</summary>
    public static string FrameName(string frame) =>
        frame switch
        {
            "source" => "each source's own frame",
            "job" => "the job's frame",
            "party" => "the receiver's own frame",
            "map" => "the map's frame",
            "local" => "a frame near the origin",
            _ => frame,
        };

    /// <summary>A form of prepared drawings in words.</summary>
    public static string DrawingFile(string word) =>
        DrawingFiles.All.TryGetValue(word, out var file) ? file.Name : "the format as received";

    /// <summary>A split in the sentence.</summary>
    public static string SplitName(IReadOnlyList<string> split) =>
        split.Count == 0 ? "in all" : "per " + Join(Splits.Where(s => split.Contains(s.Word)).Select(s => s.Label), "");

    /// <summary>Some names as a list in words; many are counted.</summary>
    public static string Join(IEnumerable<string> chosen, string every)
    {
        var list = chosen.ToList();
        return list.Count switch
        {
            0 => every,
            1 => list[0],
            < 5 => string.Join(", ", list.SkipLast(1)) + " and " + list[^1],
            _ => $"{list[0]}, {list[1]} and {list.Count - 2} more",
        };
    }

    /// <summary>The changeable words of the sentence, by field.</summary>
    public static IReadOnlyDictionary<string, string> Of(OrderSentence spec, OrderDocument document, JobState state) =>
        new Dictionary<string, string>
        {
            ["To"] = spec.To is { Length: > 0 } to ? to : "whoever needs it",
            ["Classes"] =
                spec.Classes.Count == 0 ? "every class" : "the " + Join(spec.Classes.Select(DisplayText.Classes), ""),
            ["Storeys"] = Join(spec.Storeys, "every storey"),
            ["Layers"] = Join(spec.Layers, "every layer"),
            ["Sources"] = Join(
                state.Sources.Where(s => spec.Sources.Contains(s.Source.Id)).Select(s => s.Label),
                "every source"
            ),
            ["Form"] =
                FormName(spec.Form ?? "ifc")
                + (spec.Zip ? ", compressed" : "")
                + (spec.Merge ? ", all in one model" : "")
                + (
                    string.IsNullOrEmpty(spec.Detail) ? ""
                    : spec.Detail == "boxes" ? ", as boxes"
                    : ", coarse"
                ),
            ["Drawn"] = DrawnSentence.Words(document.Into),
            ["Unit"] = UnitName(spec.Unit ?? ""),
            ["Frame"] = FrameName(document.Frame),
            ["Tables"] = Tables(spec),
            ["Properties"] = Properties(spec),
            ["Drawings"] = Drawings(spec, state),
            ["Split"] = SplitName(spec.Split) + (spec.Together ? ", and one of all" : ""),
            ["Name"] = spec.Name ?? "",
            ["Every"] = spec.Every ? "automatically on every new revision" : "when it is asked for",
        };

    private static string Tables(OrderSentence spec)
    {
        string[] tables =
        [
            .. new[] { spec.LayerTable, spec.ClassTable, spec.NameTable }
                .Where(t => !string.IsNullOrEmpty(t))
                .Select(t => t!),
        ];
        return tables.Length == 0
            ? "no table" + (spec.JobStoreys ? ", the job's storeys" : "")
            : Join(tables, "") + (spec.JobStoreys ? ", the job's storeys" : "");
    }

    private static string Properties(OrderSentence spec)
    {
        string words = string.IsNullOrEmpty(spec.PropertyList)
            ? "all properties"
            : $"the properties of {spec.PropertyList}";
        if (spec.BlanksOut)
            words += ", none blank";
        if (spec.Computed)
            words += ", quantities computed";
        if (spec.Attributes)
            words += ", as attributes";
        if (spec.WithoutAmendments)
            words += ", without amendments";
        return string.IsNullOrEmpty(spec.PropertyTable) ? words : $"{words}, in a table as well";
    }

    private static string Drawings(OrderSentence spec, JobState state) =>
        string.IsNullOrEmpty(spec.Drawings)
            ? "no drawings"
            : (
                spec.DrawingSources.Count == 0
                    ? "every drawing"
                    : Join(
                        state.Drawings.Where(d => spec.DrawingSources.Contains(d.Source.Id)).Select(d => d.Source.Name),
                        ""
                    )
            )
                + " "
                + (
                    spec.Drawings == "received" ? "as received"
                    : string.IsNullOrEmpty(spec.DrawingFile) ? "prepared"
                    : $"prepared, as {DrawingFile(spec.DrawingFile)}"
                );
}
