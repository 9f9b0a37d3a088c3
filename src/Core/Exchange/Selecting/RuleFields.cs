namespace SteadyLintel.Exchange;

/// <summary>A source whose names are looked at.</summary>
/// <param name="Snapshot">What it holds.</param>
/// <param name="Party">Its party's code.</param>
/// <param name="Label">Its name.</param>
internal sealed record NamedSource(ModelSnapshot Snapshot, string Party, string Label);

/// <summary>The table of what rules can look at, in the order in which it is offered.</summary>
internal static class RuleFields
{
    public static readonly RuleField Class = new("class", "class", RuleFieldKind.Class)
    {
        Plural = "classes",
        TakesParts = true,
        Matches = (rule, subject) => rule.Values.Any(v => rule.IsClass(subject, v)),
        InDrawings = ("kind", d => d.Items.Select(i => i.Class)),
    };

    public static readonly RuleField Storey = new("storey", "storey", RuleFieldKind.Name)
    {
        Plural = "storeys",
        RestsOnLevels = true,
        Matches = (rule, subject) =>
            rule.Storeys?.Contains((subject.Source, subject.StoreyNumber)) ?? rule.Has(subject.Storey),
        Names = s => s.Snapshot.Structure.Storeys.Select(t => t.Name),
    };

    public static readonly RuleField Layer = new("layer", "layer", RuleFieldKind.Names)
    {
        Plural = "layers",
        Matches = (rule, subject) =>
            rule.Test == RuleTest.Exactly ? rule.Has(string.Join(" + ", subject.Layers)) : rule.HasOne(subject.Layers),
        Names = s => s.Snapshot.Layers.Names,
        InDrawings = ("layer", d => d.Drawing.Layers.Select(l => l.Name)),
    };

    public static readonly RuleField Type = new("type", "type", RuleFieldKind.Name)
    {
        Plural = "types",
        TakesParts = true,
        Matches = (rule, subject) => rule.Has(subject.Type),
        Names = s => Named(s, "IfcTypeObject"),
        InDrawings = ("block", d => d.Drawing.Blocks.Select(b => b.Name)),
    };

    public static readonly RuleField Material = new("material", "material", RuleFieldKind.Name)
    {
        Plural = "materials",
        Matches = (rule, subject) => rule.HasOne(subject.Materials),
        Names = s => Named(s, "IfcMaterial"),
    };

    public static readonly RuleField Party = new("party", "party", RuleFieldKind.Name)
    {
        Plural = "parties",
        Matches = (rule, subject) => rule.Has(subject.Party),
        Names = s => [s.Party],
    };

    public static readonly RuleField Source = new("source", "source", RuleFieldKind.Name)
    {
        Plural = "sources",
        Matches = (rule, subject) => rule.Has(subject.SourceName) || rule.Has($"{subject.Party} {subject.SourceName}"),
        NameWord = "name",
        Names = s => [s.Label, $"{s.Party} {s.Label}"],
    };

    public static readonly RuleField Classification = new("classification", "classification", RuleFieldKind.Name)
    {
        Plural = "classifications",
        Matches = (rule, subject) => rule.HasOne(subject.Classifications) || subject.Classifications.Any(rule.IsUnder),
        Names = s => s.Snapshot.Elements.SelectMany(s.Snapshot.ClassificationNames),
    };

    public static readonly RuleField Group = new("group", "system or zone", RuleFieldKind.Name)
    {
        Plural = "groups",
        Matches = (rule, subject) => rule.HasOne(subject.Groups),
        Names = s => Named(s, "IfcGroup"),
    };

    public static readonly RuleField Property = new("property", "property", RuleFieldKind.Property)
    {
        Matches = (rule, subject) => rule.MatchesProperty(subject.Property(rule.Key)),
        Names = PropertyKeys,
        InDrawings = ("attribute", d =>
            d.Items.SelectMany(d.PropertySets)
                .SelectMany(s => s.Properties)
                .Select(p => $"{DrawingSnapshot.Attributes}.{p.Name}")
        ),
    };

    public static readonly RuleField Size = new("size", "longest side, m", RuleFieldKind.Number)
    {
        Matches = (rule, subject) => subject.Body() is { } body && rule.IsBetween(body.Size),
    };

    public static readonly RuleField Height = new("height", "heights, m", RuleFieldKind.Number)
    {
        RestsOnFrames = true,
        Matches = (rule, subject) => subject.Body() is { } body && rule.Reaches(body.Low, body.High),
    };

    public static readonly RuleField Bearing = new("bearing", "bearing, °", RuleFieldKind.Number)
    {
        RestsOnFrames = true,
        Matches = (rule, subject) => subject.Body() is { Bearing: { } bearing } && rule.IsBearing(bearing),
    };

    public static readonly RuleField Set = new("set", "saved set", RuleFieldKind.Saved)
    {
        RestsOnFrames = true,
        RestsOnLevels = true,
        Matches = (rule, subject) => rule.Inside?.Decide(subject) is null,
    };

    public static readonly RuleField View = new("view", "saved view", RuleFieldKind.Saved)
    {
        RestsOnFrames = true,
        RestsOnLevels = true,
        Matches = (rule, subject) => rule.Inside?.Decide(subject) is null,
    };

    public static readonly RuleField GlobalId = new("element", "element", RuleFieldKind.Id)
    {
        Plural = "elements",
        TakesParts = true,
        Matches = (rule, subject) => rule.Values.Contains(subject.GlobalId),
        Names = s => s.Snapshot.Elements.Select(e => e.GlobalId),
        InDrawings = ("handle", d => d.Items.Select(i => i.Id)),
    };

    /// <summary>All of them.</summary>
    public static IReadOnlyList<RuleField> Entries =>
        [
            Class,
            Storey,
            Layer,
            Type,
            Material,
            Party,
            Source,
            Classification,
            Group,
            Property,
            Size,
            Height,
            Bearing,
            Set,
            View,
            GlobalId,
        ];

    private static IEnumerable<string> Named(NamedSource source, string type) =>
        source.Snapshot.Model.OfType(type).Select(source.Snapshot.Model.Name);

    private static IEnumerable<string> PropertyKeys(NamedSource source)
    {
        var model = source.Snapshot;
        foreach (int set in model.Model.OfType("IfcPropertySetDefinition"))
        foreach (var property in model.Properties.Set(set).Properties)
            yield return $"{model.Properties.Set(set).Name}.{property.Name}";
    }
}
