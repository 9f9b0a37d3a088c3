using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Property set templates as a model: IfcPropertySetTemplate and IfcSimplePropertyTemplate, declared by a project library (ISO
/// 16739-1, IfcPropertySetTemplate; IFC2X3 has none).</summary>
public static class TemplateModel
{
    private static readonly Dictionary<PropertyForm, string> Kinds = new()
    {
        [PropertyForm.Single] = "P_SINGLEVALUE",
        [PropertyForm.Enumerated] = "P_ENUMERATEDVALUE",
        [PropertyForm.List] = "P_LISTVALUE",
        [PropertyForm.Bounded] = "P_BOUNDEDVALUE",
        [PropertyForm.Table] = "P_TABLEVALUE",
        [PropertyForm.Reference] = "P_REFERENCEVALUE",
    };

    // A quantity of a template: its kind, and the measure that its values have.
    private static readonly Dictionary<string, string> Quantities = new()
    {
        ["Q_LENGTH"] = "IfcLengthMeasure",
        ["Q_AREA"] = "IfcAreaMeasure",
        ["Q_VOLUME"] = "IfcVolumeMeasure",
        ["Q_COUNT"] = "IfcCountMeasure",
        ["Q_WEIGHT"] = "IfcMassMeasure",
        ["Q_TIME"] = "IfcTimeMeasure",
    };

    /// <summary>Reads the templates of a model.</summary>
    /// <exception cref="OrderException">It has none, or a set or property of it is wrong.</exception>
    public static TemplateDocument Read(IfcModel model)
    {
        var units = new IfcUnits(model);
        var document = new TemplateDocument
        {
            Sets =
            [
                .. model
                    .OfType("IfcPropertySetTemplate")
                    .Select(s => new PropertySetTemplate
                    {
                        Name = model.Name(s),
                        Description = model.Text(s, "Description") ?? "",
                        Classes = [.. Classes(model.Text(s, "ApplicableEntity") ?? "")],
                        Properties =
                        [
                            .. model
                                .Refs(s, "HasPropertyTemplates")
                                .Where(p => model.Is(p, "IfcSimplePropertyTemplate"))
                                .Select(p => Property(model, units, p)),
                        ],
                    }),
            ],
        };
        return document.Problems().ToList() is { Count: > 0 } problems
            ? throw new OrderException(string.Join(" ", problems.Take(5)))
            : document;
    }

    /// <summary>What a model has no place for: defaults, what is required, patterns, and what is not for exchange.</summary>
    /// <returns>A sentence's worth each.</returns>
    public static IEnumerable<string> Losses(TemplateDocument document)
    {
        foreach (var set in document.Sets)
        foreach (var p in set.Properties)
        {
            if (p.Default.Length > 0)
                yield return $"{set.Name}.{p.Name}: the default '{p.Default}'";
            if (p.Required)
                yield return $"{set.Name}.{p.Name}: that it is required";
            if (p.Pattern.Length > 0)
                yield return $"{set.Name}.{p.Name}: the pattern {p.Pattern}";
            if (p.NotForExchange)
                yield return $"{set.Name}.{p.Name}: that it is not for exchange";
        }
    }

    /// <summary>Writes the templates as a model of their own.</summary>
    /// <param name="document">The templates.</param>
    /// <param name="schema"><c>IFC4</c> or <c>IFC4X3</c>.</param>
    /// <param name="title">What the library is called.</param>
    /// <param name="timeStamp">FILE_NAME's time stamp, ISO 8601.</param>
    /// <param name="target">Gets the bytes.</param>
    /// <exception cref="OrderException">The schema has no templates.</exception>
    public static void Write(TemplateDocument document, string schema, string title, string timeStamp, Stream target)
    {
        if (schema is not ("IFC4" or "IFC4X3"))
            throw new OrderException(
                "Property set templates are written in IFC4 or IFC4X3; IFC2X3 has no place for them."
            );
        var writer = new StepWriter(target);
        writer.Begin(
            new StepHeader
            {
                Schema = schema == "IFC4X3" ? "IFC4X3_ADD2" : schema,
                Name = title,
                TimeStamp = timeStamp,
                PreprocessorVersion = "Steady Lintel",
                Description = ["ViewDefinition [notYetAssigned]"],
            }
        );
        var fresh = new NewInstances(1);
        string library = GlobalIds.Derived(title, "library");
        int context = fresh.Add("IFCPROJECTLIBRARY", $"'{library}',$,{StepWriter.String(title)},$,$,$,$,$,$");
        var sets = document.Sets.Select(s => Set(s, library, schema, fresh)).ToList();
        if (sets.Count > 0)
            fresh.Add(
                "IFCRELDECLARES",
                $"'{GlobalIds.Derived(library, "declares")}',$,$,$,#{context},({string.Join(",", sets.Select(s => "#" + s))})"
            );
        foreach (var (id, keyword, inside) in fresh.Take())
            writer.Instance(id, keyword, inside);
        writer.End();
    }

    private static int Set(PropertySetTemplate set, string library, string schema, NewInstances fresh)
    {
        string id = GlobalIds.Derived(library, set.Name);
        var properties = set.Properties.Select(p => "#" + Property(p, id, schema, fresh));
        bool types = set.Classes.All(c => c.EndsWith("Type", StringComparison.Ordinal));
        return fresh.Add(
            "IFCPROPERTYSETTEMPLATE",
            $"'{id}',$,{StepWriter.String(set.Name)},{Text(set.Description)},{(types ? ".PSET_TYPEDRIVENONLY." : ".PSET_TYPEDRIVENOVERRIDE.")},"
                + $"{StepWriter.String(string.Join(",", set.Classes.Select(c => c.Replace('.', '/'))))},({string.Join(",", properties)})"
        );
    }

    private static int Property(PropertyTemplate p, string set, string schema, NewInstances fresh)
    {
        string enumerators = "$";
        string type = PropertyTypes.In(IfcSchema.Named(schema), p.Type);
        if (p.Words.Count > 0)
            enumerators =
                "#"
                + fresh.Add(
                    "IFCPROPERTYENUMERATION",
                    $"{StepWriter.String($"{p.Name} words")},({string.Join(",", p.Words.Select(w => $"IFCLABEL({StepWriter.String(w)})"))}),$"
                );
        string unit = p.Unit.Length > 0 ? "#" + UnitInstances.Once(PropertyUnit.Find(p.Unit)!, fresh) : "$";
        string expression = p.Several ? "'several'" : "$";
        return fresh.Add(
            "IFCSIMPLEPROPERTYTEMPLATE",
            $"'{GlobalIds.Derived(set, p.Name)}',$,{StepWriter.String(p.Name)},{Text(p.Description)},.{Kinds[p.Holds]}.,{StepWriter.String(type)},$,{enumerators},{unit},$,{expression},.READWRITE."
        );
    }

    private static PropertyTemplate Property(IfcModel model, IfcUnits units, int index)
    {
        string kind = model.Get(index, "TemplateType").Enumeration ?? "P_SINGLEVALUE",
            measure = model.Text(index, "PrimaryMeasureType") ?? "";
        var form = Kinds.FirstOrDefault(k => k.Value == kind).Key;
        string[] words = [.. Words(model, model.Ref(index, "Enumerators"))];
        string unit =
            model.Ref(index, "PrimaryUnit") is >= 0 and var u && PropertyUnit.Find(units.Symbol(u)) is { } known
                ? known.Symbol
                : "";
        return new PropertyTemplate
        {
            Name = model.Name(index),
            Description = model.Text(index, "Description") ?? "",
            Form = (form == PropertyForm.Enumerated && words.Length == 0 ? PropertyForm.Single : form).Word(),
            Type = Quantities.GetValueOrDefault(kind)
                ?? PropertyTypes.Find(measure)
                ?? (measure.Length == 0 ? "IfcLabel" : measure),
            Unit = unit,
            Words = words,
            Several = model.Text(index, "Expression") == "several",
        };
    }

    private static List<string> Words(IfcModel model, int enumeration)
    {
        var words = new List<string>();
        foreach (var value in model.Get(enumeration, "EnumerationValues").Items)
            words.Add(PropertyReader.Text(value));
        return words;
    }

    // IfcDoor/GATE,IfcWindow: classes parted by commas, a predefined type after a slash.
    private static IEnumerable<string> Classes(string applicable) =>
        applicable
            .Split([',', ';'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            .Select(c => c.Replace('/', '.'));

    private static string Text(string text) => text.Length == 0 ? "$" : StepWriter.String(text);
}
