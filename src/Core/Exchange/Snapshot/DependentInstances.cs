using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Instances without identity that belong to another by referring to it: styles, layers, colour maps, aspects, material data,
/// references to documents.</summary>
/// <remarks>Such an instance goes with its subject. What else it refers to is brought along; further subjects are not, and are cut from its
/// list.</remarks>
internal static class DependentInstances
{
    private static readonly (string Entity, string Subject)[] Table =
    [
        ("IfcStyledItem", "Item"),
        ("IfcPresentationLayerAssignment", "AssignedItems"),
        ("IfcIndexedColourMap", "MappedTo"),
        ("IfcIndexedTextureMap", "MappedTo"),
        ("IfcShapeAspect", "PartOfProductDefinitionShape"),
        ("IfcMaterialDefinitionRepresentation", "RepresentedMaterial"),
        ("IfcMaterialProperties", "Material"),
        ("IfcProfileProperties", "ProfileDefinition"),
        ("IfcCoordinateOperation", "SourceCRS"),
        ("IfcExternalReferenceRelationship", "RelatedResourceObjects"),
        ("IfcResourceApprovalRelationship", "RelatedResourceObjects"),
        ("IfcResourceConstraintRelationship", "RelatedResourceObjects"),
        ("IfcMaterialRelationship", "RelatingMaterial"),
        ("IfcOrganizationRelationship", "RelatingOrganization"),
        ("IfcDocumentInformationRelationship", "RelatingDocument"),
        ("IfcPropertyDependencyRelationship", "DependingProperty"),
        ("IfcApprovalRelationship", "RelatingApproval"),
        ("IfcCurrencyRelationship", "RelatingMonetaryUnit"),
        ("IfcAppliedValueRelationship", "ComponentOfTotal"),
        ("IfcApprovalActorRelationship", "Approval"),
        ("IfcApprovalPropertyRelationship", "ApprovedProperties"),
        ("IfcClassificationItemRelationship", "RelatingItem"),
        ("IfcConstraintAggregationRelationship", "RelatingConstraint"),
        ("IfcConstraintClassificationRelationship", "ClassifiedConstraint"),
        ("IfcConstraintRelationship", "RelatingConstraint"),
        ("IfcDraughtingCalloutRelationship", "RelatingDraughtingCallout"),
        ("IfcMaterialClassificationRelationship", "ClassifiedMaterial"),
        ("IfcPropertyConstraintRelationship", "RelatedProperties"),
        ("IfcTimeSeriesReferenceRelationship", "ReferencedTimeSeries"),
    ];

    /// <summary>The position of the attribute that names an entity's subject; -1 for an entity that is no pointer.</summary>
    public static int Subject(EntityDef entity)
    {
        foreach (var (name, subject) in Table)
            if (entity.Is(name))
                return entity.Position(subject);
        return -1;
    }
}
