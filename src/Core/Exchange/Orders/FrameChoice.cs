using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Which frame a hand-over is written in.</summary>
public enum FrameKind
{
    /// <summary>Each source's own.</summary>
    Source,

    /// <summary>The job's: each source is moved by its setting-out; without settings-out it is the first source's, and the others come
    /// through their map conversions.</summary>
    Job,

    /// <summary>Near the origin: all sources are shifted in plan by whole metres, so that no placement has a negative coordinate.</summary>
    Local,

    /// <summary>Turned about the origin and shifted as the order says.</summary>
    Given,

    /// <summary>The receiver's own: from the job's by the inverse of that party's setting-out, so that a file comes back to where the
    /// party draws.
    /// </summary>
    Party,

    /// <summary>The map's: coordinates are eastings, northings and heights, and a map conversion says so.</summary>
    Map,
}

/// <summary>The frame of a hand-over.</summary>
/// <param name="Kind">Which.</param>
/// <param name="Shift">With <see cref="FrameKind.Given"/>, metres.</param>
/// <param name="Degrees">With <see cref="FrameKind.Given"/>, counter-clockwise, before the shift.</param>
public sealed record FrameChoice(FrameKind Kind, Vec3 Shift = default, double Degrees = 0)
{
    /// <summary>Each source's own.</summary>
    public static readonly FrameChoice Source = new(FrameKind.Source);

    /// <summary>With <see cref="FrameKind.Party"/>: from the receiver's frame into the job's, metres; null while nobody has said.</summary>
    public Frame? Receiver { get; init; }

    /// <summary>With <see cref="FrameKind.Map"/>: where the job lies on the map; null where only the sources themselves say.</summary>
    public MapPlace? Map { get; init; }

    /// <summary>Reads <c>source</c>, <c>job</c>, <c>party</c>, <c>map</c>, <c>local</c> or <c>x,y,z,deg</c>; null when it is none of
    /// them.</summary>
    public static FrameChoice? Parse(string text)
    {
        switch (text)
        {
            case "source":
                return Source;
            case "job":
                return new FrameChoice(FrameKind.Job);
            case "map":
                return new FrameChoice(FrameKind.Map);
            case "party":
                return new FrameChoice(FrameKind.Party);
            case "local":
                return new FrameChoice(FrameKind.Local);
        }

        var numbers = text.Split(',')
            .Select(n =>
                double.TryParse(
                    n,
                    System.Globalization.NumberStyles.Float,
                    System.Globalization.CultureInfo.InvariantCulture,
                    out double v
                ) && double.IsFinite(v)
                    ? v
                    : double.NaN
            )
            .ToList();
        return numbers.Count == 4 && !numbers.Exists(double.IsNaN)
            ? new FrameChoice(FrameKind.Given, new Vec3(numbers[0], numbers[1], numbers[2]), numbers[3])
            : null;
    }

    /// <summary>How each source moves, metres; null for one that stays.</summary>
    /// <exception cref="OrderException">The job's or a party's frame is asked for, and nothing says where a source or the party is in
    /// it.</exception>
    public IReadOnlyList<Frame?> Moves(IReadOnlyList<HandoverSource> sources)
    {
        if (Kind is FrameKind.Job or FrameKind.Party or FrameKind.Map)
            foreach (var source in sources)
                if (source.SettingOut is { } set && Math.Abs(set.Determinant - 1) > 1e-9)
                    throw new OrderException(
                        $"{source.Label} is set out with another scale than 1; IFC has no frame that scales. Set it out with the scale held, or hand it over in its own frame."
                    );
        if (Kind == FrameKind.Party && Receiver is { } own && Math.Abs(own.Determinant - 1) > 1e-9)
            throw new OrderException(
                "The receiver's setting-out has another scale than 1; IFC has no frame that scales. Set the receiver out with the scale held, or choose another frame."
            );
        switch (Kind)
        {
            case FrameKind.Given:
                return [.. sources.Select(_ => (Frame?)FrameRewrite.Move(Shift, Degrees))];
            case FrameKind.Party:
                var receiver = (
                    Receiver
                    ?? throw new OrderException(
                        "Nothing says which frame the receiver draws in: set one of the party's sources out, or give its setting-out as a file."
                    )
                ).Inverse();
                bool known = sources.Any(s => s.SettingOut is not null);
                return
                [
                    .. sources.Select(s =>
                        (Frame?)receiver.Compose(s.SettingOut ?? (known ? throw NotSetOut(s) : Frame.Identity))
                    ),
                ];
            case FrameKind.Map:
                return
                [
                    .. OnMap(sources)
                        .Zip(sources, (map, s) => (Frame?)map.Frame.Compose(s.SettingOut ?? Frame.Identity)),
                ];
            case FrameKind.Local:
                var low = Lowest([.. sources.Select(s => s.Snapshot)]);
                return
                [
                    .. sources.Select(_ =>
                        (Frame?)FrameRewrite.Move(new Vec3(-Math.Floor(low.X), -Math.Floor(low.Y), 0), 0)
                    ),
                ];
            case FrameKind.Job when sources.Any(s => s.SettingOut is not null):
                return [.. sources.Select(s => s.SettingOut ?? throw NotSetOut(s))];
            case FrameKind.Job when sources.Count > 1 && sources.Any(s => MapFrame(s.Snapshot) is not null):
                var first = MapFrame(sources[0].Snapshot) ?? throw NotSetOut(sources[0]);
                return
                [
                    .. sources.Select(
                        (s, i) =>
                            i == 0 ? null : (Frame?)first.Inverse().Compose(MapFrame(s.Snapshot) ?? throw NotSetOut(s))
                    ),
                ];
            default:
                return [.. sources.Select(_ => (Frame?)null)];
        }
    }

    /// <summary>Where the frame of each source lies on the map: the job's where sources are set out, else its own.</summary>
    /// <exception cref="OrderException">Nothing says so.</exception>
    internal IReadOnlyList<MapPlace> OnMap(IReadOnlyList<HandoverSource> sources)
    {
        if (Map is null && sources.All(s => s.SettingOut is null))
            return [.. sources.Select(s => MapPlace.Of(s.Snapshot, Frame.Identity) ?? throw NotOnMap(s.Label))];
        var job = Map
            ?? sources
                .Where(s => s.SettingOut is not null)
                .Select(s => MapPlace.Of(s.Snapshot, s.SettingOut!.Value))
                .FirstOrDefault(m => m is not null)
            ?? throw NotOnMap(string.Join(", ", sources.Select(s => s.Label)));
        return [.. sources.Select(s => s.SettingOut is null ? throw NotSetOut(s) : job)];
    }

    private static OrderException NotOnMap(string label) =>
        new(
            $"No source states where {label} is on the map: set out a source with a map conversion first, or choose another frame."
        );

    private static OrderException NotSetOut(HandoverSource source) =>
        new(
            $"{source.Label} is not set out and has no map conversion, so nothing says where it is in the job's frame. Set it out, or hand it over in its own frame."
        );

    private static Vec2 Lowest(IReadOnlyList<ModelSnapshot> sources)
    {
        double x = double.PositiveInfinity,
            y = double.PositiveInfinity;
        foreach (var source in sources)
        {
            foreach (var element in source.Elements)
            {
                try
                {
                    var at = source.Shapes.Placements.Product(element.Index).Origin;
                    (x, y) = (Math.Min(x, at.X), Math.Min(y, at.Y));
                }
                catch (ShapeException)
                {
                    // An element that cannot be placed tells nothing about where the rest is.
                    continue;
                }
            }
        }

        return double.IsFinite(x + y) ? new Vec2(x, y) : default;
    }

    private static Frame? MapFrame(ModelSnapshot source)
    {
        var reference = GeoReference.Read(source.Model, source.Structure, source.Units);
        return reference.Kind == "IfcMapConversion"
            ? FrameRewrite.Move(
                new Vec3(reference.Eastings, reference.Northings, reference.Height),
                reference.RotationDegrees
            )
            : null;
    }
}
