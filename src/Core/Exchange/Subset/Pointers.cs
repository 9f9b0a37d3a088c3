using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Instances that belong to another by pointing at it, and are not yet in a closure: styles, colour maps, aspects, ports.</summary>
internal sealed class Pointers
{
    private static readonly (string Entity, string Attribute)[] Pointing =
    [
        ("IfcStyledItem", "Item"), ("IfcIndexedColourMap", "MappedTo"), ("IfcIndexedTextureMap", "MappedTo"), ("IfcShapeAspect", "PartOfProductDefinitionShape"),
        ("IfcMaterialDefinitionRepresentation", "RepresentedMaterial"), ("IfcMaterialProperties", "Material"), ("IfcProfileProperties", "ProfileDefinition"),
        ("IfcCoordinateOperation", "SourceCRS"),
    ];

    private readonly List<(int Index, int Target)> _waiting = [];

    public Pointers(ModelSnapshot snapshot)
    {
        var model = snapshot.Model;
        foreach (var (entity, attribute) in Pointing)
            foreach (int index in model.OfType(entity)) Wait(index, model.Ref(index, attribute));
        // Ports of IFC2X3 and IFC4 hang on their element by a relationship.
        foreach (int port in model.OfType("IfcPort"))
            Wait(port, snapshot.Relations.Nest.First(port) is >= 0 and var nest ? nest : snapshot.Relations.Host.First(port));
    }

    /// <summary>Adds every instance whose target is there, until there is none.</summary>
    public void Add(Closure closure)
    {
        while (_waiting.RemoveAll(w => Follows(closure, w.Index, w.Target)) > 0)
        {
        }
    }

    private static bool Follows(Closure closure, int index, int target)
    {
        if (!closure.Has(target)) return false;
        closure.Add(index);
        return true;
    }

    private void Wait(int index, int target)
    {
        if (target >= 0) _waiting.Add((index, target));
    }
}
