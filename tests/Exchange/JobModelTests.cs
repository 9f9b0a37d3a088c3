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

    // A drawing that is given by itself is said as a revision; one that it refers to, by the name of its file.
    [Fact]
    public void Drawings_rest_on_their_details_and_on_what_they_refer_to()
    {
        var order = new OrderDocument
        {
            Into = new OrderInto { File = FileForm.None },
            Drawings = new OrderDrawings { Sources = [$"{Plan}"] },
            Name = "{n}",
        };
        var kerb = new JobItem(LibraryKind.Detail, "Kerb", 1, Monday);
        JobItem[] items = [kerb, kerb with { Name = "Gully" }, new JobItem(LibraryKind.Set, "Kerb", 4, Monday)];
        var frame = Source(Srv, "SRV", "Frame", true, null) with
        {
            Newest = new JobRevision(Srv, 1, "FRAME.dwg", Monday),
        };
        var plan = Source(Plan, "ARC", "Plan", true, Up(0, 2));
        JobModel Of(JobSource other, params JobItem[] kept) =>
            new(
                Guid.Empty,
                [],
                [
                    plan with
                    {
                        Place = plan.Place! with
                        {
                            Preparation = new PreparationDocument
                            {
                                Steps = [new PreparationStep { Do = "detail", To = "Kerb" }],
                            },
                        },
                    },
                    other,
                ],
                [],
                Levels,
                kept
            );
        var before = OrderBasis.Of(Of(frame, items), order, Monday) with { Referred = ["frame"] };
        Assert.Equal([new BasisItem(LibraryKind.Detail, "Kerb", 1)], before.Items);
        Assert.Equal(["plan", "frame"], before.Sheets.Select(s => s.File));
        Assert.Equal(["ARC"], before.Revisions.Select(r => r.Title));
        Assert.Empty(before.ChangesTo(OrderBasis.Of(Of(frame, items), order, Monday)));
        var newer = frame with { Newest = frame.Newest! with { Number = 2 } };
        Assert.Equal(
            ["SRV r2, which a drawing refers to, came"],
            before.ChangesTo(OrderBasis.Of(Of(newer, items), order, Monday))
        );
        Assert.Equal(
            ["SRV, which a drawing refers to, is gone"],
            before.ChangesTo(OrderBasis.Of(Of(frame with { IsRetired = true }, items), order, Monday))
        );
        Assert.Equal(["the detail Kerb is gone"], before.ChangesTo(OrderBasis.Of(Of(frame), order, Monday)));
        // As received, nothing is placed or bound.
        var received = OrderBasis.Of(
            Of(frame, items),
            order with
            {
                Drawings = new OrderDrawings { Sources = [$"{Plan}"], As = "received" },
            },
            Monday
        );
        Assert.Equal((0, 0), (received.Items.Count, received.Sheets.Count));
    }

    [Theory]
    [InlineData("height", "0", true, false)]
    [InlineData("storey", "Upper", false, true)]
    [InlineData("class", "IfcWall", false, false)]
    public void A_rule_rests_on_places_or_levels_as_its_field_does(string what, string value, bool places, bool levels)
    {
        var order = new OrderDocument { Rules = [new OrderRule { What = what, Are = [value, "9"] }] };
        var basis = OrderBasis.Of(Job(), order, Monday);
        Assert.Equal((places, levels), (basis.Revisions[0].SettingOut is not null, basis.Levels.Length > 0));
        var named = new OrderDocument
        {
            Rules = [new OrderRule { What = "set", Are = ["Plant"] }, new OrderRule { What = "view", Are = ["North"] }],
        };
        Assert.Equal([(LibraryKind.Set, "Plant"), (LibraryKind.View, "North")], LibraryKinds.NamedBy(named));
        var job = Job(
            items: [new JobItem(LibraryKind.Set, "Plant", 1, Monday), new JobItem(LibraryKind.Set, "Ducts", 1, Monday)]
        );
        Assert.Equal(["Plant"], job.ItemsOf(named).Select(i => i.Name));
    }

    [Fact]
    public void What_became_of_a_revision_is_said_in_words()
    {
        var order = new OrderDocument { Frame = "job", Name = "{n}" };
        var before = OrderBasis.Of(Job(), order, Monday);
        Assert.Equal(
            ["ARC r2 was withdrawn; r1 is in use again"],
            before.ChangesTo(OrderBasis.Of(Job(revision: 1), order, Monday))
        );
        var undone = before with { Revisions = [before.Revisions[0] with { SettingOut = null }, before.Revisions[1]] };
        Assert.Equal(["the setting-out of ARC was undone"], before.ChangesTo(undone));
        Assert.Equal(["ARC was set out again"], undone.ChangesTo(before));
        var steps = before with { Revisions = [before.Revisions[0] with { Preparation = "a" }, before.Revisions[1]] };
        var prepared = before with
        {
            Revisions = [before.Revisions[0] with { Preparation = "b", SettingOut = Guid.Empty }, before.Revisions[1]],
        };
        Assert.Equal(["the preparation of ARC changed"], steps.ChangesTo(prepared));
        Assert.Equal(["SRV is gone"], before.ChangesTo(before with { Revisions = [before.Revisions[0]] }));
        Assert.Equal(["a setting-out of the job changed"], before.ChangesTo(before with { Frames = "other" }));
        Assert.Equal(["ARC"], Job().ModelsOf(new OrderDocument { Sources = [$"{Arc}"] }).Select(s => s.Title));
    }

    [Fact]
    public void A_schedule_without_a_source_keeps_what_is_by_hand_or_of_others()
    {
        var document = new LevelDocument
        {
            Levels =
            [
                new JobLevel(1, "Own", 0),
                new JobLevel(2, "Shared", 3),
                new JobLevel(3, "By hand", 6, true),
                new JobLevel(4, "Of nobody", 9),
            ],
            Matches =
            [
                new LevelMatch("a", "0", 1),
                new LevelMatch("a", "1", 2),
                new LevelMatch("b", "1", 2),
                new LevelMatch("a", "2", 3),
                new LevelMatch("a", "by hand", 4, true),
            ],
        };
        var without = document.Without("a");
        Assert.Equal(["Shared", "By hand", "Of nobody"], without.Levels.Select(l => l.Name));
        Assert.Equal([("b", "1"), ("a", "by hand")], without.Matches.Select(m => (m.Source, m.Storey)));
    }
}
