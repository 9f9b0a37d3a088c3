namespace SteadyLintel.Exchange;

/// <summary>One rule over elements.</summary>
/// <param name="Verb">What becomes of what it matches.</param>
/// <param name="Field">What it looks at.</param>
/// <param name="Values">The values, compared without regard to case; GlobalIds letter by letter; two bounds where numbers are compared. Of
/// a property, no value means that the property is missing or blank.</param>
/// <param name="Key">With <see cref="SelectionField.Property"/>: <c>Set.Property</c>.</param>
public sealed record SelectionRule(SelectionVerb Verb, SelectionField Field, IReadOnlyList<string> Values, string Key = "")
{
    /// <summary>A rule that keeps what matches, or leaves it out.</summary>
    public SelectionRule(SelectionField field, IReadOnlyList<string> values, bool keep)
        : this(keep ? SelectionVerb.Only : SelectionVerb.Without, field, values)
    {
    }

    /// <summary>With <see cref="SelectionField.Storey"/>: the storeys meant, each as a source and its storey's number; null when they go by
    /// name.</summary>
    /// <remarks>A party that counts from 0 calls its second storey as another calls the first: a name of the job's schedule means one level
    /// of each source.</remarks>
    public IReadOnlySet<(int Source, int Storey)>? Storeys { get; init; }

    /// <summary>How it compares.</summary>
    public RuleTest Test { get; init; }

    /// <summary>With <see cref="SelectionField.Set"/> and <see cref="SelectionField.View"/>: the rules of what was kept; what they let
    /// go matches.</summary>
    public Selection? Inside { get; init; }

    /// <summary>The rule's name in a reconciliation: <c>storey not chosen</c>, <c>class left out</c>.</summary>
    public string Reason => $"{Word} {(Verb == SelectionVerb.Only ? "not chosen" : "left out")}";

    private string Word => Field switch
    {
        SelectionField.GlobalId => "element",
        SelectionField.Property => Key,
        SelectionField.Set or SelectionField.View => $"{Field.ToString().ToLowerInvariant()} {string.Join(", ", Values)}",
        _ => Field.ToString().ToLowerInvariant(),
    };

    /// <summary>Whether the rule is about an element.</summary>
    public bool Matches(SelectionSubject subject) => Field switch
    {
        SelectionField.Storey => Storeys?.Contains((subject.Source, subject.StoreyNumber)) ?? Has(subject.Storey),
        SelectionField.Class => Values.Any(v => IsClass(subject, v)),
        SelectionField.Layer => Test == RuleTest.Exactly ? Has(string.Join(" + ", subject.Layers)) : HasOne(subject.Layers),
        SelectionField.Type => Has(subject.Type),
        SelectionField.Material => HasOne(subject.Materials),
        SelectionField.Party => Has(subject.Party),
        SelectionField.Property => MatchesProperty(subject.Property(Key)),
        SelectionField.Source => Has(subject.SourceName) || Has($"{subject.Party} {subject.SourceName}"),
        SelectionField.Classification => HasOne(subject.Classifications),
        SelectionField.Group => HasOne(subject.Groups),
        SelectionField.Size => subject.Body() is { } body && IsBetween(Longest(body.Box.Size)),
        SelectionField.Bearing => subject.Body() is { Bearing: { } bearing } && IsBearing(bearing),
        SelectionField.Height => subject.Body() is { } body && Reaches(body.Low, body.High),
        SelectionField.Set or SelectionField.View => Inside?.Decide(subject) is null,
        _ => Values.Contains(subject.GlobalId),
    };

    /// <summary>The bounds of a rule that compares numbers; infinite where they are open, null where they are no numbers.</summary>
    public (double Low, double High)? Bounds() => Values.Count == 2 && Bound(Values[0], double.NegativeInfinity) is { } low
        && Bound(Values[1], double.PositiveInfinity) is { } high ? (low, high) : null;

    // A property that an element has twice matches by either value.
    private bool MatchesProperty(IReadOnlyList<string> values) => Test switch
    {
        RuleTest.Missing => values.Count == 0,
        RuleTest.Blank => values.Count > 0 && values.All(v => v.Length == 0),
        RuleTest.Between => values.Any(v => Bound(v, double.NaN) is { } number && IsBetween(number)),
        _ => Values.Count == 0 ? values.All(v => v.Length == 0) : values.Any(Has),
    };

    // A word after a point is the predefined type: IfcWall.PARTITIONING.
    private bool IsClass(SelectionSubject subject, string wanted)
    {
        int point = wanted.IndexOf('.', StringComparison.Ordinal);
        if (point >= 0 && !IsLike(subject.Predefined, wanted[(point + 1)..])) return false;
        string name = point < 0 ? wanted : wanted[..point];
        return IsLike(subject.Class, name) || (Test != RuleTest.Exactly && IsSubtype(subject, name));
    }

    private static bool IsSubtype(SelectionSubject subject, string wanted) =>
        subject.Schema?.Find(wanted.ToUpperInvariant()) is { } entity
            && subject.Schema.Find(subject.Class.ToUpperInvariant())?.Is(entity.Name) == true;

    private bool HasOne(IReadOnlyList<string> names) => names.Count == 0 ? Has("") : names.Any(Has);

    private bool Has(string value) => Values.Any(v => IsLike(value, v));

    private bool IsLike(string value, string wanted) => Test == RuleTest.Like
        ? System.IO.Enumeration.FileSystemName.MatchesSimpleExpression(wanted, value)
        : value.Equals(wanted, StringComparison.OrdinalIgnoreCase);

    private bool IsBetween(double number) => Bounds() is var (low, high) && number >= low && number <= high;

    private bool Reaches(double low, double high) => Bounds() is var (from, to) && high > from && low < to;

    // Directions have no beginning: from 170 to 10 goes through 180.
    private bool IsBearing(double bearing)
    {
        if (Bounds() is not var (low, high)) return false;
        return low <= high ? bearing >= low && bearing <= high : bearing >= low || bearing <= high;
    }

    private static double Longest(Geometry.Vec3 size) => Math.Max(size.X, Math.Max(size.Y, size.Z));

    private static double? Bound(string text, double open)
    {
        if (text.Length == 0) return double.IsNaN(open) ? null : open;
        return double.TryParse(text, System.Globalization.NumberStyles.Float, System.Globalization.CultureInfo.InvariantCulture,
            out double number) && double.IsFinite(number) ? number : null;
    }
}
