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
    public static SheetPlacing Typed(double metres, Vec2 shift, double degrees) =>
        new(
            new SettingOutDocument
            {
                Shift = [shift.X, shift.Y, 0],
                TurnDegrees = degrees,
                Scale = metres,
            },
            null,
            []
        );

    /// <summary>By pairs of points; the scale stays what it is.</summary>
    /// <param name="metres">Metres in a unit.</param>
    /// <param name="points">On the drawing's side in its units, on the job's in metres.</param>
    public static SheetPlacing ByPoints(double metres, IReadOnlyList<ControlPoint> points)
    {
        var fit = SettingOutFit.Fit([.. points.Select(p => p with { Source = p.Source * metres, HasHeight = false })]);
        // A drawing's height is its level's.
        string?[] notes =
        [
            points.Count < 2 ? "Two points give translation and rotation: add one far from the other." : null,
            fit.Doubt,
        ];
        return new SheetPlacing(
            SettingOutDocument.Of(fit, points, EvidenceKind.Points) with
            {
                Scale = metres,
            },
            fit,
            [.. notes.OfType<string>()]
        );
    }

    /// <summary>Upright along a line, as a section or an elevation; its level marks say how high.</summary>
    /// <param name="metres">Metres in a unit.</param>
    /// <param name="from">Where the drawing's zero lies in plan, metres in the job.</param>
    /// <param name="to">A point of the line in the direction of the drawing's X.</param>
    /// <param name="marks">Its level marks.</param>
    /// <param name="schedule">The job's levels, against which the marks are checked.</param>
    public static SheetPlacing Upright(
        double metres,
        Vec2 from,
        Vec2 to,
        IReadOnlyList<LevelMark> marks,
        LevelSchedule schedule
    )
    {
        double? zero = LevelMarks.Zero(marks, metres);
        var document = new SettingOutDocument
        {
            Shift = [from.X, from.Y, zero ?? 0],
            TurnDegrees = SettingOutDocument.Degrees(Math.Atan2(to.Y - from.Y, to.X - from.X)),
            Scale = metres,
            Upright = true,
            Evidence = zero is null ? EvidenceKind.Typed : EvidenceKind.Levels,
        };
        return new SheetPlacing(
            document,
            null,
            zero is null ? ["It has no level marks; its zero is at ±0.000."] : [.. Doubts()]
        );

        IEnumerable<string> Doubts()
        {
            foreach (var mark in marks)
            {
                double off = mark.Value - zero!.Value - (mark.At.Y * metres);
                if (Math.Abs(off) > Slack)
                    yield return $"The mark {mark.Text} is {LengthText.Write(Math.Abs(off), LengthNotation.Metres)} too {(off > 0 ? "low" : "high")} for the others.";
                else if (
                    schedule.Rungs.Count > 0
                    && schedule.Rungs.MinBy(r => Math.Abs(r.Elevation - mark.Value)) is { } rung
                    && Math.Abs(rung.Elevation - mark.Value) is > Slack and < Storey
                )
                    yield return $"The mark {mark.Text} differs from the level schedule: {rung.Name} is at {LengthText.WriteHeight(rung.Elevation, LengthNotation.Metres)}.";
            }
        }
    }

    // What marks may differ by, and how far from a level a mark still means it, metres.
    private const double Slack = 0.02,
        Storey = 1;

    /// <summary>By tags of grids that the drawing shares with a model.</summary>
    /// <param name="metres">Metres in a unit.</param>
    /// <param name="own">The drawing's axes, metres.</param>
    /// <param name="job">The model's, metres in the job.</param>
    public static SheetPlacing ByGrids(double metres, IReadOnlyList<PlanAxis> own, IReadOnlyList<PlanAxis> job)
    {
        var match = GridMatch.Of(own, job);
        if (match.Fit is not { } fit)
            return Typed(metres, default, 0) with
            {
                Notes = [.. match.Notes, "No two shared tags cross; place it another way."],
            };
        return new SheetPlacing(
            SettingOutDocument.Of(fit, match.Points, EvidenceKind.Grids) with
            {
                Scale = metres,
            },
            fit,
            match.Notes
        );
    }
}
