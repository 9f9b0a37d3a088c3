namespace SteadyLintel.Exchange;

/// <summary>What the values of a rule's field are, and so how they can be compared.</summary>
public enum RuleFieldKind
{
    /// <summary>A name, or several of one element.</summary>
    Name,

    /// <summary>A class of the standard.</summary>
    Class,

    /// <summary>Names that stand for an element together.</summary>
    Names,

    /// <summary>A number between two.</summary>
    Number,

    /// <summary>A property's value.</summary>
    Property,

    /// <summary>The identity of one element.</summary>
    Id,

    /// <summary>The name of something saved that has rules of its own.</summary>
    Saved,
}

/// <summary>What a rule can look at. One entry says what the reader, the schema, the page, the terminal, the preview, the run and an
/// order's basis know of it; what the database is asked is said beside it, in one more.</summary>
public sealed class RuleField
{
    // Made when it is first asked for: the entries are of this class themselves.
    private static RuleField[]? _all;

    /// <param name="word">Its word in a document.</param>
    /// <param name="label">What pages call it.</param>
    /// <param name="kind">What its values are.</param>
    internal RuleField(string word, string label, RuleFieldKind kind) => (Word, Label, Kind) = (word, label, kind);

    /// <summary>All there are, in the order in which they are offered.</summary>
    public static IReadOnlyList<RuleField> All => _all ??= [.. RuleFields.Entries];

    /// <summary>Its word in a document: <c>storey</c>.</summary>
    public string Word { get; }

    /// <summary>What pages call it, with the unit of bare numbers: <c>longest side, m</c>.</summary>
    public string Label { get; }

    /// <summary>What its values are.</summary>
    public RuleFieldKind Kind { get; }

    /// <summary>The terminal's word for several of it, <c>storeys</c>; null where the terminal says it in a document only.</summary>
    public string? Plural { get; init; }

    /// <summary>Whether what it matches rests on where sources lie.</summary>
    public bool RestsOnFrames { get; init; }

    /// <summary>Whether what it matches rests on the job's levels.</summary>
    public bool RestsOnLevels { get; init; }

    /// <summary>Whether a rule that brings in or keeps what it matches takes its parts along: a stair goes with its flights.</summary>
    public bool TakesParts { get; init; }

    /// <summary>What its values look like, for an empty field of a page.</summary>
    public string Placeholder => Kind == RuleFieldKind.Number ? "0; 0.5" : "values, separated by semicolons";

    /// <summary>What is compared where a rule does not say how.</summary>
    public RuleTest Usual => Kind == RuleFieldKind.Number ? RuleTest.Between : RuleTest.Equals;

    /// <summary>The tests that it takes.</summary>
    public IReadOnlyList<RuleTest> Takes =>
        Kind switch
        {
            RuleFieldKind.Number => [RuleTest.Between],
            RuleFieldKind.Property =>
            [
                RuleTest.Equals,
                RuleTest.Like,
                RuleTest.Between,
                RuleTest.Missing,
                RuleTest.Blank,
            ],
            RuleFieldKind.Class or RuleFieldKind.Names => [RuleTest.Equals, RuleTest.Exactly, RuleTest.Like],
            RuleFieldKind.Id or RuleFieldKind.Saved => [RuleTest.Equals],
            _ => [RuleTest.Equals, RuleTest.Like],
        };

    /// <summary>Whether a rule is about an element itself, whatever it is part of.</summary>
    /// <remarks>Where it is not said, the names that are read of the element are compared.</remarks>
    internal Func<SelectionRule, SelectionSubject, bool> Matches { get; init; } =
        (rule, subject) => rule.HasOne(subject.Further(rule.Field));

    /// <summary>The names that a source has of it, so that a misspelt one is seen; null where any may be said.</summary>
    internal Func<NamedSource, IEnumerable<string>>? Names { get; init; }

    /// <summary>What one of its names is called in a sentence.</summary>
    internal string NameWord { get; init; } = "";

    /// <summary>The same in a drawing; null where entities of drawings have nothing of the kind.</summary>
    internal (string Word, Func<DrawingSnapshot, IEnumerable<string>> Names)? InDrawings { get; init; }

    /// <summary>What an element is asked of it, where nothing else of <see cref="SelectionSubject"/> answers; null for the fields of the
    /// subject itself.</summary>
    internal Func<SourceSnapshot, SourceItem, IReadOnlyList<string>>? Read { get; init; }

    /// <summary>The field of a word; null where there is none.</summary>
    public static RuleField? Find(string word) => All.FirstOrDefault(f => f.Word == word);

    /// <summary>Adds one to those there are.</summary>
    /// <exception cref="ArgumentException">Its word is taken.</exception>
    internal static void Add(RuleField field)
    {
        if (Find(field.Word) is not null)
            throw new ArgumentException($"There is a rule field '{field.Word}'.", nameof(field));
        _all = [.. All, field];
    }

    /// <summary>The storey: by name, or by the storeys of the job it means; the empty name means elements in no storey.</summary>
    public static RuleField Storey => RuleFields.Storey;

    /// <summary>The class, subtypes included.</summary>
    public static RuleField Class => RuleFields.Class;

    /// <summary>A presentation layer; the empty name means elements on none.</summary>
    public static RuleField Layer => RuleFields.Layer;

    /// <summary>The name of the type; the empty name means elements without one.</summary>
    public static RuleField Type => RuleFields.Type;

    /// <summary>The name of a material; the empty name means elements without one.</summary>
    public static RuleField Material => RuleFields.Material;

    /// <summary>The party's code.</summary>
    public static RuleField Party => RuleFields.Party;

    /// <summary>A property, <c>Set.Property</c>.</summary>
    public static RuleField Property => RuleFields.Property;

    /// <summary>The GlobalId.</summary>
    public static RuleField GlobalId => RuleFields.GlobalId;

    /// <summary>The source, by its name or by its party's code and its name.</summary>
    public static RuleField Source => RuleFields.Source;

    /// <summary>A classification, by code or name; the empty name means elements without one.</summary>
    public static RuleField Classification => RuleFields.Classification;

    /// <summary>A group it is in, by name: a system, a zone, or any other; the empty name means elements in none.</summary>
    public static RuleField Group => RuleFields.Group;

    /// <summary>The longest side of its box along the axes of its source, metres.</summary>
    public static RuleField Size => RuleFields.Size;

    /// <summary>The direction its body runs in, in plan: degrees clockwise from the job's Y axis, 0 to 180.</summary>
    public static RuleField Bearing => RuleFields.Bearing;

    /// <summary>The heights its body reaches through, metres in the job's frame.</summary>
    public static RuleField Height => RuleFields.Height;

    /// <summary>A saved set: what its rules choose.</summary>
    public static RuleField Set => RuleFields.Set;

    /// <summary>A saved view: what is visible in it.</summary>
    public static RuleField View => RuleFields.View;

    /// <inheritdoc/>
    public override string ToString() => Word;
}
