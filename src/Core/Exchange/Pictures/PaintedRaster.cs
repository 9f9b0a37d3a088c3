using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>A picture that triangles are painted on: the nearest wins at each point (depth buffer), and each point of the picture is the
/// mean of some.</summary>
internal sealed class PaintedRaster
{
    /// <summary>Each point is the mean of so many by so many.</summary>
    public const int Finer = 2;

    private static readonly Vec3 Light = new Vec3(0.25, -0.6, 0.8).Unit();

    private readonly int _width,
        _height;
    private readonly float[] _depth;
    private readonly int[] _colour;

    /// <summary>An empty picture.</summary>
    /// <param name="width">Its width, points.</param>
    /// <param name="height">Its height, points.</param>
    /// <param name="paper">What is behind everything.</param>
    public PaintedRaster(int width, int height, Colour paper)
    {
        (_width, _height) = (width, height);
        (_depth, _colour) = (new float[width * height * Finer * Finer], new int[width * height * Finer * Finer]);
        Array.Fill(_depth, float.NegativeInfinity);
        Array.Fill(_colour, Pack(paper, 1));
    }

    /// <summary>How bright a face is: as much as it is turned to the light. Faces that are turned away are seen through openings of
    /// open bodies, and are lit like the others.</summary>
    /// <param name="a">A corner.</param>
    /// <param name="b">The next.</param>
    /// <param name="c">The last.</param>
    public static float Brightness(Vec3 a, Vec3 b, Vec3 c)
    {
        var normal = (b - a).Cross(c - a);
        double length = normal.Length;
        return length == 0 ? 0 : (float)(0.55 + (0.45 * Math.Abs(normal.Dot(Light)) / length));
    }

    /// <summary>A colour of a brightness.</summary>
    public static int Pack(Colour c, float bright) =>
        ((int)(c.R * bright) << 16) | ((int)(c.G * bright) << 8) | (int)(c.B * bright);

    /// <summary>Paints a triangle.</summary>
    /// <param name="p">To the right, upward and toward the viewer of each corner.</param>
    /// <param name="scale">Points of the finer picture for one of those.</param>
    /// <param name="x0">Where 0 to the right is, points of the finer picture.</param>
    /// <param name="y0">Where 0 upward is, points of the finer picture from above.</param>
    /// <param name="paint">The colour.</param>
    public void Fill(ReadOnlySpan<float> p, double scale, double x0, double y0, int paint)
    {
        int w = _width * Finer,
            h = _height * Finer;
        double ax = x0 + (p[0] * scale),
            ay = y0 - (p[1] * scale),
            bx = x0 + (p[3] * scale),
            by = y0 - (p[4] * scale);
        double cx = x0 + (p[6] * scale),
            cy = y0 - (p[7] * scale),
            area = ((bx - ax) * (cy - ay)) - ((by - ay) * (cx - ax));
        // Edge-on, or not a number.
        if (!(Math.Abs(area) > 1e-9))
            return;
        int top = Math.Max(0, (int)Math.Floor(Math.Min(ay, Math.Min(by, cy)))),
            bottom = Math.Min(h - 1, (int)Math.Ceiling(Math.Max(ay, Math.Max(by, cy))));
        int from = Math.Max(0, (int)Math.Floor(Math.Min(ax, Math.Min(bx, cx)))),
            to = Math.Min(w - 1, (int)Math.Ceiling(Math.Max(ax, Math.Max(bx, cx))));
        for (int y = top; y <= bottom; y++)
        {
            for (int x = from; x <= to; x++)
            {
                double px = x + 0.5,
                    py = y + 0.5;
                double u = (((bx - px) * (cy - py)) - ((by - py) * (cx - px))) / area,
                    v = (((cx - px) * (ay - py)) - ((cy - py) * (ax - px))) / area;
                if (u < 0 || v < 0 || u + v > 1)
                    continue;
                float z = (float)((p[2] * u) + (p[5] * v) + (p[8] * (1 - u - v)));
                int n = (y * w) + x;
                if (z <= _depth[n])
                    continue;
                (_depth[n], _colour[n]) = (z, paint);
            }
        }
    }

    /// <summary>The picture.</summary>
    public Raster Raster()
    {
        var rgb = new byte[_width * _height * 3];
        for (int n = 0; n < _width * _height; n++)
        {
            int x = n % _width * Finer,
                y = n / _width * Finer;
            for (int shift = 16, k = 0; shift >= 0; shift -= 8, k++)
            {
                int sum = 0;
                for (int i = 0; i < Finer * Finer; i++)
                    sum += (_colour[((y + (i / Finer)) * _width * Finer) + x + (i % Finer)] >> shift) & 255;
                rgb[(3 * n) + k] = (byte)(sum / (Finer * Finer));
            }
        }

        return new Raster(_width, _height, rgb);
    }
}
