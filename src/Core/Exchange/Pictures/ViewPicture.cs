using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What a view shows of some models, as a picture: for views that no browser has shown.</summary>
/// <remarks>Camera, heights and elements are those of the view; what it names as switched off by storey or layer is shown.</remarks>
public static class ViewPicture
{
    private const double Near = 0.05;

    private static readonly Colour Paper = new(0xF4, 0xEF, 0xE6, 255),
        Picked = new(0xF7, 0xDB, 0x1F, 255);

    /// <summary>Draws a view.</summary>
    /// <param name="view">The view, with a camera.</param>
    /// <param name="models">The models, each with its frame into the job's and its colour.</param>
    /// <param name="width">Width of the picture, points.</param>
    /// <param name="height">Height of the picture, points.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="ArgumentException">The view has no camera.</exception>
    public static Raster Of(
        ViewDocument view,
        IEnumerable<(ModelSnapshot Model, Frame Frame, Colour Colour)> models,
        int width,
        int height,
        CancellationToken cancel = default
    )
    {
        var camera = Camera.Of(view, height);
        var picture = new PaintedRaster(width, height, Paper);
        var picked = view.Picked.ToHashSet(StringComparer.Ordinal);
        var hidden = view.Hidden.ToHashSet(StringComparer.Ordinal);
        var only = view.Only?.ToHashSet(StringComparer.Ordinal);
        foreach (var (model, frame, colour) in models)
        {
            var ids = new Dictionary<int, string>();
            var shown = model
                .Elements.Where(e =>
                    !model.Model.Is(e.Index, "IfcSpace") && !model.Model.Is(e.Index, "IfcOpeningElement")
                )
                .ToList();
            model.ForEachShape(
                shown,
                (element, shape) =>
                {
                    cancel.ThrowIfCancellationRequested();
                    if (hidden.Contains(element.GlobalId) || only?.Contains(element.GlobalId) == false)
                        return;
                    foreach (var part in shape?.Parts ?? [])
                        Paint(
                            picture,
                            camera,
                            part.Mesh.Map(frame.Compose(shape!.World.Compose(part.Frame))),
                            picked.Contains(element.GlobalId) ? Picked : colour,
                            view.Cut,
                            width,
                            height
                        );
                },
                cancel: cancel
            );
        }

        return picture.Raster();
    }

    private static void Paint(
        PaintedRaster picture,
        Camera camera,
        Mesh mesh,
        Colour colour,
        IReadOnlyList<double>? cut,
        int width,
        int height
    )
    {
        Span<float> seen = stackalloc float[9];
        for (int t = 0; t < mesh.TriangleCount; t++)
        {
            Vec3 a = mesh.Points[mesh.Triangles[3 * t]],
                b = mesh.Points[mesh.Triangles[(3 * t) + 1]],
                c = mesh.Points[mesh.Triangles[(3 * t) + 2]];
            // Triangles that reach beyond the cut are left out whole; this is a picture to recognise a place by.
            if (
                cut is [var low, var high]
                && (Math.Min(a.Z, Math.Min(b.Z, c.Z)) < low || Math.Max(a.Z, Math.Max(b.Z, c.Z)) > high)
            )
                continue;
            if (camera.See(a, seen) && camera.See(b, seen[3..]) && camera.See(c, seen[6..]))
                picture.Fill(
                    seen,
                    PaintedRaster.Finer,
                    width * PaintedRaster.Finer / 2.0,
                    height * PaintedRaster.Finer / 2.0,
                    PaintedRaster.Pack(colour, PaintedRaster.Brightness(a, b, c))
                );
        }
    }

    // Right, up and back of a camera, and the points of the picture for a metre: in perspective at one metre before the eye.
    private readonly record struct Camera(Vec3 Eye, Vec3 Right, Vec3 Up, Vec3 Ahead, double Scale, bool Parallel)
    {
        public static Camera Of(ViewDocument view, int height)
        {
            if (view is not { Eye: [var ex, var ey, var ez], At: [var ax, var ay, var az] })
                throw new ArgumentException("A picture needs a camera.", nameof(view));
            var eye = new Vec3(ex, ey, ez);
            var ahead = (new Vec3(ax, ay, az) - eye).Unit();
            var wish = view.Up is [var ux, var uy, var uz] ? new Vec3(ux, uy, uz) : Vec3.AxisZ;
            if (ahead.Cross(wish).Length < 1e-6)
                wish = Vec3.AxisY;
            var right = ahead.Cross(wish).Unit();
            return new Camera(
                eye,
                right,
                right.Cross(ahead),
                ahead,
                view.Height is { } high
                    ? height / high
                    : height / (2 * Math.Tan((view.Degrees ?? ViewDocument.UsualDegrees) * Math.PI / 360)),
                view.Height is not null
            );
        }

        // Points to the right and upward from the middle, and how near; false for what is behind the eye.
        public bool See(Vec3 p, Span<float> seen)
        {
            var from = p - Eye;
            double far = from.Dot(Ahead);
            if (!Parallel && far < Near)
                return false;
            double scale = Parallel ? Scale : Scale / far;
            (seen[0], seen[1], seen[2]) = (
                (float)(from.Dot(Right) * scale),
                (float)(from.Dot(Up) * scale),
                // What is twice as far counts half: straight lines remain straight in depth too.
                (float)(Parallel ? -far : 1 / far)
            );
            return true;
        }
    }
}
