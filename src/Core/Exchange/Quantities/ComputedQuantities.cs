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

    // Any of these names says that the length is there (ISO 16739-1, quantity sets Qto_…BaseQuantities).
    private static readonly string[] Lengths = ["Length", "Depth", "Height"];

    private readonly Dictionary<int, IReadOnlyList<ComputedQuantity>> _of = [];

    /// <summary>The quantities of an element; none where it has them, or no shape tells.</summary>
    /// <param name="element">The element's instance.</param>
    public IReadOnlyList<ComputedQuantity> Of(int element) => _of.GetValueOrDefault(element, []);

    /// <summary>Computes those of some elements.</summary>
    public static ComputedQuantities Of(
        ModelSnapshot snapshot,
        IReadOnlyList<ModelElement> elements,
        CancellationToken cancel
    )
    {
        var computed = new ComputedQuantities();
        var density = new Density(snapshot.Model);
        snapshot.ForEachShape(
            elements,
            (element, shape) =>
            {
                if (shape is not { Parts.Count: > 0 } || snapshot.Model.Is(element.Index, "IfcSpatialStructureElement"))
                    return;
                var list = Of(snapshot, element, shape, density);
                if (list.Count > 0)
                    computed._of[element.Index] = list;
            },
            0,
            cancel
        );
        return computed;
    }

    /// <summary>Computes those of one element that it does not have.</summary>
    internal static List<ComputedQuantity> Of(
        ModelSnapshot snapshot,
        ModelElement element,
        Shape shape,
        Density density
    )
    {
        var there = snapshot
            .Properties.Of(element.Index)
            .Where(s => s.IsQuantity)
            .SelectMany(s => s.Properties)
            .Where(p => p.Value.Length > 0)
            .Select(p => p.Name)
            .ToHashSet(StringComparer.Ordinal);
        var net = shape.Measure();
        var gross =
            snapshot.Relations.Openings.First(element.Index) < 0
                ? net
                : snapshot.Shapes.ReadGross(element.Index)?.Measure() ?? net;
        var list = new List<ComputedQuantity>();
        if (!Lengths.Any(there.Contains))
            list.Add(LengthOf(snapshot, element, shape));
        Add(QuantityKind.Area, "GrossSurfaceArea", gross.Area, "surface of the shape without its openings");
        Add(QuantityKind.Area, "NetSurfaceArea", net.Area, "surface of the shape, openings cut");
        if (!net.Closed)
            return list;
        if (gross.Closed)
            Add(QuantityKind.Volume, "GrossVolume", gross.Volume, "volume of the shape without its openings");
        Add(QuantityKind.Volume, "NetVolume", net.Volume, "volume of the shape, openings cut");
        var materials = snapshot.MaterialNames(element).Where(m => m.Length > 0).ToList();
        if (materials is not [var only] || density.Of(only) is not var (value, by))
            return list;
        if (gross.Closed)
            Add(
                QuantityKind.Weight,
                "GrossWeight",
                gross.Volume * value,
                FormattableString.Invariant($"gross volume by {value:0.#} kg/m³, {by}")
            );
        Add(
            QuantityKind.Weight,
            "NetWeight",
            net.Volume * value,
            FormattableString.Invariant($"net volume by {value:0.#} kg/m³, {by}")
        );
        return list;

        void Add(QuantityKind kind, string name, double number, string how)
        {
            if (!there.Contains(name))
                list.Add(new(kind, name, number, how));
        }
    }

    // A member is as long as its body reaches along its axis; another body as its longest side.
    private static ComputedQuantity LengthOf(ModelSnapshot snapshot, ModelElement element, Shape shape) =>
        new MemberReader(snapshot).Read(element, shape) is { } member
            ? new(QuantityKind.Length, "Length", (member.End - member.Start).Length, "along the axis")
            : new(
                QuantityKind.Length,
                "Length",
                LocalShape.Of(shape).Longest,
                "longest side along the element's own faces"
            );
}
