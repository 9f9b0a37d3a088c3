using System.Globalization;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>What the drawing desk's form says.</summary>
public sealed record DeskForm
{
    /// <summary>The steps as their document.</summary>
    public string? Steps { get; init; }

    /// <summary>The button that was pressed: a step to add, or <c>off:2</c>, <c>up:2</c>, <c>down:2</c>, <c>remove:2</c>.</summary>
    public string? Act { get; init; }

    /// <summary>Picked points: x and y after x and y, in the drawing's units.</summary>
    public string? Picks { get; init; }

    /// <summary>Layers that are ticked.</summary>
    public List<string> Layer { get; init; } = [];

    /// <summary>Kinds that are ticked.</summary>
    public List<string> Kind { get; init; } = [];

    /// <summary>Colours that are ticked, <c>#rrggbb</c>.</summary>
    public List<string> Colour { get; init; } = [];

    /// <summary>The colour for what is picked, <c>#rrggbb</c>.</summary>
    public string? Paint { get; init; }

    /// <summary>The entity that is picked, by handle.</summary>
    public string? Picked { get; init; }

    /// <summary>The window and the insertion point of a detail that is to be kept: x and y of three points.</summary>
    public string? CutOut { get; init; }

    /// <summary>Whether what crosses the window's edge is kept too.</summary>
    public bool Crossing { get; init; }

    /// <summary>The name it is kept under.</summary>
    public string? KeepAs { get; init; }

    /// <summary>The detail of the library that is placed.</summary>
    public string? Detail { get; init; }

    /// <summary>By how many degrees it is turned.</summary>
    public string? DetailTurn { get; init; }

    /// <summary>How far apart the lines of a hatch are, drawing units.</summary>
    public string? Spacing { get; init; }

    /// <summary>The source that lies over the drawing.</summary>
    public Guid? Over { get; init; }

    /// <summary>A text or a layer to give it.</summary>
    public string? To { get; init; }

    /// <summary>Known lengths, a line each.</summary>
    public string? Known { get; init; }

    /// <summary>Metres in a unit; empty for the best of the evidence.</summary>
    public string? Scale { get; init; }

    /// <summary>How it is placed.</summary>
    public string? Way { get; init; }

    /// <summary>The model whose grid it is placed on.</summary>
    public Guid? On { get; init; }

    /// <summary>Pairs of points: x, y in the drawing, x, y in the job, a line each.</summary>
    public string? Points { get; init; }

    /// <summary>The line an upright drawing is on: x, y, x, y in the job, metres, or the tag of an axis.</summary>
    public string? Line { get; init; }

    /// <summary>The typed line; nothing where it is none.</summary>
    internal (Vec2? From, Vec2? To) LineEnds()
    {
        double[] v =
        [
            .. (Line ?? "")
                .Split(',', ';')
                .Select(p =>
                    double.TryParse(p.Trim(), NumberStyles.Float, CultureInfo.InvariantCulture, out double d)
                        ? d
                        : double.NaN
                ),
        ];
        bool line = v.Length == 4 && v.All(double.IsFinite) && (v[0] != v[2] || v[1] != v[3]);
        return line ? (new Vec2(v[0], v[1]), new Vec2(v[2], v[3])) : (null, null);
    }

    /// <summary>Where its origin comes to lie, as typed.</summary>
    public string? X { get; init; }

    /// <summary>See <see cref="X"/>.</summary>
    public string? Y { get; init; }

    /// <summary>Degrees.</summary>
    public string? Turn { get; init; }

    /// <summary>The level it lies at.</summary>
    public int? Level { get; init; }

    /// <summary>Further levels that it is shown with.</summary>
    public List<int> With { get; init; } = [];

    /// <summary>Why.</summary>
    public string? Why { get; init; }

    /// <summary>Whether somebody has confirmed that what looks like no plan is one.</summary>
    public bool IsPlan { get; init; }

    /// <summary>The picked points as numbers.</summary>
    internal double[] At => Numbers(Picks);

    private static double[] Numbers(string? list) =>
        [
            .. (list ?? "")
                .Split(',', StringSplitOptions.RemoveEmptyEntries)
                .Select(p =>
                    double.TryParse(p, NumberStyles.Float, CultureInfo.InvariantCulture, out double v) ? v : double.NaN
                ),
        ];

    /// <summary>The form of what was accepted.</summary>
    public static DeskForm Of(SettingOutDocument held, PreparationDocument preparation) =>
        new()
        {
            Steps = preparation.Write(),
            Scale = held.Scale.ToString("R", CultureInfo.InvariantCulture),
            Line =
                held.Upright != true
                    ? null
                    : string.Join(
                        ", ",
                        new[]
                        {
                            held.Shift[0],
                            held.Shift[1],
                            held.Shift[0] + held.Frame.X.X,
                            held.Shift[1] + held.Frame.X.Y,
                        }.Select(v => v.ToString("R", CultureInfo.InvariantCulture))
                    ),
            Way =
                held.Upright == true
                    ? "upright"
                    : held.Evidence switch
                    {
                        EvidenceKind.Grids => "grids",
                        EvidenceKind.Points => "points",
                        _ => held.Shift[0] == 0 && held.Shift[1] == 0 && held.TurnDegrees == 0 ? "origin" : "typed",
                    },
            Points =
                held.Evidence == EvidenceKind.Points
                    ? string.Join(
                        '\n',
                        held.Points.Select(p =>
                            string.Join(
                                ", ",
                                new[] { p.Source[0], p.Source[1], p.Job[0], p.Job[1] }.Select(v =>
                                    v.ToString("R", CultureInfo.InvariantCulture)
                                )
                            )
                        )
                    )
                    : null,
            X = LengthText.Write(held.Shift[0], ReaderUnit.Notation),
            Y = LengthText.Write(held.Shift[1], ReaderUnit.Notation),
            Turn = held.TurnDegrees.ToString("0.######", CultureInfo.InvariantCulture),
            Level = held.Level,
            With = [.. held.ShownWith ?? []],
        };

    /// <summary>The picked points of a detail.</summary>
    internal double[][] Cut() => [.. Numbers(CutOut).Chunk(2)];

    /// <summary>The form after its button has done what it does to the steps.</summary>
    /// <param name="scaleOf">The scale that a detail of the library is placed at.</param>
    /// <exception cref="OrderException">It cannot.</exception>
    public DeskForm Acted(Func<string, double> scaleOf)
    {
        if (Act == "cut")
            return this with { CutOut = Picks, Act = null, Picks = null };
        var steps = PreparationDocument.Read(Steps).Steps.ToList();
        string[] act = (Act ?? "").Split(':');
        int at = act.Length == 2 && int.TryParse(act[1], out int n) && n >= 1 && n <= steps.Count ? n - 1 : -1;
        switch (act[0])
        {
            case "off" when at >= 0:
                steps[at] = steps[at] with { Off = steps[at].Off == true ? null : true };
                break;
            case "remove" when at >= 0:
                steps.RemoveAt(at);
                break;
            case "up" when at > 0:
                (steps[at - 1], steps[at]) = (steps[at], steps[at - 1]);
                break;
            case "down" when at >= 0 && at + 1 < steps.Count:
                (steps[at + 1], steps[at]) = (steps[at], steps[at + 1]);
                break;
            case "window"
            or "origin"
            or "lower"
            or "drop"
            or "explode"
            or "purge"
            or "text"
            or "layer"
            or "colour"
            or "move"
            or "turn"
            or "mirror"
            or "delete"
            or "hatch"
            or "fill"
            or "detail":
                steps.Add(Made(act[0], scaleOf));
                break;
            default:
                return this;
        }

        string written = new PreparationDocument { Steps = steps }.Write();
        // What was pressed is done; a step that makes no sense is refused before it is in the list.
        _ = PreparationDocument.Read(written);
        return this with
        {
            Steps = written,
            Act = null,
            Picks = null,
            Layer = [],
            Kind = [],
            Colour = [],
            Picked = act[0] == "delete" ? null : Picked,
        };
    }

    /// <summary>The pairs of points.</summary>
    /// <exception cref="OrderException">A line is none.</exception>
    public IReadOnlyList<ControlPoint> Pairs()
    {
        var points = new List<ControlPoint>();
        foreach (
            string line in (Points ?? "").Split(
                '\n',
                StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries
            )
        )
        {
            double[] v =
            [
                .. line.Split(',', ';')
                    .Select(p =>
                        double.TryParse(p.Trim(), NumberStyles.Float, CultureInfo.InvariantCulture, out double d)
                            ? d
                            : double.NaN
                    ),
            ];
            if (v.Length != 4 || v.Any(d => !double.IsFinite(d)))
                throw new OrderException(
                    $"'{line}' is no pair of points: x, y in the drawing's units, then x, y in the job in metres."
                );
            points.Add(new ControlPoint($"{points.Count + 1}", new Vec3(v[0], v[1], 0), new Vec3(v[2], v[3], 0)));
        }

        return points;
    }

    /// <summary>The typed turn.</summary>
    /// <exception cref="OrderException">It is no number.</exception>
    public double Degrees() =>
        string.IsNullOrWhiteSpace(Turn) ? 0
        : double.TryParse(
            Turn.Replace('−', '-').TrimEnd('°', ' '),
            NumberStyles.Float,
            CultureInfo.InvariantCulture,
            out double d
        ) && double.IsFinite(d)
            ? d
        : throw new OrderException($"'{Turn}' is no rotation; write degrees, counter-clockwise.");

    private static List<string>? Said(List<string> list) => list.Count == 0 ? null : list;

    private static double TurnOf(string? text) =>
        double.TryParse(
            (text ?? "").Replace('−', '-').TrimEnd('°', ' '),
            NumberStyles.Float,
            CultureInfo.InvariantCulture,
            out double d
        ) && double.IsFinite(d)
            ? d
            : throw new OrderException("Type the degrees of the rotation, counter-clockwise, then pick its centre.");

    private static double? Real(string? text) =>
        double.TryParse((text ?? "").Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out double v)
            ? v
            : null;

    private PreparationStep Made(string act, Func<string, double> scaleOf)
    {
        double[] at = At;
        string[] handles = Picked is { Length: > 0 } h ? [h] : [];
        return act switch
        {
            "window" => new PreparationStep { Do = "window", Corners = [.. at.Chunk(2)] },
            "origin" => new PreparationStep
            {
                Do = "origin",
                At = at.Length >= 2 ? at[..2] : throw new OrderException("Pick the point that becomes the origin."),
            },
            "lower" => new PreparationStep { Do = "origin" },
            "drop" => new PreparationStep
            {
                Do = "drop",
                Layers = Said(Layer),
                Kinds = Said(Kind),
                Colours = Said(Colour),
            },
            "colour" => new PreparationStep
            {
                Do = "colour",
                Handles = handles,
                To = Paint,
            },
            "move" => new PreparationStep
            {
                Do = "move",
                Handles = handles,
                By = at.Length == 4 ? [at[2] - at[0], at[3] - at[1]] : null,
            },
            "turn" => new PreparationStep
            {
                Do = "turn",
                Handles = handles,
                At = at.Length == 2 ? at : null,
                Degrees = TurnOf(To),
            },
            "mirror" => new PreparationStep
            {
                Do = "mirror",
                Handles = handles,
                Corners = [.. at.Chunk(2)],
            },
            "text" => new PreparationStep
            {
                Do = "text",
                Handles = handles,
                To = To ?? "",
            },
            "layer" => new PreparationStep
            {
                Do = "layer",
                Handles = handles,
                To = To,
            },
            "delete" => new PreparationStep { Do = "drop", Handles = handles },
            "fill" => new PreparationStep { Do = "hatch", Handles = handles },
            "hatch" => new PreparationStep
            {
                Do = "hatch",
                Handles = handles,
                Spacing = Real(Spacing)
                    ?? throw new OrderException(
                        "Type how far apart the lines of the hatch are, in units of the drawing."
                    ),
                Degrees = Real(To),
            },
            "detail" => new PreparationStep
            {
                Do = "detail",
                To = Detail,
                At =
                    at.Length >= 2
                        ? at[..2]
                        : throw new OrderException("Pick the place of the detail's insertion point."),
                Scale = scaleOf(Detail ?? ""),
                Degrees = Real(DetailTurn),
            },
            _ => new PreparationStep { Do = act },
        };
    }
}
