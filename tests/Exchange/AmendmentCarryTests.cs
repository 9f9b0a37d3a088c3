using System.Text;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>How amendments meet the next revision of their source.</summary>
public class AmendmentCarryTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private static readonly DateTime Noon = new(2026, 11, 30, 12, 0, 0, DateTimeKind.Utc);

    private static readonly string[] Words = ["EI 30", "EI 60", "EI 90", ""];

    private static Amendment Noted(ModelSnapshot model, Amendment amendment)
    {
        var reader = new AmendmentReader(model);
        return amendment with { Was = reader.Read(amendment, reader.IndexOf(amendment.Element)) };
    }

    private static ModelSnapshot With(ModelSnapshot model, params Amendment[] sendersOwn)
    {
        var amended = AmendedModel.Of(model, sendersOwn, Noon);
        Assert.All(amended.Results, r => Assert.NotEqual(AmendmentOutcome.Refused, r.Outcome));
        return amended.Snapshot;
    }

    private static CarriedAmendment To(ModelSnapshot revision, Amendment amendment) =>
        AmendmentCarry.To(revision, [amendment], new Dictionary<string, string>())[0];

    [Theory]
    [InlineData("property", "EI 60", "EI 90")]
    [InlineData("name", "D-101", "D-1")]
    [InlineData("storey", "Gallery", "Roof")]
    [InlineData("material", "Oak", "Steel")]
    [InlineData("class", "IfcDoor.GATE", "IfcWindow")]
    public void It_holds_is_settled_or_contradicts(string kind, string ours, string theirs)
    {
        var model = demo.Snapshots["ARC"];
        string door = model.Elements.First(e => e.Class == "IfcDoor").GlobalId;
        Amendment Said(string value) =>
            new()
            {
                Element = door,
                Do = kind,
                Set = kind == "property" ? "Pset_DoorCommon" : null,
                Name = kind == "property" ? "FireRating" : null,
                Value = value,
            };
        var amendment = Noted(model, Said(ours));
        Assert.Equal(AmendmentState.Holds, To(model, amendment).State);
        Assert.Equal(AmendmentState.Settled, To(With(model, Said(ours)), amendment).State);
        var other = To(With(model, Said(theirs)), amendment);
        Assert.Equal((AmendmentState.Contradicts, theirs), (other.State, other.File.Text));
        // Something else that the sender changed is nothing to it.
        var beside = With(
            model,
            new Amendment
            {
                Element = door,
                Do = "description",
                Value = "x",
            }
        );
        Assert.Equal(AmendmentState.Holds, To(beside, amendment).State);
        Assert.Equal(AmendmentState.Gone, To(demo.Snapshots["STR"], amendment).State);
    }

    [Fact]
    public void A_move_is_settled_when_the_sender_moved_it_there_and_contradicts_when_elsewhere()
    {
        var model = demo.Snapshots["ARC"];
        string wall = model.Elements.First(e => e.Class == "IfcWall").GlobalId;
        var move = Noted(
            model,
            new Amendment
            {
                Element = wall,
                Do = "move",
                X = 0.5,
                Turn = 10,
            }
        );
        Assert.Equal(AmendmentState.Holds, To(model, move).State);
        Assert.Equal(AmendmentState.Settled, To(With(model, move with { Was = null }), move).State);
        Assert.Equal(
            AmendmentState.Contradicts,
            To(
                With(
                    model,
                    new Amendment
                    {
                        Element = wall,
                        Do = "move",
                        X = 0.7,
                    }
                ),
                move
            ).State
        );
        var length = Noted(
            model,
            new Amendment
            {
                Element = wall,
                Do = "length",
                End = 0.25,
            }
        );
        Assert.Equal(AmendmentState.Holds, To(model, length).State);
        Assert.Equal(AmendmentState.Settled, To(With(model, length with { Was = null }), length).State);
        Assert.Equal(
            AmendmentState.Contradicts,
            To(
                With(
                    model,
                    new Amendment
                    {
                        Element = wall,
                        Do = "length",
                        End = 0.1,
                    }
                ),
                length
            ).State
        );
    }

    // GlobalIds that a sender's program made anew are found again by class, place, shape and name.
    [Fact]
    public void An_element_with_another_GlobalId_is_found_by_the_comparison()
    {
        var model = demo.Snapshots["ARC"];
        string door = model.Elements.First(e => e.Class == "IfcDoor").GlobalId,
            anew = "3zzzzzzzzzzzzzzzzzzzzz";
        var renamed = ModelSnapshot.Open(
            Encoding.Latin1.GetBytes(
                Encoding.Latin1.GetString(demo.Bytes["ARC"]).Replace($"'{door}'", $"'{anew}'", StringComparison.Ordinal)
            )
        );
        var names = RevisionComparer.Renamed(RevisionFingerprint.Of(model), RevisionFingerprint.Of(renamed));
        Assert.Equal(anew, names[door]);
        var amendment = Noted(
            model,
            new Amendment
            {
                Element = door,
                Do = "mark",
                Value = "D1",
            }
        );
        var carried = Assert.Single(AmendmentCarry.To(renamed, [amendment], names));
        Assert.Equal((AmendmentState.Holds, anew), (carried.State, carried.Amendment.Element));
    }

    // Three revisions with random edits of the sender, and random amendments: the state of each follows from the three values alone.
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Through_random_revisions_each_state_follows_from_what_was_said_and_by_whom(int seed)
    {
        var random = new Random(seed);
        var first = demo.Snapshots["ARC"];
        string[] doors = [.. first.Elements.Where(e => e.Class == "IfcDoor").Select(e => e.GlobalId).Take(20)];
        Amendment Said(string door, string value) =>
            new()
            {
                Element = door,
                Set = "Pset_DoorCommon",
                Name = "FireRating",
                Value = value,
            };
        string Value(ModelSnapshot model, string door)
        {
            var reader = new AmendmentReader(model);
            return reader.Read(Said(door, ""), reader.IndexOf(door)).Text;
        }

        var ours = doors.Select(d => Noted(first, Said(d, Words[random.Next(3)]))).ToList();
        var revision = first;
        for (int number = 2; number <= 4; number++)
        {
            revision = With(
                revision,
                [.. doors.Where(_ => random.Next(2) == 0).Select(d => Said(d, Words[random.Next(Words.Length)]))]
            );
            foreach (
                var (amendment, carried) in ours.Zip(
                    AmendmentCarry.To(revision, ours, new Dictionary<string, string>())
                )
            )
            {
                string says = Value(revision, amendment.Element),
                    was = amendment.Was!.Text;
                Assert.Equal(
                    says == amendment.Value ? AmendmentState.Settled
                        : says == was ? AmendmentState.Holds
                        : AmendmentState.Contradicts,
                    carried.State
                );
            }

            var holding = AmendmentCarry
                .To(revision, ours, new Dictionary<string, string>())
                .Where(c => c.State == AmendmentState.Holds)
                .Select(c => c.Amendment)
                .ToList();
            var amended = AmendedModel.Of(revision, holding, Noon);
            Assert.True(AmendmentLedger.Of(amended).Balanced);
            Assert.All(holding, a => Assert.Equal(a.Value, Value(amended.Snapshot, a.Element)));
            // Withdrawing all of them gives the revision as it came.
            Assert.Same(revision, AmendedModel.Of(revision, [], Noon).Snapshot);
        }
    }
}
