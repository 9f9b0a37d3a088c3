using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>The table of an order's words, place by place; docs/order.schema.json lists the same.</summary>
public static class OrderOptions
{
    /// <summary>What becomes of what a rule matches.</summary>
    public static OrderOption RuleVerb { get; } =
        new("do of a rule", () => [.. RuleWords.Verbs.Select(v => new OrderWord(v.Word, v.Label))]);

    /// <summary>What a rule looks at.</summary>
    public static OrderOption RuleField { get; } =
        new("what", () => [.. Exchange.RuleField.All.Select(f => new OrderWord(f.Word, f.Label))]);

    /// <summary>How a rule compares.</summary>
    public static OrderOption RuleTest { get; } =
        new("is", () => [.. RuleWords.Tests.Select(t => new OrderWord(t.Word, t.Label))]);

    /// <summary>The file that is written.</summary>
    public static OrderOption File { get; } =
        new("file", () =>
            [.. FileForm.All.SelectMany(f => f.Files.Keys).Append(FileForm.None).Distinct().Select(Plain)]
        );

    /// <summary>What the file shows, or how.</summary>
    public static OrderOption Content { get; } =
        new("as", () => [.. FileForm.All.SelectMany(f => f.Contents).Distinct().Select(Plain)]);

    /// <summary>The schema of models.</summary>
    public static OrderOption Schema { get; } = Of("schema", "IFC2X3", "IFC4", "IFC4X3");

    /// <summary>Lines in front of the cut.</summary>
    public static OrderOption Before { get; } = Of("before", "dashed", "out");

    /// <summary>Edges that faces hide.</summary>
    public static OrderOption Hidden { get; } =
        Of("hidden", ("shown", "drawn like visible edges"), ("dashed", "dashed"), ("out", "left out"));

    /// <summary>The paper of sheets.</summary>
    public static OrderOption Paper { get; } = Of("paper", [.. PaperSize.All.Select(p => p.Name)]);

    /// <summary>How detailed shapes go.</summary>
    public static OrderOption Detail { get; } =
        Of(
            "detail",
            ("all", "in full"),
            ("coarse", "coarse: without parts under 0.25 m and fillets"),
            ("boxes", "a box for each element")
        );

    /// <summary>The unit of files.</summary>
    public static OrderOption Unit { get; } = Of("unit", [.. LengthUnit.All.Select(u => (u.Code, u.Plural))]);

    /// <summary>What each file is of.</summary>
    public static OrderOption Split { get; } =
        Of(
            "split",
            ("none", "in all"),
            ("storey", "storey"),
            ("party", "party"),
            ("source", "source"),
            ("class", "class"),
            ("type", "type"),
            ("assembly", "assembly"),
            ("element", "single element"),
            ("group", "system or zone"),
            ("property", "value of a property")
        );

    /// <summary>When it runs automatically.</summary>
    public static OrderOption Every { get; } = Of("every", "revision");

    /// <summary>Whose names storeys get.</summary>
    public static OrderOption Storeys { get; } = Of("storeys", "source", "job");

    /// <summary>What becomes of properties without a value.</summary>
    public static OrderOption Blanks { get; } = Of("blanks", "keep", "out");

    /// <summary>The form of a table of properties.</summary>
    public static OrderOption Table { get; } =
        Of("table", ("csv", "a table as CSV"), ("xlsx", "a table as XLSX"), ("json", "JSON by GlobalId"));

    /// <summary>What an order can change, with what each means.</summary>
    internal static IReadOnlyList<Choice<EditKind>> Changes { get; } =
    [
        new("rename storey", "rename storey", EditKind.RenameStorey),
        new("move layer", "move layer", EditKind.MoveLayer),
        new("change class", "change class", EditKind.ChangeClass),
        new("set property", "set property", EditKind.SetProperty),
    ];

    /// <summary>What an order changes.</summary>
    public static OrderOption Change { get; } = Of("do of a change", [.. Changes.Select(c => (c.Word, c.Label))]);

    /// <summary>How drawings go beside models.</summary>
    public static OrderOption Drawings { get; } =
        Of(
            "as of drawings",
            ("prepared", "prepared: after the steps of their drawing preparation, in this unit and frame"),
            ("received", "as received, byte for byte")
        );

    /// <summary>The file of prepared drawings.</summary>
    public static OrderOption DrawingFile { get; } = Of("file of drawings", "dwg", "dxf");

    /// <summary>What becomes of a drawing's references.</summary>
    public static OrderOption References { get; } = Of("references of drawings", "bind", "keep");

    private static OrderWord Plain(string word) => new(word, word);

    private static OrderOption Of(string place, params string[] words) => new(place, () => [.. words.Select(Plain)]);

    private static OrderOption Of(string place, params (string Word, string Label)[] words) =>
        new(place, () => [.. words.Select(w => new OrderWord(w.Word, w.Label))]);
}
