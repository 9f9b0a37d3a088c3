namespace SteadyLintel.Exchange;

/// <summary>A kept view: what the combined view showed, and from where.</summary>
/// <remarks>The browser's view as a document; elements are named by GlobalId, so that the view outlives a revision.</remarks>
public sealed record ViewDocument
{
    /// <summary>The version that is written.</summary>
    public const int CurrentVersion = 1;

    internal static DocumentFormat<ViewDocument> Format { get; } = new("view");

    /// <summary>The most planes that cut beside the heights: a box has six sides.</summary>
    public const int MostPlanes = 6;

    /// <summary>The combined view's vertical field of view, degrees.</summary>
    public const double UsualDegrees = 38;

    /// <summary>The word for elements in no storey.</summary>
    public const string NoStorey = "no storey";

    /// <summary>The word for elements on no layer.</summary>
    public const string NoLayer = "no layer";

    /// <summary>The version of the document.</summary>
    public int Version { get; init; } = CurrentVersion;

    /// <summary>Where the eye is, metres in the job's frame; null for the usual place.</summary>
    public IReadOnlyList<double>? Eye { get; init; }

    /// <summary>What it looks at.</summary>
    public IReadOnlyList<double>? At { get; init; }

    /// <summary>The upper side of the picture, a direction in the job's frame; null for the job's own up.</summary>
    public IReadOnlyList<double>? Up { get; init; }

    /// <summary>The vertical field of view, degrees; null for the usual one.</summary>
    public double? Degrees { get; init; }

    /// <summary>The height that a parallel view shows, metres; null for a view in perspective.</summary>
    public double? Height { get; init; }

    /// <summary>Planes that cut beside the heights, at most <see cref="MostPlanes"/>: a point on it, metres in the job's frame, and a
    /// direction that points to what is cut away.</summary>
    public IReadOnlyList<IReadOnlyList<double>> Planes { get; init; } = [];

    /// <summary>GlobalIds of the elements that are picked out.</summary>
    public IReadOnlyList<string> Picked { get; init; } = [];

    /// <summary>Elements in colours of their own.</summary>
    public IReadOnlyList<ViewPaint> Colours { get; init; } = [];

    /// <summary>The lowest and highest height shown, metres in the job's frame; null where nothing is cut.</summary>
    public IReadOnlyList<double>? Cut { get; init; }

    /// <summary>What is switched off.</summary>
    public ViewOff Off { get; init; } = new();

    /// <summary>GlobalIds of elements that are hidden one by one.</summary>
    public IReadOnlyList<string> Hidden { get; init; } = [];

    /// <summary>GlobalIds of the only elements shown; null where none is isolated.</summary>
    public IReadOnlyList<string>? Only { get; init; }

    /// <summary>What is visible, as rules.</summary>
    /// <remarks>An isolated element is visible whatever is switched off; a cut hides what lies wholly above or below it.</remarks>
    public IReadOnlyList<OrderRule> Rules()
    {
        var rules = new List<OrderRule>();
        if (Only is { Count: > 0 })
            rules.Add(Rule("with", "element", Only));
        else if (Only is not null)
            rules.Add(
                new OrderRule
                {
                    Do = "with",
                    What = "height",
                    Is = "between",
                    Are = ["0", "0"],
                }
            );
        else
        {
            if (Off.Source.Count > 0)
                rules.Add(Rule("without", "source", Off.Source));
            if (Off.Storey.Count > 0)
                rules.Add(Rule("without", "storey", [.. Off.Storey.Select(s => s == NoStorey ? "" : s)]));
            if (Off.Class.Count > 0)
                rules.Add(Rule("without", "class", Off.Class) with { Is = "exactly" });
            if (Off.Layer.Count > 0)
                rules.Add(
                    Rule("without", "layer", [.. Off.Layer.Select(s => s == NoLayer ? "" : s)]) with
                    {
                        Is = "exactly",
                    }
                );
            if (Hidden.Count > 0)
                rules.Add(Rule("without", "element", Hidden));
        }

        if (Cut is [var low, var high])
            rules.Add(
                Rule(
                    "only",
                    "height",
                    [FormattableString.Invariant($"{low:R}"), FormattableString.Invariant($"{high:R}")]
                )
            );
        return rules;
    }

    /// <summary>Reads a document.</summary>
    /// <exception cref="OrderException">It is no JSON, has an unknown member, or another version.</exception>
    public static ViewDocument Read(string json) => Format.Read(json);

    /// <summary>The document as text.</summary>
    public string Write() => Format.Write(this);

    private static OrderRule Rule(string verb, string what, IReadOnlyList<string> values) =>
        new()
        {
            Do = verb,
            What = what,
            Are = values,
        };
}

/// <summary>Elements in one colour.</summary>
/// <param name="Colour">Red, green and blue, hexadecimal: <c>b84a00</c>.</param>
/// <param name="Elements">Their GlobalIds.</param>
public sealed record ViewPaint(string Colour, IReadOnlyList<string> Elements);

/// <summary>What is switched off in a view, by name.</summary>
public sealed record ViewOff
{
    /// <summary>Sources, each with its party's code.</summary>
    public IReadOnlyList<string> Source { get; init; } = [];

    /// <summary>Storeys of the job's schedule.</summary>
    public IReadOnlyList<string> Storey { get; init; } = [];

    /// <summary>Classes, without their subtypes.</summary>
    public IReadOnlyList<string> Class { get; init; } = [];

    /// <summary>Layers; several of one element joined by <c> + </c>.</summary>
    public IReadOnlyList<string> Layer { get; init; } = [];

    /// <summary>Placed drawings.</summary>
    public IReadOnlyList<string> Sheet { get; init; } = [];
}
