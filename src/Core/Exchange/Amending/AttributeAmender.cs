using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Gives elements another name, mark, description or class, and the model itself other data.</summary>
/// <param name="editor">The model.</param>
internal sealed class AttributeAmender(ModelEditor editor)
{
    /// <summary>Model data that is an attribute, by its word.</summary>
    internal static readonly IReadOnlyDictionary<string, string> Attributes = new Dictionary<string, string>
    {
        ["name"] = "Name",
        ["description"] = "Description",
        ["long name"] = "LongName",
        ["phase"] = "Phase",
    };

    /// <summary>Model data that is part of an address, by its word (ISO 16739-1, IfcPostalAddress).</summary>
    internal static readonly IReadOnlyDictionary<string, string> Address = new Dictionary<string, string>
    {
        ["street"] = "AddressLines",
        ["town"] = "Town",
        ["region"] = "Region",
        ["postal code"] = "PostalCode",
        ["country"] = "Country",
    };

    /// <summary>The words for data of the project and its buildings, and of the file.</summary>
    public static IReadOnlyList<string> ModelWords { get; } =
    [.. Attributes.Keys, .. Address.Keys, "classification", "author", "organisation"];

    /// <summary>The words for what a project, site or building can say of itself in its schema.</summary>
    public static IEnumerable<string> WordsOf(IfcModel model, int root)
    {
        foreach (var (word, attribute) in Attributes)
            if (model.Entity(root)?.Position(attribute) >= 0)
                yield return word;
        if (model.Is(root, "IfcSite") || model.Is(root, "IfcBuilding"))
            foreach (string word in Address.Keys)
                yield return word;
        if (model.Is(root, "IfcProject"))
            yield return "classification";
    }

    private readonly IfcModel _model = editor.Model;

    /// <summary>Sets the attribute that an amendment of an element is about.</summary>
    public void Apply(int element, Amendment by)
    {
        if (by.Kind == AmendmentKind.Class)
        {
            Class(element, by);
            return;
        }

        string attribute = AttributeOf(by.Kind);
        var text = editor.Text(element);
        if (text.Entity?.Position(attribute) is not >= 0)
            throw new AmendmentException($"An {_model.ClassName(element)} has no {by.Kind.Label()}.");
        text[attribute] = by.Value is "" ? "$" : StepWriter.String(by.Value);
    }

    /// <summary>The attribute of a kind.</summary>
    internal static string AttributeOf(AmendmentKind kind) =>
        kind switch
        {
            AmendmentKind.Mark => "Tag",
            AmendmentKind.Description => "Description",
            _ => "Name",
        };

    private void Class(int element, Amendment by)
    {
        string[] parts = by.Value!.Split('.', 2);
        if (!_model.Is(element, "IfcElement") || _model.Is(element, "IfcFeatureElement"))
            throw new AmendmentException(
                $"An {_model.ClassName(element)} keeps its class; only elements can get another."
            );
        var entity = _model.Schema.Find(parts[0].ToUpperInvariant());
        if (entity?.Is("IfcElement") != true)
            throw new AmendmentException($"{parts[0]} is not a class of elements in {_model.Schema.Name}.");
        if (parts.Length == 2 && entity.Position("PredefinedType") < 0)
            throw new AmendmentException($"{entity.Name} has no predefined type in {_model.Schema.Name}.");
        var text = editor.Text(element);
        var values = entity
            .Attributes.Select(a =>
                a.IsDerived ? "*"
                : text[a.Name] is "$" && !a.Optional ? ".NOTDEFINED."
                : text[a.Name]
            )
            .ToList();
        (text.Entity, text.Keyword, text.Parts) = (entity, entity.Keyword, values);
        if (parts.Length == 2)
            Predefine(text, entity, parts[1].ToUpperInvariant());
        else if (Word(entity, text["PredefinedType"].Trim('.')) is null)
            text["PredefinedType"] = entity.Position("PredefinedType") >= 0 ? ".NOTDEFINED." : "$";
        // IfcWallType cannot be the type of an IfcCovering (ISO 16739-1, CorrectTypeAssigned).
        int type = editor.Snapshot.Relations.Type.First(element);
        if (
            type >= 0
            && TypeChange.TypeOf(_model.Schema, entity) is var fits
            && !(fits is not null && _model.Is(type, fits.Name))
        )
            foreach (int relation in _model.OfType("IfcRelDefinesByType"))
                if (_model.Refs(relation, "RelatedObjects").Contains(element))
                    editor.Part(relation, "RelatedObjects", element, by);
    }

    private void Predefine(InstanceText text, EntityDef entity, string word)
    {
        if (Word(entity, word) is { } known)
        {
            text["PredefinedType"] = $".{known}.";
            return;
        }

        text["PredefinedType"] = ".USERDEFINED.";
        text["ObjectType"] = StepWriter.String(word);
    }

    private string? Word(EntityDef entity, string word) =>
        entity.Position("PredefinedType") is >= 0 and var p
        && _model.Schema.Type(entity.Attributes[p].Type) is { Kind: TypeKind.Enumeration } words
        && words.Members.Contains(word)
            ? word
            : null;

    /// <summary>Sets what the model says of itself.</summary>
    /// <param name="root">The project, site or building; -1 for the file.</param>
    /// <param name="by">The amendment.</param>
    public void ApplyToModel(int root, Amendment by)
    {
        string? value = by.Value is "" ? null : by.Value;
        if (root < 0)
        {
            IReadOnlyList<string> list = value is null ? [] : [.. value.Split(';', StringSplitOptions.TrimEntries)];
            editor.Header = by.Name switch
            {
                "author" => editor.Header with { Author = list },
                "organisation" => editor.Header with { Organization = list },
                _ => throw new AmendmentException($"A file has an author and an organisation, no '{by.Name}'."),
            };
            return;
        }

        if (Attributes.TryGetValue(by.Name!, out string? attribute) && _model.Entity(root)?.Position(attribute) >= 0)
            editor.Text(root)[attribute] = StepWriter.String(value);
        else if (Address.TryGetValue(by.Name!, out string? part) && AddressOf(root) is { } holder)
            ToAddress(root, holder, part, value);
        else if (by.Name == "classification" && value is not null)
            editor.Join(
                "IfcRelAssociatesClassification",
                "RelatingClassification",
                new RelationAmender(editor).System(value),
                "RelatedObjects",
                root,
                by
            );
        else
            throw new AmendmentException(
                $"An {_model.ClassName(root)} has no '{by.Name}'. There are {string.Join(", ", ModelWords)}, each where the standard has it."
            );
        editor.Modify(root, by);
    }

    /// <summary>The attribute that holds the address of a site or building; null for anything else.</summary>
    private string? AddressOf(int root) =>
        _model.Is(root, "IfcSite") ? "SiteAddress"
        : _model.Is(root, "IfcBuilding") ? "BuildingAddress"
        : null;

    private void ToAddress(int root, string holder, string part, string? value)
    {
        int known = _model.Ref(root, holder);
        string text =
            value is null ? "$"
            : part == "AddressLines"
                ? $"({string.Join(",", value.Split(';', StringSplitOptions.TrimEntries).Select(StepWriter.String))})"
            : StepWriter.String(value);
        if (known >= 0)
        {
            editor.Text(known)[part] = text;
            return;
        }

        if (!_addresses.TryGetValue(root, out var made))
            _addresses[root] = made = editor.Blank("IfcPostalAddress");
        made[part] = text;
    }

    private readonly Dictionary<int, InstanceText> _addresses = [];

    /// <summary>Adds the addresses that the model did not have.</summary>
    public void Finish()
    {
        foreach (var (root, text) in _addresses)
            editor.Text(root)[AddressOf(root)!] = editor.Add(text);
    }
}
