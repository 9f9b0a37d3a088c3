using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Makes the report of a drawing.</summary>
public static class DrawingIntake
{
    // A building, its site or a detail of it; beyond, the unit is not what the drawing says. Common practice.
    private const double SmallestPlausible = 0.2,
        LargestPlausible = 20_000,
        FarTimes = 20;

    /// <summary>The report of a drawing.</summary>
    public static DrawingReport Read(Drawing drawing, CadForm form)
    {
        var spaces = drawing.Blocks.Where(b => b.IsSpace).ToList();
        var onLayers = spaces.SelectMany(b => b.Entities).CountBy(e => e.Layer).ToDictionary();
        var inserts = drawing.Blocks.SelectMany(b => b.Entities).OfType<Insert>().CountBy(i => i.Block).ToDictionary();
        var (unit, metres) = DrawingUnits.Of(drawing.Units);
        var extents = drawing.Extents();
        var blocks = drawing.Blocks.Where(b => !b.IsSpace).ToList();
        return new DrawingReport(
            form.Dwg ? "dwg"
                : form.Binary ? "dxf-binary"
                : "dxf",
            form.Version.ToString(),
            unit,
            metres,
            extents,
            [
                .. drawing
                    .Layers.OrderBy(l => l.Name, StringComparer.OrdinalIgnoreCase)
                    .Select(l => new DrawingLayer(
                        l.Name,
                        l.Colour.Seen ?? 0xFFFFFF,
                        l.On,
                        l.Frozen,
                        l.Locked,
                        onLayers.GetValueOrDefault(l.Handle)
                    )),
            ],
            [
                .. drawing
                    .Blocks.SelectMany(b => b.Entities)
                    .CountBy(e => e.Type)
                    .OrderByDescending(t => t.Value)
                    .ThenBy(t => t.Key, StringComparer.Ordinal)
                    .Select(t => new NamedCount(t.Key, t.Value)),
            ],
            [.. blocks.Select(b => new DrawingBlock(b.Name, b.Entities.Count, inserts.GetValueOrDefault(b.Handle)))],
            [.. drawing.Layouts.Where(l => l.Tab > 0).Select(l => Layout(drawing, l))],
            References(drawing),
            spaces
                .SelectMany(b => b.Entities)
                .Count(e => e is TextEntity or MText or MultiLeader { Context.Text: not null }),
            Findings(drawing, extents, metres, unit),
            DrawingPlace.Of(drawing)
        );
    }

    private static List<DrawingReference> References(Drawing drawing) =>
        [
            .. drawing.Blocks.Where(b => b.IsXref).Select(b => new DrawingReference(b.Name, b.Path, b.IsLoaded)),
            .. drawing
                .Objects.OfType<ImageDefinition>()
                .Where(i => i.Path.Length > 0)
                .Select(i => new DrawingReference(Path.GetFileName(i.Path), i.Path, i.Loaded)),
            // Of pages only the path is given, not whether it was found.
            .. drawing
                .Objects.OfType<UnderlayDefinition>()
                .Where(u => u.Path.Length > 0)
                .Select(u => new DrawingReference(u.Page, u.Path, true)),
        ];

    private static DrawingLayout Layout(Drawing drawing, Layout layout)
    {
        var drawn = drawing.Blocks[layout.Block]?.Entities.Where(e => e is not Viewport { Id: 1 }).ToList() ?? [];
        return new DrawingLayout(
            layout.Name,
            layout.Paper.Width,
            layout.Paper.Height,
            [.. drawn.OfType<Viewport>().Select(v => v.Scale)],
            drawn.Count
        );
    }

    private static List<Finding> Findings(Drawing drawing, Box extents, double? metres, string unit)
    {
        var findings = new List<Finding>();
        void Add(string code, Severity severity, string message, int count) =>
            findings.Add(new(code, severity, message, count, []));
        double size = extents.IsEmpty ? 0 : Math.Max(extents.Size.X, extents.Size.Y);
        if (metres is null)
            Add(
                "CAD-UNIT-NONE",
                Severity.Warning,
                $"The drawing does not say its unit; {Candidates(size)}. Ask the sender, or compare with a known dimension.",
                1
            );
        else if (size > 0 && size * metres is < SmallestPlausible or > LargestPlausible)
            Add(
                "CAD-UNIT-ODD",
                Severity.Warning,
                string.Create(
                    System.Globalization.CultureInfo.InvariantCulture,
                    $"In {unit} the drawing would be {size * metres.Value:G4} m across, which is hardly a building; {Candidates(size)}."
                ),
                1
            );
        if (extents.IsEmpty)
            Add(
                "CAD-EMPTY",
                Severity.Error,
                "Model space holds nothing that has a place. Ask whether the right file was sent.",
                1
            );
        int far = Far(drawing);
        if (far > 0)
            Add(
                "CAD-FAR",
                Severity.Warning,
                $"{far} entities are far away from all others; views that fit everything will show a dot.",
                far
            );
        var missing = drawing
            .Blocks.Where(b => b.IsXref && !b.IsLoaded)
            .Select(b => b.Path.Length > 0 ? b.Path : b.Name)
            .ToList();
        if (missing.Count > 0)
            Add(
                "CAD-XREF-MISSING",
                Severity.Warning,
                $"Other drawings it draws on were not sent: {string.Join(", ", missing.Take(5))}. Ask for them, or for one drawing with all bound.",
                missing.Count
            );
        var opaque = drawing
            .Blocks.SelectMany(b => b.Entities)
            .Where(e => e is OpaqueEntity || (e is ModelerEntity body && body.Faces() is null))
            .CountBy(e => e.Type)
            .OrderByDescending(t => t.Value)
            .ToList();
        if (opaque.Count > 0)
            Add(
                "CAD-OPAQUE",
                Severity.Note,
                $"Stored but not interpreted: {string.Join(", ", opaque.Take(6).Select(o => $"{o.Value} {o.Key}"))}.",
                opaque.Sum(o => o.Value)
            );
        foreach (var group in drawing.Findings.GroupBy(f => f.Code))
            Add(
                group.Key,
                group.Key is "CAD-TORN" or "CAD-OBJECT" or "CAD-PAGE" or "CAD-MAP" or "CAD-OWNER"
                    ? Severity.Error
                    : Severity.Warning,
                group.First().Message,
                group.Count()
            );
        return findings;
    }

    private static string Candidates(double size)
    {
        var fitting = new[] { 4, 5, 6, 1, 2 }
            .Select(DrawingUnits.Of)
            .Where(u => size * u.Metres is >= 5 and <= 1000)
            .Select(u => u.Name)
            .ToList();
        return fitting.Count > 0
            ? $"as {string.Join(" or ", fitting)} it would be the size of a building"
            : "no usual unit makes it the size of a building";
    }

    // Far from the middle half of all entities, by many times its size.
    private static int Far(Drawing drawing)
    {
        var centres = drawing.ExtentsOf(drawing.Model.Entities).Where(b => !b.IsEmpty).Select(b => b.Centre).ToList();
        if (centres.Count < 8)
            return 0;
        var (x, y) = (Middle(centres.ConvertAll(c => c.X)), Middle(centres.ConvertAll(c => c.Y)));
        double reach = FarTimes * Math.Max(Math.Max(x.High - x.Low, y.High - y.Low), 1e-9);
        return centres.Count(c =>
            Math.Abs(c.X - ((x.Low + x.High) / 2)) > reach || Math.Abs(c.Y - ((y.Low + y.High) / 2)) > reach
        );
    }

    private static (double Low, double High) Middle(List<double> values)
    {
        values.Sort();
        return (values[values.Count / 4], values[3 * values.Count / 4]);
    }
}
