using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>The ledger of models handed over as bare triangles: each element's box, volume and colours are found again; all else has no
/// place there.</summary>
internal sealed class TriangleLedger(HandoverPlan plan) : ILedger
{
    /// <summary>The reason for all that triangles cannot say.</summary>
    public const string NoPlace = "triangles have no place for it";

    private const int MaxDifferences = 100;
    private readonly LedgerTally _tally = new();
    private readonly CheckTally _boxes = new("boxes (mm)"),
        _volumes = new("volumes (%)");
    private readonly List<string> _differences = [];
    private readonly Dictionary<(int Source, int Index), string?> _elements = [];

    /// <inheritdoc/>
    public IEnumerable<ReconciliationCheck> Checks =>
        new[] { _boxes, _volumes }.Where(c => c.Any).Select(c => c.ToCheck());

    /// <inheritdoc/>
    public IReadOnlyList<string> Differences => _differences;

    private TriangleKind Kind => ((TriangleTarget)plan.Order.Into).Kind;

    private bool Coloured => Kind == TriangleKind.Glb;

    /// <inheritdoc/>
    public void Read(WrittenFile file, ReadOnlyMemory<byte> bytes, Reconciler rows, CancellationToken cancel)
    {
        var shapes = new List<(WrittenElement Element, Shape Shape)>();
        foreach (var group in file.Elements.GroupBy(e => e.Source))
        {
            var byElement = group.ToDictionary(e => e.Element);
            PlacedShapes.ForEach(
                plan,
                group.Key,
                [.. group.Select(e => e.Element)],
                (element, shape) => shapes.Add((byElement[element], shape!)),
                cancel
            );
        }

        var found = Found(file, bytes, shapes);
        for (int n = 0; n < shapes.Count; n++)
        {
            var (element, shape) = shapes[n];
            string? problem =
                n >= found.Count
                    ? "is not in the file"
                    : Problem(element.Element, shape, found[n].Id, found[n].Mesh, found[n].Colours);
            _elements[(element.Source, element.Element.Index)] = problem;
            if (problem is null)
                rows.Find(element.Source, element.Element);
            else
                Differ($"{file.Name}: {element.Element.Class} {element.GlobalId} {problem}.");
        }

        foreach (var (id, _, _) in found.Skip(shapes.Count))
        {
            _tally.AddUnexpected("element", () => id);
            rows.AddUnexpected("", "element", $"{file.Name}: {id} was not asked for.");
        }
    }

    /// <inheritdoc/>
    public IReadOnlyList<LedgerLine> Lines()
    {
        var rules = new RuleNames();
        for (int s = 0; s < plan.Sources.Count; s++)
        {
            var snapshot = plan.Sources[s].Snapshot;
            var chosen = plan.Going(s).ToList();
            var subset = SubsetPlan.Of(snapshot, chosen, []);
            var accounts = new SourceAccounts(snapshot, rules);
            for (int i = 0; i < snapshot.Model.File.Count; i++)
                if (subset.Has(i))
                    accounts.Put(i, LedgerAccount.NotCarried, NoPlace);
            foreach (int styled in snapshot.Model.OfType("IfcStyledItem"))
                if (subset.Has(styled) && Coloured)
                    accounts.Reset(styled, LedgerAccount.Changed, "as materials of triangles");
            foreach (var element in chosen)
                Put(accounts, s, element);
            ModelLedger.Sum(accounts, plan, s, _tally, (a, index) =>
                a.Of(index) == LedgerAccount.LeftOut ? (LedgerAccount.LeftOut, "") : (LedgerAccount.NotCarried, NoPlace)
            );
        }

        return _tally.Lines();
    }

    private void Put(SourceAccounts accounts, int source, ModelElement element)
    {
        if (!_elements.TryGetValue((source, element.Index), out string? problem))
        {
            accounts.Reset(element.Index, LedgerAccount.NotCarried, DrawingTarget.NoShape);
            return;
        }

        string rule = plan.Order.Detail == DetailLevel.Boxes ? "as boxes" : "as triangles";
        accounts.Reset(element.Index, problem is null ? LedgerAccount.Changed : LedgerAccount.Unaccounted, rule);
        if (problem is null)
            accounts.Drawn[element.Index] = rule;
    }

    // A file that cannot be read again holds nothing.
    private IReadOnlyList<(string Id, Mesh Mesh, IReadOnlyList<Colour>? Colours)> Found(
        WrittenFile file,
        ReadOnlyMemory<byte> bytes,
        List<(WrittenElement Element, Shape Shape)> shapes
    )
    {
        try
        {
            return Found(bytes, shapes);
        }
        catch (Exception e)
            when (e
                    is FormatException
                        or SharpGLTF.Validation.ModelException
                        or IndexOutOfRangeException
                        or ArgumentException
                        or InvalidDataException
                        or System.Text.Json.JsonException
            )
        {
            Differ($"{file.Name} cannot be read again: {e.Message}");
            return [];
        }
    }

    private IReadOnlyList<(string Id, Mesh Mesh, IReadOnlyList<Colour>? Colours)> Found(
        ReadOnlyMemory<byte> bytes,
        List<(WrittenElement Element, Shape Shape)> shapes
    )
    {
        if (Coloured)
            return [.. GlbScene.Read(bytes).Select(f => (f.GlobalId, f.Mesh, (IReadOnlyList<Colour>?)f.Colours))];
        int[] counts = [.. shapes.Select(s => s.Shape.Parts.Sum(p => p.Mesh.TriangleCount))];
        double metres = TriangleTarget.Metres(plan.Order);
        var scale = Frame.Identity with { X = Vec3.AxisX * metres, Y = Vec3.AxisY * metres, Z = Vec3.AxisZ * metres };
        return
        [
            .. TriangleFile
                .Read(Kind, bytes, counts)
                .Select(f => (f.Id, f.Mesh.Map(scale), (IReadOnlyList<Colour>?)null)),
        ];
    }

    private string? Problem(ModelElement element, Shape shape, string id, Mesh mesh, IReadOnlyList<Colour>? colours)
    {
        if (Kind != TriangleKind.Stl && id != element.GlobalId)
            return $"came back as {id}";
        if (mesh.TriangleCount != shape.Parts.Sum(p => p.Mesh.TriangleCount))
            return "has another number of triangles";
        MassProperties was = shape.Measure();
        var box = mesh.Bounds();
        double off = Math.Max(Off(was.Bounds.Min, box.Min), Off(was.Bounds.Max, box.Max)) * 1000;
        _boxes.Add(off <= 1, off);
        if (!(off <= 1))
            return FormattableString.Invariant(
                $"is off by {off:0.0} mm: this far from zero, single-precision numbers are that far apart; choose a frame near the origin"
            );
        if (was.Closed)
        {
            double volume = MassProperties.Of(mesh).Volume,
                percent = 100 * Math.Abs(was.Volume - volume) / Math.Max(Math.Abs(was.Volume), 1e-9);
            _volumes.Add(percent <= 0.5, percent);
            if (percent > 0.5)
                return FormattableString.Invariant($"had a volume of {was.Volume:G6} and has {volume:G6} m³");
        }

        return
            colours is null
            || shape
                .Parts.SelectMany(p => p.ByColour())
                .Where(p => p.Mesh.TriangleCount > 0)
                .Select(p => p.Colour)
                .ToHashSet()
                .SetEquals(colours)
            ? null
            : "has other colours";
    }

    private static double Off(Vec3 a, Vec3 b) =>
        Math.Max(Math.Abs(a.X - b.X), Math.Max(Math.Abs(a.Y - b.Y), Math.Abs(a.Z - b.Z)));

    private void Differ(string sentence)
    {
        if (_differences.Count < MaxDifferences)
            _differences.Add(sentence);
    }
}
