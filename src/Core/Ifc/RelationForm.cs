namespace SteadyLintel.Ifc;

/// <summary>Where an objectified relationship holds its ends (ISO 16739-1, IfcRelationship and its subtypes).</summary>
/// <param name="One">Position of the single end; -1 when the entity has none.</param>
/// <param name="Many">Position of the end with members, or of the related end when both are single; -1 when the entity has none.</param>
/// <param name="Others">Positions of further attributes that can refer to rooted objects, such as RealizingElements or
/// ParentBoundary.</param>
/// <remarks>
/// IfcRelConnectsPathElements has RelatedPriorities, a list of integers: an attribute is an end only if its type holds references.
/// IfcRelCoversSpaces of IFC2X3 calls both ends Related…: the list is the one with members.
/// </remarks>
public sealed record RelationForm(int One, int Many, IReadOnlyList<int> Others)
{
    /// <summary>GlobalId, OwnerHistory, Name and Description come first in every rooted entity.</summary>
    public const int RootAttributes = 4;

    /// <summary>The form of a relationship entity.</summary>
    /// <param name="schema">The schema.</param>
    /// <param name="entity">A relationship of it.</param>
    public static RelationForm Of(IfcSchema schema, EntityDef entity)
    {
        var attributes = entity.Attributes;
        var ends = new List<int>();
        var others = new List<int>();
        for (int a = RootAttributes; a < attributes.Count; a++)
        {
            bool named =
                attributes[a].Name.StartsWith("Relating", StringComparison.Ordinal)
                || attributes[a].Name.StartsWith("Related", StringComparison.Ordinal);
            if (named && HoldsReferences(schema, attributes[a]))
                ends.Add(a);
            else if (RefersToRoots(schema, attributes[a]))
                others.Add(a);
        }

        int many = ends.Find(a => attributes[a].Depth > 0);
        if (many == 0)
            many = ends.FindLast(a => attributes[a].Name.StartsWith("Related", StringComparison.Ordinal));
        if (many == 0)
            many = -1;
        int one = ends.Find(a => a != many);
        others.AddRange(ends.Where(a => a != many && a != one));
        return new RelationForm(one == 0 ? -1 : one, many, others);
    }

    /// <summary>Whether an attribute can hold a reference to a rooted object.</summary>
    /// <param name="schema">The schema.</param>
    /// <param name="attribute">An attribute of it.</param>
    public static bool RefersToRoots(IfcSchema schema, AttributeDef attribute) =>
        Targets(schema, attribute, static e => e.Is("IfcRoot"));

    private static bool HoldsReferences(IfcSchema schema, AttributeDef attribute) =>
        Targets(schema, attribute, static _ => true);

    private static bool Targets(IfcSchema schema, AttributeDef attribute, Func<EntityDef, bool> wanted)
    {
        if (attribute.IsEntity)
            return schema.Find(attribute.Type.ToUpperInvariant()) is { } entity && wanted(entity);
        return schema.Type(attribute.Type) is { Kind: TypeKind.Select } select
            && select.Members.Any(m =>
                schema.Find(m.ToUpperInvariant()) is { } member
                    ? wanted(member)
                    : schema.Type(m) is { Kind: TypeKind.List }
            );
    }
}
