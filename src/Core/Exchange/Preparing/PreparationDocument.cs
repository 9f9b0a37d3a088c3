using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Serialization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A step of a preparation. Which members count is recognised by <see cref="Do"/>; the others stay unsaid.</summary>
public sealed record PreparationStep
{
    /// <summary><c>window</c>, <c>origin</c>, <c>drop</c>, <c>explode</c>, <c>purge</c>, <c>rename layer</c>,
    /// <c>detail</c>; or an edit: <c>text</c>, <c>move</c>, <c>turn</c>, <c>mirror</c>, <c>layer</c>, <c>colour</c>,
    /// <c>hatch</c>.</summary>
    public string Do { get; init; } = "";

    /// <summary>Whether the step is switched off: it stays in the list and does nothing.</summary>
    public bool? Off { get; init; }

    /// <summary>With <c>window</c>: two opposite corners, or the corners of a polygon. With <c>mirror</c>: two points of the
    /// line.</summary>
    public IReadOnlyList<double[]>? Corners { get; init; }

    /// <summary>With <c>origin</c>: the point that becomes zero; the lower left corner of what is kept when not said. With <c>turn</c>: the
    /// centre. With <c>detail</c>: where its insertion point comes to lie.</summary>
    public double[]? At { get; init; }

    /// <summary>With <c>move</c>: the shift.</summary>
    public double[]? By { get; init; }

    /// <summary>With <c>turn</c> and <c>detail</c>: counter-clockwise. With <c>hatch</c>: the direction of its lines.</summary>
    public double? Degrees { get; init; }

    /// <summary>With <c>detail</c>: units of the drawing in a unit of the detail; 1 when not said.</summary>
    public double? Scale { get; init; }

    /// <summary>With <c>hatch</c>: lines this far apart, drawing units; nothing for a fill of its colour.</summary>
    public double? Spacing { get; init; }

    /// <summary>With <c>drop</c>: the layers whose entities go.</summary>
    public IReadOnlyList<string>? Layers { get; init; }

    /// <summary>With <c>drop</c>: the kinds that go, as DXF spells them.</summary>
    public IReadOnlyList<string>? Kinds { get; init; }

    /// <summary>With <c>drop</c>: the colours that go, <c>#rrggbb</c> as they are seen.</summary>
    public IReadOnlyList<string>? Colours { get; init; }

    /// <summary>With <c>drop</c> and edits: the entities by handle, hexadecimal.</summary>
    public IReadOnlyList<string>? Handles { get; init; }

    /// <summary>With <c>rename layer</c>: the layer.</summary>
    public string? From { get; init; }

    /// <summary>With <c>rename layer</c> and <c>layer</c>: the new layer, which may be there already; with <c>text</c> the text; with
    /// <c>colour</c> <c>#rrggbb</c>; with <c>detail</c> its name in the library.</summary>
    public string? To { get; init; }
}

/// <summary>How a drawing is prepared: a list of steps over the untouched original, run again on each of its revisions.</summary>
public sealed record PreparationDocument
{
    /// <summary>The version of this form.</summary>
    public const int CurrentVersion = 1;

    /// <summary>More steps than anybody writes by hand.</summary>
    public const int MostSteps = 1000;

    /// <summary>More corners than anybody picks; each is asked for each entity.</summary>
    public const int MostCorners = 500;

    internal static DocumentFormat<PreparationDocument> Format { get; } = new("list of steps");

    /// <summary>The preparation that leaves a drawing as it came.</summary>
    public static PreparationDocument Empty { get; } = new();

    /// <summary>The version.</summary>
    public int Version { get; init; } = CurrentVersion;

    /// <summary>The steps, in their order.</summary>
    public IReadOnlyList<PreparationStep> Steps { get; init; } = [];

    /// <summary>The details that its steps place, by name, each a drawing whose zero is its insertion point. Who runs the steps gives
    /// them.</summary>
    [JsonIgnore]
    public IReadOnlyDictionary<string, byte[]> Details { get; init; } = new Dictionary<string, byte[]>();

    /// <summary>The names of the details that its steps place.</summary>
    [JsonIgnore]
    public IEnumerable<string> DetailNames =>
        Steps.Where(s => s is { Do: "detail", Off: not true }).Select(s => s.To!).Distinct();

    /// <summary>A hash of what it says: two that are the same have the same, 16 hexadecimal digits.</summary>
    [JsonIgnore]
    public string Hash => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(Write())))[..16];

    /// <summary>Reads a document.</summary>
    /// <exception cref="OrderException">It is none, or a step says what no step can; the message names the step.</exception>
    public static PreparationDocument Read(string? json)
    {
        if (string.IsNullOrWhiteSpace(json))
            return Empty;
        var document = Format.Read(json);
        if (document.Steps.Count > MostSteps)
            throw new OrderException($"There can be {MostSteps} steps at most.");
        for (int n = 0; n < document.Steps.Count; n++)
            if (Problem(document.Steps[n]) is { } problem)
                throw new OrderException($"Step {n + 1}: {problem}");
        return document;
    }

    /// <summary>The document as text.</summary>
    public string Write() => Format.Write(this);

    private static string? Problem(PreparationStep? step)
    {
        if (step is null)
            return "it is empty.";
        foreach (
            var list in new IEnumerable<object?>?[]
            {
                step.Handles,
                step.Layers,
                step.Kinds,
                step.Colours,
                step.Corners,
            }
        )
            if (list?.Contains(null) == true)
                return "a list has an empty entry.";
        bool named = step.Handles is { Count: > 0 };
        if (
            step.Handles?.FirstOrDefault(h =>
                !ulong.TryParse(h, System.Globalization.NumberStyles.HexNumber, null, out _)
            ) is
            { } handle
        )
            return $"'{handle}' is no handle.";
        if (step.Corners?.Count > MostCorners)
            return $"a window has {MostCorners} corners at most.";
        foreach (double[]? point in (step.Corners ?? []).Append(step.At).Append(step.By))
            if (point is not null && (point.Length != 2 || !point.All(v => double.IsFinite(v) && Math.Abs(v) < 1e12)))
                return "a point is two numbers.";
        if (new[] { step.Degrees, step.Scale, step.Spacing }.Any(v => v is { } d && !double.IsFinite(d)))
            return "degrees, scale and spacing are numbers that can be counted with.";
        switch (step.Do)
        {
            case "window":
                return Window.Problem([.. (step.Corners ?? []).Select(Point)]);
            case "origin" or "explode" or "purge":
                return null;
            case "drop":
                if (step.Colours?.FirstOrDefault(c => Rgb(c) is null) is { } colour)
                    return $"'{colour}' is no colour; write #rrggbb.";
                return named || step.Layers?.Count > 0 || step.Kinds?.Count > 0 || step.Colours?.Count > 0
                    ? null
                    : "The step drop needs layers, kinds, colours or handles.";
            case "rename layer":
                return Said(step.From) && Said(step.To) ? null : "rename layer needs from and to.";
            case "text":
                return named && step.To is not null ? null : "text needs handles and to.";
            case "move":
                return named && step.By is not null ? null : "move needs handles and by.";
            case "turn":
                return named && step.At is not null && step.Degrees is not null
                    ? null
                    : "turn needs handles, at and degrees.";
            case "mirror":
                return named && step.Corners is [var a, var b] && (a[0] != b[0] || a[1] != b[1])
                    ? null
                    : "mirror needs handles and two corners that are not one.";
            case "layer":
                return named && Said(step.To) ? null : "layer needs handles and to.";
            case "detail":
                return !Said(step.To) || step.At is null ? "detail needs to, its name, and at."
                    : step.Scale is { } scale && scale is not (> 1e-9 and < 1e9)
                        ? "the scale of a detail is a positive number."
                    : null;
            case "hatch":
                return !named ? "hatch needs handles."
                    : step.Spacing is { } gap && gap is not (> 1e-9 and < 1e9)
                        ? "spacing of a hatch is a positive number."
                    : null;
            case "colour":
                return named && Rgb(step.To) is not null ? null : "colour needs handles and to: #rrggbb.";
            default:
                return $"'{step.Do}' is no step.{NearestNames.Of(step.Do, ["window", "origin", "drop", "explode", "purge", "rename layer", "text", "move", "turn", "mirror", "layer", "colour", "hatch", "detail"])}";
        }
    }

    private static bool Said(string? name) => !string.IsNullOrWhiteSpace(name);

    /// <summary>The window of a step.</summary>
    internal static Window WindowOf(PreparationStep step) => new([.. (step.Corners ?? []).Select(Point)]);

    /// <summary>A point of a step.</summary>
    internal static Vec2 Point(double[] p) => new(p[0], p[1]);

    /// <summary>A colour of a step, 0xRRGGBB; null when it is none.</summary>
    internal static int? Rgb(string? text) =>
        text is ['#', .. { Length: 6 } hex]
        && int.TryParse(hex, System.Globalization.NumberStyles.HexNumber, null, out int rgb)
            ? rgb
            : null;
}
