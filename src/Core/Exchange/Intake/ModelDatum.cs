namespace SteadyLintel.Exchange;

/// <summary>Something that a model says of itself.</summary>
/// <param name="Element">The GlobalId of the project, site or building; <c>file</c> for the header.</param>
/// <param name="Class">Its class; empty for the file.</param>
/// <param name="Name">What it is: <c>name</c>, <c>phase</c>, <c>town</c>, <c>author</c> …</param>
/// <param name="Statement">What the model says.</param>
public sealed record ModelDatum(string Element, string Class, string Name, FileStatement Statement)
{
    private const int MaxRoots = 50;

    /// <summary>Reads what a model says of itself; each item that the standard has a place for, whether the model says it or not.</summary>
    public static IReadOnlyList<ModelDatum> Read(ModelSnapshot snapshot)
    {
        var reader = new AmendmentReader(snapshot);
        var structure = snapshot.Structure;
        var data = new List<ModelDatum>();
        foreach (
            int root in structure
                .Sites.Concat(structure.Buildings)
                .Prepend(structure.Project)
                .Where(r => r >= 0)
                .Take(MaxRoots)
        )
        foreach (string name in AttributeAmender.WordsOf(snapshot.Model, root))
            data.Add(
                new ModelDatum(
                    snapshot.Model.GlobalId(root),
                    snapshot.Model.ClassName(root),
                    name,
                    reader.Read(Asked(name), root)
                )
            );
        foreach (string name in (string[])["author", "organisation"])
            data.Add(new ModelDatum(AmendmentReader.File, "", name, reader.Read(Asked(name), -1)));
        return data;
    }

    private static Amendment Asked(string name) => new() { Do = AmendmentKind.Model.Word(), Name = name };
}
