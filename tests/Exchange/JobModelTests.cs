using CsCheck;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>A job as it is at one moment, made of nothing but what is known of it.</summary>
public class JobModelTests
{
    private static readonly DateTime Monday = new(2026, 3, 2, 8, 0, 0, DateTimeKind.Utc);

    private static readonly Guid Arc = new("00000000-0000-0000-0000-0000000000a1"),
        Srv = new("00000000-0000-0000-0000-0000000000a2"),
        Plan = new("00000000-0000-0000-0000-0000000000a3"),
        Accepted = new("00000000-0000-0000-0000-0000000000b1");

    private static SettingOutDocument Up(double z, int? level = null) =>
        SettingOutDocument.Of(Frame.Identity with { Origin = new Vec3(0, 0, z) }, EvidenceKind.Typed, "measured") with
        {
            Level = level,
        };

    private static JobSource Source(Guid id, string party, string name, bool drawing, SettingOutDocument? place) =>
        new(id, party, name, drawing)
        {
            Newest = new JobRevision(id, 2, $"{name}.ifc", Monday),
            Place = place is null ? null : new AcceptedPlace(Accepted, id, 1, Monday.AddDays(1), place),
        };

    private static readonly LevelDocument Levels = new()
    {
        Levels = [new JobLevel(1, "Ground", 10), new JobLevel(2, "Upper", 13)],
        Matches = [new LevelMatch($"{Arc}", "00", 1), new LevelMatch($"{Arc}", "01", 2)],
    };

    private static JobModel Job(
        LevelDocument? levels = null,
        SettingOutDocument? place = null,
        IReadOnlyList<JobItem>? items = null,
        int revision = 2
    )
    {
        var arc = Source(Arc, "ARC", "Terminal", false, place ?? Up(10));
        return new JobModel(
            Guid.Empty,
            JobSource.Distinguished([
                arc with
                {
                    Newest = arc.Newest! with { Number = revision },
                },
                Source(Srv, "SRV", "Services", false, null),
            ]),
            [Source(Plan, "ARC", "Plan", true, Up(0, 2))],
            [new SourceStorey(0, 0, "00", 0, 0), new SourceStorey(0, 1, "01", 3, 3)],
            levels ?? Levels,
            items ?? []
        );
    }

    [Fact]
    public void A_model_lies_as_it_is_set_out_and_a_drawing_at_the_height_of_its_level()
    {
        var job = Job();
        Assert.Equal(10, job.FrameOf(job.Models[0]).Origin.Z);
        Assert.Equal(0, job.FrameOf(job.Models[1]).Origin.Z);
        Assert.Equal(13, job.FrameOf(job.Drawings[0]).Origin.Z);
        Assert.Equal("Upper", job.LevelOf(0, 1)?.Name);
        Assert.Null(job.LevelOf(1, 0));
    }

    [Fact]
    public void Sources_of_one_party_are_told_apart()
    {
        var told = JobSource.Distinguished([
            Source(Arc, "ARC", "Terminal", false, null),
            Source(Srv, "SRV", "Services", false, null),
            Source(Plan, "ARC", "Sheds", false, null),
        ]);
        Assert.Equal(["ARC Terminal r2", "ARC Sheds r2", "SRV r2"], told.Select(s => s.Label));
        Assert.Equal(["ARC 1", "ARC 2", "SRV"], told.Select(s => s.Mark));
    }

    // The newest that was accepted for the revision or an earlier one, by a plain search.
    [Fact]
    public void The_setting_out_that_holds_is_the_newest_for_the_revision_or_before() =>
        Gen.Select(Gen.Int[1, 9], Gen.Int[0, 99])
            .List[0, 12]
            .Select(Gen.Int[1, 9])
            .Sample(
                (accepted, revision) =>
                {
                    var all = accepted
                        .DistinctBy(a => a.Item2)
                        .Select(a => new AcceptedPlace(
                            Guid.NewGuid(),
                            Arc,
                            a.Item1,
                            Monday.AddMinutes(a.Item2),
                            Up(a.Item2)
                        ))
                        .ToList();
                    AcceptedPlace? wanted = null;
                    foreach (var place in all)
                        if (place.FromRevision <= revision && (wanted is null || place.AcceptedAt > wanted.AcceptedAt))
                            wanted = place;
                    var places = new SourcePlaces(all);
                    Assert.Equal(wanted?.Id, places.Of(Arc, revision)?.Id);
                    Assert.Equal(wanted?.Document.Frame.Origin.Z ?? 0, places.FrameOf(Arc, revision).Origin.Z);
                    Assert.Null(places.Of(Srv, revision));
                }
            );

    [Fact]
    public void A_hash_changes_with_its_part_alone()
    {
        var job = Job();
        var renamed = Job(Levels with { Levels = [.. Levels.Levels.Select(l => l with { Name = l.Name + "!" })] });
        var detail = Job(items: [new JobItem(LibraryKind.Detail, "Kerb", 2, Monday)]);
        Assert.Equal(job.HashOf(JobPart.Levels), Job(revision: 3).HashOf(JobPart.Levels));
        Assert.NotEqual(job.HashOf(JobPart.Levels), renamed.HashOf(JobPart.Levels));
        Assert.Equal(job.HashOf(JobPart.Places), renamed.HashOf(JobPart.Places));
        Assert.NotEqual(job.HashOf(JobPart.Drawings), detail.HashOf(JobPart.Drawings));
        Assert.NotEqual(job.HashOf(JobPart.Drawings), renamed.HashOf(JobPart.Drawings));
    }

    [Fact]
    public void What_an_order_rests_on_is_said_by_the_job_and_what_changed_by_two_of_them()
    {
        var order = new OrderDocument
        {
            Split = "storey",
            Frame = "job",
            Tables = new OrderTables { Layers = "Office" },
            Name = "{storey}",
        };
        var table = new JobItem(LibraryKind.Layers, "Office", 1, Monday.AddDays(3));
        var before = OrderBasis.Of(Job(items: [table]), order, Monday);
        Assert.Equal(["ARC", "SRV"], before.Revisions.Select(r => r.Title));
        Assert.Equal((Guid?)Accepted, before.Revisions[0].SettingOut);
        Assert.Equal(Monday.AddDays(3), before.Newest);
        Assert.Empty(before.ChangesTo(OrderBasis.Of(Job(items: [table]), order, Monday)));
        Assert.Equal(["ARC r3 came"], before.ChangesTo(OrderBasis.Of(Job(items: [table], revision: 3), order, Monday)));
        Assert.Equal(
            ["the layer table Office changed"],
            before.ChangesTo(OrderBasis.Of(Job(items: [table with { Version = 2 }]), order, Monday))
        );
        Assert.Equal(["the layer table Office is gone"], before.ChangesTo(OrderBasis.Of(Job(), order, Monday)));
        // An order that splits by nothing and stays in each source's frame rests on neither levels nor places.
        var plain = OrderBasis.Of(Job(), new OrderDocument(), Monday);
        Assert.Equal(("", "", null), (plain.Levels, plain.Frames, plain.Revisions[0].SettingOut));
        Assert.Equal(before.Write(), OrderBasis.Read(before.Write())!.Write());
    }
}
