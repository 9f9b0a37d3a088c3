using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>What a drawing draws in model space as segments, for the combined view.</summary>
/// <remarks>Content, little-endian: origin (3 × float64, metres in the job's frame), number of segments (uint32), then for each of them
/// its ends relative to the origin (6 × float32: x, y, z, x, y, z), its colour (uint32: 0xBBGGRR) and its item (uint32: see
/// <see cref="ItemOf"/>). Line types are drawn as dashes. Texts are the base lines of their boxes.</remarks>
public sealed class SheetLines
{
    /// <summary>More segments than a view stays usable with.</summary>
    public const int Most = 500_000;

    private const int Paper = 0xFFFFFF;

    private readonly Frame _frame;
    private readonly List<(Vec3 A, Vec3 B, int Rgb, int Item)> _segments = [];
    private IReadOnlyList<double> _dashes = [];
    private int _item;

    private SheetLines(Frame frame) => _frame = frame;

    /// <summary>The segments of a drawing.</summary>
    /// <param name="drawing">The drawing, prepared.</param>
    /// <param name="frame">From its units into the job's metres.</param>
    public static byte[] Of(Drawing drawing, Frame frame) => Read(drawing, frame, Most).Write();

    /// <summary>The segments of a drawing in plan, metres of the job.</summary>
    /// <param name="drawing">The drawing, prepared.</param>
    /// <param name="frame">From its units into the job's metres.</param>
    /// <param name="most">How many at most.</param>
    public static IReadOnlyList<(Vec2 A, Vec2 B)> InPlan(Drawing drawing, Frame frame, int most) =>
        [.. Read(drawing, frame, most)._segments.Take(most).Select(s => (s.A.XY, s.B.XY))];

    private static SheetLines Read(Drawing drawing, Frame frame, int most)
    {
        var lines = new SheetLines(frame);
        foreach (var shown in Shown(drawing))
        {
            if (lines._segments.Count >= most)
                break;
            lines._dashes = LineDashes.Of(drawing, shown.Entity, shown.Layer);
            lines.Add(shown);
            lines._item++;
        }

        return lines;
    }

    /// <summary>What a segment's item is.</summary>
    /// <param name="drawing">The drawing, prepared as it was for the lines.</param>
    /// <param name="number">The item.</param>
    /// <returns>Null for a number that no segment has.</returns>
    public static SheetItem? ItemOf(Drawing drawing, int number) =>
        number < 0 ? null : Shown(drawing).Skip(number).Take(1).Select(s => SheetItem.Of(drawing, s)).FirstOrDefault();

    private static IEnumerable<ShownEntity> Shown(Drawing drawing) =>
        ShownEntities
            .Of(drawing, drawing.Model, pictures: true)
            .Where(s => drawing.Layers[s.Layer] is not { } layer || (layer.On && !layer.Frozen));

    private byte[] Write()
    {
        using var stream = new MemoryStream();
        using var writer = new BinaryWriter(stream);
        var origin = (_segments.Count == 0 ? _frame.Origin : _segments[0].A) with { Z = _frame.Origin.Z };
        writer.Write(origin.X);
        writer.Write(origin.Y);
        writer.Write(origin.Z);
        writer.Write((uint)_segments.Count);
        foreach (var (a, b, rgb, item) in _segments)
        {
            foreach (var p in (Vec3[])[a - origin, b - origin])
            foreach (double v in (double[])[p.X, p.Y, p.Z])
                writer.Write((float)v);
            writer.Write(((rgb & 0xFF) << 16) | (rgb & 0xFF00) | (rgb >> 16));
            writer.Write((uint)item);
        }

        return stream.ToArray();
    }

    private void Add(ShownEntity shown)
    {
        var (entity, at, _, colour, _) = shown;
        switch (entity)
        {
            case MultiLeader leader:
                foreach (var path in leader.Context.Paths())
                    Path([.. path.Select(at.Apply)], false, colour);
                break;
            case Hatch hatch:
                foreach (var loop in HatchArea.Loops(hatch, at))
                    Path(loop, true, colour);
                break;
            case Solid solid:
                Path(
                    [
                        .. new[] { 0, 1, 3, 2 }.Select(i =>
                            at.Apply(ObjectCoordinates.ToWorld(solid.Corners[i], solid.Normal))
                        ),
                    ],
                    true,
                    colour
                );
                break;
            case TextEntity text:
                Base(TextReach.Of(text), at, colour);
                break;
            case MText text:
                Base(TextReach.Of(text), at, colour);
                break;
            case Viewport:
                break;
            default:
                Path([.. EntityPoints.Of(entity).Select(at.Apply)], EntityPoints.IsClosed(entity), colour);
                break;
        }
    }

    private void Base(Vec3[] corners, InsertTransform at, int colour) =>
        Path([at.Apply(corners[0]), at.Apply(corners[1])], false, colour);

    // A plan lies flat at its height, whatever heights it was drawn with.
    private Vec3 Placed(Vec3 p) => _frame.Point(p with { Z = 0 });

    private void Path(Vec3[] points, bool closed, int colour)
    {
        int rgb = colour == Paper ? ShownEntities.Ink : colour;
        Vec3[] path = closed && points.Length > 0 ? [.. points, points[0]] : points;
        foreach (var (a, b) in LineDashes.Along(path, _dashes).Take(Most - _segments.Count))
            _segments.Add((Placed(a), Placed(b), rgb, _item));
    }
}
