using SteadyLintel.Step;

namespace SteadyLintel.Ifc;

/// <summary>The objectified relationships of a model, turned into tables once.</summary>
public sealed class IfcRelations
{
    private const int Stretch = 16384;

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
        ("IfcRelProjectsElement", "RelatingElement", "RelatedFeatureElement"),
        ("IfcRelProjectsElement", "RelatedFeatureElement", "RelatingElement"),
    ];

    /// <summary>Reads every relationship of the kinds below.</summary>
    /// <param name="model">The model.</param>
    public IfcRelations(IfcModel model)
    {
        // Each kind is a scan of its own, so they are made side by side; a kind with many instances in stretches.
        var stretches = new List<(int Kind, ArraySegment<int> Relations, Links.Builder Links)>();
        for (int k = 0; k < Kinds.Length; k++)
        {
            int[] relations = [.. model.OfType(Kinds[k].Relation)];
            for (int from = 0; from < relations.Length; from += Stretch)
                stretches.Add((k, new(relations, from, Math.Min(Stretch, relations.Length - from)), new()));
        }

        Parallel.For(0, stretches.Count, s =>
            Collect(model, Kinds[stretches[s].Kind], stretches[s].Relations, stretches[s].Links)
        );
        var tables = new Links[Kinds.Length];
        Parallel.For(0, Kinds.Length, k =>
            tables[k] = Links.Builder.Build([.. stretches.Where(s => s.Kind == k).Select(s => s.Links)])
        );
        (PropertySets, Container, Type, Whole) = (tables[0], tables[1], tables[2], tables[3]);
        (Nest, Host, Voided, Openings) = (tables[4], tables[5], tables[6], tables[7]);
        (FilledOpening, Material, Classification) = (tables[8], tables[9], tables[10]);
        (Projections, Projected) = (tables[11], tables[12]);
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

    /// <summary>Element → projections that are added to it.</summary>
    public Links Projections { get; }

    /// <summary>Projection → element that it is added to.</summary>
    public Links Projected { get; }

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

    private static void Collect(
        IfcModel model,
        (string Relation, string From, string To) kind,
        ArraySegment<int> relations,
        Links.Builder links
    )
    {
        var file = model.File;
        (EntityDef? Of, int From, int To) at = default;
        foreach (int rel in relations)
        {
            var entity = model.Entity(rel)!;
            if (at.Of != entity)
                at = (entity, entity.Position(kind.From), entity.Position(kind.To));
            var record = model.Record(rel);
            // The lower position first: a record is walked once that way.
            var first = record[Math.Min(at.From, at.To)].Raw;
            var second = record[Math.Max(at.From, at.To)].Raw;
            var many = at.From < at.To ? first : second;
            var one = at.From < at.To ? second : first;
            // IfcPropertySetDefinitionSet puts several definitions at the one end.
            for (int t = 0; StepReferences.Next(one, ref t, out int target, out _); )
            {
                int held = file.IndexOf(target);
                for (int f = 0; StepReferences.Next(many, ref f, out int source, out _); )
                    links.Add(file.IndexOf(source), held);
            }
        }
    }
}
