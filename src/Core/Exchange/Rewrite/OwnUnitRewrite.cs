using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Gives values a unit of their own where the project they come under assigns another to their measure.</summary>
internal sealed class OwnUnitRewrite : IRewrite
{
    private readonly ModelSnapshot _snapshot;
    private readonly HashSet<string> _kinds = [];

    /// <summary>Prepares to bring a model under the units of another; lengths are not touched, they are rewritten.</summary>
    /// <exception cref="OrderException">The two measure angles differently: parameters of curves would change their meaning.</exception>
    public OwnUnitRewrite(ModelSnapshot snapshot, ModelSnapshot first, string label)
    {
        _snapshot = snapshot;
        if (Math.Abs(snapshot.Units.Radians - first.Units.Radians) > 1e-9) throw new OrderException($"{label} measures angles in another unit than the first source; they cannot be merged.");
        foreach (var (kind, unit) in snapshot.Units.ByKind)
        {
            if (kind == "LENGTHUNIT" || !first.Units.ByKind.TryGetValue(kind, out int other)) continue;
            double own = snapshot.Units.Factor(unit), theirs = first.Units.Factor(other);
            if (!(Math.Abs(own - theirs) <= 1e-9 * Math.Abs(theirs))) _kinds.Add(kind);
        }
    }

    /// <inheritdoc/>
    public bool Touches(int index) => _kinds.Count > 0 && _snapshot.Model.Entity(index) is { } e && (e.Name == "IfcPropertySingleValue" || e.Is("IfcPhysicalSimpleQuantity"));

    /// <inheritdoc/>
    public void Apply(InstanceText text, NewInstances fresh)
    {
        if (text["Unit"] != "$") return;
        string measure = text.Entity!.Name == "IfcPropertySingleValue" ? text["NominalValue"].Split('(')[0] : text.Entity.Attributes[3].Type;
        if (MeasureKinds.UnitKind(measure) is { } kind && _kinds.Contains(kind)) text["Unit"] = "#" + _snapshot.Model.File.Id(_snapshot.Units.ByKind[kind]);
    }
}
