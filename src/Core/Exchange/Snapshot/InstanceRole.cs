using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What part instances of an entity play when a model is exploded.</summary>
internal enum InstanceRole
{
    /// <summary>Goes where something that goes refers to it: geometry, materials, properties, units.</summary>
    Resource,

    /// <summary>Goes with the instance it points at, see <see cref="DependentInstances"/>.</summary>
    Pointer,

    /// <summary>A rooted object that goes with what is assigned to it: types, sets, groups, processes, actors.</summary>
    Follower,

    /// <summary>A product: chosen, or needed by what is chosen.</summary>
    Product,

    /// <summary>A relationship: goes when both its ends go.</summary>
    Relationship,
}

/// <summary>What is known of one keyword of a file before its instances are looked at.</summary>
/// <param name="Role">The part its instances play.</param>
/// <param name="Form">With a relationship, where its ends are; with a pointer, its subject as the end with members.</param>
/// <param name="Pulls">With a relationship: the relating object comes along when a related one goes.</param>
/// <param name="Carries">With a relationship: related objects come along when the relating one goes (openings, projections, ports).</param>
internal sealed record InstanceKind(InstanceRole Role, RelationForm? Form, bool Pulls, bool Carries)
{
    private static readonly InstanceKind Unknown = new(InstanceRole.Resource, null, false, false);
    private static readonly string[] Pulling =
    [
        "IfcRelAssigns",
        "IfcRelAssociates",
        "IfcRelDefines",
        "IfcRelAggregates",
        "IfcRelNests",
        "IfcRelConnectsPortToElement",
    ];

    /// <summary>The kinds of a model's keywords, in the order of its table of keywords.</summary>
    public static InstanceKind[] Of(IfcModel model) =>
        [.. model.File.TypeNames.Select(k => model.Schema.Find(k) is { } entity ? Of(model.Schema, entity) : Unknown)];

    private static InstanceKind Of(IfcSchema schema, EntityDef entity)
    {
        if (entity.Is("IfcRelationship"))
        {
            bool carries =
                entity.Is("IfcRelVoidsElement") || entity.Is("IfcRelProjectsElement") || entity.Is("IfcRelNests");
            return new InstanceKind(
                InstanceRole.Relationship,
                RelationForm.Of(schema, entity),
                Pulling.Any(entity.Is),
                carries
            );
        }

        if (entity.Is("IfcProduct"))
            return new InstanceKind(InstanceRole.Product, null, false, false);
        if (entity.Is("IfcRoot"))
            return new InstanceKind(InstanceRole.Follower, null, false, false);
        return DependentInstances.Subject(entity) is >= 0 and var subject
            ? new InstanceKind(InstanceRole.Pointer, new RelationForm(-1, subject, []), false, false)
            : Unknown;
    }
}
