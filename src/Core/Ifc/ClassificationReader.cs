namespace SteadyLintel.Ifc;

/// <summary>A classification of an element.</summary>
/// <param name="System">The classification's name, empty when unknown.</param>
/// <param name="Code">The reference's identification.</param>
/// <param name="Name">The reference's name.</param>
public sealed record ClassificationUse(string System, string Code, string Name)
{
    /// <summary>Codes and names of the references above this one, nearest first.</summary>
    public IReadOnlyList<string> Above { get; init; } = [];
}

/// <summary>Reads classification references of elements and their types.</summary>
/// <param name="model">The model.</param>
/// <param name="relations">Its relationships.</param>
public sealed class ClassificationReader(IfcModel model, IfcRelations relations)
{
    /// <summary>The classifications of an element, its own first, then its type's.</summary>
    /// <param name="element">Its position among the instances of the file.</param>
    public IReadOnlyList<ClassificationUse> Of(int element)
    {
        var uses = new List<ClassificationUse>();
        foreach (int select in relations.Classification[element])
            uses.Add(Read(select));
        if (relations.Type.First(element) is >= 0 and var type)
            foreach (int select in relations.Classification[type])
                uses.Add(Read(select));
        return uses;
    }

    private ClassificationUse Read(int select)
    {
        if (model.Is(select, "IfcClassification"))
            return new ClassificationUse(model.Name(select), "", "");
        int source = model.Ref(select, "ReferencedSource");
        var above = new List<string>();
        for (int depth = 0; depth < 10 && model.Is(source, "IfcClassificationReference"); depth++)
        {
            above.AddRange([Code(source), model.Name(source)]);
            source = model.Ref(source, "ReferencedSource");
        }

        return new ClassificationUse(source >= 0 ? model.Name(source) : "", Code(select), model.Name(select))
        {
            Above = [.. above.Where(n => n.Length > 0)],
        };
    }

    // IFC2X3 calls the code ItemReference.
    private string Code(int reference) =>
        model.Text(reference, "Identification") ?? model.Text(reference, "ItemReference") ?? "";
}
