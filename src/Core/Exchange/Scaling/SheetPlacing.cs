using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Places a drawing in plan.</summary>
/// <param name="Document">Where it would lie: the scale is metres in a unit.</param>
/// <param name="Fit">What was fitted; null where nothing was.</param>
/// <param name="Notes">What is to be known, in sentences.</param>
public sealed record SheetPlacing(SettingOutDocument Document, FitResult? Fit, IReadOnlyList<string> Notes)
{
    /// <summary>Origin to origin, turned and shifted as typed.</summary>
    /// <param name="metres">Metres in a unit.</param>
    /// <param name="shift">Of its origin, metres in the job.</param>
    /// <param name="degrees">Counter-clockwise.</param>
    public static SheetPlacing Typed(double metres, Vec2 shift, double degrees) => new(new SettingOutDocument
    {
        Shift = [shift.X, shift.Y, 0],
        TurnDegrees = degrees,
        Scale = metres,
    }, null, []);

    /// <summary>By pairs of points; the scale stays what it is.</summary>
    /// <param name="metres">Metres in a unit.</param>
    /// <param name="points">On the drawing's side in its units, on the job's in metres.</param>
    public static SheetPlacing ByPoints(double metres, IReadOnlyList<ControlPoint> points)
    {
        var fit = SettingOutFit.Fit([.. points.Select(p => p with { Source = p.Source * metres, HasHeight = false })]);
        // A drawing's height is its level's.
        string?[] notes = [points.Count < 2 ? "Two points give shift and turn: add one far from the other." : null, fit.Doubt];
        return new SheetPlacing(SettingOutDocument.Of(fit, points, EvidenceKind.Points) with { Scale = metres }, fit,
            [.. notes.OfType<string>()]);
    }

    /// <summary>By tags of grids that the drawing shares with a model.</summary>
    /// <param name="metres">Metres in a unit.</param>
    /// <param name="own">The drawing's axes, metres.</param>
    /// <param name="job">The model's, metres in the job.</param>
    public static SheetPlacing ByGrids(double metres, IReadOnlyList<PlanAxis> own, IReadOnlyList<PlanAxis> job)
    {
        var match = GridMatch.Of(own, job);
        if (match.Fit is not { } fit) return Typed(metres, default, 0) with
        {
            Notes = [.. match.Notes,
            "No two shared tags cross; place it another way."]
        };
        return new SheetPlacing(SettingOutDocument.Of(fit, match.Points, EvidenceKind.Grids) with { Scale = metres }, fit, match.Notes);
    }
}
