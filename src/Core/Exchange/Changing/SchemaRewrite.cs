using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Writes a model in another edition of the standard: entities under the name of the nearest one there, attributes by name, shapes
/// the edition lacks in simpler form.</summary>
/// <remarks>Attributes with a plain value that an object loses go into a
/// property set of its own, <see cref="AttributeSet"/>.</remarks>
public sealed class SchemaRewrite : IRewrite
{
    /// <summary>The name of the set that takes attributes without a place.</summary>
    public const string AttributeSet = "Lintel_SourceAttributes";

    // Defined types of later editions in the values of properties, and what carries the same value in IFC2X3.
    private static readonly Dictionary<string, string> OldMeasures = new()
    {
        ["IFCNONNEGATIVELENGTHMEASURE"] = "IFCLENGTHMEASURE",
        ["IFCDATE"] = "IFCLABEL",
        ["IFCDATETIME"] = "IFCLABEL",
        ["IFCTIME"] = "IFCLABEL",
        ["IFCDURATION"] = "IFCLABEL",
        ["IFCURIREFERENCE"] = "IFCTEXT",
        ["IFCPOSITIVEINTEGER"] = "IFCINTEGER",
        ["IFCSTRIPPEDOPTIONAL"] = "IFCBOOLEAN",
    };

    private readonly ModelSnapshot _snapshot;
    private readonly SchemaMap _map;
    private readonly ShapeDownward _shapes;
    private readonly bool[] _dropped;
    private readonly SchemaDrops _drops;
    private int _owner;

    /// <summary>Prepares to write a model in another schema.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="schema">The schema to write.</param>
    /// <param name="metres">Metres in the unit that is written.</param>
    /// <param name="kept">Whether an instance is written at all; null for all.</param>
    public SchemaRewrite(ModelSnapshot snapshot, IfcSchema schema, double metres, Func<int, bool>? kept = null)
    {
        (_snapshot, _map) = (snapshot, new SchemaMap(schema));
        _shapes = new ShapeDownward(snapshot, schema, metres);
        _drops = new SchemaDrops(snapshot.Model, _map, _shapes, kept ?? (_ => true));
        _dropped = _drops.Find();
    }

    /// <summary>The class that means one in the other schema; its own name when none does.</summary>
    public string ClassOf(EntityDef entity) => _map.Entity(entity)?.Name ?? entity.Name;

    /// <summary>Whether an instance is left out.</summary>
    public bool Drops(int index) => _dropped[index];

    /// <summary>Why an instance is left out, and whether that is a loss; null when it is not left out.</summary>
    public (string Reason, bool Lost)? DropOf(int index) =>
        _drops.Reason(index) switch
        {
            DropReason.None => null,
            // The shape it is part of is written otherwise; what that shows is compared.
            DropReason.NoEntity when ShapeDownward.IsPart(_snapshot.Model, index) => (
                $"written in another form in {_map.To.Name}",
                false
            ),
            DropReason.NoEntity => ($"{_snapshot.Model.ClassName(index)} has no place in {_map.To.Name}", true),
            DropReason.NeedsDropped => ($"what it needs has no place in {_map.To.Name}", true),
            DropReason.ServedDropped => ($"written in another form in {_map.To.Name}", false),
            _ => ($"what it held is in its place in {_map.To.Name}", false),
        };

    /// <summary>Whether the shape that an instance is of is written in another form.</summary>
    public bool Reshapes(int index) => _shapes.Replaces(index);

    /// <summary>The rule's name in the ledger.</summary>
    public string Rule => $"schema {_snapshot.Model.Schema.Name} → {_map.To.Name}";

    /// <inheritdoc/>
    public bool Touches(int index) => true;

    /// <inheritdoc/>
    public void Expect(ExpectedInstance expected)
    {
        if (expected.Entity is not { } source)
            return;
        if (_shapes.Replaces(expected.Index))
        {
            // Checked by what it shows: box and volume.
            expected.Keyword = null;
            expected.Change(ShapeRule);
            return;
        }

        if (_map.Entity(source) is not { } target)
            return;
        var used = new HashSet<string>();
        var values = target.Attributes.Select(a => Expected(expected, a, source, target, used)).ToList();
        if (
            !ReferenceEquals(source, target)
            && (
                source.Name != target.Name
                || !source.Attributes.Select(a => a.Name).SequenceEqual(target.Attributes.Select(a => a.Name))
            )
        )
            expected.Change(Rule);
        for (int a = 0; a < source.Attributes.Count && a < expected.Values.Count; a++)
        {
            string value = expected.Values[a].Text;
            if (
                used.Contains(source.Attributes[a].Name)
                || source.Attributes[a].IsDerived
                || value is "$" or "*" or ".NOTDEFINED."
                || value.Length == 0
            )
                continue;
            if (source.Is("IfcObject") && Plain(source.Attributes[a], value) is not null)
                expected.Change("attribute moved to " + AttributeSet);
            else if (AllDropped(value))
                expected.Change(Rule);
            else
                expected.Lose($"{source.Name}.{source.Attributes[a].Name} has no place in {_map.To.Name}");
        }

        (expected.Entity, expected.Keyword, expected.Values) = (target, target.Keyword, values);
        if (target.Name == "IfcMaterialList" && source.Name != target.Name)
            expected.Values = [new ExpectedValue(Materials(expected.Index))];
        // Wrapped or unwrapped styles are checked by the colours of shapes.
        if (target.Name == "IfcStyledItem" && _snapshot.Model.Schema.Name != _map.To.Name)
            expected.ExpectAnything("Styles", Rule);
        if (target.Name == "IfcShapeRepresentation" && _shapes.TypeOf(expected.Index) is { } type)
            expected.Expect("RepresentationType", $"'{type}'", ShapeRule);
        if (DefinitionSet(expected["RelatingPropertyDefinition"]) is not null)
            expected.ExpectAnything("RelatingPropertyDefinition", Rule);
    }

    private ExpectedValue Expected(
        ExpectedInstance expected,
        AttributeDef attribute,
        EntityDef source,
        EntityDef target,
        HashSet<string> used
    )
    {
        if (attribute.IsDerived)
            return new ExpectedValue("*");
        string? name = SchemaMap.Attribute(source, attribute.Name);
        var value =
            name is not null && source.Position(name) is >= 0 and var p && p < expected.Values.Count
                ? expected.Values[p]
                : new ExpectedValue("$");
        string fit = Fit(value.Text, attribute, target);
        if (name is not null && (fit != "$" || value.Text is "$" or "*" || value.Text[0] != '.'))
            used.Add(name);
        if (fit != value.Text && fit != "$")
            expected.Change(Rule);
        // What the other edition requires and the source does not say is filled in.
        if (fit != "$" || attribute.Optional)
            return value with { Text = fit };
        expected.Change("required value filled in");
        return value with { Text = "$", Anything = true };
    }

    private bool AllDropped(string value)
    {
        var bytes = System.Text.Encoding.Latin1.GetBytes(value);
        bool any = false;
        for (int at = 0; Step.StepReferences.Next(bytes, ref at, out int id, out _); any = true)
            if (!IsGone(id))
                return false;
        return any;
    }

    /// <summary>The ledger's name of the rule that writes shapes in another form.</summary>
    public const string ShapeRule = "shape in another form";

    // The references of an IfcPropertySetDefinitionSet; null for anything else. IFC2X3 has a relationship for each definition instead.
    private List<string>? DefinitionSet(string value) =>
        _map.To.Name == "IFC2X3" && value.StartsWith("IFCPROPERTYSETDEFINITIONSET", StringComparison.OrdinalIgnoreCase)
            ?
            [
                .. InstanceText
                    .Split(value[(value.IndexOf('(', StringComparison.Ordinal) + 1)..^1].Trim()[1..^1])
                    .Select(Live)
                    .Where(v => v != "$"),
            ]
            : null;

    private void SplitDefinitions(InstanceText text, NewInstances fresh)
    {
        if (DefinitionSet(text["RelatingPropertyDefinition"]) is not { Count: > 0 } definitions)
            return;
        text["RelatingPropertyDefinition"] = definitions[0];
        string id = _snapshot.Model.GlobalId(text.Index);
        for (int n = 1; n < definitions.Count; n++)
        {
            var parts = text.Parts.ToList();
            parts[0] = $"'{GlobalIds.Derived(id, definitions[n])}'";
            parts[^1] = definitions[n];
            fresh.Add(text.Keyword!, string.Join(",", parts));
        }
    }

    /// <inheritdoc/>
    public void Apply(InstanceText text, NewInstances fresh)
    {
        if (text.Entity is not { } source || _dropped[text.Index])
        {
            text.Keyword = null;
            return;
        }

        if (_shapes.Replace(text, fresh))
            return;
        // An edit may have made it something that the other schema does not have.
        if (_map.Entity(source) is not { } target)
        {
            text.Keyword = null;
            return;
        }

        var parts = new List<string>(target.Attributes.Count);
        var used = new HashSet<string>();
        foreach (var attribute in target.Attributes)
        {
            string? name = attribute.IsDerived ? null : SchemaMap.Attribute(source, attribute.Name);
            string value = Live(name is null ? "$" : text[name]),
                fit = Fit(value, attribute, target);
            // A word that the other edition does not have is reported, as an attribute without a place is.
            if (name is not null && (fit != "$" || value == "$" || value[0] != '.'))
                used.Add(name);
            parts.Add(attribute.IsDerived ? "*" : Fill(fit, attribute, target, text.Index, fresh));
        }

        MoveAttributes(text, source, target, used, fresh);
        (text.Keyword, text.Entity, text.Parts) = (target.Keyword, target, parts);
        if (target.Name == "IfcMaterialList")
            text.Parts = [Materials(text.Index)];
        if (target.Name == "IfcStyledItem")
            Styles(text, fresh);
        if (target.Name == "IfcRelDefinesByProperties")
            SplitDefinitions(text, fresh);
        if (target.Name == "IfcShapeRepresentation" && _shapes.TypeOf(text.Index) is { } type)
            text["RepresentationType"] = $"'{type}'";
    }

    private string Live(string value) => LiveReferences.Of(value, IsGone);

    private bool IsGone(int id) =>
        _snapshot.Model.File.IndexOf(id) is >= 0 and var index
        && _dropped[index]
        && !SchemaDrops.IsUnwrapped(_snapshot.Model, index);

    // Values that the attribute takes under the other schema.
    private string Fit(string value, AttributeDef attribute, EntityDef target)
    {
        if (value is "$" or "*")
            return "$";
        if (_map.To.Name == "IFC2X3")
        {
            foreach (var (later, old) in OldMeasures)
                if (value.StartsWith(later + "(", StringComparison.Ordinal))
                    return old + value[later.Length..];
            if (attribute.Name == "InteriorOrExteriorSpace" && value is not (".INTERNAL." or ".EXTERNAL."))
                return ".NOTDEFINED.";
        }

        if (
            _map.To.Type(attribute.Type) is { Kind: TypeKind.Enumeration } words
            && attribute.Depth == 0
            && !(value[0] == '.' && words.Members.Contains(value.Trim('.')))
        )
            return "$";
        return target.Name == "IfcClassification" && attribute.Name == "EditionDate" ? "$" : value;
    }

    private string Fill(string value, AttributeDef attribute, EntityDef target, int index, NewInstances fresh)
    {
        if (value != "$" || attribute.Optional)
            return value;
        switch (attribute.Type)
        {
            case "boolean" or "logical":
                return ".F.";
            case "IfcOwnerHistory":
                return "#" + Owner(fresh);
            case "IfcAxis2Placement3D":
                return "#" + fresh.Once("IFCAXIS2PLACEMENT3D", $"#{fresh.Once("IFCCARTESIANPOINT", "(0.,0.,0.)")},$,$");
            case "IfcAxis2Placement2D" or "IfcAxis2Placement":
                return "#" + fresh.Once("IFCAXIS2PLACEMENT2D", $"#{fresh.Once("IFCCARTESIANPOINT", "(0.,0.)")},$");
            // Only a mirrored profile lacks its operator: IFC4 derives it (ISO 16739-1:2018, IfcMirroredProfileDef: Axis1 -1,0; Axis2 0,1).
            case "IfcCartesianTransformationOperator2D":
                return "#"
                    + fresh.Once(
                        "IFCCARTESIANTRANSFORMATIONOPERATOR2D",
                        $"#{fresh.Once("IFCDIRECTION", "(-1.,0.)")},#{fresh.Once("IFCDIRECTION", "(0.,1.)")},#{fresh.Once("IFCCARTESIANPOINT", "(0.,0.)")},1."
                    );
            // A sweep along the whole of its directrix: IFC2X3 wants the parameters where that begins and ends.
            case "IfcParameterValue"
                when attribute.Name is "StartParam" or "EndParam"
                    && Parameter(index, attribute.Name == "StartParam") is { } parameter:
                return parameter;
            case "IfcChangeActionEnum":
                return ".NOCHANGE.";
            case "IfcElementCompositionEnum":
                return ".ELEMENT.";
            case "IfcBoolean" or "IfcLogical":
                return ".F.";
            case "IfcLabel" or "IfcText" or "IfcIdentifier":
                return "''";
        }

        if (_map.To.Type(attribute.Type) is { Kind: TypeKind.Enumeration } words)
            return words.Members.Contains("NOTDEFINED") ? ".NOTDEFINED." : $".{words.Members.First()}.";
        return value;
    }

    private string? Parameter(int sweep, bool start)
    {
        try
        {
            var samples = _snapshot.Shapes.CurveSamples(_snapshot.Model.Ref(sweep, "Directrix"));
            return Step.StepNumber.Format(samples.Parameters[start ? 0 : samples.Parameters.Count - 1]);
        }
        catch (ShapeException)
        {
            return null;
        }
    }

    private int Owner(NewInstances fresh)
    {
        if (_owner > 0)
            return _owner;
        int known = _snapshot.Model.OfType("IfcOwnerHistory").Where(i => !_dropped[i]).Append(-1).First();
        if (known >= 0)
            return _owner = _snapshot.Model.File.Id(known);
        int organization = fresh.Add("IFCORGANIZATION", "$,'Steady Lintel',$,$,$"),
            person = fresh.Add("IFCPERSON", "$,'','',$,$,$,$,$");
        int application = fresh.Add("IFCAPPLICATION", $"#{organization},'1','Steady Lintel','steady-lintel'");
        return _owner = fresh.Add(
            "IFCOWNERHISTORY",
            $"#{fresh.Add("IFCPERSONANDORGANIZATION", $"#{person},#{organization},$")},#{application},$,.NOCHANGE.,$,$,$,0"
        );
    }

    private void MoveAttributes(
        InstanceText text,
        EntityDef source,
        EntityDef target,
        HashSet<string> used,
        NewInstances fresh
    )
    {
        var moved = new List<int>();
        if (source.Name != target.Name && source.Is("IfcObject"))
            moved.Add(fresh.Add("IFCPROPERTYSINGLEVALUE", $"'Class',$,IFCLABEL('{source.Name}'),$"));
        for (int a = 0; a < source.Attributes.Count && a < text.Parts.Count; a++)
        {
            var attribute = source.Attributes[a];
            string value = text.Parts[a];
            if (used.Contains(attribute.Name) || attribute.IsDerived || value is "$" or "*" || value.Length == 0)
                continue;
            if (source.Is("IfcObject") && Plain(attribute, value) is { } plain)
                moved.Add(fresh.Add("IFCPROPERTYSINGLEVALUE", $"'{attribute.Name}',$,{plain},$"));
        }

        if (moved.Count == 0)
            return;
        string owner = _map.To.Name == "IFC2X3" ? "#" + Owner(fresh) : "$";
        // The instance's name is in it: a file may use a GlobalId twice.
        string id = $"{_snapshot.Model.GlobalId(text.Index)}#{_snapshot.Model.File.Id(text.Index)}";
        int set = fresh.Add(
            "IFCPROPERTYSET",
            $"'{GlobalIds.Derived(id, AttributeSet)}',{owner},'{AttributeSet}',$,({string.Join(",", moved.Select(m => "#" + m))})"
        );
        fresh.Add(
            "IFCRELDEFINESBYPROPERTIES",
            $"'{GlobalIds.Derived(id, AttributeSet + "'")}',{owner},$,$,(#{_snapshot.Model.File.Id(text.Index)}),#{set}"
        );
    }

    // An attribute as the value of a property.
    private static string? Plain(AttributeDef attribute, string value) =>
        value[0] switch
        {
            '.' when value is ".T." or ".F." => $"IFCBOOLEAN({value})",
            '.' => $"IFCLABEL('{value.Trim('.')}')",
            '\'' => $"IFCLABEL({value})",
            (>= '0' and <= '9') or '-' when attribute.Type.EndsWith("Measure", StringComparison.Ordinal) =>
                $"{attribute.Type.ToUpperInvariant()}({value})",
            _ => null,
        };

    // IFC2X3 has no profile or constituent sets: their materials go in a list.
    private string Materials(int index)
    {
        var model = _snapshot.Model;
        var found = new List<int>();
        void Add(int at, int depth)
        {
            if (at < 0 || depth > 4)
                return;
            if (model.Is(at, "IfcMaterial"))
                found.Add(at);
            else
                foreach (int target in model.Targets(new Step.StepValue([.. "("u8, .. model.Record(at).Raw, .. ")"u8])))
                    Add(target, depth + 1);
        }

        Add(index, 0);
        return "(" + string.Join(",", found.Distinct().Select(m => "#" + model.File.Id(m))) + ")";
    }

    // IFC2X3 wants styles in assignments; IFC4X3 knows these no more.
    private void Styles(InstanceText text, NewInstances fresh)
    {
        var model = _snapshot.Model;
        var styles = new List<string>();
        foreach (string style in InstanceText.Split(text["Styles"].Trim('(', ')')))
        {
            int index = model.File.IndexOf(int.Parse(style[1..], System.Globalization.CultureInfo.InvariantCulture));
            bool assignment = model.Is(index, "IfcPresentationStyleAssignment");
            if (_map.To.Name == "IFC2X3" && !assignment)
                styles.Add("#" + fresh.Once("IFCPRESENTATIONSTYLEASSIGNMENT", $"({style})"));
            else if (_map.To.Name == "IFC4X3" && assignment)
                styles.AddRange(model.Refs(index, "Styles").Select(s => "#" + model.File.Id(s)));
            else
                styles.Add(style);
        }

        text["Styles"] = "(" + string.Join(",", styles) + ")";
    }
}
