namespace SteadyLintel.Geometry;

/// <summary>A parametric surface (ISO 10303-42 surface). Angles are radians, lengths metres.</summary>
public abstract class Surface
{
    /// <summary>The period in u, 0 when the surface does not close that way.</summary>
    public virtual double PeriodU => 0;

    /// <summary>The period in v, 0 when the surface does not close that way.</summary>
    public virtual double PeriodV => 0;

    /// <summary>The parameters the surface has in all: from and to in u, from and to in v; infinite where it has no end.</summary>
    public virtual (double FromU, double ToU, double FromV, double ToV) Domain =>
        (double.NegativeInfinity, double.PositiveInfinity, double.NegativeInfinity, double.PositiveInfinity);

    /// <summary>The point at parameters.</summary>
    /// <param name="u">The first parameter: metres, or radians about an axis.</param>
    /// <param name="v">The second, likewise.</param>
    public abstract Vec3 Point(double u, double v);

    /// <summary>The parameters of the point of the surface nearest to a point.</summary>
    /// <param name="p">A point on the surface, or close to it.</param>
    /// <param name="near">Parameters found for a point close by: where to look first.</param>
    public abstract Vec2 Uv(Vec3 p, Vec2? near);

    /// <summary>Whether all u are one point at this v: a pole.</summary>
    /// <param name="v">The second parameter.</param>
    public virtual bool IsPole(double v) => false;
}
