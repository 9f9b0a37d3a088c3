using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Which entity and attribute of one schema means one of another.</summary>
internal sealed class SchemaMap(IfcSchema to)
{
    // Entities that another schema knows under another name. Where none is named, the nearest supertype that can be written is taken.
    private static readonly (string Schema, string From, string To)[] Renamed =
    [
        ("IFC2X3", "IfcDoorType", "IfcDoorStyle"),
        ("IFC2X3", "IfcWindowType", "IfcWindowStyle"),
        ("IFC2X3", "IfcMaterialProfileSetUsage", "IfcMaterialList"),
        ("IFC2X3", "IfcMaterialProfileSetUsageTapering", "IfcMaterialList"),
        ("IFC2X3", "IfcMaterialProfileSet", "IfcMaterialList"),
        ("IFC2X3", "IfcMaterialConstituentSet", "IfcMaterialList"),
        ("IFC2X3", "IfcMirroredProfileDef", "IfcDerivedProfileDef"),
        ("IFC2X3", "IfcMaterialProperties", "IfcExtendedMaterialProperties"),
        // A shading of IFC2X3 has no transparency; its subtype has.
        ("IFC2X3", "IfcSurfaceStyleShading", "IfcSurfaceStyleRendering"),
        ("IFC4", "IfcExtendedMaterialProperties", "IfcMaterialProperties"),
        ("IFC4X3", "IfcExtendedMaterialProperties", "IfcMaterialProperties"),
        ("IFC4", "IfcDoorStyle", "IfcDoorType"),
        ("IFC4", "IfcWindowStyle", "IfcWindowType"),
        ("IFC4X3", "IfcDoorStyle", "IfcDoorType"),
        ("IFC4X3", "IfcWindowStyle", "IfcWindowType"),
        ("IFC4X3", "IfcProxy", "IfcBuildingElementProxy"),
        ("IFC4", "IfcBuiltElement", "IfcBuildingElementProxy"),
        ("IFC4", "IfcBuiltElementType", "IfcBuildingElementProxyType"),
    ];

    // Attributes that were renamed between editions, found by comparing the schema tables; that two of them mean the same is a value
    // from memory.
    private static readonly (string A, string B)[] Aliases =
    [
        ("Id", "Identification"),
        ("ItemReference", "Identification"),
        ("ShapeType", "PredefinedType"),
        ("InteriorOrExteriorSpace", "PredefinedType"),
        ("ExtendedProperties", "Properties"),
        ("NumberOfRiser", "NumberOfRisers"),
        ("OperationType", "PartitioningType"),
        // The unlike I: its lower flange, which IFC2X3 calls as the flanges of the like one.
        ("OverallWidth", "BottomFlangeWidth"),
        ("FlangeThickness", "BottomFlangeThickness"),
        ("FilletRadius", "BottomFlangeFilletRadius"),
    ];

    // Supertypes that cannot be instantiated, and what is written in their place (value from memory: ABSTRACT SUPERTYPE in the EXPRESS of
    // each edition).
    private static readonly Dictionary<string, string> Abstract = new()
    {
        ["IfcBuildingElement"] = "IfcBuildingElementProxy",
        ["IfcBuiltElement"] = "IfcBuildingElementProxy",
        ["IfcElement"] = "IfcBuildingElementProxy",
        ["IfcBuildingElementType"] = "IfcBuildingElementProxyType",
        ["IfcBuiltElementType"] = "IfcBuildingElementProxyType",
        ["IfcElementType"] = "IfcBuildingElementProxyType",
        ["IfcFlowControllerType"] = "IfcDistributionElementType",
        ["IfcFlowFittingType"] = "IfcDistributionElementType",
        ["IfcFlowMovingDeviceType"] = "IfcDistributionElementType",
        ["IfcFlowSegmentType"] = "IfcDistributionElementType",
        ["IfcFlowStorageDeviceType"] = "IfcDistributionElementType",
        ["IfcFlowTerminalType"] = "IfcDistributionElementType",
        ["IfcFlowTreatmentDeviceType"] = "IfcDistributionElementType",
        ["IfcEnergyConversionDeviceType"] = "IfcDistributionElementType",
        ["IfcDistributionFlowElementType"] = "IfcDistributionElementType",
        ["IfcDistributionControlElementType"] = "IfcDistributionElementType",
        ["IfcSpatialStructureElement"] = "IfcSpace",
    };

    // Nothing of these can be for a subtype that is not known: the instance is left out instead.
    private static readonly HashSet<string> TooGeneral =
    [
        "IfcRoot",
        "IfcObjectDefinition",
        "IfcObject",
        "IfcProduct",
        "IfcPropertyDefinition",
        "IfcPropertySetDefinition",
        "IfcRelationship",
        "IfcRelAssociates",
        "IfcRelConnects",
        "IfcRelDecomposes",
        "IfcRelDefines",
        "IfcRelAssigns",
        "IfcRepresentationItem",
        "IfcGeometricRepresentationItem",
        "IfcTopologicalRepresentationItem",
        "IfcCurve",
        "IfcBoundedCurve",
        "IfcSurface",
        "IfcBoundedSurface",
        "IfcElementarySurface",
        "IfcSweptSurface",
        "IfcSolidModel",
        "IfcSweptAreaSolid",
        "IfcManifoldSolidBrep",
        "IfcCsgPrimitive3D",
        "IfcPoint",
        "IfcPlacement",
        "IfcObjectPlacement",
        "IfcConic",
        "IfcProfileDef",
        "IfcParameterizedProfileDef",
        "IfcProperty",
        "IfcSimpleProperty",
        "IfcPhysicalQuantity",
        "IfcPhysicalSimpleQuantity",
        "IfcNamedUnit",
        "IfcPresentationStyle",
        "IfcPresentationItem",
        "IfcExternalReference",
        "IfcExternalInformation",
        "IfcContext",
        "IfcProcess",
        "IfcResource",
        "IfcControl",
        "IfcActor",
        "IfcTypeProcess",
        "IfcTypeResource",
        "IfcResourceLevelRelationship",
        "IfcMaterialDefinition",
        "IfcMaterialUsageDefinition",
        "IfcShapeModel",
        "IfcRepresentation",
        "IfcCoordinateReferenceSystem",
        "IfcCoordinateOperation",
        "IfcBSplineCurve",
        "IfcBSplineSurface",
        "IfcSpatialElement",
        "IfcTessellatedItem",
        "IfcTessellatedFaceSet",
        "IfcSegment",
        "IfcHalfSpaceSolid",
        "IfcLoop",
        "IfcEdge",
        "IfcFace",
        "IfcExtendedProperties",
        "IfcConstraint",
        "IfcQuantitySet",
    ];

    private readonly Dictionary<EntityDef, EntityDef?> _entities = [];

    /// <summary>The schema that is written.</summary>
    public IfcSchema To { get; } = to;

    /// <summary>The entity to write for one that was read, null when none can be for it.</summary>
    public EntityDef? Entity(EntityDef entity)
    {
        if (_entities.TryGetValue(entity, out var known))
            return known;
        return _entities[entity] = Find(entity);
    }

    /// <summary>The name in the source of the attribute that fills one of the target, null when nothing does.</summary>
    public static string? Attribute(EntityDef source, string target)
    {
        if (source.Position(target) >= 0)
            return target;
        foreach (var (a, b) in Aliases)
        {
            if (a == target && source.Position(b) >= 0)
                return b;
            if (b == target && source.Position(a) >= 0)
                return a;
        }

        return null;
    }

    private EntityDef? Find(EntityDef entity)
    {
        for (var e = entity; e is not null; e = e.Parent)
        {
            if (
                Renamed.FirstOrDefault(r => r.Schema == To.Name && r.From == e.Name).To is { } renamed
                && To.Find(renamed.ToUpperInvariant()) is { } other
            )
                return other;
            bool itself = ReferenceEquals(e, entity);
            if (!itself && TooGeneral.Contains(e.Name))
                return null;
            if (!itself && Abstract.TryGetValue(e.Name, out string? concrete))
                return To.Find(concrete.ToUpperInvariant());
            if (To.Find(e.Keyword) is { } same)
                return same;
        }

        return null;
    }
}
