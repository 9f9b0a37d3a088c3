using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Property set templates as they are kept and handed on.</summary>
/// <remarks>Its JSON Schema is docs/template.schema.json. Unknown words are refused.</remarks>
public sealed record TemplateDocument
{
    /// <summary>The version that is written.</summary>
    public const int CurrentVersion = 1;

    internal static DocumentFormat<TemplateDocument> Format { get; } = new("template");

    /// <summary>The version of the document.</summary>
    public int Version { get; init; } = CurrentVersion;

    /// <summary>The sets.</summary>
    public IReadOnlyList<PropertySetTemplate> Sets { get; init; } = [];

    /// <summary>Reads a document and checks it.</summary>
    /// <exception cref="OrderException">It is no JSON, has an unknown member or another version, or a set or property of it is
    /// wrong.</exception>
    public static TemplateDocument Read(string json)
    {
        var document = Format.Read(json);
        return document.Problems().ToList() is { Count: > 0 } problems
            ? throw new OrderException(string.Join(" ", problems.Take(5)))
            : document;
    }

    /// <summary>The document as text.</summary>
    public string Write() => Format.Write(this);

    /// <summary>The property of a set; null where no set of the name has it.</summary>
    public PropertyTemplate? Find(string set, string property) =>
        Sets.Where(s => s.Name == set).Select(s => s.Find(property)).FirstOrDefault(p => p is not null);

    /// <summary>The sets that elements of a class are to have.</summary>
    public IEnumerable<PropertySetTemplate> For(IfcSchema schema, string type, string predefined) =>
        Sets.Where(s => s.AppliesTo(schema, type, predefined));

    /// <summary>What is wrong with it, a sentence each.</summary>
    public IEnumerable<string> Problems()
    {
        if (Sets.Count == 0)
            yield return "The template has no property set.";
        foreach (var set in Sets)
        {
            if (set.Name.Length == 0)
                yield return "A property set of the template has no name.";
            if (set.Classes.Count == 0)
                yield return $"{set.Name} names no class that it applies to.";
            foreach (string name in set.Classes)
                if (ClassProblem(name) is { } problem)
                    yield return $"{set.Name} applies to a class that is none: {problem}";
            foreach (var property in set.Properties)
                if (property.Problem() is { } wrong)
                    yield return $"{set.Name}.{property.Name} {wrong}.";
            foreach (var twice in set.Properties.CountBy(p => p.Name).Where(c => c.Value > 1))
                yield return $"{set.Name} has the property {twice.Key} twice.";
        }

        foreach (var twice in Sets.CountBy(s => s.Name).Where(c => c.Value > 1))
            yield return $"The set {twice.Key} is there twice; put its classes into one.";
    }

    private static string? ClassProblem(string name)
    {
        string plain = name.Split('.')[0];
        return ((string[])["IFC4X3", "IFC4", "IFC2X3"]).Any(s =>
            IfcSchema.Named(s).Find(plain.ToUpperInvariant())?.Is("IfcObjectDefinition") == true
        )
            ? null
            : ClassWords.Problem(name);
    }
}
