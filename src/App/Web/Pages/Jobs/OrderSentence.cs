using SteadyLintel.Exchange;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>An order's document as the words of a sentence: what the browser shows and sends.</summary>
/// <remarks>The sentence has one word each for storeys, classes and layers; rules of the document that it has no word for stay as they
/// are.</remarks>
public sealed class OrderSentence
{
    /// <summary>The version of the order that was opened.</summary>
    public int? Version { get; set; }

    /// <summary>What the order is called.</summary>
    public string? Title { get; set; }

    /// <summary>Who gets it.</summary>
    public string? To { get; set; }

    /// <summary>Chosen sources.</summary>
    public List<Guid> Sources { get; set; } = [];

    /// <summary>Chosen storeys.</summary>
    public List<string> Storeys { get; set; } = [];

    /// <summary>Chosen classes.</summary>
    public List<string> Classes { get; set; } = [];

    /// <summary>Chosen layers.</summary>
    public List<string> Layers { get; set; } = [];

    /// <summary>The form, a word of <see cref="FormChoice"/>, or <c>none</c>.</summary>
    public string? Form { get; set; }

    /// <summary>The unit.</summary>
    public string? Unit { get; set; }

    /// <summary>The frame: <c>source</c>, <c>job</c>, <c>party</c>, <c>local</c>, or numbers.</summary>
    public string? Frame { get; set; }

    /// <summary>How drawings go: <c>prepared</c>, <c>received</c>, or empty for none.</summary>
    public string? Drawings { get; set; }

    /// <summary>Chosen drawings.</summary>
    public List<Guid> DrawingSources { get; set; } = [];

    /// <summary>What prepared drawings are written into, a word of <see cref="DrawingFiles.All"/>; empty for the form that
    /// came.</summary>
    public string? DrawingFile { get; set; }

    /// <summary>The receiver's names of layers, a line each: <c>A-WALL = WALLS</c>.</summary>
    public string? DrawingLayers { get; set; }

    /// <summary>Whether references of prepared drawings stay references.</summary>
    public bool KeepReferences { get; set; }

    /// <summary>What each file is of; none for one in all.</summary>
    public List<string> Split { get; set; } = [];

    /// <summary>With a file for each value of a property: the property.</summary>
    public string? SplitKey { get; set; }

    /// <summary>Whether one more file holds all of it.</summary>
    public bool Together { get; set; }

    /// <summary>With IFC: whether files are compressed.</summary>
    public bool Zip { get; set; }

    /// <summary>With IFC: whether all sources go into one model.</summary>
    public bool Merge { get; set; }

    /// <summary>How detailed: <c>coarse</c>, <c>boxes</c>, or empty for all.</summary>
    public string? Detail { get; set; }

    /// <summary>How drawings are drawn.</summary>
    public DrawnSentence Drawn { get; set; } = new();

    /// <summary>With drawings: whether each element is a block with its properties as attributes.</summary>
    public bool Attributes { get; set; }

    /// <summary>With IFC: whether storeys get the job's names.</summary>
    public bool JobStoreys { get; set; }

    /// <summary>The layer table; empty for none.</summary>
    public string? LayerTable { get; set; }

    /// <summary>The class table; empty for none.</summary>
    public string? ClassTable { get; set; }

    /// <summary>The name table; empty for none.</summary>
    public string? NameTable { get; set; }

    /// <summary>The property list; empty for all properties.</summary>
    public string? PropertyList { get; set; }

    /// <summary>Whether blank properties stay.</summary>
    public bool BlanksOut { get; set; }

    /// <summary>Whether missing quantities are computed.</summary>
    public bool Computed { get; set; }

    /// <summary>The form of a table of properties; empty for none.</summary>
    public string? PropertyTable { get; set; }

    /// <summary>Whether the amendments of its sources stay behind.</summary>
    public bool WithoutAmendments { get; set; }

    /// <summary>Whether it runs by itself on every new revision.</summary>
    public bool Every { get; set; }

    /// <summary>The rules that the sentence has no word for, in order.</summary>
    public List<RuleLine> Rules { get; set; } = [];

    /// <summary>The name template.</summary>
    public string? Name { get; set; }

    /// <summary>The words of a document.</summary>
    public static OrderSentence Of(OrderDocument document) =>
        new()
        {
            To = document.To,
            Sources = [.. document.Sources.Select(s => Guid.TryParse(s, out var id) ? id : Guid.Empty)],
            Storeys = Chosen(document, "storey"),
            Classes = Chosen(document, "class"),
            Layers = Chosen(document, "layer"),
            Form = OrderWords.FormOf(document.Into),
            Unit = document.Unit ?? "",
            Frame = document.Frame,
            Drawings = document.Drawings?.As,
            DrawingSources =
            [
                .. (document.Drawings?.Sources ?? []).Select(s => Guid.TryParse(s, out var id) ? id : Guid.Empty),
            ],
            DrawingFile = document.Drawings is null ? "" : DrawingFiles.WordOf(document.Drawings),
            DrawingLayers = string.Join('\n', (document.Drawings?.Layers ?? []).Select(l => $"{l.From} = {l.To}")),
            KeepReferences = document.Drawings?.References == "keep",
            Split = [.. document.Split.Split('+').Where(w => w != "none")],
            SplitKey = document.SplitKey,
            Together = document.Together == true,
            Zip = document.Into.File == "ifczip",
            Merge = document.Into.Merge == true,
            Detail = document.Into.Detail ?? "",
            Drawn = DrawnSentence.Of(document.Into),
            Attributes = document.Properties?.Attributes == true,
            JobStoreys = document.Storeys == "job",
            LayerTable = document.Tables?.Layers ?? "",
            ClassTable = document.Tables?.Classes ?? "",
            NameTable = document.Tables?.Names ?? "",
            PropertyList = document.Properties?.List ?? "",
            BlanksOut = document.Properties?.Blanks == "out",
            Computed = document.Properties?.Computed == true,
            PropertyTable = document.Properties?.Table ?? "",
            WithoutAmendments = document.Amendments == false,
            Every = document.Every == "revision",
            Rules = [.. document.Rules.Skip(WordRules(document)).Select(RuleLine.Of)],
            Name = document.Name,
        };

    /// <summary>A document with these words in place of its own.</summary>
    public OrderDocument In(OrderDocument document) =>
        document with
        {
            To = To?.Trim() ?? "",
            Sources = [.. Sources.Select(s => s.ToString())],
            Rules =
            [
                .. Rule("storey", Storeys),
                .. Rule("class", Classes),
                .. Rule("layer", Layers),
                .. Rules.Select(r => r.ToRule()),
            ],
            Into = Into(),
            Tables =
                IsEmpty(LayerTable) && IsEmpty(ClassTable) && IsEmpty(NameTable)
                    ? null
                    : new OrderTables
                    {
                        Layers = OrNull(LayerTable),
                        Classes = OrNull(ClassTable),
                        Names = OrNull(NameTable),
                    },
            Properties =
                IsEmpty(PropertyList) && IsEmpty(PropertyTable) && !BlanksOut && !Computed && !Attributes
                    ? null
                    : new OrderProperties
                    {
                        List = OrNull(PropertyList),
                        Blanks = BlanksOut ? "out" : "keep",
                        Computed = Computed ? true : null,
                        Attributes = Attributes && Takes(FormOptions.Attributes) ? true : null,
                        Table = OrNull(PropertyTable),
                    },
            SplitKey = Split.Contains("property") ? SplitKey?.Trim() : null,
            Together = Together ? true : null,
            Storeys = JobStoreys ? "job" : null,
            Amendments = WithoutAmendments ? false : null,
            Every = Every ? "revision" : null,
            Unit = string.IsNullOrEmpty(Unit) ? null : Unit,
            Frame = string.IsNullOrEmpty(Frame) ? document.Frame : Frame,
            Drawings = OfDrawings(),
            Split = Split.Count == 0 ? "none" : string.Join('+', Split),
            Name = Name?.Trim() ?? "",
        };

    private OrderDrawings? OfDrawings()
    {
        if (string.IsNullOrEmpty(Drawings))
            return null;
        var drawings = new OrderDrawings { Sources = [.. DrawingSources.Select(s => s.ToString())], As = Drawings };
        if (Drawings == "received")
            return drawings;
        bool said = DrawingFiles.All.TryGetValue(DrawingFile ?? "", out var file);
        return drawings with
        {
            References = KeepReferences ? "keep" : "bind",
            File =
                !said ? null
                : file.Form.Dwg ? "dwg"
                : "dxf",
            Version = said ? file.Form.Version.ToString() : null,
            Layers =
            [
                .. (DrawingLayers ?? "")
                    .Split('\n')
                    .Select(l => l.Split('=', 2, StringSplitOptions.TrimEntries))
                    .Where(l => l[0].Length > 0)
                    .Select(l => new OrderName { From = l[0], To = l.Length > 1 ? l[1] : "" }),
            ],
        };
    }

    private OrderInto Into()
    {
        string word = Form ?? "ifc";
        var into =
            word == FileForm.None ? new OrderInto { File = word } : FileForm.Choice(word)?.Into ?? new OrderInto();
        bool model = into.File == "ifc";
        return Drawn.In(into) with
        {
            File = model && Zip ? "ifczip" : into.File,
            Merge = model && Merge ? true : null,
            Detail = OrNull(Detail),
        };
    }

    // Whether an option goes with the form that is chosen.
    private bool Takes(FormOptions option) =>
        FileForm.All.Any(f => f.Takes.HasFlag(option) && f.Choices.Any(c => c.Word == Form));

    private static bool IsEmpty(string? text) => string.IsNullOrEmpty(text);

    private static string? OrNull(string? text) => IsEmpty(text) ? null : text;

    private static List<string> Chosen(OrderDocument document, string what) =>
        [.. document.Rules.Take(WordRules(document)).Where(r => r.What == what).SelectMany(r => r.Are)];

    // The rules at the head that the sentence has a word for: one for each of storeys, classes and layers.
    private static int WordRules(OrderDocument document)
    {
        var words = new HashSet<string>();
        return document
            .Rules.TakeWhile(r =>
                r is { Do: "only", What: "storey" or "class" or "layer", Is: null } && words.Add(r.What)
            )
            .Count();
    }

    private static OrderRule[] Rule(string what, List<string> values) =>
        values.Count == 0
            ? []
            :
            [
                new OrderRule
                {
                    Do = "only",
                    What = what,
                    Are = values,
                },
            ];
}
