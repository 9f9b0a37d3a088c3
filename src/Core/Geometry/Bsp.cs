using System.Runtime.CompilerServices;

namespace SteadyLintel.Geometry;

/// <summary>A binary space partition of a solid: splits facets by the solid's own planes into those inside and those outside it.</summary>
/// <remarks>The method is that of Naylor, Amanatides and Thibault, "Merging BSP trees yields polyhedral set operations" (1990), in its
/// simple polygon-clipping form.</remarks>
internal sealed class Bsp
{
    /// <summary>Points nearer to a plane than this, in metres, lie in it.</summary>
    public const double Thickness = 1e-7;

    private readonly List<Facet> _facets = [];
    private Plane? _plane;
    private Bsp? _front;
    private Bsp? _back;

    public Bsp() { }

    public Bsp(List<Facet> facets) => Add(facets);

    public List<Facet> All()
    {
        var all = new List<Facet>();
        Collect(all);
        return all;
    }

    public void Invert()
    {
        RuntimeHelpers.EnsureSufficientExecutionStack();
        for (int i = 0; i < _facets.Count; i++)
            _facets[i] = _facets[i].Flipped();
        _plane = _plane?.Flipped;
        _front?.Invert();
        _back?.Invert();
        (_front, _back) = (_back, _front);
    }

    /// <summary>Takes away whatever of this tree's facets lies inside the other solid.</summary>
    /// <param name="other">The solid, in the same frame.</param>
    public void ClipTo(Bsp other)
    {
        RuntimeHelpers.EnsureSufficientExecutionStack();
        var kept = other.Clip(_facets);
        _facets.Clear();
        _facets.AddRange(kept);
        _front?.ClipTo(other);
        _back?.ClipTo(other);
    }

    public void Add(List<Facet> facets)
    {
        if (facets.Count == 0)
            return;
        RuntimeHelpers.EnsureSufficientExecutionStack();
        int first = 0;
        if (_plane is null)
        {
            _plane = facets[0].Plane;
            // It lies in its own plane, whatever rounding says: each level takes one at least.
            _facets.Add(facets[0]);
            first = 1;
        }

        List<Facet> front = [],
            back = [];
        for (int i = first; i < facets.Count; i++)
            Split(_plane.Value, facets[i], _facets, _facets, front, back);
        if (front.Count > 0)
            (_front ??= new Bsp()).Add(front);
        if (back.Count > 0)
            (_back ??= new Bsp()).Add(back);
    }

    private void Collect(List<Facet> all)
    {
        RuntimeHelpers.EnsureSufficientExecutionStack();
        all.AddRange(_facets);
        _front?.Collect(all);
        _back?.Collect(all);
    }

    private List<Facet> Clip(List<Facet> facets)
    {
        if (_plane is null)
            return [.. facets];
        RuntimeHelpers.EnsureSufficientExecutionStack();
        List<Facet> front = [],
            back = [];
        foreach (var facet in facets)
            Split(_plane.Value, facet, front, back, front, back);
        if (_front is not null)
            front = _front.Clip(front);
        back = _back is null ? [] : _back.Clip(back);
        front.AddRange(back);
        return front;
    }

    private static void Split(
        Plane plane,
        Facet facet,
        List<Facet> sameWay,
        List<Facet> otherWay,
        List<Facet> front,
        List<Facet> back
    )
    {
        bool ahead = false,
            behind = false;
        WorkBudget.Spend(1);
        foreach (var p in facet.Corners)
        {
            double d = plane.Distance(p);
            ahead |= d > Thickness;
            behind |= d < -Thickness;
        }

        if (!ahead && !behind)
            (plane.Normal.Dot(facet.Plane.Normal) > 0 ? sameWay : otherWay).Add(facet);
        else if (!behind)
            front.Add(facet);
        else if (!ahead)
            back.Add(facet);
        else
            Cut(plane, facet, front, back);
    }

    private static void Cut(Plane plane, Facet facet, List<Facet> front, List<Facet> back)
    {
        WorkBudget.Spend(16);
        List<Vec3> ahead = [],
            behind = [];
        var corners = facet.Corners;
        for (int i = 0; i < corners.Length; i++)
        {
            Vec3 a = corners[i],
                b = corners[(i + 1) % corners.Length];
            double da = plane.Distance(a),
                db = plane.Distance(b);
            if (da >= -Thickness)
                ahead.Add(a);
            if (da <= Thickness)
                behind.Add(a);
            if ((da > Thickness && db < -Thickness) || (da < -Thickness && db > Thickness))
            {
                var cut = a + ((b - a) * (da / (da - db)));
                ahead.Add(cut);
                behind.Add(cut);
            }
        }

        if (ahead.Count >= 3)
            front.Add(facet with { Corners = [.. ahead] });
        if (behind.Count >= 3)
            back.Add(facet with { Corners = [.. behind] });
    }
}
