using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Topics;

/// <summary>A view of the combined view as BCF has it, and back; both in metres of the job's frame.</summary>
public static class ViewTranslation
{
    /// <summary>The class of rooms, which are hidden unless a view asks for them.</summary>
    private const string Rooms = "IfcSpace";

    // A camera of BCF has a direction and no point that it looks at: the combined view rotates about one so far away.
    private const double Distance = 10;

    // A plane is level when its direction is within a hundredth of a degree of the vertical.
    private const double Level = 1 - 1.5e-8;

    /// <summary>Reads a viewpoint.</summary>
    /// <param name="view">The viewpoint, in the job's frame.</param>
    /// <remarks>Level planes become the heights between which the building is shown, of several the nearest; others are planes.</remarks>
    public static ViewDocument ToDocument(ViewInfo view)
    {
        var camera = view.Perspective ?? view.Orthogonal;
        var direction = camera is null || camera.Direction == Vec3.Zero ? -Vec3.AxisZ : camera.Direction.Unit();
        var exceptions = view.Visibility?.Exceptions.Select(Id).OfType<string>().ToList() ?? [];
        bool all = view.Visibility is not { } visibility || visibility.Default == true;
        var planes = view.ClippingPlanes.Where(p => p.Direction != Vec3.Zero).ToLookup(p => IsLevel(p.Direction));
        return new ViewDocument
        {
            Eye = camera is null ? null : Numbers(camera.ViewPoint),
            At = camera is null ? null : Numbers(camera.ViewPoint + (direction * Distance)),
            Up = camera is null || camera.Up == Vec3.Zero ? null : Numbers(camera.Up.Unit()),
            Degrees = view.Perspective?.Extent,
            Height = view.Perspective is null ? view.Orthogonal?.Extent : null,
            Cut = Heights([.. planes[true]]),
            Planes =
            [
                .. planes[false]
                    .Take(ViewDocument.MostPlanes)
                    .Select(p => (IReadOnlyList<double>)[.. Numbers(p.Location), .. Numbers(p.Direction.Unit())]),
            ],
            Off = new ViewOff { Class = view.Visibility?.Hints?.Spaces == true ? [] : [Rooms] },
            Hidden = all ? exceptions : [],
            Only = all ? null : exceptions,
            Picked = [.. view.Selection.Select(Id).OfType<string>()],
            Colours =
            [
                .. view
                    .Colouring.Where(c => c.Colour is { Length: 6 or 8 })
                    .Select(c => new ViewPaint(c.Colour![^6..], [.. c.Components.Select(Id).OfType<string>()])),
            ],
        };
    }

    /// <summary>Writes a viewpoint.</summary>
    /// <param name="guid">Its GUID.</param>
    /// <param name="view">What the combined view shows.</param>
    /// <param name="all">Whether elements are shown that are not named.</param>
    /// <param name="exceptions">GlobalIds of those that are the other way round.</param>
    /// <param name="aspect">Width of the picture by its height; null where it is not known.</param>
    /// <exception cref="ArgumentException">The view has no camera.</exception>
    public static ViewInfo FromDocument(
        string guid,
        ViewDocument view,
        bool all,
        IReadOnlyList<string> exceptions,
        double? aspect
    )
    {
        if (view is not { Eye: [var ex, var ey, var ez], At: [var ax, var ay, var az] })
            throw new ArgumentException("A viewpoint has a camera.", nameof(view));
        var eye = new Vec3(ex, ey, ez);
        var direction = new Vec3(ax, ay, az) - eye;
        direction = direction == Vec3.Zero ? -Vec3.AxisZ : direction.Unit();
        var camera = new ViewCamera(
            eye,
            direction,
            Upward(direction, view.Up is [var ux, var uy, var uz] ? new Vec3(ux, uy, uz) : Vec3.AxisZ),
            view.Height ?? view.Degrees ?? ViewDocument.UsualDegrees,
            aspect
        );
        return new ViewInfo
        {
            Guid = guid,
            Perspective = view.Height is null ? camera : null,
            Orthogonal = view.Height is null ? null : camera,
            ClippingPlanes = [.. Planes(view)],
            Selection = [.. view.Picked.Select(Component)],
            Visibility = new ViewVisibility(
                all,
                [.. exceptions.Select(Component)],
                new ViewHints(!view.Off.Class.Contains(Rooms), false, false)
            ),
            Colouring = [.. view.Colours.Select(c => new ViewColour(c.Colour, [.. c.Elements.Select(Component)]))],
        };
    }

    private static IEnumerable<(Vec3 Location, Vec3 Direction)> Planes(ViewDocument view)
    {
        if (view.Cut is [var low, var high])
        {
            yield return (new Vec3(0, 0, low), -Vec3.AxisZ);
            yield return (new Vec3(0, 0, high), Vec3.AxisZ);
        }

        foreach (var plane in view.Planes)
            if (plane is [var x, var y, var z, var dx, var dy, var dz])
                yield return (new Vec3(x, y, z), new Vec3(dx, dy, dz));
    }

    // The part of up that is square to where the camera looks; north where it looks straight up or down.
    private static Vec3 Upward(Vec3 direction, Vec3 up)
    {
        foreach (var wish in (ReadOnlySpan<Vec3>)[up, Vec3.AxisY, Vec3.AxisX])
        {
            var square = wish - (direction * wish.Dot(direction));
            if (square.Length > 1e-6)
                return square.Unit();
        }

        return Vec3.AxisZ;
    }

    private static bool IsLevel(Vec3 direction) => Math.Abs(direction.Unit().Z) > Level;

    // What is above the lower planes that face down, and below those that face up.
    private static double[]? Heights(IReadOnlyList<(Vec3 Location, Vec3 Direction)> level)
    {
        if (level.Count == 0)
            return null;
        double low = level.Where(p => p.Direction.Z < 0).Select(p => p.Location.Z).DefaultIfEmpty(-Far).Max(),
            high = level.Where(p => p.Direction.Z > 0).Select(p => p.Location.Z).DefaultIfEmpty(Far).Min();
        return low < high ? [low, high] : null;
    }

    // No building reaches so far: a view that is cut on one side is open on the other.
    private const double Far = 1e5;

    private static string? Id(ViewComponent component) => component.IfcGuid is { Length: > 0 } id ? id : null;

    private static ViewComponent Component(string id) => new(id, null, null);

    private static double[] Numbers(Vec3 p) => [p.X, p.Y, p.Z];
}
