using System.Text;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>A comparison tells of materials, kinds, groups, classifications, relationships and storeys, and finds elements again whose
/// GlobalId is new.</summary>
public class ComparingWordsTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private RevisionFingerprint Print(string party) => RevisionFingerprint.Of(demo.Snapshots[party]);

    private static RevisionFingerprint With(
        RevisionFingerprint print,
        int n,
        Func<ElementFingerprint, ElementFingerprint> change
    ) => print with { Elements = [.. print.Elements.Select((e, i) => i == n ? change(e) : e)] };

    [Fact]
    public void Each_word_of_an_element_that_changed_is_told_and_nothing_else()
    {
        var print = Print("ARC");
        int n = print.Elements.ToList().FindIndex(e => e.Materials.Length > 0);
        string id = print.Elements[n].GlobalId;
        foreach (
            var (change, told) in new (
                Func<ElementFingerprint, ElementFingerprint>,
                Func<RevisionChanges, IReadOnlyList<ChangedWord>>
            )[]
            {
                (e => e with { Materials = "Other" }, c => c.Rematerialed),
                (e => e with { Predefined = "OTHER" }, c => c.Repredefined),
                (e => e with { Groups = "Zone 7" }, c => c.Regrouped),
                (e => e with { Classifications = "Ss_99" }, c => c.Reclassified),
            }
        )
        {
            var changes = RevisionComparer.Compare(print, With(print, n, change));
            Assert.Equal(id, Assert.Single(told(changes)).GlobalId);
            Assert.Single(changes.Words);
            Assert.Equal(print.Elements.Count - 1, changes.Same);
        }
    }

    [Fact]
    public void A_relationship_that_is_gone_is_told()
    {
        var print = Print("ARC");
        int n = print
            .Elements.ToList()
            .FindIndex(e =>
                e.Class == "IfcDoor"
                && e.Relations.Any(r => r.StartsWith("IfcRelFillsElement", StringComparison.Ordinal))
            );
        var changes = RevisionComparer.Compare(print, With(print, n, e => e with { Relations = [] }));
        var gone = Assert.Single(changes.Related);
        Assert.Equal((print.Elements[n].GlobalId, ""), (gone.GlobalId, gone.New));
        Assert.Contains("IfcRelFillsElement", gone.Old, StringComparison.Ordinal);
        // A door's wall: the opening between them stands for the wall.
        string wall = gone
            .Old.Split('\n')
            .First(r => r.StartsWith("IfcRelFillsElement", StringComparison.Ordinal))
            .Split(ElementRelations.Separator)[1];
        Assert.StartsWith("IfcWall", print.Elements.First(e => e.GlobalId == wall).Class, StringComparison.Ordinal);
    }

    [Fact]
    public void With_all_GlobalIds_new_nothing_changed_storey()
    {
        var print = Print("STR");
        string New(string id) => id.Length == 0 ? id : "n" + id;
        var renamed = print with
        {
            Elements =
            [
                .. print.Elements.Select(e =>
                    e with
                    {
                        GlobalId = New(e.GlobalId),
                        Storey = New(e.Storey),
                        Relations =
                        [
                            .. e
                                .Relations.Select(r => r.Split(ElementRelations.Separator))
                                .Select(r => $"{r[0]}{ElementRelations.Separator}{New(r[1])}"),
                        ],
                    }
                ),
            ],
            Storeys = [.. print.Storeys.Select(s => s with { Key = New(s.Key) })],
        };
        var changes = RevisionComparer.Compare(print, renamed);
        Assert.True(changes.PairedByShape);
        Assert.Empty(changes.Words.Take(3));
        Assert.Empty(changes.Storeys);
    }

    [Fact]
    public void A_storey_that_moved_with_its_elements_is_one_change()
    {
        var print = Print("STR");
        var storey = print.Storeys.First(s => print.Elements.Count(e => e.Storey == s.Key) > 5);
        var up = new Vec3(0, 0, 0.25);
        var moved = print with
        {
            Elements =
            [
                .. print.Elements.Select(e =>
                    e.Storey == storey.Key && e.Place is { } p ? e with { Place = p.In(Frame.At(up)) } : e
                ),
            ],
            Storeys =
            [
                .. print.Storeys.Select(s =>
                    s.Key != storey.Key
                        ? s
                        : s with
                        {
                            Elevation = s.Elevation + 0.25,
                            PlacementZ = s.PlacementZ + 0.25,
                        }
                ),
            ],
        };
        var changes = RevisionComparer.Compare(print, moved);
        var change = Assert.Single(changes.Storeys);
        Assert.Equal(
            (storey.Name, print.Elements.Count(e => e.Storey == storey.Key && e.Place is not null)),
            (change.Name, change.Elements)
        );
        Assert.Empty(changes.Moved);
        Assert.Equal(print.Elements.Count, changes.Same);
    }

    [Fact]
    public void Alike_elements_at_one_place_with_new_GlobalIds_are_listed_and_not_guessed()
    {
        var print = Print("STR");
        var one = print.Elements.First(e => e.Shape is not null && e.Place is not null);
        RevisionFingerprint Twins(string first, string second) =>
            print with
            {
                Elements =
                [
                    .. print.Elements.Where(e => e.GlobalId != one.GlobalId),
                    one with
                    {
                        GlobalId = first,
                    },
                    one with
                    {
                        GlobalId = second,
                    },
                ],
            };
        var changes = RevisionComparer.Compare(Twins("a", "b"), Twins("c", "d"));
        var doubt = Assert.Single(changes.Ambiguous);
        Assert.Equal(["a", "b"], doubt.Old.Order());
        Assert.Equal(["c", "d"], doubt.New.Order());
        Assert.Empty(changes.Added.Concat(changes.Removed));
        Assert.Empty(changes.Reidentified);
    }

    [Fact]
    public void An_element_with_a_new_GlobalId_is_found_though_the_whole_frame_jumped()
    {
        var print = Print("STR");
        int n = print.Elements.ToList().FindIndex(e => e.Shape is not null && e.Place is not null);
        var jump = new SettingOutDocument { Shift = [700, 20, -30.48], TurnDegrees = 12 }.Frame;
        var now = With(print, n, e => e with { GlobalId = "new" });
        now = now with
        {
            Elements = [.. now.Elements.Select(e => e.Place is { } p ? e with { Place = p.In(jump) } : e)],
        };
        var changes = RevisionComparer.Compare(print, now);
        Assert.NotNull(changes.FrameJump);
        Assert.Equal(
            ("new", print.Elements[n].GlobalId),
            (Assert.Single(changes.Reidentified).New, changes.Reidentified[0].Old)
        );
        Assert.Empty(changes.Added.Concat(changes.Removed));
    }
}
