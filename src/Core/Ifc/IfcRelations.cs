namespace SteadyLintel.Ifc;

/// <summary>The objectified relationships of a model, turned into tables once.</summary>
public sealed class IfcRelations
{
    /// <summary>Reads every relationship of the kinds below.</summary>
    public IfcRelations(IfcModel model)
    {
        Container = ManyToOne(model, "IfcRelContainedInSpatialStructure", "RelatedElements", "RelatingStructure");
        Whole = ManyToOne(model, "IfcRelAggregates", "RelatedObjects", "RelatingObject");
        Nest = ManyToOne(model, "IfcRelNests", "RelatedObjects", "RelatingObject");
        Host = ManyToOne(model, "IfcRelConnectsPortToElement", "RelatingPort", "RelatedElement");
        Voided = ManyToOne(model, "IfcRelVoidsElement", "RelatedOpeningElement", "RelatingBuildingElement");
        Openings = ManyToOne(model, "IfcRelVoidsElement", "RelatingBuildingElement", "RelatedOpeningElement");
        FilledOpening = ManyToOne(model, "IfcRelFillsElement", "RelatedBuildingElement", "RelatingOpeningElement");
        Type = ManyToOne(model, "IfcRelDefinesByType", "RelatedObjects", "RelatingType");
        PropertySets = ManyToOne(model, "IfcRelDefinesByProperties", "RelatedObjects", "RelatingPropertyDefinition");
        Material = ManyToOne(model, "IfcRelAssociatesMaterial", "RelatedObjects", "RelatingMaterial");
        Classification = ManyToOne(model, "IfcRelAssociatesClassification", "RelatedObjects", "RelatingClassification");
    }

    /// <summary>Element → spatial structure element that contains it.</summary>
    public Links Container { get; }

    /// <summary>Part → whole (IfcRelAggregates), spatial structure included.</summary>
    public Links Whole { get; }

    /// <summary>Nested part → element it is nested in (IfcRelNests).</summary>
    public Links Nest { get; }

    /// <summary>Port → element (IFC2X3's IfcRelConnectsPortToElement).</summary>
    public Links Host { get; }

    /// <summary>Opening → element that it voids.</summary>
    public Links Voided { get; }

    /// <summary>Element → openings that void it.</summary>
    public Links Openings { get; }

    /// <summary>Door or window → opening that it fills.</summary>
    public Links FilledOpening { get; }

    /// <summary>Object → type object.</summary>
    public Links Type { get; }

    /// <summary>Object → property set definitions.</summary>
    public Links PropertySets { get; }

    /// <summary>Object or type → material select.</summary>
    public Links Material { get; }

    /// <summary>Object or type → classification or reference.</summary>
    public Links Classification { get; }

    private static Links ManyToOne(IfcModel model, string relation, string from, string to)
    {
        var links = new Links.Builder();
        foreach (int rel in model.OfType(relation))
        {
            var many = model.Get(rel, from);
            var one = model.Get(rel, to);
            foreach (int source in model.Targets(many))
                foreach (int target in model.Targets(one)) links.Add(source, target);
        }

        return links.Build();
    }
}
