namespace SteadyLintel.Geometry;

/// <summary>A convex flat polygon of a solid's surface.</summary>
internal readonly record struct Facet(Vec3[] Corners, Plane Plane)
{
    public Facet Flipped()
    {
        var corners = Corners.ToArray();
        Array.Reverse(corners);
        return new Facet(corners, Plane.Flipped);
    }
}
