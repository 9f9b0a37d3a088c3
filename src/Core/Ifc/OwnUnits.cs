namespace SteadyLintel.Ifc;

/// <summary>The units that values name for themselves instead of the project's.</summary>
public static class OwnUnits
{
    /// <summary>The attribute that holds the unit of another attribute's values; null when the entity has none.</summary>
    /// <param name="entity">The entity.</param>
    /// <param name="values">The attribute that holds the values, as the standard spells it.</param>
    /// <remarks>A table has a unit for each of its columns (IfcPropertyTableValue: DefiningUnit, DefinedUnit).</remarks>
    public static string? Attribute(EntityDef entity, string values)
    {
        if (values == "DefiningValues" && entity.Position("DefiningUnit") >= 0)
            return "DefiningUnit";
        if (values == "DefinedValues" && entity.Position("DefinedUnit") >= 0)
            return "DefinedUnit";
        if (entity.Is("IfcMeasureWithUnit"))
            return "UnitComponent";
        return entity.Position("Unit") >= 0 ? "Unit" : null;
    }

    /// <summary>The unit instance that the values of an attribute name; -1 when they are in the project's units.</summary>
    /// <param name="model">The model.</param>
    /// <param name="index">Its position among the instances of the file.</param>
    /// <param name="values">The attribute that holds the values, as the standard spells it.</param>
    public static int Of(IfcModel model, int index, string values)
    {
        if (model.Entity(index) is not { } entity)
            return -1;
        // The values of an enumerated property are in the unit of the enumeration they are chosen from.
        if (entity.Name == "IfcPropertyEnumeratedValue")
            return model.Ref(model.Ref(index, "EnumerationReference"), "Unit");
        return Attribute(entity, values) is { } unit ? model.Ref(index, unit) : -1;
    }
}
