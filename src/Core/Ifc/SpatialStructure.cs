using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>A storey of a model.</summary>
/// <param name="Index">The IfcBuildingStorey.</param>
/// <param name="Name">Its name, empty when unset.</param>
/// <param name="GlobalId">Its GlobalId.</param>
/// <param name="Elevation">Its Elevation attribute in metres; null when unset.</param>
/// <param name="PlacementZ">The height of its placement in the file's world frame, metres; null when it cannot be read.</param>
public sealed record Storey(int Index, string Name, string GlobalId, double? Elevation, double? PlacementZ)
{
    /// <summary>The level to use: the attribute, else the placement, else 0.</summary>
    public double Level => Elevation ?? PlacementZ ?? 0;
}

/// <summary>Project, site, building, storeys, and which storey each product belongs to.</summary>
public sealed class SpatialStructure
{
    private const int MaxDepth = 100;
    private readonly IfcModel _model;
    private readonly IfcRelations _relations;
    private readonly Dictionary<int, int> _storeyNumber = [];

    /// <summary>Reads the structure.</summary>
    /// <param name="model">The model.</param>
    /// <param name="relations">Its relationships.</param>
    /// <param name="units">Its units.</param>
    public SpatialStructure(IfcModel model, IfcRelations relations, IfcUnits units)
    {
        (_model, _relations) = (model, relations);
        var placements = new IfcPlacements(model, units.Metres);
        Project = model.OfType("IfcProject").Append(-1).First();
        Sites = [.. model.OfType("IfcSite")];
        Buildings = [.. model.OfType("IfcBuilding")];
        Storeys =
        [
            .. model
                .OfType("IfcBuildingStorey")
                .Select(s => Read(model, s, placements, units.Metres))
                .OrderBy(s => s.Level)
                .ThenBy(s => s.Index),
        ];
        for (int i = 0; i < Storeys.Count; i++)
            _storeyNumber[Storeys[i].Index] = i;
    }

    /// <summary>The IfcProject, -1 when there is none.</summary>
    public int Project { get; }

    /// <summary>The sites.</summary>
    public IReadOnlyList<int> Sites { get; }

    /// <summary>The buildings.</summary>
    public IReadOnlyList<int> Buildings { get; }

    /// <summary>The storeys, lowest first.</summary>
    public IReadOnlyList<Storey> Storeys { get; }

    /// <summary>The number in <see cref="Storeys"/> of the storey a product is contained in or aggregated below; -1 when there is
    /// none.</summary>
    /// <param name="product">Its position among the instances of the file.</param>
    /// <remarks>A part follows its whole, a port its element, an opening or projection its element, a door or window without a container
    /// the opening it fills.</remarks>
    public int StoreyOf(int product)
    {
        for (int at = product, depth = 0; at >= 0 && depth < MaxDepth; depth++)
        {
            if (_storeyNumber.TryGetValue(at, out int storey))
                return storey;
            at = Parent(at);
        }

        return -1;
    }

    /// <summary>What directly holds a product: container, whole, nest, port's element, voided or projected element, filled opening; -1 when
    /// nothing does.</summary>
    /// <param name="product">Its position among the instances of the file.</param>
    public int Parent(int product)
    {
        int parent = _relations.Container.First(product);
        if (parent < 0)
            parent = _relations.Whole.First(product);
        if (parent < 0)
            parent = _relations.Nest.First(product);
        if (parent < 0)
            parent = _relations.Host.First(product);
        if (parent < 0)
            parent = _relations.Voided.First(product);
        if (parent < 0)
            parent = _relations.Projected.First(product);
        return parent < 0 ? _relations.FilledOpening.First(product) : parent;
    }

    private static Storey Read(IfcModel model, int storey, IfcPlacements placements, double metres)
    {
        double elevation = model.Get(storey, "Elevation").Real;
        double? placed = null;
        try
        {
            if (model.Ref(storey, "ObjectPlacement") >= 0)
                placed = placements.Product(storey).Origin.Z;
        }
        catch (ShapeException)
        {
            placed = null;
        }

        return new Storey(
            storey,
            model.Name(storey),
            model.GlobalId(storey),
            double.IsFinite(elevation) ? elevation * metres : null,
            placed
        );
    }
}
