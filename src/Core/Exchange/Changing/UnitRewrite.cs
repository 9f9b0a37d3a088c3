using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Writes a model in another length unit: every length, and the unit assignment.</summary>
public sealed class UnitRewrite(ModelSnapshot snapshot, LengthUnit unit) : IRewrite
{
    private readonly LengthRewriter _lengths = new(snapshot.Model, snapshot.Units.Metres, unit.Metres);

    /// <summary>The rewrite for a unit; null when the model has it already.</summary>
    public static UnitRewrite? To(ModelSnapshot snapshot, LengthUnit? unit) =>
        unit is null || Math.Abs(unit.Metres - snapshot.Units.Metres) < 1e-12 ? null : new UnitRewrite(snapshot, unit);

    /// <inheritdoc/>
    public bool Touches(int index) => index == snapshot.Units.Assignment || _lengths.MayChange(index);

    /// <inheritdoc/>
    public void Apply(InstanceText text, NewInstances fresh)
    {
        if (text.Index == snapshot.Units.Assignment)
        {
            var model = snapshot.Model;
            // A new unit instance is made, never the old one changed: derived units may refer to that.
            var others = model
                .Refs(text.Index, "Units")
                .Where(u => u != snapshot.Units.LengthUnit)
                .Select(model.File.Id);
            text["Units"] =
                "(" + string.Join(",", others.Prepend(UnitInstances.Once(unit, fresh)).Select(id => "#" + id)) + ")";
        }
        else if (_lengths.Rewrite(text.Index) is { } inside)
            text.Parts = InstanceText.Split(inside);
    }

    /// <inheritdoc/>
    public void Expect(ExpectedInstance expected)
    {
        string rule = $"unit {snapshot.Units.LengthName} → {unit.Name}";
        // Units and map are checked by what they do: the size of the unit that is read again, and where points come to lie on the map.
        if (expected.Index == snapshot.Units.Assignment)
            expected.ExpectAnything("Units", rule);
        else if (expected.Entity?.Is("IfcMapConversion") == true)
            foreach (string attribute in (string[])["Eastings", "Northings", "OrthogonalHeight", "Scale"])
                expected.ExpectAnything(attribute, rule);
        else
            Scale(expected, rule);
    }

    private void Scale(ExpectedInstance expected, string rule)
    {
        if (expected.Entity is not { } entity || entity.Is("IfcMeasureWithUnit"))
            return;
        double factor = snapshot.Units.Metres / unit.Metres;
        for (int p = 0; p < expected.Values.Count && p < entity.Attributes.Count; p++)
        {
            var attribute = entity.Attributes[p];
            bool length =
                MeasureKinds.IsLength(attribute.Type)
                || (
                    attribute.Name == "Precision"
                    && entity.Is("IfcGeometricRepresentationContext")
                    && !attribute.IsDerived
                );
            bool typed = expected.Values[p].Text.Contains("LENGTHMEASURE", StringComparison.OrdinalIgnoreCase);
            if (
                !(length || typed)
                || expected.Values[p].Text is "$" or "*"
                || OwnUnits.Of(snapshot.Model, expected.Index, attribute.Name) >= 0
            )
                continue;
            expected.Values[p] = expected.Values[p] with { Lengths = length ? factor : 1, TypedLengths = factor };
            expected.Change(rule);
        }
    }
}
