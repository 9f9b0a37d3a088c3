using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>What the views of one file show: for plans one view a storey, for a section one in all.</summary>
internal sealed class FileViews
{
    // Millimetres on paper: letters, and the bubbles of grid axes.
    private const double Letters = 2.5,
        Bubble = 4;
    private static readonly string[] Drawings = ["Annotation", "Plan", "FootPrint"];
    private readonly HandoverPlan _plan;
    private readonly LineWork _work;
    private readonly double _paper;
    private readonly CancellationToken _cancel;
    private readonly Dictionary<(int Source, int Number), ElementLines> _elements = [];
    private readonly Dictionary<PlanView, HiddenLines> _hiding = [];
    private readonly List<(ElementLines Lines, Vec3 A, Vec3 B)> _edges = [];

    private FileViews(HandoverPlan plan, CancellationToken cancel) =>
        (_plan, _work, _paper, _cancel) = (plan, plan.Order.LineWork, plan.Order.Scale / 1000.0, cancel);

    /// <summary>What is shown of each element.</summary>
    public IReadOnlyDictionary<(int Source, int Number), ElementLines> Elements => _elements;

    /// <summary>The views.</summary>
    public IReadOnlyList<PlanView> Views { get; private set; } = [];

    /// <summary>The levels they mark.</summary>
    public IReadOnlyList<ViewLevel> Marks { get; private set; } = [];

    /// <summary>Looks at the elements of a file.</summary>
    /// <param name="plan">The order.</param>
    /// <param name="parts">The elements.</param>
    /// <param name="line">The line of a section; null for plans.</param>
    /// <param name="cancel">Stops between elements.</param>
    public static FileViews Of(
        HandoverPlan plan,
        IReadOnlyList<FilePart> parts,
        SectionLine? line,
        CancellationToken cancel
    )
    {
        var made = new FileViews(plan, cancel);
        var section = line is null ? null : PlanView.Section(line, plan.Order.LineWork);
        var plans = line is null ? made.Plans(parts) : [];
        foreach (var part in parts)
        {
            PlacedShapes.ForEach(
                plan,
                part.Source,
                part.Elements,
                (element, shape) =>
                    made.Add(part.Source, element, shape, section ?? plans[made.Key(part.Source, element.Storey)]),
                cancel
            );
        }

        made.Divide();
        made.Views = section is not null ? [section] : [.. plans.Values.Distinct()];
        if (plan.Order.LineWork.Marks)
            made.Marks = ViewLevel.Of(plan, made.Views, made._elements.Values);
        return made;
    }

    // Sources that are on one level of the job are cut by one plane, the highest of theirs: a structural level is below the floor.
    private Dictionary<(int, int), PlanView> Plans(IReadOnlyList<FilePart> parts)
    {
        var levels = new Dictionary<(int, int), double>();
        foreach (var part in parts)
        foreach (int storey in part.Elements.Select(e => e.Storey).Distinct())
        {
            double level = PlacedShapes.Level(_plan, part.Source, storey);
            var key = Key(part.Source, storey);
            levels[key] = Math.Max(level, levels.GetValueOrDefault(key, double.NegativeInfinity));
        }

        return levels.ToDictionary(l => l.Key, l => PlanView.Plan(l.Value, _work));
    }

    private (int, int) Key(int source, int storey) =>
        _plan.Levels.RungOf(source, storey) is >= 0 and var rung ? (-1, rung) : (source, storey);

    private void Add(int source, ModelElement element, Shape? shape, PlanView view)
    {
        var model = _plan.Sources[source].Snapshot.Model;
        bool room = model.Is(element.Index, "IfcSpace");
        var lines = new ElementLines(view, shape is { Parts.Count: > 0 } ? shape.Parts[0].Colour : Colour.Default)
        {
            IsRoom = room,
        };
        _elements[(source, element.Number)] = lines;
        if (shape is not { Parts.Count: > 0 })
        {
            // What has no upright extent is seen in plans alone.
            if (!view.IsSection)
                AddDrawn(lines, PlacedShapes.Drawn(_plan, source, element), model.Is(element.Index, "IfcGrid"));
            return;
        }

        bool drawn = _work.Symbols && !view.IsSection && AddSymbol(source, element, lines);
        foreach (var part in shape.Parts)
        {
            _cancel.ThrowIfCancellationRequested();
            var mesh = part.Mesh.Map(view.ToView.Compose(shape.World).Compose(part.Frame));
            lines.Cut.AddRange(Section.Cut(mesh, 0));
            if (!drawn)
                AddEdges(lines, mesh);
            if (_work.Hidden != HiddenStyle.Shown && !room && part.Colour.A == 255)
                Hiding(view).Add(mesh, 0);
        }

        var faces = room || (!_work.Hatch && _work.Hidden == HiddenStyle.Shown) ? [] : LoopRegions.Of(lines.Cut);
        if (_work.Hatch)
        {
            var hatch = CutHatch.Of(_plan.Sources[source].Snapshot.MaterialNames(element).FirstOrDefault() ?? "");
            lines.Faces.AddRange(faces.Select(f => (f, hatch)));
        }

        if (_work.Hidden != HiddenStyle.Shown)
            foreach (var face in faces)
                AddLid(view, face);
        if (
            room
            && !view.IsSection
            && RoomText.Of(_plan.Sources[source].Snapshot, element, lines.Cut) is var (words, at)
        )
            lines.Texts.Add(new ViewText(words, at, Letters * _paper, 0, true));
    }

    private HiddenLines Hiding(PlanView view) =>
        _hiding.TryGetValue(view, out var known) ? known : _hiding[view] = new HiddenLines();

    // The cut face hides what is below it.
    private void AddLid(PlanView view, Region face)
    {
        try
        {
            Hiding(view)
                .Add(
                    new Mesh(
                        [.. face.Loops.SelectMany(l => l).Select(p => new Vec3(p.X, p.Y, 0))],
                        Triangulator.Triangulate(face)
                    )
                );
        }
        catch (ShapeException)
        {
            // A face that crosses itself hides nothing; its body still does.
        }
    }

    private void AddEdges(ElementLines lines, Mesh mesh)
    {
        var seen = new HashSet<((long, long), (long, long))>();
        var before = new HashSet<((long, long), (long, long))>();
        double lowest = -lines.View.Depth;
        // Of edges one above the other the highest is seen.
        foreach (var (a, b) in Section.EdgesFromAbove(mesh).OrderByDescending(e => Math.Max(e.A.Z, e.B.Z)))
        {
            if (_work.Before && Between(a, b, 0, double.PositiveInfinity) is var (p, q) && New(p, q, before))
                lines.Before.Add((p.XY, q.XY));
            if (Between(a, b, lowest, 0) is var (r, s) && New(r, s, seen))
                _edges.Add((lines, r, s));
        }
    }

    private void Divide()
    {
        foreach (var (lines, a, b) in _edges)
        {
            _cancel.ThrowIfCancellationRequested();
            if (!_hiding.TryGetValue(lines.View, out var hiding))
            {
                lines.Beyond.Add((a.XY, b.XY));
                continue;
            }

            foreach (var (from, to, hidden) in hiding.Divide(a, b))
            {
                if (hidden && _work.Hidden == HiddenStyle.Out)
                    continue;
                Vec3 p = a + ((b - a) * from),
                    q = a + ((b - a) * to);
                (hidden ? lines.Hidden : lines.Beyond).Add((p.XY, q.XY));
            }
        }

        _edges.Clear();
    }

    // The part of an edge between two heights of the view; null for none. An edge in the cut itself is behind it.
    private static (Vec3 A, Vec3 B)? Between(Vec3 a, Vec3 b, double low, double high)
    {
        if (a.Z > b.Z)
            (a, b) = (b, a);
        if (b.Z < low || a.Z > high || (low == 0 && b.Z <= 0))
            return null;
        double rise = b.Z - a.Z;
        Vec3 At(double z) => a + ((b - a) * ((z - a.Z) / rise));
        var from = a.Z < low ? At(low) : a;
        var to = b.Z > high ? At(high) : b;
        return (from, to);
    }

    // Edges one above another fall together; those that run away from the viewer vanish.
    private static bool New(Vec3 a, Vec3 b, HashSet<((long, long), (long, long))> seen)
    {
        Vec2 p = a.XY,
            q = b.XY;
        if ((q - p).Length < 1e-5)
            return false;
        var (k, l) = (Key(p), Key(q));
        return seen.Add(k.CompareTo(l) <= 0 ? (k, l) : (l, k));
    }

    private static (long, long) Key(Vec2 p) => ((long)Math.Round(p.X * 1e5), (long)Math.Round(p.Y * 1e5));

    // Doors with their swing, basins, tables: what their makers drew for plans. Outlines of walls, slabs and rooms are no symbols.
    private bool AddSymbol(int source, ModelElement element, ElementLines lines)
    {
        var snapshot = _plan.Sources[source].Snapshot;
        if (((string[])["IfcWall", "IfcSlab", "IfcSpace", "IfcRoof"]).Any(c => snapshot.Model.Is(element.Index, c)))
            return false;
        foreach (string purpose in Drawings)
        {
            if (PlacedShapes.Drawn(_plan, source, element, purpose) is not { IsEmpty: false } drawn)
                continue;
            AddDrawn(lines, drawn, false);
            return true;
        }

        return false;
    }

    private void AddDrawn(ElementLines lines, Drawn drawn, bool grid)
    {
        lines.Symbols.AddRange(drawn.Lines.Select(l => (IReadOnlyList<Vec2>)[.. l.Select(p => p.XY)]));
        bool bubbles = grid && _work.Marks;
        foreach (var text in drawn.Texts)
        {
            var at = text.Place.Origin.XY;
            if (!bubbles)
                lines.Texts.Add(
                    new ViewText(
                        text.Content,
                        at,
                        text.Height * _plan.Order.Scale / 100,
                        Math.Atan2(text.Place.X.Y, text.Place.X.X)
                    )
                );
            else
            {
                var middle = at + (Outwards(lines.Symbols, at) * (Bubble * _paper));
                lines.Bubbles.Add((middle, Bubble * _paper));
                lines.Texts.Add(new ViewText(text.Content, middle, Letters * _paper, 0, true));
            }
        }
    }

    // The direction in which an axis would go on beyond its end.
    private static Vec2 Outwards(List<IReadOnlyList<Vec2>> axes, Vec2 end)
    {
        foreach (var axis in axes.Where(a => a.Count > 1))
        {
            if ((axis[0] - end).Length < 1e-6)
                return (axis[0] - axis[1]).Unit();
            if ((axis[^1] - end).Length < 1e-6)
                return (axis[^1] - axis[^2]).Unit();
        }

        return new Vec2(0, 1);
    }
}
