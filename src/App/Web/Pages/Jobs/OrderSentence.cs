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
        // Drawings are written in their source's own frame.
        Frame = (Form ?? "ifc") != "ifc" ? "source" : string.IsNullOrEmpty(Frame) ? document.Frame : Frame,
        Split = ByStorey ? "storey" : "none",
        Name = Name?.Trim() ?? "",
    };

    private static List<string> Chosen(OrderDocument document, string what) =>
        [.. document.Rules.Where(r => IsWord(r) && r.What == what).SelectMany(r => r.Are)];

    private static bool IsWord(OrderRule rule) => rule is { Do: "only", What: "storey" or "class" or "layer" };

    private static OrderRule[] Rule(string what, List<string> values) =>
        values.Count == 0 ? [] : [new OrderRule { Do = "only", What = what, Are = values }];
}
