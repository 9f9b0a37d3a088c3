using CsCheck;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

public class LevelScheduleTests
{
    private static SourceStorey Storey(int source, int number, string name, double elevation) => new(source, number, name, elevation, elevation);

    [Fact]
    public void Nothing_gives_no_rungs() => Assert.Empty(LevelSchedule.Match([]).Rungs);

    [Fact]
    public void Levels_match_by_height_before_name()
    {
        var schedule = LevelSchedule.Match([Storey(0, 0, "Ground", 0), Storey(0, 1, "First", 4), Storey(1, 0, "First", 0.1), Storey(1, 1, "Second", 3.9)]);
        Assert.Equal(["Ground", "First"], schedule.Rungs.Select(r => r.Name));
        Assert.Equal((0, 1), (schedule.RungOf(1, 0), schedule.RungOf(1, 1)));
    }

    [Fact]
    public void A_level_far_off_matches_by_name()
    {
        var schedule = LevelSchedule.Match([Storey(0, 0, "Ground", 0), Storey(0, 1, "Roof", 12), Storey(1, 0, "roof", -18)]);
        Assert.Equal(2, schedule.Rungs.Count);
        Assert.Equal(1, schedule.RungOf(1, 0));
    }

    [Fact]
    public void Two_storeys_of_one_source_never_share_a_rung()
    {
        var schedule = LevelSchedule.Match([Storey(0, 0, "A", 0), Storey(0, 1, "B", 0.2), Storey(1, 0, "C", 0.05), Storey(1, 1, "D", 0.15)]);
        Assert.Equal(2, schedule.Rungs.Count);
        Assert.NotEqual(schedule.RungOf(1, 0), schedule.RungOf(1, 1));
    }

    [Fact]
    public void The_source_with_most_storeys_gives_the_names()
    {
        var schedule = LevelSchedule.Match([Storey(0, 0, "few", 0), Storey(1, 0, "many 0", 0), Storey(1, 1, "many 1", 4)]);
        Assert.Equal(["many 0", "many 1"], schedule.Rungs.Select(r => r.Name));
    }

    [Fact]
    public void A_structural_level_below_the_finish_is_the_same_level() => Assert.Single(LevelSchedule.Match([Storey(0, 0, "Floor", 4.8), Storey(1, 0, "TOS", 4.71)]).Rungs);

    [Fact]
    public void No_storey_is_no_rung() => Assert.Equal(-1, LevelSchedule.Match([Storey(0, 0, "A", 0)]).RungOf(0, -1));

    [Fact]
    public void Every_storey_has_exactly_one_rung_and_rungs_are_in_order() =>
        Gen.Select(Gen.Int[0, 3], Gen.Int[-3, 12]).Array[0, 25].Sample(pairs =>
        {
            var storeys = pairs.Select((p, i) => Storey(p.Item1, i, "S" + p.Item2, p.Item2 * 1.1)).ToList();
            var schedule = LevelSchedule.Match(storeys);
            Assert.Equal(storeys.Count, schedule.Rungs.Sum(r => r.Storeys.Count));
            Assert.All(storeys, s => Assert.Contains(s, schedule.Rungs[schedule.RungOf(s.Source, s.Number)].Storeys));
            Assert.Equal(schedule.Rungs.Select(r => r.Elevation).Order(), schedule.Rungs.Select(r => r.Elevation));
        });
}
