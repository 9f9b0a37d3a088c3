using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>How far a text can reach: a bound, for its font is with whoever wrote it. Letters are taken to be no wider than they are high,
/// and lines to lie 5/3 of that apart (DXF reference, MTEXT).</summary>
internal static class TextReach
{
    private const double LineGap = 5 / 3.0,
        Below = 0.4;

    /// <summary>The corners around a text, in world coordinates.</summary>
    public static Vec3[] Of(TextEntity e)
    {
        double width = Math.Max(1, e.Value.Length) * e.Height * Math.Max(0.01, Math.Abs(e.Width)),
            h = e.Height;
        bool second = e.Horizontal != 0 || e.Vertical != 0;
        var at = second && e.Alignment != Vec3.Zero ? e.Alignment : e.Insertion;
        double from = e.Horizontal switch
        {
            0 => 0,
            2 => -width,
            _ => -width / 2,
        };
        double low = e.Vertical switch
        {
            2 => -h / 2,
            3 => -h,
            _ => 0,
        };
        if (e.Horizontal is 3 or 5)
        {
            // Fitted between two points.
            (at, from, width) = (e.Insertion, 0, Math.Max((e.Alignment - e.Insertion).Length, h));
        }

        double c = Math.Cos(e.Rotation),
            s = Math.Sin(e.Rotation);
        return Corners(
            (x, y) => ObjectCoordinates.ToWorld(at + new Vec3((x * c) - (y * s), (x * s) + (y * c), 0), e.Normal),
            from,
            from + width,
            low - (Below * h),
            low + h + (Below * h)
        );
    }

    /// <summary>The corners around paragraphs, in world coordinates.</summary>
    public static Vec3[] Of(MText e)
    {
        string[] lines = PlainText.OfMText(e.Value).Split('\n');
        double letters = lines.Max(l => l.Length) * e.Height;
        double width = Math.Max(e.Seen.Width, e.Width > 0 ? Math.Max(e.Width, e.Height) : letters);
        int rows =
            e.Width > 0
                ? lines.Sum(l => Math.Max(1, (int)Math.Ceiling(l.Length * e.Height / Math.Max(e.Width, e.Height))))
                : lines.Length;
        double height = Math.Max(e.Seen.Height, rows * e.Height * LineGap);
        // Attachment 1 … 9: top left, top centre … bottom right.
        int column = (Math.Clamp(e.Attachment, 1, 9) - 1) % 3,
            row = (Math.Clamp(e.Attachment, 1, 9) - 1) / 3;
        Vec3 x = e.Direction.Unit(),
            y = e.Normal.Unit().Cross(x);
        double from = -width * column / 2,
            top = height * row / 2;
        return Corners((a, b) => e.Insertion + (x * a) + (y * b), from, from + width, top - height, top);
    }

    private static Vec3[] Corners(Func<double, double, Vec3> at, double x0, double x1, double y0, double y1) =>
        [at(x0, y0), at(x1, y0), at(x1, y1), at(x0, y1)];
}
