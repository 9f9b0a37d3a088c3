using CsCheck;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

public class LevelScheduleTests
{
    private static SourceStorey Storey(int source, int number, string name, double elevation) =>
        new(source, number, name, elevation, elevation);

    [Fact]
    public void Nothing_gives_no_rungs() => Assert.Empty(LevelSchedule.Match([]).Rungs);

    [Fact]
    public void Levels_match_by_height_before_name()
    {
        var schedule = LevelSchedule.Match([
            Storey(0, 0, "Ground", 0),
            Storey(0, 1, "First", 4),
            Storey(1, 0, "First", 0.1),
            Storey(1, 1, "Second", 3.9),
        ]);
        Assert.Equal(["Ground", "First"], schedule.Rungs.Select(r => r.Name));
        Assert.Equal((0, 1), (schedule.RungOf(1, 0), schedule.RungOf(1, 1)));
    }

    [Fact]
    public void A_level_far_off_matches_by_name()
    {
        var schedule = LevelSchedule.Match([
            Storey(0, 0, "Ground", 0),
            Storey(0, 1, "Roof", 12),
            Storey(1, 0, "roof", -18),
        ]);
        Assert.Equal(2, schedule.Rungs.Count);
        Assert.Equal(1, schedule.RungOf(1, 0));
    }

    [Fact]
    public void Two_storeys_of_one_source_never_share_a_rung()
    {
        var schedule = LevelSchedule.Match([
            Storey(0, 0, "A", 0),
            Storey(0, 1, "B", 0.2),
            Storey(1, 0, "C", 0.05),
            Storey(1, 1, "D", 0.15),
        ]);
        Assert.Equal(2, schedule.Rungs.Count);
        Assert.NotEqual(schedule.RungOf(1, 0), schedule.RungOf(1, 1));
    }

    [Fact]
    public void The_source_with_most_storeys_gives_the_names()
    {
        var schedule = LevelSchedule.Match([
            Storey(0, 0, "few", 0),
            Storey(1, 0, "many 0", 0),
            Storey(1, 1, "many 1", 4),
        ]);
        Assert.Equal(["many 0", "many 1"], schedule.Rungs.Select(r => r.Name));
    }

    [Fact]
    public void A_structural_level_below_the_finish_is_the_same_level() =>
        Assert.Single(LevelSchedule.Match([Storey(0, 0, "Floor", 4.8), Storey(1, 0, "TOS", 4.71)]).Rungs);

    [Fact]
    public void No_storey_is_no_rung() => Assert.Equal(-1, LevelSchedule.Match([Storey(0, 0, "A", 0)]).RungOf(0, -1));

    [Fact]
    public void Every_storey_has_exactly_one_rung_and_rungs_are_in_order() =>
        Gen.Select(Gen.Int[0, 3], Gen.Int[-3, 12])
            .Array[0, 25]
            .Sample(pairs =>
            {
                var storeys = pairs.Select((p, i) => Storey(p.Item1, i, "S" + p.Item2, p.Item2 * 1.1)).ToList();
                var schedule = LevelSchedule.Match(storeys);
                Assert.Equal(storeys.Count, schedule.Rungs.Sum(r => r.Storeys.Count));
                Assert.All(storeys, s =>
                    Assert.Contains(s, schedule.Rungs[schedule.RungOf(s.Source, s.Number)].Storeys)
                );
                Assert.Equal(schedule.Rungs.Select(r => r.Elevation).Order(), schedule.Rungs.Select(r => r.Elevation));
            });

    [Fact]
    public void The_nearest_level_is_taken_whichever_comes_first()
    {
        // 0.3 m from one, 0.1 m from the other, both within the tolerance; below zero and above.
        var below = LevelSchedule.Match([Storey(0, 0, "A", -2), Storey(0, 1, "B", -1.6), Storey(1, 0, "C", -1.7)]);
        Assert.Equal("B", below.Rungs[below.RungOf(1, 0)].Name);
        var above = LevelSchedule.Match([Storey(0, 0, "A", 2), Storey(0, 1, "B", 2.4), Storey(1, 0, "C", 2.1)]);
        Assert.Equal("A", above.Rungs[above.RungOf(1, 0)].Name);
        // As far from both: the lower one.
        var between = LevelSchedule.Match([Storey(0, 0, "A", 0), Storey(0, 1, "B", 0.25), Storey(1, 0, "C", 0.125)]);
        Assert.Equal("A", between.Rungs[between.RungOf(1, 0)].Name);
    }

    [Fact]
    public void A_level_exactly_as_far_as_the_tolerance_is_the_same()
    {
        Assert.Single(LevelSchedule.Match([Storey(0, 0, "A", 0), Storey(1, 0, "B", LevelSchedule.Tolerance)]).Rungs);
        Assert.Equal(
            2,
            LevelSchedule.Match([Storey(0, 0, "A", 0), Storey(1, 0, "B", LevelSchedule.Tolerance + 0.001)]).Rungs.Count
        );
    }

    [Fact]
    public void Storeys_without_a_name_are_not_the_same_for_that() =>
        Assert.Equal(2, LevelSchedule.Match([Storey(0, 0, "", 0), Storey(1, 0, "", 40)]).Rungs.Count);

    [Fact]
    public void A_name_used_twice_in_a_source_is_two_levels() =>
        Assert.Equal(2, LevelSchedule.Match([Storey(0, 0, "Roof", 0), Storey(0, 1, "Roof", 40)]).Rungs.Count);

    [Fact]
    public void What_was_matched_stays_matched_whatever_arrives_later()
    {
        SourceStorey[] first = [Storey(0, 0, "Ground", 0), Storey(0, 1, "First", 4)];
        var document = new LevelDocument().With(["a"], first);
        Assert.Equal([(1, "Ground", 0.0), (2, "First", 4.0)], document.Levels.Select(l => (l.Id, l.Name, l.Elevation)));
        // A second source with more storeys would give the names, were they found anew.
        SourceStorey[] both = [.. first, Storey(1, 0, "L0", 0.1), Storey(1, 1, "L1", 4.1), Storey(1, 2, "L2", 8)];
        document = document.With(["a", "b"], both);
        Assert.Equal([(1, "Ground"), (2, "First"), (3, "L2")], document.Levels.Select(l => (l.Id, l.Name)));
        // The first source's storey moves: it stays on its level.
        var moved = LevelDocument
            .Read(document.Write())
            .Schedule(["a"], [Storey(0, 0, "Ground", 4), Storey(0, 1, "First", 8)]);
        Assert.Equal(["Ground", "First"], [moved.Rungs[moved.RungOf(0, 0)].Name, moved.Rungs[moved.RungOf(0, 1)].Name]);
    }

    [Fact]
    public void Storeys_of_one_name_are_told_apart_by_their_order()
    {
        var document = new LevelDocument().With(
            ["a"],
            [Storey(0, 0, "Deck", 0), Storey(0, 1, "Deck", 4), Storey(0, 2, "Deck", 8)]
        );
        Assert.Equal(["Deck", "Deck (2)", "Deck (3)"], document.Matches.Select(m => m.Storey).Order());
        Assert.Equal(3, document.Matches.Select(m => m.Level).Distinct().Count());
    }

    // 50 mm are joined without a word, 51 mm and 300 mm wait for one; what is far off waits too, though it has the name.
    [Theory]
    [InlineData(0.050, true)]
    [InlineData(0.051, false)]
    [InlineData(-0.050, true)]
    [InlineData(-0.300, false)]
    [InlineData(40, false)]
    public void A_storey_is_joined_without_a_word_within_50_mm_only(double off, bool sure)
    {
        var job = new LevelDocument { Levels = [new JobLevel(1, "Ground", 0), new JobLevel(2, "First", 4)] };
        SourceStorey[] storeys = [Storey(0, 0, "Ground", off), Storey(0, 1, "First", 4)];
        var matched = job.WithSure(["a"], storeys);
        Assert.Equal(sure, matched.Matches.Any(m => m.Storey == "Ground"));
        Assert.Equal(2, matched.Levels.Count);
        var open = matched.Schedule(["a"], storeys).Unconfirmed;
        Assert.Equal(sure ? 0 : 1, open.Count);
        // Somebody's word settles it, by hand.
        var confirmed = matched.Confirm(["a"], storeys, _ => true);
        Assert.Empty(confirmed.Schedule(["a"], storeys).Unconfirmed);
        Assert.Equal(2, confirmed.Levels.Count);
    }

    [Fact]
    public void A_storey_that_no_level_is_near_waits_and_is_added_by_a_word()
    {
        var job = new LevelDocument { Levels = [new JobLevel(1, "Ground", 0)] };
        SourceStorey[] storeys = [Storey(0, 0, "Ground", 0), Storey(0, 1, "1. Attic", 2.7)];
        var matched = job.WithSure(["a"], storeys);
        Assert.Single(matched.Levels);
        Assert.Equal("1. Attic", Assert.Single(matched.Schedule(["a"], storeys).Unconfirmed).Storey.Name);
        var confirmed = matched.Confirm(["a"], storeys, s => s.Name == "1. Attic");
        Assert.Equal([(1, "Ground"), (2, "1. Attic")], confirmed.Levels.Select(l => (l.Id, l.Name)));
    }

    // Every storey says what the others say and is placed 50 mm lower: it is the placement that is odd, not the level.
    [Fact]
    public void A_small_difference_of_placement_moves_no_level()
    {
        SourceStorey[] storeys = [new(0, 0, "EG", 0, -0.05), new(0, 1, "OG", 3, 2.95)];
        Assert.Equal([0.0, 3.0], LevelSchedule.InJob(storeys, _ => Geometry.Frame.Identity).Select(s => s.Elevation));
        // A building whose zero is placed 30 m up says so by all its storeys.
        storeys = [new(0, 0, "EG", 0, 30), new(0, 1, "OG", 3, 33)];
        Assert.Equal([30.0, 33.0], LevelSchedule.InJob(storeys, _ => Geometry.Frame.Identity).Select(s => s.Elevation));
    }

    [Fact]
    public void A_hundred_thousand_storeys_are_levels_of_no_building_and_take_no_time()
    {
        var storeys = Enumerable
            .Range(0, 100_000)
            .Select(n => Storey(0, n, $"S{n}", n * 0.01))
            .Append(Storey(1, 0, "Ground", 0))
            .ToList();
        Assert.Equal("Ground", Assert.Single(LevelSchedule.InJob(storeys, _ => Geometry.Frame.Identity)).Name);
    }
}
