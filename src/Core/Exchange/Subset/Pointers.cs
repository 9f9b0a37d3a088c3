using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Instances that belong to another by pointing at it: styles, colour maps, aspects, ports.</summary>
internal static class Pointers
{
    private static readonly (string Entity, string Attribute)[] Pointing =
    [
        ("IfcStyledItem", "Item"), ("IfcIndexedColourMap", "MappedTo"), ("IfcIndexedTextureMap", "MappedTo"), ("IfcShapeAspect", "PartOfProductDefinitionShape"),
        ("IfcMaterialDefinitionRepresentation", "RepresentedMaterial"), ("IfcMaterialProperties", "Material"), ("IfcProfileProperties", "ProfileDefinition"),
        ("IfcCoordinateOperation", "SourceCRS"),
    ];

    /// <summary>Lets each of them wait for what it points at.</summary>
    public static void AddTo(Waiting waiting, ModelSnapshot snapshot)
    {
        var model = snapshot.Model;
        foreach (var (entity, attribute) in Pointing)
            foreach (int index in model.OfType(entity)) waiting.For(model.Ref(index, attribute), index);
        // Ports of IFC2X3 and IFC4 hang on their element by a relationship.
        foreach (int port in model.OfType("IfcPort"))
            waiting.For(snapshot.Relations.Nest.First(port) is >= 0 and var nest ? nest : snapshot.Relations.Host.First(port), port);
    }
}
