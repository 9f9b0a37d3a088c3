using System.Globalization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A setting-out that is not accepted yet.</summary>
/// <param name="Document">The setting-out; null where nothing can be proposed.</param>
/// <param name="Points">The control points, in the order of their residuals.</param>
/// <param name="Fit">Residuals; null where nothing was fitted.</param>
/// <param name="Evidence">What is known of turn, shift, height and scale, and from what: name, value, evidence.</param>
/// <param name="Notes">What to look at, in sentences.</param>
/// <param name="Problem">Why nothing can be proposed, and what to do; null otherwise.</param>
public sealed record Proposal(
    SettingOutDocument? Document,
    IReadOnlyList<ControlPoint> Points,
    FitResult? Fit,
    IReadOnlyList<(string Name, string Value, string Evidence)> Evidence,
    IReadOnlyList<string> Notes,
    string? Problem
)
{
    /// <summary>Makes a proposal.</summary>
    /// <param name="wish">What somebody wants.</param>
    /// <param name="source">The source.</param>
    /// <param name="reference">What it is set out on; null for the job's levels alone.</param>
    /// <param name="levels">The job's levels, without those that only the source has.</param>
    /// <param name="bare">What bare numbers mean.</param>
    public static Proposal Of(
        ProposalWish wish,
        ProposalSource source,
        ProposalSource? reference,
        IReadOnlyList<(string Name, double Z)> levels,
        LengthNotation bare
    )
    {
        try
        {
            return wish.Way switch
            {
                "grids" => Grids(wish, source, reference, levels, bare),
                "points" => Fitted(
                    wish,
                    source,
                    EvidenceKind.Points,
                    Switched(PointTable.Read(wish.Points ?? ""), wish.Off),
                    [],
                    levels,
                    bare
                ),
                "levels" => Heights(wish, source, levels),
                "declared" => Declared(wish, source, reference),
                "same" => Same(wish, reference),
                _ => Typed(wish, source, levels, bare),
            };
        }
        catch (Exception e) when (e is OrderException or FormatException)
        {
            return No(e.Message);
        }
    }

    private static Proposal No(string problem) => new(null, [], null, [], [], problem);

    private static IReadOnlyList<ControlPoint> Switched(
        IReadOnlyList<ControlPoint> points,
        IReadOnlyList<string> off
    ) => off.Count == 0 ? points : [.. points.Select(p => p with { Used = !off.Contains(p.Name) })];

    private static Proposal Grids(
        ProposalWish wish,
        ProposalSource source,
        ProposalSource? reference,
        IReadOnlyList<(string, double)> levels,
        LengthNotation bare
    )
    {
        if (reference is null)
            return No("Choose the source that it is set out on.");
        var frame = reference.SetOut?.Frame ?? Frame.Identity;
        var match = GridMatch.Of(source.Facts.Axes, [.. reference.Facts.Axes.Select(a => a.In(frame))], wish.FreeScale);
        if (match.Fit is null)
            return No(string.Join(" ", match.Notes) + " Use control points instead.");
        var points = wish.Off.Count == 0 ? match.Points : Switched(match.Points, wish.Off);
        return Fitted(wish, source, EvidenceKind.Grids, points, match.Notes, levels, bare);
    }

    private static Proposal Fitted(
        ProposalWish wish,
        ProposalSource source,
        EvidenceKind kind,
        IReadOnlyList<ControlPoint> points,
        IReadOnlyList<string> notes,
        IReadOnlyList<(string Name, double Z)> levels,
        LengthNotation bare
    )
    {
        if (points.Count == 0)
            return No(
                "No control point yet: pick a point in the source and its partner in the reference, or paste a table."
            );
        var fit = SettingOutFit.Fit(points, wish.FreeScale);
        bool heights = points.Any(p => p is { Used: true, HasHeight: true });
        var (z, why) =
            heights && string.IsNullOrWhiteSpace(wish.Z)
                ? (fit.Shift.Z, "fitted")
                : Height(wish, source, levels, bare, fit.Scale);
        fit = fit with { Shift = fit.Shift with { Z = z } };
        int used = points.Count(p => p.Used);
        string by = $"fitted, {used} points, RMS {Millimetres(fit.Rms)}";
        string? far =
            source.Facts.Extent is { } e && fit.PlusMinusAt(Farthest(e, fit.Centre)) is { } pm
                ? $"; ± {Millimetres(pm)} at the far corner"
                : null;
        string? missing = fit
            .Undetermined?.Replace("No point has a height: add one, or match levels.", "", StringComparison.Ordinal)
            .Trim();
        var document = missing is { Length: > 0 } ? null : SettingOutDocument.Of(fit, points, kind, wish.Why ?? "");
        return new Proposal(
            document,
            points,
            fit,
            [
                ("Rotation", Degrees(fit.TurnDegrees), by),
                ("Translation", Plan(fit.Shift), by + far),
                ("Height", Metres(z), why),
                (
                    "Scale",
                    wish.FreeScale ? fit.Scale.ToString("0.########", CultureInfo.InvariantCulture) : "1 (held)",
                    fit.FreeScale is { } free
                        ? string.Create(
                            CultureInfo.InvariantCulture,
                            $"free fit gives {free:0.######}, {(free - 1) * 1e6:+0;−0;0} ppm"
                        )
                        : "the points do not say"
                ),
            ],
            [.. notes, .. new[] { fit.Doubt }.OfType<string>()],
            missing is { Length: > 0 } ? missing : null
        );
    }

    private static Proposal Typed(
        ProposalWish wish,
        ProposalSource source,
        IReadOnlyList<(string, double)> levels,
        LengthNotation bare
    )
    {
        double x = Length(wish.X, bare),
            y = Length(wish.Y, bare);
        double turn = string.IsNullOrWhiteSpace(wish.Turn) ? 0 : Angle(wish.Turn);
        double scale = string.IsNullOrWhiteSpace(wish.Scale) ? 1 : Factor(wish.Scale);
        var (z, why) = Height(wish, source, levels, bare, scale);
        var document = new SettingOutDocument
        {
            Shift = [x, y, z],
            TurnDegrees = turn,
            Scale = scale,
            Evidence = EvidenceKind.Typed,
            Why = wish.Why ?? "",
        };
        return new Proposal(
            document,
            [],
            null,
            [
                ("Rotation", Degrees(turn), "typed"),
                ("Translation", Plan(new Vec3(x, y, 0)), "typed"),
                ("Height", Metres(z), why),
                ("Scale", scale.ToString("0.########", CultureInfo.InvariantCulture), scale == 1 ? "held" : "typed"),
            ],
            [],
            null
        );
    }

    private static double Factor(string text) =>
        double.TryParse(
            text.Trim().Replace(',', '.'),
            NumberStyles.Float,
            CultureInfo.InvariantCulture,
            out double factor
        ) && factor is > 1e-6 and < 1e6
            ? factor
            : throw new FormatException($"'{text}' is no scale; write a positive number, for example 0.3048.");

    private static Proposal Heights(
        ProposalWish wish,
        ProposalSource source,
        IReadOnlyList<(string Name, double Z)> levels
    )
    {
        var fit = LevelFit.Of(Storeys(source), levels);
        if (fit.Height is not { } height)
            return No(fit.Sentence);
        var before = source.SetOut ?? SettingOutDocument.Identity;
        var document = before with
        {
            Shift = [before.Shift[0], before.Shift[1], height],
            Evidence = EvidenceKind.Levels,
            Why = wish.Why ?? "",
            Points = [.. fit.Points.Select(KeptPoint.Of)],
        };
        var residuals = SettingOutFit.Fit(fit.Points);
        return new Proposal(
            document,
            fit.Points,
            residuals,
            [
                ("Rotation", Degrees(before.TurnDegrees), "as before"),
                ("Translation", Plan(new Vec3(before.Shift[0], before.Shift[1], 0)), "as before"),
                ("Height", Metres(height), fit.Sentence),
                ("Scale", "1", "held"),
            ],
            [],
            null
        );
    }

    // Both say where they lie on the map: the source goes to the map, and from there back into the reference, and with it into the job.
    private static Proposal Declared(ProposalWish wish, ProposalSource source, ProposalSource? reference)
    {
        if (reference is null)
            return No("Choose the source that it is set out on.");
        if (Map(source.Facts) is not { } from)
            return No($"{source.Label} has no map conversion.");
        if (Map(reference.Facts) is not { } to)
            return No($"{reference.Label} has no map conversion, so no source states where the job is on the map.");
        string note =
            source.Facts.Place.System == reference.Facts.Place.System
                ? ""
                : $"{source.Label} says {source.Facts.Place.System}, {reference.Label} {reference.Facts.Place.System}: these may be two systems.";
        var frame = (reference.SetOut?.Frame ?? Frame.Identity).Compose(to.Inverse()).Compose(from);
        var document = SettingOutDocument.Of(frame, EvidenceKind.Declared, wish.Why ?? "");
        const string By = "map conversions of both";
        return new Proposal(
            document,
            [],
            null,
            [
                ("Rotation", Degrees(document.TurnDegrees), By),
                ("Translation", Plan(frame.Origin), By),
                ("Height", Metres(frame.Origin.Z), By),
                ("Scale", document.Scale.ToString("0.########", CultureInfo.InvariantCulture), By),
            ],
            note.Length > 0 ? [note] : [],
            null
        );
    }

    private static Proposal Same(ProposalWish wish, ProposalSource? other)
    {
        if (other?.SetOut is not { } known)
            return No("Choose a source that is set out already.");
        return new Proposal(
            known with
            {
                Evidence = EvidenceKind.Source,
                Why = wish.Why ?? "",
                Points = [],
            },
            [],
            null,
            [
                ("Rotation", Degrees(known.TurnDegrees), $"as {other.Label}"),
                ("Translation", Plan(known.Frame.Origin), $"as {other.Label}"),
                ("Height", Metres(known.Shift[2]), $"as {other.Label}"),
                ("Scale", known.Scale.ToString("0.########", CultureInfo.InvariantCulture), $"as {other.Label}"),
            ],
            [],
            null
        );
    }

    private static (double Z, string Why) Height(
        ProposalWish wish,
        ProposalSource source,
        IReadOnlyList<(string Name, double Z)> levels,
        LengthNotation bare,
        double scale
    )
    {
        if (!string.IsNullOrWhiteSpace(wish.Z))
            return (LengthText.Read(wish.Z, bare), "typed");
        var fit = LevelFit.Of([.. Storeys(source).Select(s => (s.Name, s.Z * scale))], levels);
        return fit.Height is { } height ? (height, fit.Sentence) : (0, fit.Sentence);
    }

    private static List<(string Name, double Z)> Storeys(ProposalSource source) =>
        [
            .. source
                .Facts.Storeys.Where(s => s.Placed is not null || s.Said is not null)
                .Select(s => (s.Name, s.Placed ?? s.Said!.Value)),
        ];

    private static Frame? Map(FrameFacts facts)
    {
        var place = facts.Place;
        if (place.Kind != "IfcMapConversion")
            return null;
        var (x, y) = SettingOutDocument.Axes(place.RotationDegrees, place.Scale);
        return new Frame(new Vec3(place.Eastings, place.Northings, place.Height), x, y, Vec3.AxisZ * place.Scale);
    }

    private static Vec2 Farthest(double[] extent, Vec2 from) =>
        new[]
        {
            new Vec2(extent[0], extent[1]),
            new(extent[3], extent[1]),
            new(extent[0], extent[4]),
            new(extent[3], extent[4]),
        }.MaxBy(c => (c - from).Length);

    private static double Length(string? text, LengthNotation bare) =>
        string.IsNullOrWhiteSpace(text) ? 0 : LengthText.Read(text, bare);

    private static double Angle(string text) =>
        double.TryParse(
            text.Trim().TrimEnd('°').Replace('−', '-'),
            NumberStyles.Float,
            CultureInfo.InvariantCulture,
            out double v
        )
        && Math.Abs(v) <= 360
            ? v
            : throw new FormatException($"'{text}' is no rotation; write degrees, counter-clockwise: −1.4.");

    private static string Degrees(double degrees) =>
        degrees.ToString("0.0000;−0.0000;0", CultureInfo.InvariantCulture) + "°";

    private static string Plan(Vec3 v) =>
        string.Create(CultureInfo.InvariantCulture, $"{v.X:0.000;−0.000}, {v.Y:0.000;−0.000} m");

    private static string Metres(double v) => v.ToString("+0.000;−0.000;0.000", CultureInfo.InvariantCulture) + " m";

    private static string Millimetres(double v) =>
        (v * 1000).ToString(v < 0.01 ? "0.0" : "0", CultureInfo.InvariantCulture) + " mm";
}
