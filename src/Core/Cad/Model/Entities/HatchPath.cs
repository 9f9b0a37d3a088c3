using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A closed boundary of a hatch: a polyline, or edges.</summary>
public sealed class HatchPath
{
    /// <summary>1 external, 2 polyline, 4 derived, 8 text box, 16 outermost (92).</summary>
    public int Flags { get; set; } = 1;

    /// <summary>Whether it is a polyline.</summary>
    public bool IsPolyline => (Flags & 2) != 0;

    /// <summary>Vertices of a polyline with bulges (10, 42).</summary>
    public List<(Vec2 Point, double Bulge)> Vertices { get; } = [];

    /// <summary>Whether a polyline is closed (73).</summary>
    public bool Closed { get; set; } = true;

    /// <summary>Edges of a path that is no polyline.</summary>
    public List<HatchEdge> Edges { get; } = [];

    /// <summary>The entities it was made from (330).</summary>
    public List<Handle> Sources { get; } = [];

    private int _sources;

    /// <summary>Reads or writes the path.</summary>
    internal void Exchange(Fields f)
    {
        Flags = f.Long(92, Flags);
        if (IsPolyline)
            ExchangePolyline(f);
        else
        {
            int count = f.Long(93, Edges.Count);
            f.Items(Edges, count, 72, e =>
            {
                e ??= new HatchEdge();
                e.Kind = (HatchEdgeKind)f.Byte(72, (int)e.Kind);
                e.Exchange(f);
                return e;
            });
        }

        _sources = f.Long(97, Sources.Count);
        if (f.Dwg is null)
            f.Items(Sources, _sources, 330, h => f.Reference(330, h, HandleKind.SoftPointer));
    }

    /// <summary>The handles, which DWG has behind everything else.</summary>
    internal void ExchangeSources(DwgFields d) => d.Handles(Sources, d.Bounded(_sources), HandleKind.SoftPointer);

    private void ExchangePolyline(Fields f)
    {
        bool bulges = Vertices.Any(v => v.Bulge != 0);
        if (f.Dwg is { } d)
        {
            bulges = d.Bit(bulges);
            Closed = d.Bit(Closed);
        }
        else
        {
            bulges = f.Short(72, bulges ? 1 : 0) != 0;
            Closed = f.Short(73, Closed ? 1 : 0) != 0;
        }

        int count = f.Long(93, Vertices.Count);
        f.Items(Vertices, count, 10, v => (f.Flat(10, v.Point), bulges ? f.Double(42, v.Bulge) : 0));
    }
}
