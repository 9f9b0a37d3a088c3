using SteadyLintel.Cad;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>A picture of points.</summary>
/// <param name="Width">Its width, points.</param>
/// <param name="Height">Its height, points.</param>
/// <param name="Rgb">Red, green and blue of each point, row by row from the upper left corner.</param>
public sealed record Raster(int Width, int Height, byte[] Rgb);

/// <summary>A small picture of a model, seen from the south-east and above in parallel projection, in the colours that its file
/// gives.</summary>
/// <remarks>Rooms and what has no body are not shown. The nearest triangle wins at each point (depth buffer); faces are as bright as
/// they are turned to the light. Memory is bounded: beyond <see cref="MostTriangles"/> elements are shown as their boxes.</remarks>
public sealed class ModelPicture
{
    /// <summary>Triangles beyond which elements are shown as boxes.</summary>
    public const int MostTriangles = 1_500_000;

    private const double Margin = 0.04;

    private static readonly Vec3 Toward = new Vec3(0.62, -0.95, 0.62).Unit();
    private static readonly Vec3 Right = Vec3.AxisZ.Cross(Toward).Unit();
    private static readonly Vec3 Up = Toward.Cross(Right);
    private static readonly Colour Paper = new(0xF4, 0xEF, 0xE6, 255),
        Plain = new(0xB9, 0xB4, 0xA6, 255);

    private readonly List<float[]> _corners = [];
    private readonly List<Colour> _colours = [];
    private int _triangles;

    // Corners count from the first of all: single precision keeps millimetres near it, and none far from the origin.
    private Vec3? _from;

    /// <summary>Draws a model.</summary>
    /// <param name="model">The model.</param>
    /// <param name="width">Width of the picture, points.</param>
    /// <param name="height">Height of the picture, points.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The picture; null where nothing has a body.</returns>
    public static Raster? Of(ModelSnapshot model, int width, int height, CancellationToken cancel = default)
    {
        var picture = new ModelPicture();
        model.ForEachShape(
            [
                .. model.Elements.Where(e =>
                    !model.Model.Is(e.Index, "IfcSpace") && !model.Model.Is(e.Index, "IfcOpeningElement")
                ),
            ],
            (_, shape) => picture.Add(shape),
            cancel: cancel
        );
        return picture._triangles == 0 ? null : picture.Draw(width, height, cancel);
    }

    /// <summary>Draws the bodies in model space of a drawing.</summary>
    /// <param name="drawing">The drawing.</param>
    /// <param name="width">Width of the picture, points.</param>
    /// <param name="height">Height of the picture, points.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The picture; null where nothing has a body.</returns>
    public static Raster? Of(Drawing drawing, int width, int height, CancellationToken cancel = default)
    {
        var picture = new ModelPicture();
        var bodies = new BodyMeshes(drawing, 1);
        foreach (var entity in drawing.Model.Entities)
        {
            cancel.ThrowIfCancellationRequested();
            int rgb = entity.Colour.Seen ?? drawing.Layers[entity.Layer]?.Colour.Seen ?? 0xFFFFFF;
            var colour = rgb == 0xFFFFFF ? Plain : new Colour((byte)(rgb >> 16), (byte)(rgb >> 8), (byte)rgb, 255);
            foreach (var mesh in bodies.Of(entity))
                picture.Add(mesh, Frame.Identity, colour);
        }

        return picture._triangles == 0 ? null : picture.Draw(width, height, cancel);
    }

    private void Add(Shape? shape)
    {
        foreach (var part in shape?.Parts.SelectMany(p => p.ByColour()) ?? [])
            Add(part.Mesh, shape!.World.Compose(part.Frame), part.Colour.A == 0 ? Plain : part.Colour);
    }

    private void Add(Mesh whole, Frame placed, Colour colour)
    {
        var mesh = whole.TriangleCount + _triangles > MostTriangles ? BoxOf(whole) : whole;
        if (mesh.TriangleCount == 0)
            return;
        _corners.Add(Seen(mesh.Map(placed)));
        _colours.Add(colour);
        _triangles += mesh.TriangleCount;
    }

    // Right, up and toward the viewer of each corner, then the brightness, ten numbers a triangle.
    private float[] Seen(Mesh mesh)
    {
        var from = _from ??= mesh.Points[mesh.Triangles[0]];
        var seen = new float[mesh.TriangleCount * 10];
        for (int t = 0, at = 0; t < mesh.TriangleCount; t++)
        {
            Vec3 a = mesh.Points[mesh.Triangles[3 * t]],
                b = mesh.Points[mesh.Triangles[(3 * t) + 1]],
                c = mesh.Points[mesh.Triangles[(3 * t) + 2]];
            foreach (var p in (ReadOnlySpan<Vec3>)[a, b, c])
            {
                seen[at++] = (float)(p - from).Dot(Right);
                seen[at++] = (float)(p - from).Dot(Up);
                seen[at++] = (float)(p - from).Dot(Toward);
            }

            seen[at++] = PaintedRaster.Brightness(a, b, c);
        }

        return seen;
    }

    private static Mesh BoxOf(Mesh mesh)
    {
        if (mesh.Points.Length == 0)
            return Mesh.Empty;
        var box = mesh.Bounds();
        Vec3[] corners =
        [
            .. Enumerable
                .Range(0, 8)
                .Select(n => new Vec3(
                    (n & 1) == 0 ? box.Min.X : box.Max.X,
                    (n & 2) == 0 ? box.Min.Y : box.Max.Y,
                    (n & 4) == 0 ? box.Min.Z : box.Max.Z
                )),
        ];
        return new Mesh(
            corners,
            [0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5]
        );
    }

    private Raster Draw(int width, int height, CancellationToken cancel)
    {
        var (left, low, right, high) = Bounds();
        int w = width * PaintedRaster.Finer,
            h = height * PaintedRaster.Finer;
        double scale = Math.Min(
            w * (1 - (2 * Margin)) / Math.Max(right - left, 1e-6),
            h * (1 - (2 * Margin)) / Math.Max(high - low, 1e-6)
        );
        double x0 = (w / 2.0) - ((left + right) / 2 * scale),
            y0 = (h / 2.0) + ((low + high) / 2 * scale);
        var picture = new PaintedRaster(width, height, Paper);
        for (int part = 0; part < _corners.Count; part++)
        {
            cancel.ThrowIfCancellationRequested();
            var seen = _corners[part];
            for (int at = 0; at < seen.Length; at += 10)
                picture.Fill(seen.AsSpan(at, 9), scale, x0, y0, PaintedRaster.Pack(_colours[part], seen[at + 9]));
        }

        return picture.Raster();
    }

    private (double Left, double Low, double Right, double High) Bounds()
    {
        var (left, low, right, high) = (double.MaxValue, double.MaxValue, double.MinValue, double.MinValue);
        foreach (var seen in _corners)
        {
            for (int at = 0; at < seen.Length; at++)
            {
                // Nine coordinates and the brightness: 0, 3, 6 are to the right, 1, 4, 7 upward.
                int n = at % 10;
                if (n == 9)
                    continue;
                if (n % 3 == 0)
                    (left, right) = (Math.Min(left, seen[at]), Math.Max(right, seen[at]));
                else if (n % 3 == 1)
                    (low, high) = (Math.Min(low, seen[at]), Math.Max(high, seen[at]));
            }
        }

        return (left, low, right, high);
    }
}
