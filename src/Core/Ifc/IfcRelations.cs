using SteadyLintel.Step;

namespace SteadyLintel.Ifc;

/// <summary>The objectified relationships of a model, turned into tables once.</summary>
public sealed class IfcRelations
{
    // In the order in which the constructor takes them; the largest first.
    private static readonly (string Relation, string From, string To)[] Kinds =
    [
        ("IfcRelDefinesByProperties", "RelatedObjects", "RelatingPropertyDefinition"),
        ("IfcRelContainedInSpatialStructure", "RelatedElements", "RelatingStructure"),
        ("IfcRelDefinesByType", "RelatedObjects", "RelatingType"),
        ("IfcRelAggregates", "RelatedObjects", "RelatingObject"),
        ("IfcRelNests", "RelatedObjects", "RelatingObject"),
        ("IfcRelConnectsPortToElement", "RelatingPort", "RelatedElement"),
        ("IfcRelVoidsElement", "RelatedOpeningElement", "RelatingBuildingElement"),
        ("IfcRelVoidsElement", "RelatingBuildingElement", "RelatedOpeningElement"),
        ("IfcRelFillsElement", "RelatedBuildingElement", "RelatingOpeningElement"),
        ("IfcRelAssociatesMaterial", "RelatedObjects", "RelatingMaterial"),
        ("IfcRelAssociatesClassification", "RelatedObjects", "RelatingClassification"),
    ];

    /// <summary>Reads every relationship of the kinds below.</summary>
    public IfcRelations(IfcModel model)
    {
        // Each kind is a scan of its own, so they are made side by side.
        var tables = new Links[Kinds.Length];
        Parallel.For(0, Kinds.Length, k => tables[k] = ManyToOne(model, Kinds[k].Relation, Kinds[k].From, Kinds[k].To));
        (PropertySets, Container, Type, Whole) = (tables[0], tables[1], tables[2], tables[3]);
        (Nest, Host, Voided, Openings) = (tables[4], tables[5], tables[6], tables[7]);
        (FilledOpening, Material, Classification) = (tables[8], tables[9], tables[10]);
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
        var file = model.File;
        foreach (int rel in model.OfType(relation))
        {
            var entity = model.Entity(rel)!;
            var record = model.Record(rel);
            var many = record[entity.Position(from)].Raw;
            var one = record[entity.Position(to)].Raw;
            // IfcPropertySetDefinitionSet puts several definitions at the one end.
            for (int t = 0; StepReferences.Next(one, ref t, out int target, out _);)
                for (int f = 0; StepReferences.Next(many, ref f, out int source, out _);) links.Add(file.IndexOf(source), file.IndexOf(target));
        }

        return links.Build();
    }
}
