using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Everything an element carries, in words and numbers (lengths in metres where they are ours, as written where they are the
/// file's).</summary>
/// <param name="GlobalId">As written.</param>
/// <param name="StepId">The instance name in the file.</param>
/// <param name="Class">The class.</param>
/// <param name="PredefinedType">The PredefinedType, the user's own text when it says USERDEFINED; empty when unset.</param>
/// <param name="Name">The name.</param>
/// <param name="Tag">The tag.</param>
/// <param name="Description">The description.</param>
/// <param name="TypeName">Its type's name.</param>
/// <param name="TypeClass">Its type's class.</param>
/// <param name="Storey">Its storey's name.</param>
/// <param name="Container">What it directly is in or belongs to.</param>
/// <param name="Layers">Presentation layers.</param>
/// <param name="Materials">Materials.</param>
/// <param name="Classifications">Classifications.</param>
/// <param name="Sets">Property sets and quantities.</param>
public sealed record ElementFacts(
    string GlobalId,
    int StepId,
    string Class,
    string PredefinedType,
    string Name,
    string Tag,
    string Description,
    string TypeName,
    string TypeClass,
    string Storey,
    string Container,
    IReadOnlyList<string> Layers,
    IReadOnlyList<MaterialUse> Materials,
    IReadOnlyList<ClassificationUse> Classifications,
    IReadOnlyList<PropertySet> Sets
)
{
    /// <summary>Reads the facts of one element.</summary>
    public static ElementFacts Read(ModelSnapshot snapshot, ModelElement element)
    {
        var model = snapshot.Model;
        int at = element.Index,
            type = snapshot.Relations.Type.First(at),
            parent = snapshot.Structure.Parent(at);
        string predefined = snapshot.Predefined(element);
        return new ElementFacts(
            element.GlobalId,
            model.File.Id(at),
            element.Class,
            predefined,
            element.Name,
            model.Text(at, "Tag") ?? "",
            model.Text(at, "Description") ?? "",
            type < 0 ? "" : model.Name(type),
            type < 0 ? "" : model.ClassName(type),
            snapshot.StoreyName(element.Storey),
            parent < 0 ? "" : $"{model.ClassName(parent)} {model.Name(parent)}".TrimEnd(),
            element.Layers,
            snapshot.Materials.Of(at),
            snapshot.Classifications.Of(at),
            snapshot.Properties.Of(at)
        );
    }
}
