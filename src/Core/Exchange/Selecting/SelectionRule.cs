namespace SteadyLintel.Exchange;

/// <summary>One rule over elements.</summary>
/// <param name="Verb">What becomes of what it matches.</param>
/// <param name="Field">What it looks at.</param>
/// <param name="Values">The values, compared without regard to case; GlobalIds letter by letter; two bounds where numbers are compared. Of
/// a property, no value means that the property is missing or blank.</param>
/// <param name="Key">With <see cref="RuleField.Property"/>: <c>Set.Property</c>.</param>
public sealed record SelectionRule(SelectionVerb Verb, RuleField Field, IReadOnlyList<string> Values, string Key = "")
{
    /// <summary>A rule that keeps what matches, or leaves it out.</summary>
    public SelectionRule(RuleField field, IReadOnlyList<string> values, bool keep)
        : this(keep ? SelectionVerb.Only : SelectionVerb.Without, field, values) { }

    /// <summary>With <see cref="RuleField.Storey"/>: the storeys meant, each as a source and its storey's number; null when they go by
    /// name.</summary>
    /// <remarks>A party that counts from 0 calls its second storey as another calls the first: a name of the job's schedule means one level
    /// of each source.</remarks>
    public IReadOnlySet<(int Source, int Storey)>? Storeys { get; init; }

    /// <summary>How it compares.</summary>
    public RuleTest Test { get; init; }

    /// <summary>With <see cref="RuleField.Set"/> and <see cref="RuleField.View"/>: the rules of what was kept; what they let
    /// go matches.</summary>
    public Selection? Inside { get; init; }

    /// <summary>The rule's name in a reconciliation: <c>storey not chosen</c>, <c>class left out</c>.</summary>
    public string Reason => $"{About} {(Verb == SelectionVerb.Only ? "not chosen" : "left out")}";

    private string About =>
        Field.Kind switch
        {
            RuleFieldKind.Property => Key,
            RuleFieldKind.Saved => $"{Field.Word} {string.Join(", ", Values)}",
            _ => Field.Word,
        };

    /// <summary>Whether the rule is about an element.</summary>
    /// <remarks>A rule that chooses elements by class, type or GlobalId chooses their parts too: a stair goes with its flights. A rule that
    /// leaves out does not, so that parts can stay without their whole; nor does one that compares exactly.</remarks>
    public bool Matches(SelectionSubject subject) =>
        MatchesItself(subject) || (ChoosesParts && subject.Wholes().Any(MatchesItself));

    /// <summary>Whether the rule chooses the parts of what it matches.</summary>
    public bool ChoosesParts => Verb != SelectionVerb.Without && Test != RuleTest.Exactly && Field.TakesParts;

    /// <summary>Whether the rule is about an element itself, whatever it is part of.</summary>
    public bool MatchesItself(SelectionSubject subject) => Field.Matches(this, subject);

    /// <summary>The bounds of a rule that compares numbers; infinite where they are open, null where they are no numbers.</summary>
    /// <remarks>A bound may have a unit, <c>900 mm</c>; a bare one counts in the job's units: metres, square and cubic metres.</remarks>
    public (double Low, double High)? Bounds() =>
        Values.Count == 2
        && Bound(Values[0], double.NegativeInfinity) is { } low
        && Bound(Values[1], double.PositiveInfinity) is { } high
        && (low.Power == high.Power || low.Power * high.Power == 0)
            ? (low.Value, high.Value)
            : null;

    // What the bounds are of: 1 a length, 2 an area, 3 a volume, 0 where neither has a unit.
    private int Power => Values.Max(v => v.Length == 0 ? 0 : Measure.Read(v)?.Power ?? 0);

    // A property that an element has twice matches by either value.
    internal bool MatchesProperty(IReadOnlyList<PropertyText> values) =>
        Test switch
        {
            RuleTest.Missing => values.Count == 0,
            RuleTest.Blank => values.Count > 0 && values.All(v => v.Text.Length == 0),
            RuleTest.Between => values.Any(IsBetween),
            _ => Values.Count == 0 ? values.All(v => v.Text.Length == 0) : values.Any(v => Has(v.Text)),
        };

    // In the unit that the value is written in, or the job's: 900 mm lies between 0.8 and 1.
    private bool IsBetween(PropertyText value) =>
        Measure.Of(value.Text, value.Unit) is { } measured
        && (Power == 0 || Power == measured.Power)
        && IsBetween(measured.Value);

    // A code takes in the codes below it: Ss_25 takes Ss_25_10, B10 takes B10.20.
    internal bool IsUnder(string code) =>
        Test == RuleTest.Equals
        && Values.Any(v =>
            v.Length > 0
            && code.Length > v.Length
            && code.StartsWith(v, StringComparison.OrdinalIgnoreCase)
            && code[v.Length] is '_' or '-' or '.' or ' ' or '/' or ':'
        );

    // A word after a point is the predefined type: IfcWall.PARTITIONING.
    internal bool IsClass(SelectionSubject subject, string wanted)
    {
        int point = wanted.IndexOf('.', StringComparison.Ordinal);
        if (point >= 0 && !IsLike(subject.Predefined, wanted[(point + 1)..]))
            return false;
        string name = point < 0 ? wanted : wanted[..point];
        return IsLike(subject.Class, name) || (Test != RuleTest.Exactly && IsSubtype(subject, name));
    }

    private static bool IsSubtype(SelectionSubject subject, string wanted) =>
        subject.Schema?.Find(wanted.ToUpperInvariant()) is { } entity
        && subject.Schema.Find(subject.Class.ToUpperInvariant())?.Is(entity.Name) == true;

    internal bool HasOne(IReadOnlyList<string> names) => names.Count == 0 ? Has("") : names.Any(Has);

    internal bool Has(string value) => Values.Any(v => IsLike(value, v));

    private bool IsLike(string value, string wanted) =>
        Test == RuleTest.Like
            ? System.IO.Enumeration.FileSystemName.MatchesSimpleExpression(wanted, value)
            : value.Equals(wanted, StringComparison.OrdinalIgnoreCase);

    // A bound in another unit than the value differs from it by the last digits.
    private const double Digits = 1e-12;

    internal bool IsBetween(double number) =>
        Bounds() is var (low, high)
        && number >= low - (Math.Abs(low) * Digits)
        && number <= high + (Math.Abs(high) * Digits);

    internal bool Reaches(double low, double high) => Bounds() is var (from, to) && high > from && low < to;

    // Directions have no beginning: from 170 to 10 goes through 180.
    internal bool IsBearing(double bearing)
    {
        if (Bounds() is not var (low, high))
            return false;
        return low <= high ? bearing >= low && bearing <= high : bearing >= low || bearing <= high;
    }

    private static Measure? Bound(string text, double open) =>
        text.Length == 0 ? new Measure(open, 0) : Measure.Read(text);
}
