using System.Globalization;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>What a step did.</summary>
/// <param name="Number">Its place in the list, from 1.</param>
/// <param name="Do">What it does.</param>
/// <param name="Off">Whether it is switched off.</param>
/// <param name="Dropped">How many entities it took out.</param>
/// <param name="Changed">How many it changed.</param>
/// <param name="Finding">What is to be asked about, as a sentence; null for nothing.</param>
public sealed record StepResult(int Number, string Do, bool Off, int Dropped, int Changed, string? Finding);

/// <summary>Runs the steps of a preparation over a drawing that was read for it.</summary>
/// <remarks>Windows, origins and edits are about model space; layers, kinds and colours are dropped in blocks too. Whatever stays keeps its
/// handle, so that edits, orders and comparisons find it again.</remarks>
public sealed class DrawingPreparation
{
    private readonly Drawing _drawing;
    private readonly CancellationToken _cancel;
    private readonly Dictionary<Entity, string> _dropped = [];
    private readonly Dictionary<Entity, Entity> _originals = [];
    private readonly Dictionary<CadObject, string> _changed = [];
    private readonly List<StepResult> _steps = [];
    private readonly List<CadFinding> _findings = [];
    private readonly DetailPlacer _details;

    private DrawingPreparation(Drawing drawing, PreparationDocument document, CancellationToken cancel) =>
        (_drawing, _details, _cancel) = (drawing, new DetailPlacer(drawing, document.Details, cancel), cancel);

    /// <summary>The entities that went, with the step that took them.</summary>
    public IReadOnlyDictionary<Entity, string> Dropped => _dropped;

    /// <summary>What an edit changed, with the step that did.</summary>
    public IReadOnlyDictionary<CadObject, string> Changed => _changed;

    /// <summary>What each step did.</summary>
    public IReadOnlyList<StepResult> Steps => _steps;

    /// <summary>What stayed whole when blocks were exploded.</summary>
    public IReadOnlyList<CadFinding> Findings => _findings;

    /// <summary>Steps that did not find what they were made for, as findings of a new revision.</summary>
    public IReadOnlyList<Finding> Warnings() =>
        _steps.Where(s => s.Finding is not null).ToList() is { Count: > 0 } odd
            ?
            [
                new Finding(
                    "CAD-STEP",
                    Severity.Warning,
                    $"{odd.Count} of the steps that prepare this drawing did not find what they were made for; check its drawing preparation.",
                    odd.Count,
                    [.. odd.Select(s => new FindingElement("", 0, "", "", $"step {s.Number}, {s.Do}: {s.Finding}"))]
                ),
            ]
            : [];

    /// <summary>Which entity of the original one is.</summary>
    public Entity OriginalOf(Entity entity) => _originals.GetValueOrDefault(entity, entity);

    /// <summary>Runs the steps that are not switched off.</summary>
    /// <param name="drawing">The drawing; changed in place.</param>
    /// <param name="document">The steps.</param>
    /// <param name="cancel">Stops between entities.</param>
    public static DrawingPreparation Run(
        Drawing drawing,
        PreparationDocument document,
        CancellationToken cancel = default
    )
    {
        var run = new DrawingPreparation(drawing, document, cancel);
        for (int n = 0; n < document.Steps.Count; n++)
            run.Step(n + 1, document.Steps[n]);
        return run;
    }

    private void Step(int number, PreparationStep step)
    {
        if (step.Off == true)
        {
            _steps.Add(new StepResult(number, step.Do, true, 0, 0, null));
            return;
        }

        string reason = string.Create(CultureInfo.InvariantCulture, $"step {number}: {step.Do}");
        var (dropped, changed, finding) = step.Do switch
        {
            "window" => Keep(step, reason),
            "drop" => Drop(step, reason),
            "origin" => Origin(step, reason),
            "explode" => Explode(),
            "purge" => Purge(reason),
            "rename layer" => Rename(step),
            "detail" => Detail(step),
            _ => Edit(step, reason),
        };
        _steps.Add(new StepResult(number, step.Do, false, dropped, changed, finding));
    }

    private (int, int, string?) Keep(PreparationStep step, string reason)
    {
        var test = new WindowTest(_drawing, PreparationDocument.WindowOf(step));
        int before = _drawing.Model.Entities.Count;
        int dropped = Remove(_drawing.Model, e => !test.Touches(e), reason);
        return (dropped, 0, dropped > 0 && dropped == before ? "There is nothing in the window any more." : null);
    }

    private (int, int, string?) Drop(PreparationStep step, string reason)
    {
        var layers = Set(step.Layers);
        var kinds = Set(step.Kinds);
        var colours = (step.Colours ?? []).Select(c => PreparationDocument.Rgb(c)).ToHashSet();
        var handles = Handles(step);
        int dropped = 0;
        foreach (var block in _drawing.Blocks.ToList())
            dropped += Remove(
                block,
                e =>
                    e is not Viewport
                    && (
                        layers.Contains(_drawing.LayerName(e.Layer))
                        || kinds.Contains(e.Type)
                        || handles.Contains(e.Handle)
                        || (colours.Count > 0 && colours.Contains(Colour(e)))
                    ),
                reason
            );
        return (dropped, 0, dropped == 0 ? "There is nothing of it any more." : null);
    }

    private int Colour(Entity e) => ColourOf(_drawing, e);

    /// <summary>The colour an entity is seen in, 0xRRGGBB: its own, else its layer's.</summary>
    public static int ColourOf(Drawing drawing, Entity e) =>
        e.Colour.Seen ?? drawing.Layers[e.Layer]?.Colour.Seen ?? 0xFFFFFF;

    private (int, int, string?) Origin(PreparationStep step, string reason)
    {
        var low = _drawing.Extents();
        if (step.At is null && low.IsEmpty)
            return (0, 0, "Nothing is left whose corner could become the origin.");
        var at = step.At is { } given ? PreparationDocument.Point(given) : low.Min.XY;
        var by = new Vec3(-at.X, -at.Y, 0);
        var shift = new EntityShift(_drawing, by);
        var stayed = _drawing.Model.Entities.Where(e => !Shifted(shift, e)).CountBy(e => e.Type).ToList();
        // Windows of sheets go on showing what they showed.
        foreach (var window in _drawing.Blocks.Where(b => b.IsPaper).SelectMany(b => b.Entities).OfType<Viewport>())
            window.Target += by;
        return (
            0,
            _drawing.Model.Entities.Count - stayed.Sum(s => s.Value),
            stayed.Count == 0
                ? null
                : $"{string.Join(", ", stayed.Select(s => $"{s.Value} {s.Key}"))} cannot be moved and stayed where they were; drop them, or keep the origin."
        );

        bool Shifted(EntityShift shift, Entity e)
        {
            _cancel.ThrowIfCancellationRequested();
            if (!shift.Apply(e))
                return false;
            _changed[e] = reason;
            return true;
        }
    }

    private (int, int, string?) Explode()
    {
        int before = _drawing.Model.Entities.OfType<Insert>().Count();
        _findings.AddRange(BlockExploder.Explode(_drawing, _cancel));
        int apart = before - _drawing.Model.Entities.OfType<Insert>().Count();
        return (0, apart, before == 0 ? "There are no blocks to explode any more." : null);
    }

    // Blocks that no space shows, and layers that nothing lies on.
    private (int, int, string?) Purge(string reason)
    {
        var reached = new HashSet<Handle>();
        var open = new Stack<BlockRecord>(_drawing.Blocks.Where(b => b.IsSpace));
        while (open.TryPop(out var block))
        {
            if (!reached.Add(block.Handle))
                continue;
            foreach (var next in block.Entities.SelectMany(Shown))
                if (_drawing.Blocks[next] is { } shown)
                    open.Push(shown);
        }

        // Arrow heads and the like are known to styles by name.
        var unused = _drawing
            .Blocks.Where(b => !b.IsXref && !reached.Contains(b.Handle) && !b.Name.StartsWith('_'))
            .ToHashSet();
        foreach (var entity in unused.SelectMany(b => b.Entities))
            _dropped.TryAdd(OriginalOf(entity), reason);
        int blocks = _drawing.Blocks.RemoveAll(unused);

        var used = _drawing
            .Blocks.SelectMany(b => b.Entities.SelectMany(e => e.Parts.Append(e)))
            .Select(e => e.Layer)
            .Concat(_drawing.Blocks.Select(b => b.EndsLayer))
            .Concat(_drawing.Blocks.SelectMany(b => b.Entities).OfType<Viewport>().SelectMany(v => v.Frozen))
            .ToHashSet();
        string current = _drawing.Header.Text("$CLAYER");
        int layers = _drawing.Layers.RemoveAll(
            _drawing
                .Layers.Where(l =>
                    !used.Contains(l.Handle)
                    && l.Name != "0"
                    && l.Name != current
                    && !l.FromXref
                    && !l.Name.Equals("Defpoints", StringComparison.OrdinalIgnoreCase)
                )
                .ToHashSet()
        );
        return (0, blocks + layers, null);

        static IEnumerable<Handle> Shown(Entity e) =>
            e switch
            {
                Insert i => [i.Block],
                Dimension d => [d.Block],
                Table t => [t.Block],
                MultiLeader m => [m.Block.Block, .. m.Context.Block is { } b ? (Handle[])[b.Block] : []],
                _ => [],
            };
    }

    private (int, int, string?) Rename(PreparationStep step)
    {
        if (_drawing.Layers[step.From!] is not { } from)
            return (0, 0, $"There is no layer {step.From} any more.");
        if (from.Name == "0")
            return (0, 0, "Layer 0 has no other name; blocks rely on it.");
        int count = 0;
        if (_drawing.Layers[step.To!] is { } to && to != from)
        {
            foreach (var entity in _drawing.Blocks.SelectMany(b => b.Entities).SelectMany(e => e.Parts.Append(e)))
            {
                if (entity.Layer != from.Handle)
                    continue;
                entity.Layer = to.Handle;
                count++;
            }

            foreach (var block in _drawing.Blocks.Where(b => b.EndsLayer == from.Handle))
                block.EndsLayer = to.Handle;
            if (_drawing.Header.Text("$CLAYER").Equals(from.Name, StringComparison.OrdinalIgnoreCase))
                _drawing.Header.Set("$CLAYER", 8, to.Name);
            _drawing.Layers.Remove(from);
            return (0, count, null);
        }

        count = _drawing.Blocks.Sum(b => b.Entities.Count(e => e.Layer == from.Handle));
        if (_drawing.Header.Text("$CLAYER").Equals(from.Name, StringComparison.OrdinalIgnoreCase))
            _drawing.Header.Set("$CLAYER", 8, step.To!);
        _drawing.Layers.Rename(from, step.To!);
        return (0, count, null);
    }

    private (int, int, string?) Detail(PreparationStep step)
    {
        var (placed, finding) = _details.Place(step);
        _findings.AddRange(placed);
        return (0, finding is null ? 1 : 0, finding);
    }

    private (int, int, string?) Edit(PreparationStep step, string reason)
    {
        var handles = Handles(step);
        var entities = _drawing.Model.Entities;
        int changed = 0,
            found = 0;
        for (int i = 0; i < entities.Count; i++)
        {
            if (!handles.Contains(entities[i].Handle))
                continue;
            found++;
            if (Edited(entities[i], step) is not { } now)
                continue;
            changed++;
            _changed[now] = reason;
            if (ReferenceEquals(now, entities[i]))
                continue;
            _originals[now] = OriginalOf(entities[i]);
            entities[i] = now;
        }

        return (
            0,
            changed,
            found < handles.Count ? $"{handles.Count - found} of {handles.Count} entities are not there any more."
            : changed < found ? $"{found - changed} of {found} cannot be changed so."
            : null
        );
    }

    private Entity? Edited(Entity entity, PreparationStep step)
    {
        switch (step.Do)
        {
            case "text" when entity is TextEntity text:
                text.Value = step.To!;
                return text;
            case "text" when entity is MText text:
                text.Value = step.To!;
                return text;
            case "layer":
                entity.Layer = (_drawing.Layers[step.To!] ?? _drawing.AddLayer(step.To!)).Handle;
                return entity;
            case "colour":
                entity.Colour = CadColour.True(PreparationDocument.Rgb(step.To)!.Value);
                return entity;
            case "hatch" when entity is Hatch hatch:
                Fill(hatch, step);
                return hatch;
            case "move":
                return new EntityShift(_drawing, new Vec3(step.By![0], step.By[1], 0)).Apply(entity) ? entity : null;
            case "turn" or "mirror":
                return new EntityTransform(step.Do == "turn" ? Turn(step) : Mirror(step)).InPlace(entity);
            default:
                return null;
        }
    }

    // Lines of one direction, or a fill; the boundary stays.
    private static void Fill(Hatch hatch, PreparationStep step)
    {
        hatch.Gradient = null;
        hatch.Lines.Clear();
        hatch.Filled = step.Spacing is null;
        hatch.Double = false;
        if (step.Spacing is not { } gap)
        {
            (hatch.Pattern, hatch.PatternKind) = ("SOLID", 1);
            return;
        }

        double angle = (step.Degrees ?? 45) * Math.PI / 180;
        // Lines that somebody defined for this hatch (76 = 0): DXF names their pattern _USER.
        (hatch.Pattern, hatch.PatternKind, hatch.Angle, hatch.Scale) = ("_USER", 0, angle, gap);
        hatch.Lines.Add(new HatchLine(angle, default, new Vec2(-Math.Sin(angle), Math.Cos(angle)) * gap, []));
    }

    private static InsertTransform Turn(PreparationStep step)
    {
        double angle = step.Degrees!.Value * Math.PI / 180,
            c = Math.Cos(angle),
            s = Math.Sin(angle);
        return About(new Vec3(step.At![0], step.At[1], 0), new Vec3(c, s, 0), new Vec3(-s, c, 0));
    }

    private static InsertTransform Mirror(PreparationStep step)
    {
        Vec2 a = PreparationDocument.Point(step.Corners![0]),
            d = (PreparationDocument.Point(step.Corners[1]) - a).Unit();
        double c = (d.X * d.X) - (d.Y * d.Y),
            s = 2 * d.X * d.Y;
        return About(new Vec3(a.X, a.Y, 0), new Vec3(c, s, 0), new Vec3(s, -c, 0));
    }

    private static InsertTransform About(Vec3 centre, Vec3 x, Vec3 y) =>
        new(x, y, Vec3.AxisZ, centre - ((x * centre.X) + (y * centre.Y)));

    private int Remove(BlockRecord block, Func<Entity, bool> goes, string reason)
    {
        int before = block.Entities.Count;
        var pictures = new HashSet<Handle>();
        block.Entities.RemoveAll(e =>
        {
            _cancel.ThrowIfCancellationRequested();
            if (!goes(e))
                return false;
            _dropped.TryAdd(OriginalOf(e), reason);
            if (e is Dimension dimension)
                pictures.Add(dimension.Block);
            return true;
        });
        int gone = before - block.Entities.Count;
        if (pictures.Count > 0)
            Pictures(pictures, reason);
        return gone;
    }

    // A dimension's picture goes with it, unless a copy of it shows the same.
    private void Pictures(HashSet<Handle> pictures, string reason)
    {
        foreach (var entity in _drawing.Blocks.SelectMany(b => b.Entities))
            pictures.Remove(
                entity switch
                {
                    Dimension d => d.Block,
                    Insert i => i.Block,
                    _ => default,
                }
            );
        var unused = _drawing.Blocks.Where(b => pictures.Contains(b.Handle) && b.IsAnonymous).ToHashSet();
        foreach (var entity in unused.SelectMany(b => b.Entities))
            _dropped.TryAdd(OriginalOf(entity), reason);
        _drawing.Blocks.RemoveAll(unused);
    }

    private static HashSet<Handle> Handles(PreparationStep step) =>
        [
            .. (step.Handles ?? []).Select(h => new Handle(
                ulong.Parse(h, NumberStyles.HexNumber, CultureInfo.InvariantCulture)
            )),
        ];

    private static HashSet<string> Set(IReadOnlyList<string>? words) =>
        new(words ?? [], StringComparer.OrdinalIgnoreCase);
}
