using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Path data of SVG in whole steps of a grid, each point distinguished from the one before: short, and nothing adds up.</summary>
/// <param name="corner">The lower left corner of the picture; y runs down from it.</param>
/// <param name="unit">How long a step is.</param>
internal sealed class PicturePath(Vec2 corner, double unit)
{
    private readonly StringBuilder _data = new();
    private long _x,
        _y,
        _left = long.MaxValue,
        _top = long.MaxValue,
        _right = long.MinValue,
        _bottom = long.MinValue;
    private double _largest;

    /// <summary>The data.</summary>
    public StringBuilder Data => _data;

    /// <summary>Attributes that tell the box of the path in steps, and the size of the largest thing in it.</summary>
    public string Bounds =>
        FormattableString.Invariant(
            $"data-box=\"{_left} {_top} {_right} {_bottom}\" data-size=\"{Math.Ceiling(_largest / unit)}\""
        );

    /// <summary>Notes the box of something that is drawn with this path.</summary>
    /// <param name="box">The box.</param>
    /// <param name="size">How large it is to the eye; the longer side of the box where it is not given.</param>
    public void Cover(Box box, double? size = null)
    {
        var (left, bottom) = Step(box.Min);
        var (right, top) = Step(box.Max);
        (_left, _top, _right, _bottom) = (
            Math.Min(_left, left),
            Math.Min(_top, top),
            Math.Max(_right, right),
            Math.Max(_bottom, bottom)
        );
        _largest = Math.Max(_largest, size ?? Math.Max(box.Size.X, box.Size.Y));
    }

    /// <summary>Begins at a point.</summary>
    public void Move(Vec3 p)
    {
        (_x, _y) = Step(p);
        _data.Append('M').Append(_x).Append(' ').Append(_y);
    }

    /// <summary>Goes on to a point.</summary>
    public void Line(Vec3 p)
    {
        _data.Append('l');
        To(p);
    }

    /// <summary>Goes on to a point over an arc of a circle.</summary>
    /// <param name="p">The point.</param>
    /// <param name="radius">The circle's radius.</param>
    /// <param name="large">Whether it is the longer of the two ways.</param>
    /// <param name="clockwise">Whether it turns clockwise as seen.</param>
    public void Arc(Vec3 p, double radius, bool large, bool clockwise)
    {
        double steps = Math.Round(radius / unit, 2);
        _data
            .Append('a')
            .Append(
                System.Globalization.CultureInfo.InvariantCulture,
                $"{steps} {steps} 0 {(large ? 1 : 0)} {(clockwise ? 1 : 0)} "
            );
        To(p);
    }

    /// <summary>Goes back to where it began.</summary>
    public void Close() => _data.Append('Z');

    private void To(Vec3 p)
    {
        var (x, y) = Step(p);
        _data.Append(x - _x).Append(' ').Append(y - _y);
        (_x, _y) = (x, y);
    }

    // What lies beyond all numbers of a picture ends at its edge.
    private (long X, long Y) Step(Vec3 p) => (Whole(p.X - corner.X), Whole(corner.Y - p.Y));

    private long Whole(double value) => (long)Math.Clamp(Math.Round(value / unit), -1e15, 1e15);
}
