using CsCheck;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Settings-out are fitted exactly, say how sure they are, and what is missing.</summary>
public class SettingOutTests
{
    private static ControlPoint P(
        string name,
        double sx,
        double sy,
        double jx,
        double jy,
        double sz = 0,
        double jz = 0
    ) => new(name, new Vec3(sx, sy, sz), new Vec3(jx, jy, jz));

    // Worked by hand from memory of the textbook case: a plane Helmert transformation with a = s·cos, o = s·sin; here s = 1.5, turn = 30°,
    // shift (100, 200), so that a = 1.29903810567666, o = 0.75.
    [Fact]
    public void A_Helmert_transformation_is_found_from_three_points()
    {
        const double a = 1.29903810567666,
            o = 0.75;
        ControlPoint At(string name, double x, double y) =>
            P(name, x, y, 100 + (a * x) - (o * y), 200 + (o * x) + (a * y), 2, 2 * 1.5 + 7);
        var fit = SettingOutFit.Fit([At("1", 0, 0), At("2", 40, 0), At("3", 10, 30)], freeScale: true);
        Assert.Equal((30, 1.5), (Math.Round(fit.TurnDegrees, 9), Math.Round(fit.Scale, 12)));
        Assert.Equal(
            (100, 200, 7),
            (Math.Round(fit.Shift.X, 9), Math.Round(fit.Shift.Y, 9), Math.Round(fit.Shift.Z, 9))
        );
        Assert.True(fit.Largest < 1e-12);
        Assert.Null(fit.Undetermined);
    }

    // The other side is the closed form for rotation by the sum of cross and dot products, checked by numbers that are exact.
    [Fact]
    public void Held_at_one_the_scale_shows_what_it_would_be()
    {
        var fit = SettingOutFit.Fit([P("a", 0, 0, 0, 0), P("b", 100, 0, 100.004, 0), P("c", 0, 100, 0, 100.004)]);
        Assert.Equal(1, fit.Scale);
        Assert.Equal(1.00004, fit.FreeScale!.Value, 12);
        Assert.Equal(0, fit.TurnDegrees, 12);
    }

    [Fact]
    public void What_points_leave_open_is_said()
    {
        Assert.Contains("add two points", SettingOutFit.Fit([]).Undetermined, StringComparison.Ordinal);
        Assert.Contains(
            "no rotation: add a second",
            SettingOutFit.Fit([P("a", 1, 2, 3, 4)]).Undetermined,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "at the same place",
            SettingOutFit.Fit([P("a", 1, 2, 3, 4), P("b", 1, 2, 3, 4)]).Undetermined,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "height",
            SettingOutFit
                .Fit([P("a", 0, 0, 1, 1) with { HasHeight = false }, P("b", 9, 0, 10, 1) with { HasHeight = false }])
                .Undetermined,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "in one line",
            SettingOutFit.Fit([P("a", 0, 0, 1, 1), P("b", 5, 0, 6, 1), P("c", 9, 0, 10, 1)]).Doubt,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "mirrored",
            SettingOutFit.Fit([P("a", 0, 0, 0, 0), P("b", 10, 0, 10, 0), P("c", 0, 7, 0, -7)]).Doubt,
            StringComparison.Ordinal
        );
        Assert.Null(SettingOutFit.Fit([P("a", 0, 0, 0, 0), P("b", 10, 0, 10, 0), P("c", 0, 7, 0, 7)]).Doubt);
    }

    [Fact]
    public void A_fit_never_mirrors()
    {
        var frame = SettingOutFit.Fit([P("a", 0, 0, 0, 0), P("b", 10, 0, 10, 0), P("c", 0, 7, 0, -7)]).Frame;
        Assert.Equal(1, frame.Determinant, 12);
    }

    [Fact]
    public void An_outlier_is_named_and_the_others_are_not()
    {
        var points = new[]
        {
            P("A / 1", 0, 0, 0, 0),
            P("G / 1", 48, 0, 48.001, 0),
            P("G / 4", 48, 24, 48, 24.001),
            P("C / 3", 16, 16, 16.014, 16),
        };
        var fit = SettingOutFit.Fit(points);
        Assert.Equal(["C / 3"], fit.Points.Where(p => p.Outlier).Select(p => p.Name));
        var without = SettingOutFit.Fit([.. points.Select(p => p with { Used = p.Name != "C / 3" })]);
        Assert.True(without.Rms < 0.001);
        Assert.Equal(0.014, without.Points[3].Length, 3);
    }

    // Two fifths of the points wrong by metres, each in another direction: leaving one out finds none of them, the agreement of pairs all.
    [Fact]
    public void Many_wrong_points_are_found()
    {
        var random = new Random(7);
        var turned = new SettingOutDocument { Shift = [500, -20, 3], TurnDegrees = 12 }.Frame;
        var points = Enumerable
            .Range(0, 20)
            .Select(i =>
            {
                var s = new Vec3(random.NextDouble() * 60, random.NextDouble() * 40, 0);
                var j = turned.Point(s);
                return i % 5 < 2
                    ? new ControlPoint($"w{i}", s, j + new Vec3(random.NextDouble() * 5, random.NextDouble() * 5, 0))
                    : new ControlPoint($"g{i}", s, j);
            })
            .ToList();
        var fit = SettingOutFit.Fit(points);
        Assert.Equal(
            points.Where(p => p.Name[0] == 'w').Select(p => p.Name),
            fit.Points.Where(p => p.Outlier).Select(p => p.Name)
        );
    }

    // The stated error is a standard deviation: of normally distributed errors 99.7 % lie within three times it.
    [Fact]
    public void A_transform_is_found_again_within_three_times_its_stated_error()
    {
        const int Tries = 400,
            Count = 12;
        var random = new Random(20261128);
        int within = 0;
        for (int i = 0; i < Tries; i++)
        {
            var truth = new SettingOutDocument
            {
                Shift = [random.NextDouble() * 6e6, random.NextDouble() * 6e6, 5],
                TurnDegrees = (random.NextDouble() * 360) - 180,
            };
            var points = Enumerable
                .Range(0, Count)
                .Select(n =>
                {
                    var s = new Vec3(random.NextDouble() * 80, random.NextDouble() * 50, 0);
                    return new ControlPoint(
                        $"{n}",
                        s,
                        truth.Frame.Point(s) + new Vec3(Normal(random) * 0.005, Normal(random) * 0.005, 0)
                    );
                })
                .ToList();
            var fit = SettingOutFit.Fit(points);
            var corner = new Vec3(120, -30, 0);
            double off = (fit.Frame.Point(corner) - truth.Frame.Point(corner)) is var d ? new Vec2(d.X, d.Y).Length : 0;
            if (off <= 3 * fit.PlusMinusAt(new Vec2(corner.X, corner.Y))!.Value)
                within++;
        }

        Assert.InRange(within, Tries * 99 / 100, Tries);
    }

    // IEEE 754: doubles lie 9.3e-10 m apart at 5 500 km, so this is as good as it can be there.
    [Fact]
    public void A_transform_and_its_inverse_are_the_identity_far_away() =>
        Gen.Select(Gen.Double[-180, 180], Gen.Double[-100, 100], Gen.Double[-100, 100])
            .Sample(
                (turn, x, y) =>
                {
                    var frame = new SettingOutDocument { Shift = [5_500_000, 400_000, 12], TurnDegrees = turn }.Frame;
                    var back = frame.Inverse().Point(frame.Point(new Vec3(x, y, 3))) - new Vec3(x, y, 3);
                    return back.Length < 3e-9;
                }
            );

    [Fact]
    public void A_document_is_read_back_as_it_was_and_nonsense_is_refused()
    {
        var fit = SettingOutFit.Fit([P("a", 0, 0, 5, 5), P("b", 10, 0, 15, 5)]);
        var document = SettingOutDocument.Of(fit, [P("a", 0, 0, 5, 5)], EvidenceKind.Points, "measured on site");
        Assert.Equal(document.Write(), SettingOutDocument.Read(document.Write()).Write());
        foreach (
            string bad in (string[])
                [
                    "[]",
                    "{\"version\":2}",
                    "{\"shift\":[1,2]}",
                    "{\"scale\":0}",
                    "{\"colour\":1}",
                    "x",
                    "{\"points\":[{\"name\":\"a\",\"source\":[1],\"job\":[1,2,3]}]}",
                ]
        )
            Assert.Throws<OrderException>(() => SettingOutDocument.Read(bad));
    }

    [Fact]
    public void Tags_are_compared_without_case_blanks_and_zeros() =>
        Assert.Equal(
            ("A1", "1", "0", ""),
            (PlanAxis.KeyOf(" a 1"), PlanAxis.KeyOf("01"), PlanAxis.KeyOf("00"), PlanAxis.KeyOf(" "))
        );

    [Fact]
    public void Axes_meet_where_geometry_says()
    {
        var line = new PlanAxis("1", new Vec2(0, 5), new Vec2(1, 5));
        var other = new PlanAxis("2", new Vec2(3, 0), new Vec2(3, 1));
        Assert.Equal([new Vec2(3, 5)], line.Meet(other));
        var arc = new PlanAxis("R", new Vec2(13, 0), new Vec2(0, 13), new Vec2(0, 0), 13);
        // 5-12-13.
        Assert.Equal([-12, 12], line.Meet(arc).Select(p => Math.Round(p.X, 12)));
        var second = new PlanAxis("Q", new Vec2(14 + 15, 0), new Vec2(14, 15), new Vec2(14, 0), 15);
        // Circles of 13 and 15 with centres 14 apart: the 13-14-15 triangle has height 12 over the side of 14.
        Assert.Equal([(5, -12), (5, 12)], arc.Meet(second).Select(p => (Math.Round(p.X, 9), Math.Round(p.Y, 9))));
        Assert.Empty(line.Meet(new PlanAxis("3", new Vec2(0, 9), new Vec2(8, 9))));
    }

    [Fact]
    public void Shared_tags_set_out_and_a_misnamed_axis_is_named()
    {
        PlanAxis[] Grid(Func<string, string> name) =>
            [
                .. "ABCDE".Select((c, i) => new PlanAxis(name($"{c}"), new Vec2(i * 8, -2), new Vec2(i * 8, 26))),
                .. Enumerable
                    .Range(1, 4)
                    .Select(n => new PlanAxis($"{n}", new Vec2(-2, (n - 1) * 8), new Vec2(40, (n - 1) * 8))),
            ];
        var job = Grid(t => t);
        var frame = new SettingOutDocument { Shift = [1000, 2000, 0], TurnDegrees = -12 }.Frame.Inverse();
        // C and D swapped: both are wrong, and each lies where the other is.
        var source = Grid(t =>
                t switch
                {
                    "C" => " d",
                    "D" => "c",
                    "1" => "01",
                    _ => t,
                }
            )
            .Select(a => a.In(frame))
            .ToList();
        var match = GridMatch.Of(source, job);
        Assert.Equal(
            (-12, 1000, 2000),
            (Math.Round(match.Fit!.TurnDegrees, 6), Math.Round(match.Fit.Shift.X, 6), Math.Round(match.Fit.Shift.Y, 6))
        );
        Assert.Equal(2, match.Notes.Count(n => n.Contains("misnamed", StringComparison.Ordinal)));
        Assert.Contains(
            "is where the reference has D",
            match.Notes.Single(n => n.Contains("axis c ", StringComparison.Ordinal)),
            StringComparison.Ordinal
        );
        Assert.Contains(GridMatch.Of([.. job, job[0]], job).Notes, n =>
            n.Contains("2 times", StringComparison.Ordinal)
        );
        Assert.Null(GridMatch.Of([], job).Fit);
    }

    private static double Normal(Random random) =>
        Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());

    // Umeyama (1991): a turn in space about any axis with a scale is found again, at map coordinates too, and nothing is mirrored.
    [Fact]
    public void A_fit_in_space_finds_the_turn_and_tells_a_source_that_leans() =>
        Gen.Select(Gen.Double[-Math.PI, Math.PI], Gen.Double[0.01, 0.3], Gen.Double[0.9, 1.1])
            .Sample(
                (turn, tilt, scale) =>
                {
                    // About X by the tilt, then about Z.
                    Vec3 Lean(Vec3 p)
                    {
                        var leaned = new Vec3(
                            p.X,
                            (p.Y * Math.Cos(tilt)) - (p.Z * Math.Sin(tilt)),
                            (p.Y * Math.Sin(tilt)) + (p.Z * Math.Cos(tilt))
                        );
                        return new Vec3(
                                (leaned.X * Math.Cos(turn)) - (leaned.Y * Math.Sin(turn)),
                                (leaned.X * Math.Sin(turn)) + (leaned.Y * Math.Cos(turn)),
                                leaned.Z
                            ) * scale;
                    }

                    var at = new Vec3(512_000, 5_412_000, 30);
                    var points = new[]
                    {
                        new Vec3(0, 0, 0),
                        new(40, 0, 0),
                        new(0, 30, 3),
                        new(40, 30, 12),
                        new(10, 5, 9),
                    }
                        .Select((p, n) => new ControlPoint($"{n}", p, Lean(p) + at))
                        .ToList();
                    var fit = SpaceFit.Of(points, freeScale: true)!;
                    // Within a distance: rounded to places, two numbers a hair apart fall on two sides of a half.
                    Assert.Equal(scale, fit.Scale, 1e-9);
                    Assert.Equal(tilt * 180 / Math.PI, fit.TiltDegrees, 1e-6);
                    Assert.True(fit.Rms < 1e-7 && fit.Frame.Determinant > 0, $"{fit.Rms}");
                    Assert.Contains(
                        "does not stand upright",
                        SettingOutFit.Fit(points, freeScale: true).Doubt,
                        StringComparison.Ordinal
                    );
                    Assert.Null(SpaceFit.Of([.. points.Take(2)]));
                }
            );

    // A square whose y runs the other way: its symmetry leaves no turn to be found, and it is mirrored all the same.
    [Theory]
    [InlineData(10, 10)]
    [InlineData(10, 30)]
    public void Mirrored_points_are_called_mirrored_even_where_they_are_symmetric(double x, double y)
    {
        var fit = SettingOutFit.Fit([P("a", 0, 0, 0, 0), P("b", x, 0, x, 0), P("c", x, y, x, -y), P("d", 0, y, 0, -y)]);
        Assert.Contains("mirrored", fit.Doubt, StringComparison.Ordinal);
        var good = SettingOutFit.Fit([P("a", 0, 0, 0, 0), P("b", x, 0, x, 0), P("c", x, y, x, y), P("d", 0, y, 0, y)]);
        Assert.Null(good.Doubt);
    }

    // A building 4 750 m long: in feet it would be 1.4 km, plausible; doors of 6.5 m would be 2 m high in feet.
    [Fact]
    public void What_is_of_no_buildings_size_is_said_with_the_unit_that_would_make_sense()
    {
        var scores = UnitEvidence.Score(1, "metre", 0, 3, 0.3, 4750);
        string odd = Assert.Single(UnitEvidence.Implausible(scores, 1));
        Assert.Contains("4.8 km across", odd, StringComparison.Ordinal);
        Assert.Contains("in foot", odd, StringComparison.Ordinal);
        Assert.Empty(UnitEvidence.Implausible(UnitEvidence.Score(1, "metre", 2.1, 3, 0.3, 80), 1));
        Assert.Contains(
            "no usual unit",
            Assert.Single(UnitEvidence.Implausible(UnitEvidence.Score(0.001, "millimetre", 2.1, 3, 0.3, 1e9), 0.001)),
            StringComparison.Ordinal
        );
    }
}
