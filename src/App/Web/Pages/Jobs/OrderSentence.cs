using SteadyLintel.Exchange;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>An order's document as the words of a sentence: what the browser shows and sends.</summary>
/// <remarks>The sentence has one word each for storeys, classes and layers; rules of the document that it has no word for stay as they
/// are.</remarks>
public sealed class OrderSentence
{
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

    /// <summary>The form, a word of <see cref="DrawingForms"/> or <c>ifc</c>.</summary>
    public string? Form { get; set; }

    /// <summary>The unit.</summary>
    public string? Unit { get; set; }

    /// <summary>The frame: <c>source</c>, <c>job</c>, <c>party</c>, <c>local</c>, or numbers.</summary>
    public string? Frame { get; set; }

    /// <summary>How drawings go: <c>prepared</c>, <c>received</c>, or empty for none.</summary>
    public string? Drawings { get; set; }

    /// <summary>Chosen drawings.</summary>
    public List<Guid> DrawingSources { get; set; } = [];

    /// <summary>What prepared drawings are written into, a word of <see cref="DrawingForms.Files"/>; empty for the form that came.</summary>
    public string? DrawingFile { get; set; }

    /// <summary>The receiver's names of layers, a line each: <c>A-WALL = WALLS</c>.</summary>
    public string? DrawingLayers { get; set; }

    /// <summary>Whether references of prepared drawings stay references.</summary>
    public bool KeepReferences { get; set; }

    /// <summary>The split.</summary>
    public bool ByStorey { get; set; }

    /// <summary>The name template.</summary>
    public string? Name { get; set; }

    /// <summary>The words of a document.</summary>
    public static OrderSentence Of(OrderDocument document) => new()
    {
        To = document.To,
        Sources = [.. document.Sources.Select(s => Guid.TryParse(s, out var id) ? id : Guid.Empty)],
        Storeys = Chosen(document, "storey"),
        Classes = Chosen(document, "class"),
        Layers = Chosen(document, "layer"),
        Form = DrawingForms.WordOf(document.Into),
        Unit = document.Unit ?? "",
        Frame = document.Frame,
        Drawings = document.Drawings?.As,
        DrawingSources = [.. (document.Drawings?.Sources ?? []).Select(s => Guid.TryParse(s, out var id) ? id : Guid.Empty)],
        DrawingFile = document.Drawings is null ? "" : DrawingForms.WordOf(document.Drawings),
        DrawingLayers = string.Join('\n', (document.Drawings?.Layers ?? []).Select(l => $"{l.From} = {l.To}")),
        KeepReferences = document.Drawings?.References == "keep",
        ByStorey = document.Split == "storey",
        Name = document.Name,
    };

    /// <summary>A document with these words in place of its own.</summary>
    public OrderDocument In(OrderDocument document) => document with
    {
        To = To?.Trim() ?? "",
        Sources = [.. Sources.Select(s => s.ToString())],
        Rules = [.. Rule("storey", Storeys), .. Rule("class", Classes), .. Rule("layer", Layers), .. document.Rules.Where(r => !IsWord(r))],
        Into = DrawingForms.IntoOf(Form ?? "ifc", document.Into),
        Unit = string.IsNullOrEmpty(Unit) ? null : Unit,
        // Models as drawings are written in their source's own frame.
        Frame = (Form ?? "ifc") is not ("ifc" or DrawingForms.None) ? "source" : string.IsNullOrEmpty(Frame) ? document.Frame : Frame,
        Drawings = OfDrawings(),
        Split = ByStorey ? "storey" : "none",
        Name = Name?.Trim() ?? "",
    };

    private OrderDrawings? OfDrawings()
    {
        if (string.IsNullOrEmpty(Drawings)) return null;
        var drawings = new OrderDrawings { Sources = [.. DrawingSources.Select(s => s.ToString())], As = Drawings };
        if (Drawings == "received") return drawings;
        bool said = DrawingForms.Files.TryGetValue(DrawingFile ?? "", out var file);
        return drawings with
        {
            References = KeepReferences ? "keep" : "bind",
            File = !said ? null : file.Form.Dwg ? "dwg" : "dxf",
            Version = said ? file.Form.Version.ToString() : null,
            Layers = [.. (DrawingLayers ?? "").Split('\n').Select(l => l.Split('=', 2, StringSplitOptions.TrimEntries))
                .Where(l => l[0].Length > 0).Select(l => new OrderName { From = l[0], To = l.Length > 1 ? l[1] : "" })],
        };
    }

    private static List<string> Chosen(OrderDocument document, string what) =>
        [.. document.Rules.Where(r => IsWord(r) && r.What == what).SelectMany(r => r.Are)];

    private static bool IsWord(OrderRule rule) => rule is { Do: "only", What: "storey" or "class" or "layer" };

    private static OrderRule[] Rule(string what, List<string> values) =>
        values.Count == 0 ? [] : [new OrderRule { Do = "only", What = what, Are = values }];
}
