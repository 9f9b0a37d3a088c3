using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What became of an amendment.</summary>
public enum AmendmentOutcome
{
    /// <summary>The amended model says it.</summary>
    Applied,

    /// <summary>The model said so already, or nothing had to be written: blank where nothing was.</summary>
    Nothing,

    /// <summary>The model has no such element.</summary>
    Gone,

    /// <summary>It cannot be applied; the sentence says why.</summary>
    Refused,
}

/// <summary>An amendment and what became of it.</summary>
/// <param name="Amendment">The amendment.</param>
/// <param name="Outcome">What became of it.</param>
/// <param name="Sentence">Why it was not applied; empty where it was.</param>
public sealed record AmendmentResult(Amendment Amendment, AmendmentOutcome Outcome, string Sentence);

/// <summary>A model with amendments applied: a model like any other, for whatever reads, shows, compares or writes models.</summary>
/// <remarks>The file itself stays as it came. Without amendments that apply it is the model itself, byte for byte.</remarks>
public sealed class AmendedModel
{
    private AmendedModel(
        ModelSnapshot original,
        ModelSnapshot snapshot,
        IReadOnlyList<AmendmentResult> results,
        MadeInstances made,
        IReadOnlySet<int> dropped
    ) => (Original, Snapshot, Results, Made, Dropped) = (original, snapshot, results, made, dropped);

    /// <summary>The model as it came.</summary>
    public ModelSnapshot Original { get; }

    /// <summary>The model as amended.</summary>
    public ModelSnapshot Snapshot { get; }

    /// <summary>What became of each amendment.</summary>
    public IReadOnlyList<AmendmentResult> Results { get; }

    /// <summary>Whether anything is other than it came.</summary>
    public bool IsChanged => !ReferenceEquals(Original, Snapshot);

    /// <summary>The elements that orders leave out, by GlobalId, with the reason of the balance.</summary>
    public IReadOnlyDictionary<string, string> LeftOut { get; private init; } = new Dictionary<string, string>();

    /// <summary>The reason of the balance for elements that an amendment leaves out.</summary>
    public const string LeftOutRule = "left out of exchange by an amendment";

    /// <summary>Applies amendments.</summary>
    /// <param name="original">The model.</param>
    /// <param name="amendments">The amendments; of two about the same the later one counts. Those not for exchange are applied too: whoever
    /// writes for others leaves them away first (<see cref="ForExchange"/>).</param>
    /// <param name="time">The time of amendments that have none.</param>
    /// <param name="cancel">Stops between instances.</param>
    public static AmendedModel Of(
        ModelSnapshot original,
        IReadOnlyList<Amendment> amendments,
        DateTime time,
        CancellationToken cancel = default
    )
    {
        if (amendments.Count == 0)
            return new AmendedModel(original, original, [], new MadeInstances(), new HashSet<int>());
        var effective = AmendmentDocument.Effective(amendments);
        var left = effective
            .Where(a => a.Kind == AmendmentKind.LeaveOut && a.Value != "no")
            .Select(a => a.Element)
            .Distinct()
            .ToDictionary(e => e, _ => LeftOutRule);
        var reader = new AmendmentReader(original);
        var editor = new ModelEditor(original, time) { Header = original.Model.File.Header };
        var results = new Amending(editor, reader).Apply(effective, cancel);
        var made = new MadeInstances();
        var snapshot = editor.Any
            ? ModelSnapshot.Open(IfcModel.Open(editor.Write(made, cancel), cancel), cancel, original.Tolerance)
            : original;
        return new AmendedModel(original, snapshot, results, made, editor.Dropped) { LeftOut = left };
    }

    /// <summary>What was written and is no copy.</summary>
    internal MadeInstances Made { get; }

    /// <summary>The names of the instances that amendments took out.</summary>
    internal IReadOnlySet<int> Dropped { get; }

    /// <summary>The same amendments with another reading of what was written.</summary>
    internal AmendedModel ReadAs(ModelSnapshot again) =>
        new(Original, again, Results, Made, Dropped) { LeftOut = LeftOut };

    /// <summary>The amendments that orders may carry.</summary>
    public static IReadOnlyList<Amendment> ForExchange(IEnumerable<Amendment> amendments) =>
        [.. amendments.Where(a => a.NotForExchange != true)];

    /// <summary>The instances of <see cref="Snapshot"/> that are other than they came, or new.</summary>
    public IReadOnlySet<int> Changed()
    {
        var changed = new HashSet<int>();
        if (!IsChanged)
            return changed;
        var (before, after) = (Original.Model.File, Snapshot.Model.File);
        for (int i = 0; i < after.Count; i++)
            if (
                before.IndexOf(after.Id(i)) is not (>= 0 and var known)
                || !before.Raw(known).SequenceEqual(after.Raw(i))
            )
                changed.Add(i);
        return changed;
    }

    // Applies amendments in the order in which they depend on one another: the class before what depends on the class.
    private sealed class Amending
    {
        private readonly ModelEditor _editor;
        private readonly AmendmentReader _reader;
        private readonly AttributeAmender _attributes;
        private readonly RelationAmender _relations;
        private readonly PropertyAmender _properties;
        private readonly PlaceAmender _places;
        private readonly LengthAmender _lengths;
        private readonly Dictionary<Amendment, AmendmentResult> _results = new(ReferenceEqualityComparer.Instance);

        public Amending(ModelEditor editor, AmendmentReader reader)
        {
            (_editor, _reader) = (editor, reader);
            (_attributes, _relations, _properties) = (new(editor), new(editor), new(editor));
            _places = new(editor);
            _lengths = new(editor, _places);
        }

        public IReadOnlyList<AmendmentResult> Apply(IReadOnlyList<Amendment> amendments, CancellationToken cancel)
        {
            foreach (var amendment in amendments.OrderBy(a => Turn(a.Kind)))
            {
                cancel.ThrowIfCancellationRequested();
                if (Turn(amendment.Kind) < int.MaxValue)
                    Try(amendment, index => One(index, amendment));
            }

            foreach (
                var group in amendments
                    .Where(a => Turn(a.Kind) == int.MaxValue)
                    .GroupBy(a => (a.Element, Set: a.Set ?? ""))
            )
                Set(group.Key.Set, [.. group]);
            _relations.Finish();
            _attributes.Finish();
            return [.. amendments.Select(a => _results[a])];
        }

        private static int Turn(AmendmentKind kind) =>
            kind switch
            {
                AmendmentKind.Class => 0,
                AmendmentKind.Property or AmendmentKind.RemoveProperty or AmendmentKind.RemoveSet => int.MaxValue,
                _ => 1,
            };

        private void One(int index, Amendment amendment)
        {
            switch (amendment.Kind)
            {
                case AmendmentKind.Name or AmendmentKind.Mark or AmendmentKind.Description or AmendmentKind.Class:
                    _attributes.Apply(index, amendment);
                    break;
                case AmendmentKind.Move:
                    _places.Apply(index, amendment);
                    break;
                case AmendmentKind.Length:
                    _lengths.Apply(index, amendment);
                    break;
                case AmendmentKind.Model:
                    _attributes.ApplyToModel(index, amendment);
                    break;
                case AmendmentKind.LeaveOut:
                    return;
                default:
                    _relations.Apply(index, amendment);
                    break;
            }

            if (index >= 0)
                _editor.Modify(index, amendment);
        }

        // Properties of one set are changed together; where one is wrong the others are tried without it.
        private void Set(string set, List<Amendment> all)
        {
            var sound = new List<Amendment>();
            foreach (var amendment in all)
                Try(amendment, _ => sound.Add(amendment));
            if (sound.Count == 0)
                return;
            int index = _reader.IndexOf(sound[0].Element);
            foreach (var amendment in sound.ToList())
                if (_properties.Problem(index, amendment) is { } problem)
                {
                    _results[amendment] = new AmendmentResult(amendment, AmendmentOutcome.Refused, problem);
                    sound.Remove(amendment);
                }

            if (sound.Count == 0)
                return;
            _properties.Apply(index, set, sound);
            _editor.Modify(index, sound.MaxBy(a => a.At ?? DateTime.MinValue)!);
        }

        private void Try(Amendment amendment, Action<int> apply)
        {
            if (amendment.Problem() is { } problem)
            {
                _results[amendment] = new AmendmentResult(amendment, AmendmentOutcome.Refused, problem);
                return;
            }

            bool file = amendment is { Kind: AmendmentKind.Model, Element: AmendmentReader.File };
            int index = file ? -1 : _reader.IndexOf(amendment.Element);
            if (index < 0 && !file)
            {
                _results[amendment] = new AmendmentResult(
                    amendment,
                    AmendmentOutcome.Gone,
                    $"The model has no element with the GlobalId {amendment.Element}."
                );
                return;
            }

            if (_reader.Wanted(amendment, index) is { } wanted && wanted.Agrees(_reader.Read(amendment, index)))
            {
                _results[amendment] = new AmendmentResult(amendment, AmendmentOutcome.Nothing, "");
                return;
            }

            try
            {
                apply(index);
                _results[amendment] = new AmendmentResult(amendment, AmendmentOutcome.Applied, "");
            }
            catch (AmendmentException e)
            {
                _results[amendment] = new AmendmentResult(amendment, AmendmentOutcome.Refused, e.Message);
            }
        }
    }
}
