using SteadyLintel.Geometry;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>What amendments made of a model, by reading the amended model again.</summary>
/// <param name="Lines">Every instance of the model and every one that was added, kind by kind, in one account each.</param>
/// <param name="Checks">What was compared beyond presence.</param>
/// <param name="Differences">The first differences, a sentence each.</param>
public sealed record AmendmentBalance(
    IReadOnlyList<LedgerLine> Lines,
    IReadOnlyList<ReconciliationCheck> Checks,
    IReadOnlyList<string> Differences
)
{
    /// <summary>How many items are unaccounted for.</summary>
    public int Unaccounted => Lines.Sum(l => l.Unaccounted);

    /// <summary>Whether everything is accounted for and everything compared agrees.</summary>
    public bool Balanced => Unaccounted == 0 && Checks.All(c => c.Differ == 0);
}

/// <summary>Holds an amended model against the model that it was, and against what the amendments say.</summary>
/// <remarks>
/// Nothing is taken from how amendments are applied: the amended bytes are read as a stranger's. Each amendment must be found where it
/// says; every other fact of every element, every place and every piece of a shape must be as it came.
/// </remarks>
public sealed class AmendmentLedger
{
    /// <summary>The rule of what amendments change.</summary>
    public const string Changed = ModelLedger.AmendedRule;

    /// <summary>The rule of what amendments add.</summary>
    public const string Added = "added by an amendment";

    /// <summary>The rule of what amendments take out.</summary>
    public const string Removed = "removed by an amendment";

    private const int MaxDifferences = 100;
    private const double Near = 1e-6,
        Straight = 1e-9;

    private readonly AmendedModel _model;
    private readonly ModelSnapshot _before,
        _after;
    private readonly IfcModel _was,
        _is;
    private readonly IReadOnlyList<Amendment> _applied;
    private readonly LedgerTally _tally = new();
    private readonly List<string> _differences = [];
    private readonly ILookup<string, Amendment> _byElement;
    private readonly HashSet<int> _wrong = [];

    private AmendmentLedger(AmendedModel model)
    {
        _model = model;
        (_before, _after) = (model.Original, model.Snapshot);
        (_was, _is) = (_before.Model, _after.Model);
        _applied = [.. model.Results.Where(r => r.Outcome == AmendmentOutcome.Applied).Select(r => r.Amendment)];
        _byElement = _applied.ToLookup(a => a.Element);
    }

    /// <summary>Balances an amended model.</summary>
    /// <param name="model">The model as it came and as amended.</param>
    /// <param name="cancel">Stops between elements.</param>
    public static AmendmentBalance Of(AmendedModel model, CancellationToken cancel = default) =>
        new AmendmentLedger(model).Balance(cancel);

    private AmendmentBalance Balance(CancellationToken cancel)
    {
        var said = Statements();
        var facts = Facts(cancel);
        var places = Places();
        Header();
        Instances(cancel);
        return new AmendmentBalance(_tally.Lines(), [said, facts, places], _differences);
    }

    // Each amendment is found in the amended model.
    private ReconciliationCheck Statements()
    {
        var (before, after) = (new AmendmentReader(_before), new AmendmentReader(_after));
        int same = 0,
            wrong = 0;
        foreach (var amendment in _applied)
        {
            if (amendment.Kind == AmendmentKind.LeaveOut)
                continue;
            bool file = amendment is { Kind: AmendmentKind.Model, Element: AmendmentReader.File };
            int was = file ? -1 : before.IndexOf(amendment.Element),
                now = file ? -1 : after.IndexOf(amendment.Element);
            // Where several moves carry an element, the places are compared below.
            if (
                amendment.Kind == AmendmentKind.Move
                || (Found(amendment, before, was, after, now) && Ends(amendment, was, now))
            )
            {
                same++;
                continue;
            }

            wrong++;
            if (was >= 0)
                _wrong.Add(was);
            Differ(
                $"{amendment.Element}: {amendment.About} was to be {before.Wanted(amendment, was)} and is {(now < 0 && !file ? "not there" : after.Read(amendment, now))}."
            );
        }

        return new ReconciliationCheck("amendments found in the file", same, wrong, 0);
    }

    private static bool Found(Amendment amendment, AmendmentReader before, int was, AmendmentReader after, int now)
    {
        var wanted = before.Wanted(amendment, was);
        var found = after.Read(amendment, now);
        if (wanted is null || wanted.Agrees(found))
            return true;
        // Several names, of which this is one: a layer of a shape's parts, systems of a project.
        if (amendment.Kind == AmendmentKind.Model && amendment.Name == "classification")
            return found.Text.Split(", ").Contains(wanted.Text);
        // Ranges, tables and references are read back in other words than they are typed in.
        return amendment.Kind == AmendmentKind.Property
            && PropertyForms.Find(amendment.Form ?? "")
                is PropertyForm.Bounded
                    or PropertyForm.Table
                    or PropertyForm.Reference
            && found.Is == wanted.Is;
    }

    // An extrusion that was lengthened begins and ends where it is to.
    private bool Ends(Amendment amendment, int was, int now)
    {
        if (amendment.Kind != AmendmentKind.Length)
            return true;
        int solid = LengthAmender.SolidOf(_before, was, out _),
            longer = LengthAmender.SolidOf(_after, now, out _);
        if (solid < 0 || longer < 0)
            return false;
        var (axes, direction) = LengthAmender.Placed(_before, solid);
        var (axesNow, directionNow) = LengthAmender.Placed(_after, longer);
        double depth = _was.Get(solid, "Depth").Real * _before.Units.Metres,
            depthNow = _is.Get(longer, "Depth").Real * _after.Units.Metres;
        return Off(axes.Origin - (direction * (amendment.Start ?? 0)), axesNow.Origin) <= Near
            && Off(
                axes.Origin + (direction * (depth + (amendment.End ?? 0))),
                axesNow.Origin + (directionNow * depthNow)
            ) <= Near
            && Off(axes.X, axesNow.X) <= Straight
            && Off(axes.Z, axesNow.Z) <= Straight;
    }

    // Every other fact of every element is as it came.
    private ReconciliationCheck Facts(CancellationToken cancel)
    {
        var problems = new string?[_before.Elements.Count];
        Parallel.For(0, problems.Length, new ParallelOptions { CancellationToken = cancel }, n =>
        {
            var element = _before.Elements[n];
            // By its name in the file: GlobalIds may be there twice.
            int at = _is.File.IndexOf(_was.File.Id(element.Index));
            problems[n] = at >= 0 && _after.ElementAt(at) is { } now ? Problem(element, now) : "is gone";
        });
        int wrong = 0;
        for (int n = 0; n < problems.Length; n++)
            if (problems[n] is { } problem)
            {
                wrong++;
                _wrong.Add(_before.Elements[n].Index);
                Differ($"{_before.Elements[n].Class} {_before.Elements[n].GlobalId}: {problem}.");
            }

        if (_after.Elements.Count != _before.Elements.Count)
            Differ($"The model had {_before.Elements.Count} elements and has {_after.Elements.Count}.");
        return new ReconciliationCheck(
            "other facts of elements",
            problems.Length - wrong,
            wrong + Math.Abs(_after.Elements.Count - _before.Elements.Count),
            0
        );
    }

    private string? Problem(ModelElement before, ModelElement after)
    {
        var amendments = _byElement[before.GlobalId].ToList();
        var was = FactLines.Of(_before, before, amendments);
        var now = FactLines.Of(_after, after, amendments);
        foreach (string line in was.Except(now).Concat(now.Except(was)))
            return $"{line.Split('\t')[0]} is not as it came";
        return null;
    }

    // Whatever no move carries is where it was.
    private ReconciliationCheck Places()
    {
        var reader = new AmendmentReader(_before);
        var moves = _applied
            .Where(a => a.Kind == AmendmentKind.Move)
            .Select(a => (Element: reader.IndexOf(a.Element), Amendment: a))
            .Select(m => (Move: MoveOf(m.Element, m.Amendment), Set: Carried(m.Element)))
            .OrderByDescending(m => m.Set.Count)
            .ToList();
        int same = 0,
            wrong = 0;
        foreach (int product in _was.OfType("IfcProduct"))
        {
            int now = _is.File.IndexOf(_was.File.Id(product));
            if (now < 0 || !_is.Is(now, "IfcProduct"))
                continue;
            if (IsPlaced(product, now, moves))
            {
                same++;
                continue;
            }

            wrong++;
            _wrong.Add(product);
            Differ($"{_was.ClassName(product)} {_was.GlobalId(product)} is not where it was to be.");
        }

        return new ReconciliationCheck("places", same, wrong, 0);
    }

    private Frame MoveOf(int element, Amendment amendment)
    {
        try
        {
            return PlaceAmender.MoveOf(amendment, _before.Shapes.Placements.Product(element));
        }
        catch (ShapeException)
        {
            return Frame.Identity;
        }
    }

    private bool IsPlaced(int product, int now, List<(Frame Move, HashSet<int> Set)> moves)
    {
        try
        {
            var expected = Frame.Identity;
            foreach (var (move, set) in moves)
                if (set.Contains(product))
                    expected = expected.Compose(move);
            expected = expected.Compose(_before.Shapes.Placements.Product(product));
            var found = _after.Shapes.Placements.Product(now);
            return Off(expected.Origin, found.Origin) <= Near + (1e-13 * expected.Origin.Length)
                && Off(expected.X, found.X) <= Straight
                && Off(expected.Z, found.Z) <= Straight;
        }
        catch (ShapeException)
        {
            return _was.Ref(product, "ObjectPlacement") < 0
                || _was.File.Id(_was.Ref(product, "ObjectPlacement")) == _is.File.Id(_is.Ref(now, "ObjectPlacement"));
        }
    }

    // What a move carries: what belongs to the element, and what is placed by any of it.
    private HashSet<int> Carried(int element)
    {
        var set = PlaceAmender.MovedWith(_before, element).ToHashSet();
        var placements = set.Select(p => _was.Ref(p, "ObjectPlacement")).Where(p => p >= 0).ToHashSet();
        // A placement that others share stays theirs: the moved element gets one of its own.
        foreach (int product in _was.OfType("IfcProduct"))
            if (!set.Contains(product))
                placements.Remove(_was.Ref(product, "ObjectPlacement"));
        foreach (int product in _was.OfType("IfcProduct"))
        {
            int placement = _was.Ref(product, "ObjectPlacement");
            for (
                int depth = 0;
                placement >= 0 && depth < 200;
                depth++, placement = _was.Ref(placement, "PlacementRelTo")
            )
                if (placements.Contains(placement))
                {
                    set.Add(product);
                    break;
                }
        }

        return set;
    }

    private void Header()
    {
        var (before, after) = (_was.File.Header, _is.File.Header);
        var named = _applied
            .Where(a => a is { Kind: AmendmentKind.Model, Element: AmendmentReader.File })
            .Select(a => a.Name)
            .ToHashSet();
        static bool Same(IReadOnlyList<string> a, IReadOnlyList<string> b) =>
            a.Where(t => t.Length > 0).SequenceEqual(b.Where(t => t.Length > 0));
        bool same =
            after.Schema == before.Schema
            && after.OriginatingSystem == before.OriginatingSystem
            && after.Authorization == before.Authorization
            && Same(after.Description, before.Description)
            && (named.Contains("author") || Same(after.Author, before.Author))
            && (named.Contains("organisation") || Same(after.Organization, before.Organization));
        if (!same)
            Differ("The header is not as it came.");
        _tally.Add(
            "header",
            !same ? LedgerAccount.Unaccounted
                : named.Count > 0 ? LedgerAccount.Changed
                : LedgerAccount.Same,
            same && named.Count > 0 ? Changed : "",
            () => "header"
        );
    }

    private void Instances(CancellationToken cancel)
    {
        var allowed = Shapes();
        for (int i = 0; i < _was.File.Count; i++)
        {
            if ((i & 4095) == 0)
                cancel.ThrowIfCancellationRequested();
            Instance(i, allowed);
        }

        for (int i = 0; i < _is.File.Count; i++)
        {
            int index = i,
                id = _is.File.Id(i);
            if (_is.File.IndexOf(id) != i)
                Twice(i);
            else if (_was.File.IndexOf(id) < 0)
            {
                if (_model.Made.Has(id) && _model.Made.IsAsWritten(id, _is.File.Raw(i)))
                    _tally.Add(ModelLedger.Kind(_is, i), LedgerAccount.Changed, Added, () => Label(_is, index));
                else
                    Unexpected(i, "is in no file and no amendment");
            }

            if (_model.Dropped.Count > 0 && RefersTo(i, _model.Dropped) is { } missing)
                Unexpected(i, $"refers to #{missing}, which is gone");
        }

        foreach (int id in _model.Made.Names)
            if (_is.File.IndexOf(id) < 0)
            {
                _tally.AddUnexpected("made by an amendment", () => $"#{id}");
                Differ($"#{id}, added by an amendment, is not there.");
            }
    }

    private void Instance(int index, HashSet<int> shapes)
    {
        int id = _was.File.Id(index),
            now = _is.File.IndexOf(id);
        string kind = ModelLedger.Kind(_was, index);
        // The second of two of a name in the file itself: kept as it came, behind the first.
        if (_was.File.IndexOf(id) != index)
            now = Enumerable
                .Range(0, _is.File.Count)
                .FirstOrDefault(i => _is.File.Id(i) == id && _is.File.IndexOf(id) != i && Equal(index, i), -1);
        if (now < 0)
            Put(_model.Dropped.Contains(id) && MayGo(index), LedgerAccount.LeftOut, Removed, "is gone");
        else if (Equal(index, now) && !_wrong.Contains(index))
            _tally.AddSame(kind, 1);
        else
            Put(
                !_wrong.Contains(index)
                    && _model.Made.Has(id)
                    && _model.Made.IsAsWritten(id, _is.File.Raw(now))
                    && MayChange(index, shapes),
                LedgerAccount.Changed,
                Changed,
                "is not as it came"
            );

        void Put(bool may, LedgerAccount account, string rule, string how)
        {
            if (!may)
                Differ($"{Label(_was, index)} {how}.");
            _tally.Add(kind, may ? account : LedgerAccount.Unaccounted, may ? rule : "", () => Label(_was, index));
        }
    }

    private bool Equal(int before, int after) => _was.File.Raw(before).SequenceEqual(_is.File.Raw(after));

    private void Twice(int index)
    {
        int id = _is.File.Id(index);
        for (int i = 0; i < _was.File.Count; i++)
            if (_was.File.Id(i) == id && _was.File.IndexOf(id) != i && Equal(i, index))
                return;
        Unexpected(index, "is there twice");
    }

    private void Unexpected(int index, string how)
    {
        _tally.AddUnexpected(ModelLedger.Kind(_is, index), () => Label(_is, index));
        Differ($"{Label(_is, index)} {how}.");
    }

    // Only sets, their properties, and relationships that lost all of their members can go.
    private bool MayGo(int index) =>
        _was.Is(index, "IfcPropertySet")
        || _was.Is(index, "IfcElementQuantity")
        || _was.Is(index, "IfcProperty")
        || _was.Is(index, "IfcPhysicalQuantity")
        || _was.Is(index, "IfcRelationship")
        || _was.Is(index, "IfcPresentationLayerAssignment");

    private bool MayChange(int index, HashSet<int> shapes)
    {
        if (_was.Is(index, "IfcRepresentationItem") || _was.Is(index, "IfcObjectPlacement"))
            return shapes.Contains(index);
        if (
            _was.Is(index, "IfcRepresentation")
            || _was.Is(index, "IfcProductRepresentation")
            || _was.Is(index, "IfcProfileDef")
        )
            return false;
        // A rooted object changes itself only where an amendment is about it; sets and relationships change with their elements, whose
        // facts were compared.
        return !_was.Is(index, "IfcObject")
            || _byElement.Contains(_was.GlobalId(index))
            || _applied.Any(a => a.Kind == AmendmentKind.Move);
    }

    // The pieces of shapes and the placements that amendments may change.
    private HashSet<int> Shapes()
    {
        var reader = new AmendmentReader(_before);
        var allowed = new HashSet<int>();
        foreach (var amendment in _applied)
        {
            int element = reader.IndexOf(amendment.Element);
            if (amendment.Kind == AmendmentKind.Move)
                foreach (int product in PlaceAmender.MovedWith(_before, element))
                    allowed.Add(_was.Ref(product, "ObjectPlacement"));
            if (amendment.Kind != AmendmentKind.Length)
                continue;
            allowed.Add(LengthAmender.SolidOf(_before, element, out _));
            foreach (int representation in _was.Refs(_was.Ref(element, "Representation"), "Representations"))
                if (_was.Text(representation, "RepresentationIdentifier") == "Axis")
                    allowed.UnionWith(_was.Refs(representation, "Items"));
        }

        return allowed;
    }

    private int? RefersTo(int index, IReadOnlySet<int> gone)
    {
        var raw = _is.File.Raw(index);
        for (int at = 1; StepReferences.Next(raw, ref at, out int id, out _); )
            if (gone.Contains(id))
                return id;
        return null;
    }

    private static string Label(IfcModel model, int index) =>
        $"#{model.File.Id(index)} {model.ClassName(index)}{(model.Is(index, "IfcRoot") ? " " + model.GlobalId(index) : "")}";

    private static double Off(Vec3 a, Vec3 b) => (a - b).Length;

    private void Differ(string sentence)
    {
        if (_differences.Count < MaxDifferences)
            _differences.Add(sentence);
    }
}
