using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What is measured.</summary>
public enum QuantityKind
{
    /// <summary>Metres.</summary>
    Length,

    /// <summary>Square metres.</summary>
    Area,

    /// <summary>Cubic metres.</summary>
    Volume,

    /// <summary>Kilograms.</summary>
    Weight,
}

/// <summary>A quantity that was computed.</summary>
/// <param name="Kind">What it is of; the unit goes with it.</param>
/// <param name="Name">Its name by the standard's quantity sets.</param>
/// <param name="Value">Its value: m, m², m³, kg.</param>
/// <param name="How">How it was computed.</param>
public readonly record struct ComputedQuantity(QuantityKind Kind, string Name, double Value, string How);

/// <summary>Quantities that elements do not have and that their shapes tell: length, surface, volume, and weight by density.</summary>
public sealed class ComputedQuantities
{
    /// <summary>The name of the set they go in, which marks them as computed.</summary>
    public const string Set = "Lintel_Computed";

    // Any of these names says that the quantity is there (ISO 16739-1, quantity sets Qto_…BaseQuantities).
    private static readonly Dictionary<QuantityKind, string[]> Names = new()
    {
        [QuantityKind.Length] = ["Length", "Depth", "Height"],
        [QuantityKind.Area] = ["GrossSurfaceArea", "NetSurfaceArea", "OuterSurfaceArea", "TotalSurfaceArea"],
        [QuantityKind.Volume] = ["NetVolume", "GrossVolume"],
        [QuantityKind.Weight] = ["GrossWeight", "NetWeight"],
    };

    private readonly Dictionary<int, IReadOnlyList<ComputedQuantity>> _of = [];

    /// <summary>The quantities of an element; none where it has them, or no shape tells.</summary>
    /// <param name="element">The element's instance.</param>
    public IReadOnlyList<ComputedQuantity> Of(int element) => _of.GetValueOrDefault(element, []);

    /// <summary>Computes those of some elements.</summary>
    public static ComputedQuantities Of(ModelSnapshot snapshot, IReadOnlyList<ModelElement> elements, CancellationToken cancel)
    {
        var computed = new ComputedQuantities();
        var density = new Density(snapshot.Model);
        snapshot.ForEachShape(elements, (element, shape) =>
        {
            if (shape is not { Parts.Count: > 0 } || snapshot.Model.Is(element.Index, "IfcSpatialStructureElement")) return;
            var list = Of(snapshot, element, shape, density);
            if (list.Count > 0) computed._of[element.Index] = list;
        }, 0, cancel);
        return computed;
    }

    /// <summary>Computes those of one element that it does not have.</summary>
    internal static List<ComputedQuantity> Of(ModelSnapshot snapshot, ModelElement element, Shape shape, Density density)
    {
        var there = snapshot.Properties.Of(element.Index).Where(s => s.IsQuantity).SelectMany(s => s.Properties)
            .Where(p => p.Value.Length > 0).Select(p => p.Name).ToHashSet(StringComparer.Ordinal);
        bool Missing(QuantityKind kind) => !Names[kind].Any(there.Contains);
        // Along the element's own axes, so that a turned one is no longer than it is.
        var size = (shape with { World = Frame.Identity }).Bounds().Size;
        var mass = shape.Measure();
        var list = new List<ComputedQuantity>();
        if (Missing(QuantityKind.Length)) list.Add(new(QuantityKind.Length, "Length", Math.Max(size.X, Math.Max(size.Y, size.Z)),
            "longest side along the element's own axes"));
        if (Missing(QuantityKind.Area)) list.Add(new(QuantityKind.Area, "GrossSurfaceArea", mass.Area, "surface of the shape"));
        if (!mass.Closed) return list;
        if (Missing(QuantityKind.Volume)) list.Add(new(QuantityKind.Volume, "NetVolume", mass.Volume, "volume of the shape, openings cut"));
        var materials = snapshot.MaterialNames(element).Where(m => m.Length > 0).ToList();
        if (Missing(QuantityKind.Weight) && materials is [var only] && density.Of(only) is var (value, by))
            list.Add(new(QuantityKind.Weight, "NetWeight", mass.Volume * value, FormattableString.Invariant($"volume by {value:0.#} kg/m³, {by}")));
        return list;
    }
}
