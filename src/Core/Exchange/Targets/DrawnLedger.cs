using System.Globalization;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>The ledger of models handed over as drawings: what of each element is drawn, and what a drawing has no place for.</summary>
internal sealed class DrawnLedger : ILedger
{
    /// <summary>The reason for all that a drawing cannot say.</summary>
    public const string NoPlace = "a drawing has no place for it";

    private const int MaxDifferences = 100;
    private readonly HandoverPlan _plan;
    private readonly DrawingLayerNames _layers;
    private readonly LedgerTally _tally = new();
    private readonly CheckTally _boxes = new("boxes (mm)"),
        _volumes = new("volumes (%)"),
        _lines = new("lines of plans (%)"),
        _hatches = new("hatched faces (%)"),
        _marks = new("level marks"),
        _sheets = new("sheets");
    private readonly List<string> _differences = [];
    private readonly OutgoingProperties? _properties;
    private readonly Dictionary<(int Source, int Index), int> _carried = [];
    private readonly Dictionary<(int Source, int Index), string?> _elements = [];
    private readonly HashSet<(int Source, int Index)> _meshes = [],
        _whole = [];

    public DrawnLedger(HandoverPlan plan)
    {
        (_plan, _layers) = (plan, new DrawingLayerNames(plan));
        _properties = plan.Order.DrawsProperties ? new OutgoingProperties(plan) : null;
    }

    /// <inheritdoc/>
    public IEnumerable<ReconciliationCheck> Checks =>
        new[] { _boxes, _volumes, _lines, _hatches, _marks, _sheets }.Where(c => c.Any).Select(c => c.ToCheck());

    /// <inheritdoc/>
    public IReadOnlyList<string> Differences => _differences;

    private bool AsLines => _plan.Order.Into.DrawsLines;

    /// <inheritdoc/>
    public void Read(WrittenFile file, ReadOnlyMemory<byte> bytes, Reconciler rows, CancellationToken cancel)
    {
        var drawing = CadFile.Read(bytes.ToArray(), cancel).Drawing;
        var drawn = DrawnElement.Read(drawing, out int strangers);
        CheckLayers(file, drawing);
        foreach (var sheet in file.Drawn?.Sheets ?? [])
        {
            string? problem = sheet.Problem(drawing, DrawingTarget.UnitOf(_plan).Metres);
            _sheets.Add(problem is null, problem is null ? 0 : 1);
            if (problem is not null)
                Differ($"{file.Name} {problem}.");
        }

        if (file.Drawn is { Parts.Count: 0, Sheets.Count: > 0 })
            strangers -= file.Drawn.Sheets.Count;
        var views =
            AsLines && file.Drawn is { Parts.Count: > 0 } made
                ? FileViews.Of(_plan, made.Parts, made.Line, cancel)
                : null;
        CheckMarks(file, views?.Marks ?? [], drawn);
        if (strangers != 0)
            Unexpected($"{file.Name}: {strangers} entities belong to no element.", "entity");
        foreach (var group in file.Elements.GroupBy(e => e.Source))
        {
            var snapshot = _plan.Sources[group.Key].Snapshot;
            PlacedShapes.ForEach(
                _plan,
                group.Key,
                [.. group.Select(e => e.Element)],
                (element, shape) =>
                {
                    string? problem = drawn.Remove(
                        (group.Key.ToString(CultureInfo.InvariantCulture), "#" + snapshot.Model.File.Id(element.Index)),
                        out var found
                    )
                        ? Problem(group.Key, element, shape, found, views)
                        : "is not in the file";
                    // Of several sections that show it, each has to.
                    if (_elements.GetValueOrDefault((group.Key, element.Index)) is null)
                        _elements[(group.Key, element.Index)] = problem;
                    if (found is { IsSolid: false })
                        _meshes.Add((group.Key, element.Index));
                    if (problem is null)
                        rows.Find(group.Key, element);
                    else
                        Differ($"{file.Name}: {element.Class} {element.GlobalId} {problem}.");
                },
                cancel
            );
        }

        foreach (var extra in drawn.Values)
        {
            Unexpected($"{file.Name}: {extra.Class} {extra.GlobalId} was not asked for.", extra.Class);
            rows.AddUnexpected(
                extra.Storey,
                extra.Class,
                $"{file.Name}: {extra.Class} {extra.GlobalId} was not asked for."
            );
        }
    }

    private void CheckMarks(
        WrittenFile file,
        IReadOnlyList<ViewLevel> marks,
        Dictionary<(string Source, string Id), DrawnElement> drawn
    )
    {
        bool any = drawn.Remove((ViewLayers.NoSource, ""), out var found);
        if (marks.Count == 0 && !any)
            return;
        bool same =
            any
            && found!
                .Texts.Order(StringComparer.Ordinal)
                .SequenceEqual(marks.Select(m => m.Text.Content).Order(StringComparer.Ordinal))
            && Math.Abs(found.Length - marks.Sum(m => (m.To - m.From).Length)) <= 1e-5 * found.Length;
        _marks.Add(same, same ? 0 : 1);
        if (!same)
            Differ($"{file.Name} has not the level marks it was to have.");
    }

    // What the layer table says of a layer, the drawing's layer has.
    private void CheckLayers(WrittenFile file, Drawing drawing)
    {
        foreach (
            var row in file
                .Elements.Select(e => _layers.Row(e.Source, e.Element))
                .OfType<LayerRow>()
                .DistinctBy(r => r.Layer)
        )
        {
            foreach (
                var layer in drawing.Layers.Where(l =>
                    l.Name == row.Layer || (AsLines && l.Name.StartsWith(row.Layer + "_", StringComparison.Ordinal))
                )
            )
            {
                bool old = _plan.Order.Form.Version < CadVersion.AC1018;
                bool same =
                    (
                        row.Colour is not { } colour
                        || (
                            old
                                ? layer.Colour.Index == colour.Index
                                : layer.Colour.Rgb == colour.Rgb && layer.Colour.Index == colour.Index
                        )
                    )
                    && drawing
                        .LineTypes.FirstOrDefault(t => t.Handle == layer.LineType)
                        ?.Name.Equals(
                            layer.Name != row.Layer && ViewLayers.IsDashed(layer.Name[row.Layer.Length..]) ? "DASHED"
                                : row.LineType.Length > 0 ? row.LineType
                                : "Continuous",
                            StringComparison.OrdinalIgnoreCase
                        ) == true
                    && (row.Weight is not { } weight || layer.LineWeight == Math.Round(weight * 100));
                _tally.Add("layer of the table", same ? LedgerAccount.Same : LedgerAccount.Unaccounted, "", () =>
                    layer.Name
                );
                if (!same)
                    Differ(
                        $"{file.Name}: the layer {layer.Name} has not the colour, line type and weight of the layer table."
                    );
            }
        }
    }

    /// <inheritdoc/>
    public IReadOnlyList<LedgerLine> Lines()
    {
        var rules = new RuleNames();
        for (int s = 0; s < _plan.Sources.Count; s++)
        {
            var snapshot = _plan.Sources[s].Snapshot;
            var chosen = snapshot.Elements.Where(e => _plan.Decisions[s][e.Number] is null).ToList();
            var subset = SubsetPlan.Of(snapshot, chosen, []);
            var accounts = new SourceAccounts(snapshot, rules);
            int source = s;
            for (int i = 0; i < snapshot.Model.File.Count; i++)
                if (subset.Has(i))
                    accounts.Put(i, LedgerAccount.NotCarried, NoPlace);
            foreach (int styled in snapshot.Model.OfType("IfcStyledItem"))
                if (subset.Has(styled))
                    accounts.Reset(
                        styled,
                        AsLines ? LedgerAccount.NotCarried : LedgerAccount.Changed,
                        AsLines ? "a plan has the colours of its layers" : "as colours of entities"
                    );
            if (_properties is not null)
                PutProperties(accounts, source, chosen);
            foreach (var element in chosen)
                Put(accounts, source, element);
            ModelLedger.Sum(accounts, _plan, s, _tally, AccountOfPair);
        }

        return _tally.Lines();
    }

    // That an element has a property set is said by its extended data, where its properties are.
    private (LedgerAccount, string) AccountOfPair(SourceAccounts accounts, int index) =>
        accounts.Of(index) == LedgerAccount.LeftOut ? (LedgerAccount.LeftOut, "")
        : accounts.Of(index) == LedgerAccount.Changed ? (LedgerAccount.Changed, accounts.RuleOf(index))
        : (LedgerAccount.NotCarried, NoPlace);

    private string PropertyRule => _plan.Order.Attributes ? ElementBlock.Rule : "as extended data";

    // The instances of properties that all elements which have them were found with: they are in the drawing, in another form.
    private void PutProperties(SourceAccounts accounts, int source, List<ModelElement> chosen)
    {
        var snapshot = accounts.Snapshot;
        var whole = chosen
            .Where(e =>
                _elements.GetValueOrDefault((source, e.Index), "") is null && _whole.Contains((source, e.Index))
            )
            .ToHashSet();
        var lost = chosen
            .Where(e => !whole.Contains(e))
            .SelectMany(e => snapshot.PropertySets(e).Select(s => s.Index))
            .ToHashSet();
        int[] Members(int set) =>
            snapshot.Model.Refs(set, snapshot.Model.Is(set, "IfcElementQuantity") ? "Quantities" : "HasProperties");
        var lostMembers = lost.SelectMany(Members).ToHashSet();
        foreach (int set in whole.SelectMany(e => snapshot.PropertySets(e).Select(s => s.Index)).Distinct())
        {
            if (lost.Contains(set) || accounts.Of(set) != LedgerAccount.NotCarried)
                continue;
            accounts.Reset(set, LedgerAccount.Changed, PropertyRule);
            foreach (int property in Members(set))
                if (!lostMembers.Contains(property) && accounts.Of(property) == LedgerAccount.NotCarried)
                    accounts.Reset(property, LedgerAccount.Changed, PropertyRule);
        }

        foreach (int relation in snapshot.Model.OfType("IfcRelDefinesByProperties"))
            if (
                accounts.Of(relation) == LedgerAccount.NotCarried
                && snapshot.Model.Ref(relation, "RelatingPropertyDefinition") is >= 0 and var of
                && accounts.Of(of) == LedgerAccount.Changed
            )
                accounts.Reset(relation, LedgerAccount.Changed, PropertyRule);
    }

    // What a drawing says of an element: that it is there, its layer, its colours.
    private void Put(SourceAccounts accounts, int source, ModelElement element)
    {
        string Label() => $"{_plan.Sources[source].Label}: {accounts.Label(element.Index)}";
        if (!_elements.TryGetValue((source, element.Index), out string? problem))
        {
            accounts.Reset(
                element.Index,
                LedgerAccount.NotCarried,
                AsLines ? DrawingTarget.NoLine : DrawingTarget.NoShape
            );
            return;
        }

        bool meshes = _meshes.Contains((source, element.Index));
        string rule = AsLines
            ? _plan.Order.Into is DrawingTarget { IsPlan: true }
                ? "as lines of a plan"
                : "as lines of a section"
            : _plan.Order.Detail == DetailLevel.Boxes
                ? "as boxes"
                : _plan.Order.Skins
                    ? "as outer surfaces only"
                    : meshes
                        ? "as meshes"
                        : "as solids";
        if (_plan.Order.Solids && meshes)
            _tally.Add("solid", LedgerAccount.NotCarried, Bodies.NotSolid, Label);
        accounts.Reset(element.Index, problem is null ? LedgerAccount.Changed : LedgerAccount.Unaccounted, rule);
        if (problem is null)
            accounts.Drawn[element.Index] = rule;
        _tally.Add(
            "layer of an element",
            problem is not null ? LedgerAccount.Unaccounted
                : _layers.ChangeOf(source, element) is not null ? LedgerAccount.Changed
                : LedgerAccount.Same,
            _layers.ChangeOf(source, element) ?? "",
            Label
        );
        for (int n = 0; n < _carried.GetValueOrDefault((source, element.Index)); n++)
            _tally.Add(
                "property of an element",
                problem is null ? LedgerAccount.Changed : LedgerAccount.Unaccounted,
                PropertyRule,
                Label
            );
        foreach (string second in element.Layers.Skip(1))
            _tally.Add("layer of an element", LedgerAccount.NotCarried, "an entity is on one layer", () =>
                $"{Label()} on {second}"
            );
    }

    private string? Problem(int source, ModelElement element, Shape? shape, DrawnElement found, FileViews? views)
    {
        var snapshot = _plan.Sources[source].Snapshot;
        if (
            found.GlobalId != ElementData.Held(element.GlobalId)
            || found.Class != ElementData.Held(element.Class)
            || found.Storey != ElementData.Held(snapshot.StoreyName(element.Storey))
        )
            return $"came back as {found.Class} {found.GlobalId} on '{found.Storey}'";
        foreach (string word in (string[])[element.GlobalId, element.Class, snapshot.StoreyName(element.Storey)])
            if (!ElementData.Fits(word))
                _tally.Add(
                    "name of an element",
                    LedgerAccount.NotCarried,
                    "a string of extended data holds 255 bytes",
                    () => $"{element.GlobalId}: {word}"
                );
        if (found.IsMixed)
            return "has entities that name another element";
        return (
            views is not null
                ? LinesProblem(source, element, views.Elements[(source, element.Number)], found)
                : BodyProblem(source, element, shape, found)
        ) ?? PropertyProblem(source, element, shape, found);
    }

    private string? PropertyProblem(int source, ModelElement element, Shape? shape, DrawnElement found)
    {
        if (_properties is null)
            return found.Properties is { Count: > 0 } ? "has properties nobody asked for" : null;
        var snapshot = _plan.Sources[source].Snapshot;
        var goes = _properties.Of(source, element, shape);
        var fitting = DrawnProperties.Fitting(goes);
        if (found.Properties is not { } held || held.Count != fitting.Count)
            return "has not the properties that were to go";
        for (int n = 0; n < held.Count; n++)
        {
            if (held[n].Key == fitting[n].Key && Equals(held[n].Value, DrawnProperties.Held(fitting[n].Value)))
                continue;
            return $"has {held[n].Key} = '{held[n].Value}' where {fitting[n].Key} was to be '{fitting[n].Value}'";
        }

        if (_plan.Order.Attributes && found.Attributes?.SequenceEqual(ElementBlock.Values(element, goes)) != true)
            return "has not the attributes that were to go";
        _carried[(source, element.Index)] = held.Count;
        if (
            held.Count == goes.Count
            && goes.Count(p => p.Set != ComputedQuantities.Set)
                == snapshot.PropertySets(element).Sum(s => s.Properties.Count)
        )
            _whole.Add((source, element.Index));
        foreach (var left in goes.Except(fitting))
            _tally.Add(
                "property of an element",
                LedgerAccount.NotCarried,
                ElementData.Fits(left.Key) ? DrawnProperties.Full : DrawnProperties.LongName,
                () => $"{element.GlobalId}: {left.Key}"
            );
        if (_plan.Order.Attributes)
            foreach (var cut in goes.Where(p => p.Value is string text && ElementBlock.Cuts(text)))
                _tally.Add("attribute of an element", LedgerAccount.NotCarried, ElementBlock.OneLine, () =>
                    $"{element.GlobalId}: {cut.Key}"
                );
        return null;
    }

    private string? BodyProblem(int source, ModelElement element, Shape? shape, DrawnElement found)
    {
        if (shape is not { Parts.Count: > 0 })
            return "has no shape and was drawn";
        string layer = _layers.Of(source, element, "");
        if (!found.Layers.SetEquals([layer]))
            return $"is on the layers {string.Join(", ", found.Layers)}, not on {layer}";
        if (ColourProblem(shape, found, _layers.Row(source, element)) is { } coloured)
            return coloured;
        MassProperties was = shape.Measure(),
            now = DrawnElement.Measure(found.Bodies);
        double off = Math.Max(Off(was.Bounds.Min, now.Bounds.Min), Off(was.Bounds.Max, now.Bounds.Max)) * 1000;
        _boxes.Add(off <= 1, off);
        if (!(off <= 1))
            return FormattableString.Invariant($"is off by {off:0.0} mm");
        // Large bodies may come as several pieces of a drawing, of which none is closed: only their box is compared.
        if (!was.Closed || !now.Closed)
            return null;
        double percent =
            was.Volume == now.Volume
                ? 0
                : 100 * Math.Abs(was.Volume - now.Volume) / Math.Max(Math.Abs(was.Volume), 1e-12);
        _volumes.Add(percent <= 0.1, percent);
        return percent > 0.1
            ? FormattableString.Invariant($"had a volume of {was.Volume:G6} and has {now.Volume:G6} m³")
            : null;
    }

    private string? ColourProblem(Shape shape, DrawnElement found, LayerRow? row)
    {
        bool old = _plan.Order.Form.Version < CadVersion.AC1018;
        var was = shape
            .Parts.Where(p => p.Mesh.TriangleCount > 0)
            .Select(p => (p.Colour.R << 16) | (p.Colour.G << 8) | p.Colour.B)
            .ToHashSet();
        if (old)
            was = [.. was.Select(c => CadColour.True(c).Index).Select(i => (int)i)];
        if (row?.Colour is not null)
            was.Clear();
        if (!found.Colours.SetEquals(was))
            return "has other colours";
        var clear = shape
            .Parts.Where(p => p.Mesh.TriangleCount > 0 && p.Colour.A < 255)
            .Select(p => (int)p.Colour.A)
            .ToHashSet();
        if (old && clear.Count > 0)
            _tally.Add(
                "transparency",
                LedgerAccount.NotCarried,
                $"transparency has no place in {_plan.Order.Form.Version}",
                () => found.GlobalId
            );
        else if (!found.Transparencies.SetEquals(clear))
            return "has another transparency";
        return null;
    }

    private string? LinesProblem(int source, ModelElement element, ElementLines shown, DrawnElement found)
    {
        foreach (var text in shown.Texts)
            if (!found.Texts.Contains(text.Content))
                return $"has lost its text '{text.Content}'";
        double was = shown.Length,
            percent = 100 * Math.Abs(was - found.Length) / Math.Max(was, 1e-9);
        _lines.Add(percent <= 1e-3, percent);
        if (percent > 1e-3)
            return FormattableString.Invariant($"had lines of {was:0.000} m and has {found.Length:0.000} m");
        var box = shown.Bounds();
        double off = box.IsEmpty ? 0 : Math.Max(Off(box.Min, found.Lines.Min), Off(box.Max, found.Lines.Max)) * 1000;
        _boxes.Add(off <= 1, off);
        if (!(off <= 1))
            return FormattableString.Invariant($"is off by {off:0.0} mm");
        if (HatchProblem(shown, found) is { } hatched)
            return hatched;
        var layers = ViewLayers.Of(shown.View).All.Select(suffix => _layers.Of(source, element, suffix));
        return found.Layers.All(l => layers.Contains(l, StringComparer.OrdinalIgnoreCase))
            ? null
            : $"is on the layers {string.Join(", ", found.Layers)}";
    }

    private string? HatchProblem(ElementLines shown, DrawnElement found)
    {
        double area = shown.HatchedArea;
        if (area == 0 && found.HatchedArea == 0)
            return null;
        double percent = 100 * Math.Abs(area - found.HatchedArea) / Math.Max(area, 1e-9);
        _hatches.Add(percent <= 1e-3, percent);
        if (percent > 1e-3)
            return FormattableString.Invariant(
                $"was to be hatched over {area:0.000} m² and is over {found.HatchedArea:0.000} m²"
            );
        return found.Patterns.SetEquals(shown.Faces.Select(f => f.Hatch.Name))
            ? null
            : $"is hatched as {string.Join(", ", found.Patterns)}";
    }

    private static double Off(Vec3 a, Vec3 b) =>
        Math.Max(Math.Abs(a.X - b.X), Math.Max(Math.Abs(a.Y - b.Y), Math.Abs(a.Z - b.Z)));

    private void Unexpected(string sentence, string kind)
    {
        _tally.AddUnexpected(kind, () => sentence);
        Differ(sentence);
    }

    private void Differ(string sentence)
    {
        if (_differences.Count < MaxDifferences)
            _differences.Add(sentence);
    }
}
