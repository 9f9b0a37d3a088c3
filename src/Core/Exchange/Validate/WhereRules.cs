using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Checks those where-rules of the schema (ISO 16739-1, WHERE and UNIQUE clauses) that what we write could break, and that can be
/// evaluated from the instances alone.</summary>
/// <remarks>The names of rules and what they demand are from memory of the schema's text. A rule that an edition does not have is not
/// asked of
/// its models where the model would be wrong by it.</remarks>
internal sealed class WhereRules(ModelSnapshot snapshot, FindingList findings)
{
    private readonly IfcModel _model = snapshot.Model;

    /// <summary>Checks all of them.</summary>
    public void Add()
    {
        UniqueNames();
        Sets();
        Types();
        Words();
        Decompositions();
        Containment();
        Values();
        Geometry();
        Project();
    }

    // IfcObject.UniquePropertySetNames, IfcTypeObject.UniquePropertySetNames: each set of an object has a name of its own.
    private void Sets()
    {
        var relations = snapshot.Relations.PropertySets;
        foreach (int instance in relations.Sources.ToArray().Distinct())
            if (Twice(relations[instance].ToArray().Distinct(), _model.Name) is { } name)
                Report("IFC-SET-TWICE", instance, name);
        foreach (int type in _model.OfType("IfcTypeObject"))
            if (Twice(_model.Refs(type, "HasPropertySets").Distinct(), _model.Name) is { } name)
                Report("IFC-SET-TWICE", type, name);
    }

    // IfcPropertySet.UniquePropertyNames, IfcComplexProperty.WR22, IfcElementQuantity.UniqueQuantityNames.
    private void UniqueNames()
    {
        foreach (
            var (entity, members) in ((string, string)[])
                [
                    ("IfcPropertySet", "HasProperties"),
                    ("IfcComplexProperty", "HasProperties"),
                    ("IfcElementQuantity", "Quantities"),
                ]
        )
        {
            foreach (int set in _model.OfType(entity))
                if (Twice(_model.Refs(set, members), _model.Name) is { } name)
                    Report("IFC-PROPERTY-TWICE", set, $"{_model.Name(set)}: {name}");
        }
    }

    // CorrectTypeAssigned of IfcWall and others: the type is the one that goes with the class. IFC2X3 has no such rule;
    // a wall with a slab's
    // type is wrong there too.
    private void Types()
    {
        foreach (int relation in _model.OfType("IfcRelDefinesByType"))
        {
            if (
                _model.Entity(_model.Ref(relation, "RelatingType")) is not { } type
                || type.Name is "IfcTypeProduct" or "IfcTypeObject"
            )
                continue;
            foreach (int element in _model.Refs(relation, "RelatedObjects"))
            {
                if (
                    _model.Entity(element) is not { } entity
                    || TypeChange.TypeOf(_model.Schema, entity) is not { } wanted
                )
                    continue;
                if (!type.Is(wanted.Name) && !wanted.Is(type.Name))
                    Report("IFC-TYPE-CLASS", element, $"{entity.Name} of the type {type.Name}");
            }
        }
    }

    // CorrectPredefinedType: a user's own word is in ObjectType, of types in ElementType or ProcessType.
    private void Words()
    {
        foreach (
            int index in _model.OfType(e =>
                (e.Is("IfcObject") || e.Is("IfcTypeObject")) && e.Position("PredefinedType") >= 0
            )
        )
        {
            if (_model.Get(index, "PredefinedType").Enumeration != "USERDEFINED")
                continue;
            string attribute = _model.Is(index, "IfcTypeObject")
                ? _model.Entity(index)!.Position("ElementType") >= 0
                    ? "ElementType"
                    : "ProcessType"
                : "ObjectType";
            if (string.IsNullOrEmpty(_model.Text(index, attribute)))
                Report("IFC-USERDEFINED-WORD", index, attribute);
        }
    }

    // NoSelfReference of IfcRelAggregates, IfcRelNests, IfcRelAssigns, IfcRelDecomposes.
    private void Decompositions()
    {
        foreach (
            int relation in _model.OfType(e =>
                e.Is("IfcRelDecomposes") || e.Is("IfcRelNests") || e.Is("IfcRelAggregates")
            )
        )
        {
            int whole = _model.Ref(relation, "RelatingObject");
            if (whole >= 0 && _model.Refs(relation, "RelatedObjects").Contains(whole))
                Report("IFC-SELF-REFERENCE", relation, _model.GlobalId(whole));
        }
    }

    // IfcRelContainedInSpatialStructure.WR31: spatial structure is decomposed, not contained. IFC4X3 lets spaces be contained.
    private void Containment()
    {
        foreach (int relation in _model.OfType("IfcRelContainedInSpatialStructure"))
        foreach (int element in _model.Refs(relation, "RelatedElements"))
            if (snapshot.IsStructure(element))
                Report("IFC-STRUCTURE-CONTAINED", element, "");
    }

    // IfcPropertyEnumeratedValue.WR21: its values are words of the enumeration. IfcPropertyListValue.WR31: values of one type.
    // IfcPropertyBoundedValue: bounds of one type.
    private void Values()
    {
        foreach (int property in _model.OfType("IfcPropertyEnumeratedValue"))
        {
            var allowed = Texts(_model.Get(_model.Ref(property, "EnumerationReference"), "EnumerationValues"));
            if (allowed.Count == 0)
                continue;
            foreach (string word in Texts(_model.Get(property, "EnumerationValues")))
                if (!allowed.Contains(word))
                    Report("IFC-ENUMERATED-VALUE", property, $"{_model.Name(property)} = {word}");
        }

        foreach (int property in _model.OfType("IfcPropertyListValue"))
        {
            var types = new HashSet<string>();
            foreach (var value in _model.Get(property, "ListValues").Items)
                types.Add(value.TypeName ?? "");
            if (types.Count > 1)
                Report("IFC-VALUE-TYPES", property, _model.Name(property));
        }

        foreach (int property in _model.OfType("IfcPropertyBoundedValue"))
        {
            string?[] types =
            [
                _model.Get(property, "UpperBoundValue").TypeName,
                _model.Get(property, "LowerBoundValue").TypeName,
            ];
            if (types[0] is { } upper && types[1] is { } lower && upper != lower)
                Report("IFC-VALUE-TYPES", property, _model.Name(property));
        }
    }

    // IfcExtrudedAreaSolid.ValidExtrusionDirection; IfcAxis2Placement3D.AxisToRefDirPosition; IfcDirection.MagnitudeGreaterZero.
    private void Geometry()
    {
        foreach (int direction in _model.OfType("IfcDirection"))
            if (Vector(direction) is { } v && v.All(x => x == 0))
                Report("IFC-DIRECTION-ZERO", direction, "");
        foreach (int placement in _model.OfType("IfcAxis2Placement3D"))
        {
            if (
                Vector(_model.Ref(placement, "Axis")) is not [var ax, var ay, var az]
                || Vector(_model.Ref(placement, "RefDirection")) is not [var rx, var ry, var rz]
            )
                continue;
            var axis = new Geometry.Vec3(ax, ay, az);
            var reference = new Geometry.Vec3(rx, ry, rz);
            if (axis.Cross(reference).Length <= 1e-12 * axis.Length * reference.Length)
                Report("IFC-AXES-PARALLEL", placement, "");
        }
    }

    // IfcProject.HasName of IFC2X3 and IFC4; IfcProject.NoDecomposition.
    private void Project()
    {
        foreach (
            int relation in _model.OfType(e =>
                e.Is("IfcRelDecomposes") || e.Is("IfcRelAggregates") || e.Is("IfcRelNests")
            )
        )
        foreach (int part in _model.Refs(relation, "RelatedObjects"))
            if (_model.Is(part, "IfcProject"))
                Report("IFC-PROJECT-PART", part, "");
    }

    private double[]? Vector(int direction)
    {
        if (direction < 0)
            return null;
        var numbers = new List<double>();
        foreach (var item in _model.Get(direction, "DirectionRatios").Items)
            numbers.Add(item.Real);
        return numbers.Count == 0 ? null : [.. numbers];
    }

    private static HashSet<string> Texts(StepValue list)
    {
        var texts = new HashSet<string>(StringComparer.Ordinal);
        foreach (var value in list.Items)
            texts.Add(PropertyReader.Text(value));
        return texts;
    }

    private static string? Twice(IEnumerable<int> instances, Func<int, string> name)
    {
        var known = new HashSet<string>(StringComparer.Ordinal);
        foreach (int instance in instances)
            if (name(instance) is { Length: > 0 } word && !known.Add(word))
                return word;
        return null;
    }

    private void Report(string code, int index, string detail) =>
        findings.Add(code, Severity.Warning, Message(code), StructureFindings.About(_model, index, detail));

    private static Func<int, string> Message(string code) =>
        code switch
        {
            "IFC-SET-TWICE" => n =>
                $"{n} objects have two property sets of one name; programs read one of them, nobody knows which. Ask the sender to give each set its own name.",
            "IFC-PROPERTY-TWICE" => n =>
                $"{n} sets have two properties of one name; programs read one of them, nobody knows which. Ask the sender to give each its own name.",
            "IFC-TYPE-CLASS" => n =>
                $"{n} elements have a type that belongs to another class. Ask the sender to assign the type of their class.",
            "IFC-USERDEFINED-WORD" => n =>
                $"{n} objects say that their kind is the user's own and do not name it. Ask the sender for the word.",
            "IFC-SELF-REFERENCE" => n =>
                $"{n} relationships make an object a part of itself. Ask the sender for a new export.",
            "IFC-STRUCTURE-CONTAINED" => n =>
                $"{n} sites, buildings or storeys are contained like elements instead of being parts of the structure. Ask the sender for a new export.",
            "IFC-ENUMERATED-VALUE" => n =>
                $"{n} properties have a word that their list of words does not allow. Ask the sender which word was meant.",
            "IFC-VALUE-TYPES" => n =>
                $"{n} properties have values of different types in one list or range. Ask the sender for a new export.",
            "IFC-DIRECTION-ZERO" => n =>
                $"{n} directions have no length. What is placed along them is shown along the axes; ask the sender for a new export.",
            "IFC-AXES-PARALLEL" => n =>
                $"{n} placements have parallel axes. What is placed by them may be rotated; ask the sender for a new export.",
            _ => n => $"{n} projects are part of another object. Ask the sender for a new export.",
        };
}
