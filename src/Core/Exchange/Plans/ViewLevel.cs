using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>The mark of a level: a line in a section, a text beside a plan.</summary>
/// <param name="Storey">The storey.</param>
/// <param name="Text">Its name and height.</param>
/// <param name="From">Where the line begins, metres in the view; the text is above it.</param>
/// <param name="To">Where it ends.</param>
/// <param name="View">The view.</param>
internal sealed record ViewLevel(string Storey, ViewText Text, Vec2 From, Vec2 To, PlanView View)
{
    /// <summary>What means the class of an element in the extended data of marks.</summary>
    public const string Kind = "level mark";

    // Millimetres on paper.
    private const double Beside = 10,
        Letters = 2.5,
        Plan = 30;

    /// <summary>The marks of the storeys that a file's views show.</summary>
    /// <param name="plan">The order.</param>
    /// <param name="views">The views.</param>
    /// <param name="shown">What they show.</param>
    public static IReadOnlyList<ViewLevel> Of(
        HandoverPlan plan,
        IReadOnlyList<PlanView> views,
        IEnumerable<ElementLines> shown
    )
    {
        double paper = plan.Order.Scale / 1000.0;
        var boxes = shown.Where(l => !l.IsEmpty).GroupBy(l => l.View).ToDictionary(g => g.Key, BoxOf);
        var marks = new List<ViewLevel>();
        foreach (var view in views)
        {
            if (!boxes.TryGetValue(view, out var box) || box.IsEmpty)
                continue;
            foreach (var (storey, height) in Levels(plan))
            {
                if (
                    view.IsSection
                        ? height < box.Min.Y - 1 || height > box.Max.Y + 1
                        : Math.Abs(height - view.Height) > 1e-6
                )
                    continue;
                double y = view.IsSection ? height : box.Min.Y - (Beside * paper);
                var from = new Vec2(box.Min.X - (view.IsSection ? Beside * paper : 0), y);
                var to = new Vec2(view.IsSection ? box.Max.X + (Beside * paper) : from.X + (Plan * paper), y);
                string text =
                    $"{storey} {LengthText.WriteHeight(height, plan.Order.Unit?.IsImperial == true
                    ? LengthNotation.FeetAndInches : LengthNotation.Metres)}";
                marks.Add(
                    new ViewLevel(
                        storey,
                        new ViewText(text, from + new Vec2(0, Letters / 2 * paper), Letters * paper),
                        from,
                        to,
                        view
                    )
                );
            }
        }

        return marks;
    }

    // Each level of the job once, at the height of its highest storey in the order's frame.
    private static IEnumerable<(string Storey, double Height)> Levels(HandoverPlan plan)
    {
        foreach (var rung in plan.Levels.Rungs)
        {
            var heights = rung
                .Storeys.Where(s => s.Source < plan.Sources.Count)
                .Select(s => PlacedShapes.Level(plan, s.Source, s.Number))
                .ToList();
            if (heights.Count > 0)
                yield return (rung.Name, heights.Max());
        }
    }

    private static Box BoxOf(IEnumerable<ElementLines> shown) =>
        shown.Aggregate(Box.Empty, (box, lines) => box.Add(lines.Bounds()));
}
