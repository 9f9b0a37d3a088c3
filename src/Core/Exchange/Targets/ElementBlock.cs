using System.Globalization;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>An element as a block of its own, inserted once at the origin, with its properties as attributes.</summary>
internal static class ElementBlock
{
    /// <summary>The rule of the balance.</summary>
    public const string Rule = "as attributes of a block";

    private const string Prefix = "ELEMENT-";

    // Tags have no spaces; longer ones are cut by some readers (common practice).
    private const int LongestTag = 255;

    /// <summary>The block of an element; GlobalIds differ in the case of letters, which names of blocks do not.</summary>
    public static BlockRecord Add(Drawing drawing, string globalId)
    {
        string name = Prefix + LayerNames.Clean(globalId),
            free = name;
        for (int n = 2; drawing.Blocks[free] is not null; n++)
            free = $"{name}-{n.ToString(CultureInfo.InvariantCulture)}";
        return drawing.AddBlock(free);
    }

    /// <summary>The insert of a block, with its attributes; their definitions go into the block.</summary>
    /// <param name="drawing">The drawing.</param>
    /// <param name="block">The block.</param>
    /// <param name="element">The element.</param>
    /// <param name="properties">Its properties.</param>
    /// <param name="at">Where the attributes are, drawing units.</param>
    /// <param name="paper">Drawing units in a millimetre of paper.</param>
    public static Insert Insert(
        Drawing drawing,
        BlockRecord block,
        ModelElement element,
        IReadOnlyList<OutgoingProperty> properties,
        Vec3 at,
        double paper
    )
    {
        var insert = new Insert { Block = block.Handle };
        foreach (var (tag, value) in Values(element, properties))
        {
            drawing.Add(
                new AttributeDefinition
                {
                    Tag = tag,
                    Prompt = tag,
                    Flags = Invisible,
                    Height = 2.5 * paper,
                    Insertion = at,
                },
                block
            );
            insert.Attributes.Add(
                new AttributeEntity
                {
                    Tag = tag,
                    Value = value,
                    Flags = Invisible,
                    Height = 2.5 * paper,
                    Insertion = at,
                }
            );
        }

        return insert;
    }

    /// <summary>The reason of the balance for values that an attribute does not hold whole; extended data do.</summary>
    public const string OneLine = "an attribute holds one line of 255 bytes; the whole value is in the extended data";

    /// <summary>Whether an attribute does not hold a value whole.</summary>
    public static bool Cuts(string text) => ElementData.Short(text) != text || text.Any(char.IsControl);

    private const int Invisible = 1;

    /// <summary>The block that an insert shows an element by; null where it is none of these.</summary>
    public static BlockRecord? Of(Drawing drawing, Entity entity) =>
        entity is Insert insert
        && drawing.Blocks[insert.Block] is { } block
        && block.Name.StartsWith(Prefix, StringComparison.Ordinal)
            ? block
            : null;

    /// <summary>Whether an insert shows its block where and as large as it is.</summary>
    public static bool IsPlain(Insert insert) =>
        insert.Location.Length < 1e-9
        && (insert.Scale - new Vec3(1, 1, 1)).Length < 1e-9
        && insert.Rotation == 0
        && !insert.IsArray
        && (insert.Normal - Vec3.AxisZ).Length < 1e-9;

    /// <summary>The attributes of an element: tags and texts.</summary>
    public static IReadOnlyList<(string Tag, string Value)> Values(
        ModelElement element,
        IReadOnlyList<OutgoingProperty> properties
    )
    {
        var used = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        var values = new List<(string, string)>();
        void Put(string name, string value)
        {
            string tag = string.Concat(name.Select(c => char.IsWhiteSpace(c) || char.IsControl(c) ? '_' : c))
                    .ToUpperInvariant(),
                free = ElementData.Short(tag);
            for (int n = 2; !used.Add(free); n++)
                free = $"{tag[..Math.Min(tag.Length, LongestTag - 5)]}-{n.ToString(CultureInfo.InvariantCulture)}";
            values.Add((free, ElementData.Short(string.Concat(value.Select(c => char.IsControl(c) ? ' ' : c)))));
        }

        Put("GlobalId", element.GlobalId);
        Put("Class", element.Class);
        Put("Name", element.Name);
        foreach (var property in properties)
            Put(property.Key, Text(property.Value));
        return values;
    }

    private static string Text(object? value) =>
        value switch
        {
            double real => real.ToString("R", CultureInfo.InvariantCulture),
            bool truth => truth ? "true" : "false",
            string text => text,
            _ => "",
        };
}
