namespace SteadyLintel.Exchange;

/// <summary>What an amendment changes.</summary>
public enum AmendmentKind
{
    /// <summary>The value of a property; one that is not there is added.</summary>
    Property,

    /// <summary>A property that the element goes without.</summary>
    RemoveProperty,

    /// <summary>A property set that the element goes without.</summary>
    RemoveSet,

    /// <summary>The name.</summary>
    Name,

    /// <summary>The mark (attribute Tag).</summary>
    Mark,

    /// <summary>The description.</summary>
    Description,

    /// <summary>The type, by its name.</summary>
    Type,

    /// <summary>The class, with or without a predefined type.</summary>
    Class,

    /// <summary>The storey, by its name.</summary>
    Storey,

    /// <summary>The presentation layer.</summary>
    Layer,

    /// <summary>The material.</summary>
    Material,

    /// <summary>A classification.</summary>
    Classification,

    /// <summary>Whether it is in a zone.</summary>
    Zone,

    /// <summary>Whether it is in a system.</summary>
    System,

    /// <summary>Where it is.</summary>
    Move,

    /// <summary>How long it is.</summary>
    Length,

    /// <summary>Whether orders leave it out.</summary>
    LeaveOut,

    /// <summary>What the model says of itself: project, site, building, file.</summary>
    Model,
}

/// <summary>How deep an amendment goes, for whoever allows it: each includes those before it.</summary>
public enum AmendmentReach
{
    /// <summary>No amendment.</summary>
    Nothing,

    /// <summary>Properties.</summary>
    Properties,

    /// <summary>Everything but place and shape.</summary>
    Facts,

    /// <summary>Everything.</summary>
    All,
}

/// <summary>The words for amendments.</summary>
public static class AmendmentKinds
{
    /// <summary>Every kind with its word in documents and its label on screens.</summary>
    public static IReadOnlyList<Choice<AmendmentKind>> All { get; } =
    [
        new("property", "property", AmendmentKind.Property),
        new("remove property", "property removed", AmendmentKind.RemoveProperty),
        new("remove set", "property set removed", AmendmentKind.RemoveSet),
        new("name", "name", AmendmentKind.Name),
        new("mark", "mark", AmendmentKind.Mark),
        new("description", "description", AmendmentKind.Description),
        new("type", "type", AmendmentKind.Type),
        new("class", "class", AmendmentKind.Class),
        new("storey", "storey", AmendmentKind.Storey),
        new("layer", "layer", AmendmentKind.Layer),
        new("material", "material", AmendmentKind.Material),
        new("classification", "classification", AmendmentKind.Classification),
        new("zone", "zone", AmendmentKind.Zone),
        new("system", "system", AmendmentKind.System),
        new("move", "place", AmendmentKind.Move),
        new("length", "length", AmendmentKind.Length),
        new("leave out", "left out of exchange", AmendmentKind.LeaveOut),
        new("model", "model data", AmendmentKind.Model),
    ];

    /// <summary>How deep amendments may go, with the words for it.</summary>
    public static IReadOnlyList<Choice<AmendmentReach>> Reaches { get; } =
    [
        new("nothing", "nothing", AmendmentReach.Nothing),
        new("properties", "properties only", AmendmentReach.Properties),
        new("facts", "everything except place and shape", AmendmentReach.Facts),
        new("all", "everything", AmendmentReach.All),
    ];

    /// <summary>The kind of a word; null where there is none.</summary>
    public static AmendmentKind? Find(string word) => All.FirstOrDefault(k => k.Word == word)?.Value;

    /// <summary>The word of a kind.</summary>
    public static string Word(this AmendmentKind kind) => All.First(k => k.Value == kind).Word;

    /// <summary>What to call a kind.</summary>
    public static string Label(this AmendmentKind kind) => All.First(k => k.Value == kind).Label;

    /// <summary>How deep a kind goes.</summary>
    public static AmendmentReach Reach(this AmendmentKind kind) =>
        kind switch
        {
            AmendmentKind.Property or AmendmentKind.RemoveProperty or AmendmentKind.RemoveSet =>
                AmendmentReach.Properties,
            AmendmentKind.Move or AmendmentKind.Length => AmendmentReach.All,
            _ => AmendmentReach.Facts,
        };
}
