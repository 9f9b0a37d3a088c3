using System.Globalization;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>The properties of elements as they travel in drawings and tables.</summary>
/// <param name="plan">The order.</param>
internal sealed class OutgoingProperties(HandoverPlan plan)
{
    private static readonly string[] Units = ["m", "m²", "m³", "kg"];
    private readonly PropertyWish _wish = new(plan.Order.Properties ?? PropertyList.All, plan.Order.BlanksOut);
    private readonly Density[] _densities = [.. plan.Sources.Select(s => new Density(s.Snapshot.Model))];

    /// <summary>The properties of an element, in the order of its sets, computed quantities last.</summary>
    /// <param name="source">The source's place in the order.</param>
    /// <param name="element">The element.</param>
    /// <param name="shape">Its shape; null where it has none.</param>
    public IReadOnlyList<OutgoingProperty> Of(int source, ModelElement element, Shape? shape)
    {
        var snapshot = plan.Sources[source].Snapshot;
        var list = new List<OutgoingProperty>();
        foreach (var set in snapshot.PropertySets(element))
        foreach (var property in set.Properties)
            if (_wish.Of(set.Name, property.Name, property.Value.Length == 0).Row is { } row)
                list.Add(
                    Scaled(
                        row,
                        new OutgoingProperty(
                            row.SetName(set.Name),
                            row.Name(property.Name),
                            Value(property),
                            property.Unit
                        ),
                        property,
                        snapshot
                    )
                );
        if (plan.Order.Computed && shape is { Parts.Count: > 0 })
            list.AddRange(
                ComputedQuantities
                    .Of(snapshot, element, shape, _densities[source])
                    .Select(q => new OutgoingProperty(ComputedQuantities.Set, q.Name, q.Value, Units[(int)q.Kind]))
            );
        // A type's property that the element has itself is said once, as the element says it.
        return [.. list.DistinctBy(p => p.Key, StringComparer.OrdinalIgnoreCase)];
    }

    // In the unit that the list gives; else lengths go in the order's unit, as the shapes beside them do.
    private OutgoingProperty Scaled(
        PropertyRow row,
        OutgoingProperty goes,
        Property property,
        ModelSnapshot snapshot
    ) =>
        row.Unit is { } given
        && goes.Value is double number
        && MeasureKinds.UnitKind(property.Measure) == given.Kind
        && (property.OwnUnit >= 0 ? snapshot.Units.Factor(property.OwnUnit) : snapshot.Units.Assigned(given.Kind))
            is var size
        && double.IsFinite(size)
            ? goes with
            {
                Value = given.Convert(number, size),
                Unit = given.Symbol,
            }
        : plan.Order.Unit is { } unit
        && goes.Value is double length
        && MeasureKinds.IsLength(property.Measure)
        && property.Unit == snapshot.Units.Symbol(snapshot.Units.LengthUnit)
            ? goes with
            {
                Value = length * snapshot.Units.Metres / unit.Metres,
                Unit = unit.Code,
            }
        : goes;

    private static object? Value(Property property)
    {
        if (property.Value.Length == 0)
            return null;
        if (property.Measure is "IFCBOOLEAN" or "IFCLOGICAL" && property.Value is "True" or "False")
            return property.Value == "True";
        bool number =
            property.Measure is "IFCREAL" or "IFCINTEGER"
            || property.Measure.EndsWith("MEASURE", StringComparison.Ordinal)
            || property.Measure is "IFCPOSITIVEINTEGER";
        return
            number
            && double.TryParse(property.Value, NumberStyles.Float, CultureInfo.InvariantCulture, out double value)
            && double.IsFinite(value)
            ? value
            : property.Value;
    }
}
