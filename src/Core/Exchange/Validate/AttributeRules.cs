using System.Text;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Checks the attributes of every instance against the schema: how many, whether set, of what kind, from which words and
/// classes.</summary>
internal sealed class AttributeRules(IfcModel model)
{
    /// <summary>Checks all instances on all cores; the findings come in file order.</summary>
    public void Add(FindingList findings, CancellationToken cancel)
    {
        var parts = new List<(int From, Checker Checker)>();
        var options = new ParallelOptions
        {
            CancellationToken = cancel,
            MaxDegreeOfParallelism = Environment.ProcessorCount,
        };
        if (model.File.Count == 0)
            return;
        Parallel.ForEach(System.Collections.Concurrent.Partitioner.Create(0, model.File.Count), options, range =>
        {
            var check = new Checker(model);
            for (int i = range.Item1; i < range.Item2; i++)
                check.Instance(i);
            lock (parts)
                parts.Add((range.Item1, check));
        });
        foreach (var (_, checker) in parts.OrderBy(p => p.From))
        {
            foreach (var c in checker.Cases)
                findings.Add(c.Code, c.Severity, Message(c.Code), StructureFindings.About(model, c.Index, c.Detail));
            foreach (var (code, (severity, count)) in checker.Counts)
                if (count > Finding.MaxElements)
                    findings.Add(code, severity, Message(code), null, count - Finding.MaxElements);
        }
    }

    private static Func<int, string> Message(string code) =>
        code switch
        {
            "IFC-ATTRIBUTE-COUNT" => n =>
                $"{n} instances have more or fewer attributes than their entity; what is at the wrong place is misread.",
            "IFC-ATTRIBUTE-REQUIRED" => n => $"{n} attributes that the schema requires are not set.",
            "IFC-NESTING" => n =>
                $"{n} attributes hold lists nested deeper than {StepValue.MaxDepth}, which no schema has; what is deeper is not read. Ask the sender for a new export.",
            "IFC-ATTRIBUTE-KIND" => n => $"{n} attributes hold a value of another kind than the schema says.",
            "IFC-ATTRIBUTE-CLASS" => n =>
                $"{n} attributes refer to an instance of a class that the schema does not allow there.",
            "IFC-ENUMERATION-VALUE" => n => $"{n} attributes hold a word that their enumeration does not have.",
            "IFC-SELECT-VALUE" => n => $"{n} attributes hold a value that their select does not allow.",
            "IFC-LIST-BOUNDS" => n =>
                $"{n} lists have fewer or more members than the schema allows; a program that reads by the schema may refuse them.",
            "IFC-LIST-EMPTY" => n => $"{n} lists that must not be empty are.",
            _ => n =>
                $"{n} strings hold bytes that ISO 10303-21 does not allow; they were read as {Encodings(code)}. Ask for an export that encodes them.",
        };

    private static string Encodings(string code) => code == "STEP-TEXT-UTF8" ? "UTF-8" : "ISO 8859-1";

    private readonly record struct Case(string Code, Severity Severity, int Index, string Detail);

    private sealed class Checker(IfcModel model)
    {
        private readonly Dictionary<EntityDef, TypeDef?[]> _types = [];

        public List<Case> Cases { get; } = [];

        public Dictionary<string, (Severity Severity, int Count)> Counts { get; } = [];

        public void Instance(int index)
        {
            if (model.Entity(index) is not { } entity)
                return;
            var types = TypesOf(entity);
            int a = 0;
            foreach (var value in new StepItems(model.Record(index).Raw))
            {
                if (a < types.Length)
                    Attribute(index, entity.Attributes[a], types[a], value);
                a++;
            }

            if (a != types.Length)
                Report("IFC-ATTRIBUTE-COUNT", Severity.Error, index, $"{a} for {types.Length}");
        }

        private TypeDef?[] TypesOf(EntityDef entity)
        {
            if (_types.TryGetValue(entity, out var known))
                return known;
            return _types[entity] = [.. entity.Attributes.Select(a => a.IsEntity ? null : model.Schema.Type(a.Type))];
        }

        private void Attribute(int index, AttributeDef attribute, TypeDef? type, StepValue value)
        {
            var kind = value.Kind;
            if (value.HoldsTooDeep)
                Report("IFC-NESTING", Severity.Error, index, attribute.Name);
            // A derived value may be where a subtype redeclares an attribute; elsewhere it says nothing.
            if (attribute.IsDerived || kind == StepKind.Derived)
                return;
            if (kind == StepKind.Null)
            {
                if (!attribute.Optional)
                    Report("IFC-ATTRIBUTE-REQUIRED", Severity.Warning, index, attribute.Name);
            }
            else
                Nested(index, attribute, type, value, attribute.Depth);
        }

        private void Nested(int index, AttributeDef attribute, TypeDef? type, StepValue value, int depth)
        {
            if (depth == 0)
            {
                Single(index, attribute, type, value);
                return;
            }

            if (value.Kind != StepKind.List)
            {
                // A select may be for a whole list (IfcPropertySetDefinitionSet).
                if (value.Kind != StepKind.Typed)
                    Report("IFC-ATTRIBUTE-KIND", Severity.Warning, index, $"{attribute.Name} is no list");
                return;
            }

            int count = 0;
            foreach (var item in value.Items)
            {
                count++;
                Nested(index, attribute, type, item, depth - 1);
            }

            var bounds = depth == attribute.Depth ? attribute.Bounds : attribute.InnerBounds;
            string list = depth == attribute.Depth ? attribute.Name : $"A list in {attribute.Name}";
            if (count == 0 && bounds.Fewest > 0 && !attribute.Optional)
                Report("IFC-LIST-EMPTY", Severity.Warning, index, list);
            else if (count > 0 && !bounds.Allow(count))
                Report("IFC-LIST-BOUNDS", Severity.Warning, index, $"{list} has {count}, not {bounds}");
        }

        private void Single(int index, AttributeDef attribute, TypeDef? type, StepValue value)
        {
            if (attribute.IsEntity)
            {
                if (value.Kind != StepKind.Reference)
                    Report("IFC-ATTRIBUTE-KIND", Severity.Warning, index, $"{attribute.Name} is no reference");
                else if (
                    model.Target(value) is >= 0 and var target
                    && model.Entity(target) is { } entity
                    && !entity.Is(attribute.Type)
                )
                    Report(
                        "IFC-ATTRIBUTE-CLASS",
                        Severity.Error,
                        index,
                        $"{attribute.Name} is {entity.Name}, not {attribute.Type}"
                    );
                return;
            }

            if (type is null)
                return;
            bool fits = type.Kind switch
            {
                TypeKind.Number => value.Kind == StepKind.Number,
                TypeKind.String => value.Kind == StepKind.String,
                TypeKind.Binary => value.Kind == StepKind.Binary,
                TypeKind.List => value.Kind == StepKind.List,
                TypeKind.Logical or TypeKind.Enumeration => value.Kind == StepKind.Enumeration,
                _ => true,
            };
            if (!fits)
                Report(
                    "IFC-ATTRIBUTE-KIND",
                    Severity.Warning,
                    index,
                    $"{attribute.Name} should be {(type.Kind == TypeKind.Select ? "typed" : type.Kind.ToString().ToLowerInvariant())}"
                );
            else if (
                type.Kind == TypeKind.Logical
                && !(value.Raw.Length == 3 && value.Raw[1] is (byte)'T' or (byte)'F' or (byte)'U')
            )
                Report(
                    "IFC-ENUMERATION-VALUE",
                    Severity.Warning,
                    index,
                    $"{attribute.Name} = {Encoding.ASCII.GetString(value.Raw)}"
                );
            else if (type.Kind == TypeKind.Enumeration && !type.Members.Contains(value.Enumeration!))
                Report(
                    "IFC-ENUMERATION-VALUE",
                    Severity.Warning,
                    index,
                    $"{attribute.Name} = {Encoding.ASCII.GetString(value.Raw)}"
                );
            else if (type.Kind == TypeKind.Select)
                Select(index, attribute, type, value);
            else if (type.Kind == TypeKind.String && value.Raw.IndexOfAnyExceptInRange((byte)0, (byte)127) >= 0)
                Text(index, attribute, value);
        }

        private void Select(int index, AttributeDef attribute, TypeDef type, StepValue value)
        {
            if (value.Kind == StepKind.Typed)
            {
                string name = value.TypeName!;
                if (!type.Members.Contains(name))
                    Report("IFC-SELECT-VALUE", Severity.Warning, index, $"{attribute.Name} = {name}");
                if (value.Inner.Kind == StepKind.String && value.Raw.IndexOfAnyExceptInRange((byte)0, (byte)127) >= 0)
                    Text(index, attribute, value);
                return;
            }

            if (value.Kind != StepKind.Reference)
                Report("IFC-SELECT-VALUE", Severity.Warning, index, $"{attribute.Name} has a value without its type");
            else if (
                model.Target(value) is >= 0 and var target
                && model.Entity(target) is { } entity
                && !Allows(type, entity)
            )
                Report("IFC-SELECT-VALUE", Severity.Warning, index, $"{attribute.Name} is {entity.Name}");
        }

        private static bool Allows(TypeDef type, EntityDef entity)
        {
            for (var e = entity; e is not null; e = e.Parent)
                if (type.Members.Contains(e.Name))
                    return true;
            return false;
        }

        private void Text(int index, AttributeDef attribute, StepValue value) =>
            Report(
                System.Text.Unicode.Utf8.IsValid(value.Raw) ? "STEP-TEXT-UTF8" : "STEP-TEXT-LATIN1",
                Severity.Note,
                index,
                attribute.Name
            );

        private void Report(string code, Severity severity, int index, string detail)
        {
            int count = Counts.GetValueOrDefault(code).Count;
            if (count < Finding.MaxElements)
                Cases.Add(new Case(code, severity, index, detail));
            Counts[code] = (severity, count + 1);
        }
    }
}
