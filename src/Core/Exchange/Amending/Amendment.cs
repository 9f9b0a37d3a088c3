using System.Text.Json.Serialization;

namespace SteadyLintel.Exchange;

/// <summary>Something that is said about an element beside its file: what, who says it, when and why.</summary>
public sealed record Amendment
{
    private const int MaxElement = 64;

    /// <summary>The GlobalId of the element; of model data that of the project, site or building, or <c>file</c>.</summary>
    public string Element { get; init; } = "";

    /// <summary>What it changes, a word of <see cref="AmendmentKinds.All"/>.</summary>
    public string Do { get; init; } = "property";

    /// <summary>Of a property its set; of a classification its system.</summary>
    public string? Set { get; init; }

    /// <summary>Of a property, zone, system or item of model data its name; of a classification its code.</summary>
    public string? Name { get; init; }

    /// <summary>The value; empty says that there is none. Of a class the class, with a predefined type after a point; of a zone or system
    /// <c>yes</c> or <c>no</c>.</summary>
    public string? Value { get; init; }

    /// <summary>Of a property the type of its value (<see cref="PropertyTypes"/>); null for the one it has, or looks like.</summary>
    public string? Type { get; init; }

    /// <summary>Of a property how it holds its value (<see cref="PropertyForms"/>); null for as it does, or one value.</summary>
    public string? Form { get; init; }

    /// <summary>Of a property the unit that its value is in; null for the one written with it, or the project's.</summary>
    public string? Unit { get; init; }

    /// <summary>Of a move: the translation along the X axis of the source, metres.</summary>
    public double? X { get; init; }

    /// <summary>Of a move: the translation along the Y axis of the source, metres.</summary>
    public double? Y { get; init; }

    /// <summary>Of a move: the translation along the Z axis of the source, metres.</summary>
    public double? Z { get; init; }

    /// <summary>Of a move: the rotation about the vertical through the element's own origin, degrees counter-clockwise.</summary>
    public double? Turn { get; init; }

    /// <summary>Of a length: how much longer at the start of the extrusion, metres; negative for shorter.</summary>
    public double? Start { get; init; }

    /// <summary>Of a length: how much longer at the end of the extrusion, metres; negative for shorter.</summary>
    public double? End { get; init; }

    /// <summary>What the file said when this was written; null where nobody looked.</summary>
    public FileStatement? Was { get; init; }

    /// <summary>Who says it.</summary>
    public string? By { get; init; }

    /// <summary>For whom they say it: the party's code.</summary>
    public string? Party { get; init; }

    /// <summary>When, ISO 8601.</summary>
    public DateTime? At { get; init; }

    /// <summary>Why.</summary>
    public string? Why { get; init; }

    /// <summary>What was said together with it.</summary>
    public string? Batch { get; init; }

    /// <summary>Whether its value stays in the job and no order writes it.</summary>
    public bool? NotForExchange { get; init; }

    /// <summary>What it changes.</summary>
    [JsonIgnore]
    public AmendmentKind Kind => AmendmentKinds.Find(Do) ?? AmendmentKind.Property;

    /// <summary>What it is about: of two that have the same the later one counts.</summary>
    [JsonIgnore]
    public string Subject =>
        Kind switch
        {
            AmendmentKind.Property or AmendmentKind.RemoveProperty => $"{Element}\tproperty\t{Set}\t{Name}",
            AmendmentKind.RemoveSet => $"{Element}\tset\t{Set}",
            AmendmentKind.Classification => $"{Element}\tclassification\t{Set}",
            AmendmentKind.Zone or AmendmentKind.System or AmendmentKind.Model => $"{Element}\t{Do}\t{Name}",
            _ => $"{Element}\t{Do}",
        };

    /// <summary>What it is about, in words.</summary>
    [JsonIgnore]
    public string About =>
        Kind switch
        {
            AmendmentKind.Property or AmendmentKind.RemoveProperty => $"{Set}.{Name}",
            AmendmentKind.RemoveSet => Set ?? "",
            AmendmentKind.Classification => $"classification {Set}",
            AmendmentKind.Zone or AmendmentKind.System => $"{Kind.Label()} {Name}",
            AmendmentKind.Model => Name ?? "",
            _ => Kind.Label(),
        };

    /// <summary>What is wrong with it on its own, a sentence; null when nothing is.</summary>
    public string? Problem()
    {
        if (Element.Length == 0)
            return "It names no element.";
        if (AmendmentKinds.Find(Do) is not { } kind)
            return $"'{Do}' is no amendment; there are {string.Join(", ", AmendmentKinds.All.Select(k => k.Word))}.";
        if (
            Element.Length > MaxElement
            || (Set?.Length ?? 0) > PropertyTypes.MaxLabel
            || (Name?.Length ?? 0) > PropertyTypes.MaxLabel
        )
            return $"A GlobalId has at most {MaxElement} letters here, names of sets and properties {PropertyTypes.MaxLabel}.";
        bool Lacks(string? text) => string.IsNullOrWhiteSpace(text);
        return kind switch
        {
            AmendmentKind.Property or AmendmentKind.RemoveProperty when Lacks(Set) || Lacks(Name) =>
                "A property needs its set and its name.",
            AmendmentKind.Property when Value is null => "A property needs a value; write an empty one for blank.",
            AmendmentKind.Property when Type is { Length: > 0 } type && PropertyTypes.Problem(type) is { } problem =>
                problem,
            AmendmentKind.Property when Form is { Length: > 0 } form && PropertyForms.Find(form) is null =>
                $"'{form}' is no form of a property; there are {string.Join(", ", PropertyForms.All.Select(f => f.Word))}.",
            AmendmentKind.Property when Unit is { Length: > 0 } unit && PropertyUnit.Find(unit) is null =>
                $"'{unit}' is no unit that is known here; there are {string.Join(", ", PropertyUnit.All.Select(u => u.Symbol))}.",
            AmendmentKind.RemoveSet when Lacks(Set) => "A property set that is removed needs its name.",
            AmendmentKind.Classification when Lacks(Set) || Lacks(Name) =>
                "A classification needs its system and its code.",
            AmendmentKind.Zone or AmendmentKind.System when Lacks(Name) || Value is not ("yes" or "no") =>
                $"A {Do} needs its name, and 'yes' or 'no' as its value.",
            AmendmentKind.Class when Value is null || ClassWords.Problem(Value) is not null => Value is null
                ? "A class is missing."
                : ClassWords.Problem(Value),
            AmendmentKind.Type
            or AmendmentKind.Storey
            or AmendmentKind.Layer
            or AmendmentKind.Material when Lacks(Value) => $"A {Do} needs a name as its value.",
            AmendmentKind.Name or AmendmentKind.Mark or AmendmentKind.Description when Value is null =>
                $"A {Do} needs a value; write an empty one to clear it.",
            AmendmentKind.Move when !IsFinite(X, Y, Z, Turn) || (X ?? 0, Y ?? 0, Z ?? 0, Turn ?? 0) is (0, 0, 0, 0) =>
                "A move needs a translation in x, y, z or a rotation in turn.",
            AmendmentKind.Length when !IsFinite(Start, End) || (Start ?? 0, End ?? 0) is (0, 0) =>
                "A length needs how much longer it is at its start or its end.",
            AmendmentKind.Model when Lacks(Name) || Value is null => "Model data needs its name and a value.",
            _ => null,
        };
    }

    private static bool IsFinite(params double?[] numbers) =>
        numbers.All(n => double.IsFinite(n ?? 0) && Math.Abs(n ?? 0) < 1e7);
}
