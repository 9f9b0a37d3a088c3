using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Writes typed values as properties and quantities of a model's own schema and units.</summary>
/// <param name="editor">The model.</param>
internal sealed class PropertyInstances(ModelEditor editor)
{
    // The quantity of a measure and the attribute of its value (ISO 16739-1, IfcPhysicalSimpleQuantity).
    private static readonly Dictionary<string, string> Quantities = new()
    {
        ["IfcLengthMeasure"] = "Length",
        ["IfcPositiveLengthMeasure"] = "Length",
        ["IfcAreaMeasure"] = "Area",
        ["IfcVolumeMeasure"] = "Volume",
        ["IfcMassMeasure"] = "Weight",
        ["IfcCountMeasure"] = "Count",
        ["IfcTimeMeasure"] = "Time",
    };

    private readonly ModelSnapshot _snapshot = editor.Snapshot;

    /// <summary>A property with a value: a reference.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="value">Its value; blank gives one without a value.</param>
    /// <param name="unit">The unit that it is to be in; null for the project's.</param>
    /// <param name="words">The words of a choice; none where nobody lists them.</param>
    public string Property(string name, TypedValue value, PropertyUnit? unit, IReadOnlyList<string> words)
    {
        string type = PropertyTypes.In(editor.Model.Schema, value.Type);
        var own = OwnUnit(value, unit);
        var text = editor.Blank(
            value.Form switch
            {
                PropertyForm.Enumerated => "IfcPropertyEnumeratedValue",
                PropertyForm.List => "IfcPropertyListValue",
                PropertyForm.Bounded => "IfcPropertyBoundedValue",
                PropertyForm.Table => "IfcPropertyTableValue",
                PropertyForm.Reference => "IfcPropertyReferenceValue",
                _ => "IfcPropertySingleValue",
            }
        );
        text["Name"] = StepWriter.String(name);
        if (own is not null)
            text[value.Form == PropertyForm.Table ? "DefinedUnit" : "Unit"] =
                "#" + UnitInstances.Once(own, editor.Fresh);
        if (!value.IsBlank)
            Fill(text, value, type, unit, own, words, name);
        return editor.Once(text);
    }

    /// <summary>Whether a value is one that quantities have.</summary>
    public static bool IsQuantity(TypedValue value) => value.Parts.Count == 1 && Quantities.ContainsKey(value.Type);

    /// <summary>A quantity: a reference.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="value">Its value, <see cref="IsQuantity"/>.</param>
    /// <param name="unit">The unit that it is to be in; null for the project's.</param>
    public string Quantity(string name, TypedValue value, PropertyUnit? unit)
    {
        var (kind, part) = (Quantities[value.Type], value.Parts[0]);
        var own = OwnUnit(value, unit);
        var text = editor.Blank($"IfcQuantity{kind}");
        text["Name"] = StepWriter.String(name);
        text[$"{kind}Value"] = StepNumber.Format(InUnit(part, value.Type, unit, own));
        if (own is not null)
            text["Unit"] = "#" + UnitInstances.Once(own, editor.Fresh);
        return editor.Once(text);
    }

    private void Fill(
        InstanceText text,
        TypedValue value,
        string type,
        PropertyUnit? unit,
        PropertyUnit? own,
        IReadOnlyList<string> words,
        string name
    )
    {
        string One(ValuePart part) => Typed(part, type, value.Type, unit, own);
        string All(IEnumerable<ValuePart> parts) => $"({string.Join(",", parts.Select(One))})";
        switch (value.Form)
        {
            case PropertyForm.Enumerated:
                text["EnumerationValues"] = All(value.Parts);
                if (words.Count > 0)
                    text["EnumerationReference"] = Enumeration(name, words, type);
                break;
            case PropertyForm.List:
                text["ListValues"] = All(value.Parts);
                break;
            case PropertyForm.Bounded:
                if (value.Parts[0].Text.Length > 0)
                    text["LowerBoundValue"] = One(value.Parts[0]);
                if (value.Parts[1].Text.Length > 0)
                    text["UpperBoundValue"] = One(value.Parts[1]);
                break;
            case PropertyForm.Table:
                bool numbers = value.Parts.Where((_, n) => n % 2 == 0).All(p => double.IsFinite(p.Number));
                text["DefiningValues"] =
                    $"({string.Join(",", value.Parts.Where((_, n) => n % 2 == 0).Select(p => numbers ? $"IFCREAL({StepNumber.Format(p.Number)})" : $"IFCLABEL({StepWriter.String(p.Text)})"))})";
                text["DefinedValues"] = All(value.Parts.Where((_, n) => n % 2 == 1));
                break;
            case PropertyForm.Reference:
                var document = editor.Blank("IfcDocumentReference");
                document["Location"] = StepWriter.String(value.Parts[0].Text);
                document["Name"] = StepWriter.String(value.Parts[0].Text);
                text["PropertyReference"] = editor.Once(document);
                break;
            default:
                text["NominalValue"] = One(value.Parts[0]);
                break;
        }
    }

    private string Enumeration(string name, IReadOnlyList<string> words, string type)
    {
        var text = editor.Blank("IfcPropertyEnumeration");
        text["Name"] = StepWriter.String(name);
        text["EnumerationValues"] =
            $"({string.Join(",", words.Select(w => $"{type.ToUpperInvariant()}({StepWriter.String(w)})"))})";
        return editor.Once(text);
    }

    private string Typed(ValuePart part, string written, string type, PropertyUnit? unit, PropertyUnit? own)
    {
        string keyword = written.ToUpperInvariant();
        return PropertyTypes.KindOf(type) switch
        {
            TypeKind.Logical => $"{keyword}({(part.Text == "True" ? ".T." : part.Text == "False" ? ".F." : ".U.")})",
            TypeKind.Number when editor.Model.Schema.Type(written)?.Kind == TypeKind.Number =>
                $"{keyword}({Number(InUnit(part, type, unit, own), written)})",
            _ => $"{keyword}({StepWriter.String(part.Text)})",
        };
    }

    private static string Number(double value, string type) =>
        PropertyTypes.IsInteger(type) && value == Math.Floor(value) && Math.Abs(value) < 1e15
            ? ((long)value).ToString(System.Globalization.CultureInfo.InvariantCulture)
            : StepNumber.Format(value);

    // The unit to name beside a value: the one asked for where it is not the project's, or where the project has none for the measure.
    private PropertyUnit? OwnUnit(TypedValue value, PropertyUnit? unit)
    {
        if (MeasureKinds.UnitKind(value.Type) is not { } kind || value.Parts.All(p => double.IsNaN(p.Number)))
            return null;
        double project = _snapshot.Units.Assigned(kind);
        var written = unit?.Kind == kind ? unit : value.Parts.Select(p => p.Unit).FirstOrDefault(u => u is not null);
        if (written is null)
            return null;
        if (!double.IsFinite(project))
            return written;
        return unit is not null && Math.Abs(written.Factor - project) > 1e-12 * written.Factor ? written : null;
    }

    private double InUnit(ValuePart part, string type, PropertyUnit? unit, PropertyUnit? own)
    {
        if (MeasureKinds.UnitKind(type) is not { } kind)
            return part.Number;
        double project = _snapshot.Units.Assigned(kind),
            from = (part.Unit ?? (unit?.Kind == kind ? unit : null))?.Factor ?? (own?.Factor ?? project),
            to = own?.Factor ?? project;
        // The same unit on both sides leaves the number as it was typed.
        return !double.IsFinite(from) || !double.IsFinite(to) || Math.Abs(from - to) <= 1e-15 * to
            ? part.Number
            : StepNumber.Rounded(part.Number * from / to);
    }
}
