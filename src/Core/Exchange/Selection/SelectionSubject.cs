using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What selection rules look at: an element, or a group of elements that are alike in these.</summary>
/// <param name="Schema">The schema, for subtypes.</param>
/// <param name="Storey">The storey's name, empty for none.</param>
/// <param name="Class">The class.</param>
/// <param name="Layers">Presentation layers.</param>
/// <param name="GlobalId">The GlobalId, empty for a group.</param>
public readonly record struct SelectionSubject(IfcSchema Schema, string Storey, string Class, IReadOnlyList<string> Layers, string GlobalId)
{
    /// <summary>The subject that an element is.</summary>
    public static SelectionSubject Of(ModelSnapshot snapshot, ModelElement element) =>
        new(snapshot.Model.Schema, snapshot.StoreyName(element.Storey), element.Class, element.Layers, element.GlobalId);
}
