using SteadyLintel.Geometry;

namespace SteadyLintel.Topics;

/// <summary>Moves a view from one frame into another: what a source's own program sees becomes what the job sees, and back.</summary>
public static class ViewMove
{
    /// <summary>The same view in another frame.</summary>
    /// <param name="view">The view, metres.</param>
    /// <param name="frame">From the view's frame into the other; its axes may be longer than 1, all by the same factor.</param>
    public static ViewInfo Into(ViewInfo view, Frame frame)
    {
        if (frame == Frame.Identity)
            return view;
        double scale = frame.X.Length;
        return view with
        {
            Perspective = view.Perspective is { } eye ? Moved(eye, frame, 1) : null,
            Orthogonal = view.Orthogonal is { } flat ? Moved(flat, frame, scale) : null,
            Lines = [.. view.Lines.Select(l => (frame.Point(l.Start), frame.Point(l.End)))],
            ClippingPlanes =
            [
                .. view.ClippingPlanes.Select(p => (frame.Point(p.Location), Turned(p.Direction, frame))),
            ],
            Bitmaps =
            [
                .. view.Bitmaps.Select(b =>
                    b with
                    {
                        Location = frame.Point(b.Location),
                        Normal = Turned(b.Normal, frame),
                        Up = Turned(b.Up, frame),
                        Height = b.Height * scale,
                    }
                ),
            ],
        };
    }

    private static ViewCamera Moved(ViewCamera camera, Frame frame, double scale) =>
        camera with
        {
            ViewPoint = frame.Point(camera.ViewPoint),
            Direction = Turned(camera.Direction, frame),
            Up = Turned(camera.Up, frame),
            Extent = camera.Extent * scale,
        };

    // Directions have no length that means anything: 1 says so.
    private static Vec3 Turned(Vec3 direction, Frame frame) =>
        direction == Vec3.Zero ? direction : frame.Direction(direction).Unit();
}
