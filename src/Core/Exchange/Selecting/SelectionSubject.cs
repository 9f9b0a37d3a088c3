using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What rules ask of a body.</summary>
/// <param name="Box">Its box along the axes of its source, metres.</param>
/// <param name="Bearing">The direction it runs in, degrees clockwise from the job's Y axis, 0 to 180; null where it runs in none.</param>
/// <param name="Low">Its lowest height in the job's frame, metres.</param>
/// <param name="High">Its highest.</param>
/// <param name="Size">The longest side along its own axes, metres.</param>
public readonly record struct SubjectBody(Box Box, double? Bearing, double Low, double High, double Size)
{
    /// <summary>The body of an element.</summary>
    /// <param name="body">In its source's frame.</param>
    /// <param name="frame">From the source's frame into the job's; null where nobody has said.</param>
    public static SubjectBody Of(ItemBody body, Frame? frame)
    {
        var (box, bearing, size) = body;
        if (frame is not { } lies)
            return new SubjectBody(box, bearing, box.Min.Z, box.Max.Z, size);
        var heights = box.Corners().Select(c => lies.Point(c).Z).ToList();
        double turned = Math.Atan2(lies.X.Y, lies.X.X) * 180 / Math.PI;
        return new SubjectBody(
            box,
            bearing is { } b ? PlanBearing.Normal(b - turned) : null,
            heights.Min(),
            heights.Max(),
            size
        );
    }
}

/// <summary>What selection rules look at: an element, an entity, or a group that are alike in these.</summary>
/// <param name="Schema">The schema, for subtypes; null where classes have none.</param>
/// <param name="Storey">The storey's name, empty for none.</param>
/// <param name="Class">The class.</param>
/// <param name="Layers">Presentation layers.</param>
/// <param name="GlobalId">The GlobalId or handle, empty for a group.</param>
public readonly record struct SelectionSubject(
    IfcSchema? Schema,
    string Storey,
    string Class,
    IReadOnlyList<string> Layers,
    string GlobalId
)
{
    /// <summary>The source's place in the order.</summary>
    public int Source { get; init; }

    /// <summary>The storey's number in the source, -1 for none.</summary>
    public int StoreyNumber { get; init; } = -1;

    /// <summary>The party's code.</summary>
    public string Party { get; init; } = "";

    /// <summary>The type's name, empty without one.</summary>
    public string Type { get; init; } = "";

    /// <summary>The names of its materials.</summary>
    public IReadOnlyList<string> Materials { get; init; } = [];

    /// <summary>The source's name.</summary>
    public string SourceName { get; init; } = "";

    /// <summary>The predefined type, empty without one.</summary>
    public string Predefined { get; init; } = "";

    /// <summary>The codes and names of its classifications.</summary>
    public IReadOnlyList<string> Classifications { get; init; } = [];

    /// <summary>The names of the groups it is in.</summary>
    public IReadOnlyList<string> Groups { get; init; } = [];

    /// <summary>Its body; null without one.</summary>
    public Func<SubjectBody?> Body { get; init; } = () => null;

    /// <summary>The values of a property by its key, <c>Set.Property</c>; none when the element has no such property.</summary>
    public Func<string, IReadOnlyList<PropertyText>> Property { get; init; } = _ => [];

    /// <summary>Its names in a field that is none of these.</summary>
    public Func<RuleField, IReadOnlyList<string>> Further { get; init; } = _ => [];

    /// <summary>The elements it is part of, nearest first.</summary>
    public Func<IReadOnlyList<SelectionSubject>> Wholes { get; init; } = () => [];

    /// <summary>The subject that an element or entity is.</summary>
    /// <param name="snapshot">The source.</param>
    /// <param name="item">The element or entity.</param>
    /// <param name="needed">What the rules look at; the rest is not read.</param>
    /// <param name="source">The source's place in the order.</param>
    /// <param name="party">The party's code.</param>
    /// <param name="name">The source's name.</param>
    /// <param name="frame">From the source's frame into the job's.</param>
    internal static SelectionSubject Of(
        SourceSnapshot snapshot,
        SourceItem item,
        IReadOnlySet<RuleField> needed,
        int source = 0,
        string party = "",
        string name = "",
        Geometry.Frame? frame = null
    ) =>
        new(
            snapshot.Schema,
            snapshot.StoreyName(item.Storey),
            item.Class,
            needed.Contains(RuleField.Layer) ? item.Layers : [],
            item.Id
        )
        {
            Source = source,
            StoreyNumber = item.Storey,
            Party = party,
            Type = needed.Contains(RuleField.Type) ? snapshot.TypeName(item) : "",
            Materials = needed.Contains(RuleField.Material) ? snapshot.MaterialNames(item) : [],
            Property = key => Values(snapshot, item, key),
            SourceName = name,
            Predefined = needed.Contains(RuleField.Class) ? snapshot.Predefined(item) : "",
            Classifications = needed.Contains(RuleField.Classification) ? snapshot.ClassificationNames(item) : [],
            Groups = needed.Contains(RuleField.Group) ? snapshot.GroupNames(item) : [],
            Further = field => field.Read?.Invoke(snapshot, item) ?? [],
            Body = () => snapshot.BodyOf(item) is { } body ? SubjectBody.Of(body, frame) : null,
            Wholes = () => [.. snapshot.Wholes(item).Select(w => Of(snapshot, w, needed, source, party, name, frame))],
        };

    private static List<PropertyText> Values(SourceSnapshot snapshot, SourceItem item, string key)
    {
        var values = new List<PropertyText>();
        foreach (var set in snapshot.PropertySets(item))
        foreach (var property in set.Properties)
            if (
                key.Length == set.Name.Length + property.Name.Length + 1
                && key.StartsWith(set.Name, StringComparison.OrdinalIgnoreCase)
                && key.EndsWith(property.Name, StringComparison.OrdinalIgnoreCase)
                && key[set.Name.Length] == '.'
            )
                values.Add(new PropertyText(property.Value, property.Unit));
        return values;
    }
}

/// <summary>A value of a property as rules ask for it.</summary>
/// <param name="Text">As people read it; empty for a blank one.</param>
/// <param name="Unit">The symbol of its unit; empty for none.</param>
public readonly record struct PropertyText(string Text, string Unit);
