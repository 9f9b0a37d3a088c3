using System.Text;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>A source over its reference, from above and from the side: the reference grey, the source as it would lie, and as it
/// came.</summary>
public sealed class SettingOutPicture
{
    private const double Margin = 26;

    private readonly Box _reach;
    private readonly double _scale,
        _rise;

    /// <summary>Lays the picture out.</summary>
    public SettingOutPicture(
        JobState state,
        SourceState source,
        SourceState? reference,
        IReadOnlyDictionary<Guid, FrameFacts> facts,
        Proposal proposal,
        IReadOnlyList<Box> own,
        IReadOnlyList<Box> others
    )
    {
        var there = reference?.Frame ?? Frame.Identity;
        var would = proposal.Document?.Frame ?? source.Frame;
        _reach = Around(others, there).Add(Around(own, would));
        if (_reach.IsEmpty)
            _reach = new Box(Vec3.Zero, new Vec3(10, 10, 10));
        _scale = Math.Min(
            (Width - (2 * Margin)) / Math.Max(1, _reach.Size.X),
            (Height - (2 * Margin)) / Math.Max(1, _reach.Size.Y)
        );
        double low = Math.Min(_reach.Min.Z, 0),
            high = _reach.Max.Z;
        _rise = Math.Min(_scale, (Side - (2 * Margin)) / Math.Max(1, high - low));
        (Reference, ReferenceSide) = (Plan(others, there), Elevation(others, there));
        (Would, WouldSide) = (Plan(own, would), Elevation(own, would));
        var came = Around(own, Frame.Identity);
        bool near =
            !came.IsEmpty && (came.Centre - _reach.Centre).Length < 3 * _reach.Size.Length && would != Frame.Identity;
        (Came, CameSide) = near ? (Plan(own, Frame.Identity), Elevation(own, Frame.Identity)) : ("", "");
        if (!near && !came.IsEmpty && would != Frame.Identity)
            CameSentence =
                $"As received it is {DisplayText.Length((came.Centre - _reach.Centre).Length)} away, outside of this picture.";
        ReferenceAxes =
            reference is not null && facts.TryGetValue(reference.Source.Id, out var f) ? Axes(f, there) : [];
        OwnAxes = facts.TryGetValue(source.Source.Id, out var g) ? Axes(g, would) : [];
        Points =
        [
            .. proposal
                .Points.Select((p, i) => (p, i))
                .Where(p => p.p.HasPlan)
                .Select(p =>
                    (
                        X(p.p.Job.X),
                        Y(p.p.Job.Y),
                        p.p.Name,
                        Bad: !p.p.Used || (proposal.Fit is { } fit && fit.Points[p.i].Outlier)
                    )
                ),
        ];
        Levels =
        [
            .. state
                .Schedule.Rungs.Select(r => (r.Name, Z(r.Elevation), DisplayText.Height(r.Elevation)))
                .Where(l => l.Item2 > 4 && l.Item2 < Side),
        ];
    }

    /// <summary>The size of the pictures, pixels.</summary>
    public static double Width => 600;

    /// <summary>See <see cref="Width"/>.</summary>
    public static double Height => 330;

    /// <summary>See <see cref="Width"/>.</summary>
    public static double Side => 190;

    /// <summary>Outlines from above, as paths.</summary>
    public string Reference { get; }

    /// <summary>See <see cref="Reference"/>.</summary>
    public string Would { get; }

    /// <summary>See <see cref="Reference"/>; empty where it lies elsewhere.</summary>
    public string Came { get; }

    /// <summary>Outlines from the side.</summary>
    public string ReferenceSide { get; }

    /// <summary>See <see cref="ReferenceSide"/>.</summary>
    public string WouldSide { get; }

    /// <summary>See <see cref="ReferenceSide"/>.</summary>
    public string CameSide { get; }

    /// <summary>Where it lies as it came, when that is not in the picture; null otherwise.</summary>
    public string? CameSentence { get; }

    /// <summary>Grid axes: a path, and where the tag is.</summary>
    public IReadOnlyList<(string Path, double X, double Y, string Tag)> ReferenceAxes { get; }

    /// <summary>See <see cref="ReferenceAxes"/>.</summary>
    public IReadOnlyList<(string Path, double X, double Y, string Tag)> OwnAxes { get; }

    /// <summary>Control points in the job.</summary>
    public IReadOnlyList<(double X, double Y, string Name, bool Bad)> Points { get; }

    /// <summary>The level schedule.</summary>
    public IReadOnlyList<(string Name, double Y, string Height)> Levels { get; }

    private double X(double x) => (Width / 2) + ((x - _reach.Centre.X) * _scale);

    private double Y(double y) => (Height / 2) - ((y - _reach.Centre.Y) * _scale);

    private double Z(double z) => Side - Margin - ((z - Math.Min(_reach.Min.Z, 0)) * _rise);

    private string Plan(IReadOnlyList<Box> boxes, Frame frame)
    {
        var path = new StringBuilder();
        foreach (var box in boxes)
        {
            for (int c = 0; c < 4; c++)
            {
                var p = frame.Point(
                    new Vec3(c is 0 or 3 ? box.Min.X : box.Max.X, c < 2 ? box.Min.Y : box.Max.Y, box.Min.Z)
                );
                path.Append(c == 0 ? 'M' : 'L')
                    .Append(DisplayText.Svg(X(p.X)))
                    .Append(' ')
                    .Append(DisplayText.Svg(Y(p.Y)));
            }

            path.Append('Z');
        }

        return path.ToString();
    }

    private string Elevation(IReadOnlyList<Box> boxes, Frame frame)
    {
        var path = new StringBuilder();
        foreach (var box in boxes)
        {
            var b = Around([box], frame);
            double left = (Width / 2) + ((b.Min.X - _reach.Centre.X) * _rise),
                right = (Width / 2) + ((b.Max.X - _reach.Centre.X) * _rise);
            path.Append(
                $"M{DisplayText.Svg(left)} {DisplayText.Svg(Z(b.Min.Z))}H{DisplayText.Svg(right)}V{DisplayText.Svg(Z(b.Max.Z))}H{DisplayText.Svg(left)}Z"
            );
        }

        return path.ToString();
    }

    private static Box Around(IReadOnlyList<Box> boxes, Frame frame) =>
        boxes.Count == 0
            ? Box.Empty
            : Box.Of(
                boxes.SelectMany(b =>
                    from x in new[] { b.Min.X, b.Max.X }
                    from y in new[] { b.Min.Y, b.Max.Y }
                    from z in new[] { b.Min.Z, b.Max.Z }
                    select frame.Point(new Vec3(x, y, z))
                )
            );

    private List<(string, double, double, string)> Axes(FrameFacts facts, Frame frame)
    {
        var axes = new List<(string, double, double, string)>();
        foreach (var axis in facts.Axes.Select(a => a.In(frame)))
        {
            double x = X(axis.Start.X),
                y = Y(axis.Start.Y);
            string end = $"{DisplayText.Svg(X(axis.End.X))} {DisplayText.Svg(Y(axis.End.Y))}",
                from = $"M{DisplayText.Svg(x)} {DisplayText.Svg(y)}";
            // The longer way round does not occur among axes that people draw.
            axes.Add(
                (
                    axis.Centre is { } c
                        ? $"{from}A{DisplayText.Svg(axis.Radius * _scale)} {DisplayText.Svg(axis.Radius * _scale)} 0 0 {((axis.Start - c).Cross(axis.End - c) > 0 ? 0 : 1)} {end}"
                        : $"{from}L{end}",
                    Math.Clamp(x, 10, Width - 10),
                    Math.Clamp(y, 12, Height - 4),
                    axis.Tag
                )
            );
        }

        return axes;
    }
}
