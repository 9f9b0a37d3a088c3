using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Which frame a hand-over is written in.</summary>
public enum FrameKind
{
    /// <summary>Each source's own.</summary>
    Source,

    /// <summary>The first source's: the others are moved through their map conversions; one without a map conversion stays.</summary>
    Job,

    /// <summary>Near the origin: all sources are shifted in plan by whole metres, so that no placement has a negative coordinate.</summary>
    Local,

    /// <summary>Turned about the origin and shifted as the order says.</summary>
    Given,
}

/// <summary>The frame of a hand-over.</summary>
/// <param name="Kind">Which.</param>
/// <param name="Shift">With <see cref="FrameKind.Given"/>, metres.</param>
/// <param name="Degrees">With <see cref="FrameKind.Given"/>, counter-clockwise, before the shift.</param>
public sealed record FrameChoice(FrameKind Kind, Vec3 Shift = default, double Degrees = 0)
{
    /// <summary>Each source's own.</summary>
    public static readonly FrameChoice Source = new(FrameKind.Source);

    /// <summary>Reads <c>source</c>, <c>job</c>, <c>local</c> or <c>x,y,z,deg</c>; null when it is none of them.</summary>
    public static FrameChoice? Parse(string text)
    {
        switch (text)
        {
            case "source": return Source;
            case "job": return new FrameChoice(FrameKind.Job);
            case "local": return new FrameChoice(FrameKind.Local);
        }

        var numbers = text.Split(',').Select(n => double.TryParse(n, System.Globalization.NumberStyles.Float, System.Globalization.CultureInfo.InvariantCulture, out double v) && double.IsFinite(v) ? v : double.NaN).ToList();
        return numbers.Count == 4 && !numbers.Exists(double.IsNaN) ? new FrameChoice(FrameKind.Given, new Vec3(numbers[0], numbers[1], numbers[2]), numbers[3]) : null;
    }

    /// <summary>How each source moves, metres; null for one that stays.</summary>
    public IReadOnlyList<Frame?> Moves(IReadOnlyList<ModelSnapshot> sources)
    {
        switch (Kind)
        {
            case FrameKind.Given:
                return [.. sources.Select(_ => (Frame?)FrameRewrite.Move(Shift, Degrees))];
            case FrameKind.Local:
                var low = Lowest(sources);
                return [.. sources.Select(_ => (Frame?)FrameRewrite.Move(new Vec3(-Math.Floor(low.X), -Math.Floor(low.Y), 0), 0))];
            case FrameKind.Job when sources.Count > 0 && MapFrame(sources[0]) is { } first:
                return [.. sources.Select((s, i) => i > 0 && MapFrame(s) is { } own ? first.Inverse().Then(own) : (Frame?)null)];
            default:
                return [.. sources.Select(_ => (Frame?)null)];
        }
    }

    private static Vec2 Lowest(IReadOnlyList<ModelSnapshot> sources)
    {
        double x = double.PositiveInfinity, y = double.PositiveInfinity;
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
        return reference.Kind == "IfcMapConversion" ? FrameRewrite.Move(new Vec3(reference.Eastings, reference.Northings, reference.Height), reference.RotationDegrees) : null;
    }
}
