using System.Globalization;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Balances a hand-over: reads the written files and compares them with the sources.</summary>
internal sealed class Reconciler
{
    private const int MaxDifferences = 100;
    private readonly HandoverPlan _plan;
    private readonly ModelLedger _models;
    private readonly string?[][] _reasons;
    private readonly bool[][] _written;
    private readonly int[][] _found;
    private readonly Dictionary<(string Storey, string Class), int> _unexpected = [];
    private readonly CheckTally _boxes = new("boxes (mm)"), _volumes = new("volumes (%)");
    private readonly List<string> _differences = [];

    public Reconciler(HandoverPlan plan)
    {
        _plan = plan;
        _models = new ModelLedger(plan);
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
        var found = _models.Read(file, again, cancel);
        var asked = new HashSet<int>();
        var rewrites = file.Parts.ToDictionary(p => p.Source, p => p.Rewrites);
        foreach (var written in file.Elements)
        {
            _written[written.Source][written.Element.Number] = true;
            int at = found[written.Source][written.Element.Index];
            if (at < 0)
            {
                if (_models.Of(written.Source, written.Element.Index) == LedgerAccount.NotCarried) LeaveOut(written.Source, written.Element, _models.RuleOf(written.Source, written.Element.Index));
                continue;
            }

            asked.Add(at);
            string storey = again.StoreyName(again.Structure.StoreyOf(at)), expected = rewrites[written.Source].StoreyName(_plan.Sources[written.Source].Snapshot.StoreyName(written.Element.Storey));
            if (storey != expected) Differ($"{file.Name}: {written.Element.Class} {written.Element.GlobalId} came back on '{storey}', not on '{expected}'.");
            else if (_models.Of(written.Source, written.Element.Index) != LedgerAccount.Unaccounted) _found[written.Source][written.Element.Number]++;
        }

        // Structure goes with what stands on it, several times where a storey is a file; it is counted once.
        foreach (var (source, at) in found)
        {
            foreach (var element in _plan.Sources[source].Snapshot.Elements.Where(e => _plan.Sources[source].Snapshot.IsStructure(e.Index) && at[e.Index] >= 0))
            {
                _written[source][element.Number] = true;
                _found[source][element.Number] = _models.Of(source, element.Index) == LedgerAccount.Unaccounted ? 0 : 1;
                asked.Add(at[element.Index]);
            }
        }

        foreach (var extra in again.Elements.Where(e => !asked.Contains(e.Index)))
            AddUnexpected(again.StoreyName(extra.Storey), extra.Class, $"{file.Name}: {extra.Class} {extra.GlobalId} was not asked for.");
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
                Row(snapshot.StoreyName(element.Storey), element.Class).Add(Reason(s, element), _written[s][element.Number], _found[s][element.Number]);
        }

        foreach (var (key, count) in _unexpected) Row(key.Storey, key.Class).Unexpected += count;
        var lines = _plan.Order.Format == HandoverFormat.Ifc ? _models.Lines() : [];
        IEnumerable<ReconciliationCheck> checks = [.. _models.Shapes.Checks, .. new[] { _boxes, _volumes }.Where(c => c.Any).Select(c => c.ToCheck())];
        var ordered = rows.OrderByDescending(r => levels.GetValueOrDefault(r.Key.Storey, double.NegativeInfinity)).ThenBy(r => r.Key.Storey, StringComparer.Ordinal).ThenBy(r => r.Key.Class, StringComparer.Ordinal);
        return new Reconciliation([.. ordered.Select(r => r.Value.ToRow(r.Key.Storey, r.Key.Class))], [.. checks], [.. _models.Differences, .. _differences]) { Ledger = lines };

        RowTally Row(string storey, string name)
        {
            if (!rows.TryGetValue((storey, name), out var row)) rows[(storey, name)] = row = new RowTally();
            return row;
        }
    }

    private string? Reason(int source, ModelElement element)
    {
        if (_plan.Order.Format != HandoverFormat.Ifc || !_plan.Sources[source].Snapshot.IsStructure(element.Index)) return _reasons[source][element.Number];
        return _written[source][element.Number] ? null : ModelLedger.Empty;
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
