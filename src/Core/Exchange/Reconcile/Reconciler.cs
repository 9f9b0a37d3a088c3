using System.Globalization;
using System.Text.RegularExpressions;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Balances a hand-over: reads the written files and compares them with the sources.</summary>
internal sealed partial class Reconciler
{
    private const int MaxDifferences = 100;
    private readonly HandoverPlan _plan;
    private readonly string?[][] _reasons;
    private readonly bool[][] _written;
    private readonly int[][] _found;
    private readonly Dictionary<(string Storey, string Class), int> _unexpected = [];
    private readonly CheckTally _properties = new("property values"), _layers = new("layers"), _boxes = new("boxes (mm)"), _volumes = new("volumes (%)");
    private readonly List<string> _differences = [];

    public Reconciler(HandoverPlan plan)
    {
        _plan = plan;
        _reasons = [.. plan.Decisions.Select(d => d.ToArray())];
        _written = [.. plan.Sources.Select(s => new bool[s.Snapshot.Elements.Count])];
        _found = [.. plan.Sources.Select(s => new int[s.Snapshot.Elements.Count])];
    }

    /// <summary>Names the reason why an element that was chosen could not go.</summary>
    public void LeaveOut(int source, ModelElement element, string reason) => _reasons[source][element.Number] = reason;

    /// <summary>Reads a written IFC file.</summary>
    public void ReadIfc(WrittenFile file, ReadOnlyMemory<byte> bytes, CancellationToken cancel)
    {
        var again = ModelSnapshot.Open(bytes, cancel);
        var byId = again.Elements.ToDictionary(e => again.Model.File.Id(e.Index));
        var pairs = new List<(WrittenElement Written, ModelElement Again)>();
        foreach (var written in file.Elements)
        {
            _written[written.Source][written.Element.Number] = true;
            var snapshot = _plan.Sources[written.Source].Snapshot;
            var rewrites = file.Rewrites[written.Source];
            if (!byId.Remove(written.StepId, out var found))
            {
                Differ($"{file.Name}: {written.Element.Class} {written.Element.GlobalId} is not in the file.");
                continue;
            }

            if (found.GlobalId == written.GlobalId && found.Class == rewrites.ClassOf(written.Element) && again.StoreyName(found.Storey) == rewrites.StoreyName(snapshot.StoreyName(written.Element.Storey)))
                _found[written.Source][written.Element.Number]++;
            else Differ($"{file.Name}: {written.Element.Class} {written.Element.GlobalId} came back as {found.Class} {found.GlobalId} on '{again.StoreyName(found.Storey)}'.");
            Compare(snapshot, written.Element, again, found, rewrites);
            pairs.Add((written, found));
        }

        foreach (var extra in byId.Values) AddUnexpected(again.StoreyName(extra.Storey), extra.Class, $"{file.Name}: {extra.Class} {extra.GlobalId} was not asked for.");
        CompareShapes(pairs, again, cancel);
    }

    /// <summary>Reads a written drawing.</summary>
    public void ReadDrawing(WrittenFile file, ReadOnlyMemory<byte> bytes)
    {
        var drawing = CadFile.Read(bytes.ToArray()).Drawing;
        var unit = LengthUnit.All.First(u => u.DxfUnits == drawing.Units);
        var meshes = new BodyMeshes(drawing, unit.Metres);
        var byElement = new Dictionary<(string Source, string Id), (string GlobalId, string Class, string Storey, List<Mesh> Bodies)>();
        foreach (var entity in drawing.Model.Entities)
        {
            if (ElementData.Of(drawing, entity) is not [var number, var id, var type, var storey, var origin]) continue;
            var key = (origin, number);
            if (!byElement.TryGetValue(key, out var known)) byElement[key] = known = (id, type, storey, []);
            known.Bodies.AddRange(meshes.Of(entity));
        }

        foreach (var written in file.Elements)
        {
            _written[written.Source][written.Element.Number] = true;
            var snapshot = _plan.Sources[written.Source].Snapshot;
            var key = (written.Source.ToString(CultureInfo.InvariantCulture), "#" + snapshot.Model.File.Id(written.Element.Index));
            if (byElement.Remove(key, out var found) && found.GlobalId == written.Element.GlobalId && found.Class == written.Element.Class && found.Storey == snapshot.StoreyName(written.Element.Storey))
            {
                _found[written.Source][written.Element.Number]++;
                if (_plan.Order.Format == HandoverFormat.DrawingMeshes && snapshot.Shapes.Read(written.Element.Index) is { } shape)
                    CompareMass(file.Name, written.Element, shape.Measure(), Measure(found.Bodies), false);
            }
            else Differ($"{file.Name}: {written.Element.Class} {written.Element.GlobalId} is not in the file.");
        }

        foreach (var extra in byElement.Values) AddUnexpected(extra.Storey, extra.Class, $"{file.Name}: {extra.Class} {extra.GlobalId} was not asked for.");
    }

    /// <summary>The balance sheet, storeys from the highest.</summary>
    public Reconciliation Balance()
    {
        var rows = new Dictionary<(string Storey, string Class), RowTally>();
        var levels = new Dictionary<string, double>();
        for (int s = 0; s < _plan.Sources.Count; s++)
        {
            var snapshot = _plan.Sources[s].Snapshot;
            foreach (var storey in snapshot.Structure.Storeys) levels.TryAdd(storey.Name, storey.Level);
            foreach (var element in snapshot.Elements)
                Row(snapshot.StoreyName(element.Storey), element.Class).Add(_reasons[s][element.Number], _written[s][element.Number], _found[s][element.Number]);
        }

        foreach (var (key, count) in _unexpected) Row(key.Storey, key.Class).Unexpected += count;
        var ordered = rows.OrderByDescending(r => levels.GetValueOrDefault(r.Key.Storey, double.NegativeInfinity)).ThenBy(r => r.Key.Storey, StringComparer.Ordinal).ThenBy(r => r.Key.Class, StringComparer.Ordinal);
        return new Reconciliation([.. ordered.Select(r => r.Value.ToRow(r.Key.Storey, r.Key.Class))], [.. new[] { _properties, _layers, _boxes, _volumes }.Where(c => c.Any).Select(c => c.ToCheck())], _differences);

        RowTally Row(string storey, string name)
        {
            if (!rows.TryGetValue((storey, name), out var row)) rows[(storey, name)] = row = new RowTally();
            return row;
        }
    }

    private void Compare(ModelSnapshot source, ModelElement element, ModelSnapshot again, ModelElement found, RewriteSet rewrites)
    {
        var before = Values(source, element, rewrites);
        var after = Values(again, found, rewrites);
        bool same = before.SequenceEqual(after);
        _properties.Add(same, 0);
        if (!same) Differ($"{element.Class} {element.GlobalId}: {before.Except(after).Concat(after.Except(before)).FirstOrDefault()} differs.");
        bool layers = element.Layers.Select(rewrites.LayerName).SequenceEqual(found.Layers);
        _layers.Add(layers, 0);
        if (!layers) Differ($"{element.Class} {element.GlobalId}: layers were {string.Join(", ", element.Layers)}, are {string.Join(", ", found.Layers)}.");
    }

    // Lengths in the project's unit are compared in metres, to nine digits; the rest as text.
    private static List<string> Values(ModelSnapshot snapshot, ModelElement element, RewriteSet rewrites)
    {
        var values = new List<string>();
        foreach (var set in snapshot.Properties.Of(element.Index))
        {
            if (set.Name == SchemaRewrite.AttributeSet) continue;
            foreach (var p in set.Properties)
            {
                if (rewrites.IsEdited(set.Name, p.Name)) continue;
                bool length = MeasureKinds.IsLength(p.Measure) && p.Unit == snapshot.Units.SymbolFor(p.Measure);
                values.Add($"{set.Name}.{p.Name} = {(length ? Number().Replace(p.Value, m => Metres(m.Value, snapshot.Units.Metres)) : p.Value)}");
            }
        }

        values.Sort(StringComparer.Ordinal);
        return values;
    }

    private static string Metres(string number, double metres) =>
        (double.Parse(number, CultureInfo.InvariantCulture) * metres).ToString("G9", CultureInfo.InvariantCulture);

    [GeneratedRegex(@"-?\d+(\.\d+)?(E[-+]?\d+)?")]
    private static partial Regex Number();

    private void CompareShapes(List<(WrittenElement Written, ModelElement Again)> pairs, ModelSnapshot again, CancellationToken cancel)
    {
        var after = new Dictionary<int, MassProperties>();
        again.ForEachShape([.. pairs.Select(p => p.Again)], (e, shape) =>
        {
            if (shape is { Parts.Count: > 0 }) after[e.Number] = shape.Measure();
        }, 0, cancel);
        foreach (var group in pairs.GroupBy(p => p.Written.Source))
        {
            var twin = group.ToDictionary(p => p.Written.Element.Number, p => p.Again);
            _plan.Sources[group.Key].Snapshot.ForEachShape([.. group.Select(p => p.Written.Element)], (e, shape) =>
            {
                bool has = after.TryGetValue(twin[e.Number].Number, out var mass);
                if (shape is not { Parts.Count: > 0 })
                {
                    if (has) Differ($"{e.Class} {e.GlobalId} had no shape and has one now.");
                    return;
                }

                if (_plan.Moves[group.Key] is { } move && _plan.Order.Format == HandoverFormat.Ifc) shape = shape with { World = move.Then(shape.World) };
                CompareMass("re-read", e, shape.Measure(), has ? mass : default, true);
            }, 0, cancel);
        }
    }

    // Large bodies may come as several pieces of a drawing, of which none is closed: only their box is compared.
    private void CompareMass(string where, ModelElement element, MassProperties before, MassProperties after, bool whole)
    {
        CompareBox(where, element, before.Bounds, after.Bounds);
        if (!before.Closed || (!whole && !after.Closed)) return;
        double percent = before.Volume == after.Volume ? 0 : 100 * Math.Abs(before.Volume - after.Volume) / Math.Max(Math.Abs(before.Volume), 1e-12);
        _volumes.Add(percent <= 0.1, percent);
        if (percent > 0.1) Differ(FormattableString.Invariant($"{element.Class} {element.GlobalId}: volume was {before.Volume:G6}, is {after.Volume:G6} m³."));
    }

    private void CompareBox(string where, ModelElement element, Box before, Box after)
    {
        double off = Math.Max(Off(before.Min, after.Min), Off(before.Max, after.Max)) * 1000;
        _boxes.Add(off <= 1, off);
        if (!(off <= 1)) Differ(FormattableString.Invariant($"{where}: {element.Class} {element.GlobalId} moved by {off:0.0} mm."));
    }

    private static double Off(Vec3 a, Vec3 b) => Math.Max(Math.Abs(a.X - b.X), Math.Max(Math.Abs(a.Y - b.Y), Math.Abs(a.Z - b.Z)));

    private static MassProperties Measure(List<Mesh> bodies) => new Shape(Frame.Identity, [.. bodies.Select(b => new ShapePart(b, Frame.Identity, Colour.Default, -1))], []).Measure();

    private void AddUnexpected(string storey, string name, string sentence)
    {
        _unexpected[(storey, name)] = _unexpected.GetValueOrDefault((storey, name)) + 1;
        Differ(sentence);
    }

    private void Differ(string sentence)
    {
        if (_differences.Count < MaxDifferences) _differences.Add(sentence);
    }
}
