using Microsoft.EntityFrameworkCore;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;

namespace SteadyLintel.Tests;

/// <summary>Rules over stored elements choose what the same rules choose over the model.</summary>
public class SelectionAgreementTests(JobFixture job) : IClassFixture<JobFixture>
{
    private static readonly Dictionary<string, ModelSnapshot> Models = HeronWharf
        .Models.ToDictionary(
            d => d.Party,
            d =>
            {
                using var stream = new MemoryStream();
                d.Write(stream);
                return ModelSnapshot.Open(stream.ToArray());
            }
        )
        .Append(new("SNK", ModelSnapshot.Open(ModelSink.Bytes())))
        .ToDictionary();

    private static readonly (SelectionField Field, string Key, RuleTest Test, string[][] Values)[] Tests =
    [
        (
            SelectionField.Class,
            "",
            RuleTest.Equals,
            [
                ["IfcWall.SOLIDWALL"],
                ["IfcSlab.FLOOR", "IfcDoor"],
                ["IfcBuildingElement.NOTDEFINED"],
            ]
        ),
        (
            SelectionField.Class,
            "",
            RuleTest.Exactly,
            [
                ["IfcBuildingElement"],
                ["IfcWall"],
            ]
        ),
        (
            SelectionField.Class,
            "",
            RuleTest.Like,
            [
                ["Ifc*Segment"],
                ["*.FLOOR"],
            ]
        ),
        (
            SelectionField.Layer,
            "",
            RuleTest.Exactly,
            [
                ["A-WALL + A-WALL-2"],
                ["A-WALL-EXT"],
                [""],
            ]
        ),
        (
            SelectionField.Layer,
            "",
            RuleTest.Like,
            [
                ["A-*"],
                ["?-COLS"],
            ]
        ),
        (
            SelectionField.Type,
            "",
            RuleTest.Like,
            [
                ["*240*"],
                [""],
            ]
        ),
        (
            SelectionField.Source,
            "",
            RuleTest.Equals,
            [
                ["SRV Services"],
                ["Frame"],
                ["SNK"],
            ]
        ),
        (
            SelectionField.Classification,
            "",
            RuleTest.Equals,
            [
                ["EF_25_10"],
                [""],
            ]
        ),
        (
            SelectionField.Group,
            "",
            RuleTest.Like,
            [
                ["*"],
                ["*air*"],
                [""],
            ]
        ),
        (
            SelectionField.Size,
            "",
            RuleTest.Between,
            [
                ["", "0.6"],
                ["2", "5"],
            ]
        ),
        (
            SelectionField.Bearing,
            "",
            RuleTest.Between,
            [
                ["0", "10"],
                ["80", "100"],
                ["170", "20"],
            ]
        ),
        (
            SelectionField.Height,
            "",
            RuleTest.Between,
            [
                ["0", "1.2"],
                ["4.8", ""],
            ]
        ),
        (
            SelectionField.Property,
            "Pset_WallCommon.IsExternal",
            RuleTest.Missing,
            [
                [],
            ]
        ),
        (
            SelectionField.Property,
            "Set.Blank",
            RuleTest.Blank,
            [
                [],
            ]
        ),
        (
            SelectionField.Property,
            "set.pressure",
            RuleTest.Between,
            [
                ["10", "20"],
                ["", "1"],
            ]
        ),
        (
            SelectionField.Property,
            "Pset_WallCommon.FireRating",
            RuleTest.Like,
            [
                ["EI*"],
                ["?? 60"],
            ]
        ),
    ];

    private static readonly (SelectionField Field, string Key, string?[] Values)[] Candidates =
    [
        (SelectionField.Storey, "", ["Gallery", "concourse", "One", "Foundations", ""]),
        (
            SelectionField.Class,
            "",
            ["IfcWall", "IfcBuildingElement", "ifcductsegment", "IfcDoor", "IfcSlab", "IfcSite"]
        ),
        (SelectionField.Layer, "", ["A-WALL-EXT", "a-wall-int", "S-COLS", "A-WALL-2", ""]),
        (SelectionField.Type, "", ["T", "IPE 240", "chair", ""]),
        (SelectionField.Material, "", ["Brick", "Steel S355", "concrete C30/37", ""]),
        (SelectionField.Party, "", ["ARC", "srv", "SNK"]),
        (SelectionField.GlobalId, "", ["0000000000000000000020", "0000000000000000000091"]),
        (SelectionField.Property, "Pset_WallCommon.IsExternal", ["True", "false"]),
        (SelectionField.Property, "set.pressure", ["12.5", null]),
        (SelectionField.Property, "Set.Truth", ["true"]),
        (SelectionField.Property, "Pset_WallCommon.FireRating", [null]),
    ];

    private static SelectionRule Rule(Random random, int depth = 0)
    {
        if (random.Next(8) == 0 && depth < 2)
            return new SelectionRule(
                (SelectionVerb)random.Next(3),
                random.Next(2) == 0 ? SelectionField.Set : SelectionField.View,
                ["kept"]
            )
            {
                Inside = new Selection([.. Enumerable.Range(0, random.Next(4)).Select(_ => Rule(random, depth + 1))]),
            };
        if (random.Next(2) == 0)
        {
            var (what, of, test, lists) = Tests[random.Next(Tests.Length)];
            return new SelectionRule((SelectionVerb)random.Next(3), what, lists[random.Next(lists.Length)], of)
            {
                Test = test,
            };
        }

        var (field, key, values) = Candidates[random.Next(Candidates.Length)];
        string? value = values[random.Next(values.Length)];
        return new SelectionRule((SelectionVerb)random.Next(3), field, value is null ? [] : [value], key);
    }

    [Fact]
    public async Task Database_and_model_decide_alike()
    {
        await using var db = job.CreateDbContext();
        var state = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
        Assert.Equal(4, state.Sources.Count);
        var query = new ElementQuery(db);
        var random = new Random(5);
        int differing = 0;
        for (int n = 0; n < 160; n++)
        {
            var selection = new Selection([.. Enumerable.Range(0, random.Next(5)).Select(_ => Rule(random))]).On(
                state.Schedule,
                state.Storeys,
                state.Sources.Count
            );
            for (int s = 0; s < state.Sources.Count; s++)
            {
                string party = state.Sources[s].Source.Party.Code;
                var model = Models[party];
                var core = model
                    .Elements.Zip(selection.Decide(model, s, party, state.Sources[s].Source.Name))
                    .CountBy(p => (p.First.Storey, p.First.Class, p.Second))
                    .ToDictionary();
                var groups = await query.GroupsAsync(
                    new QueriedRevision(
                        state.Sources[s].Latest!.Id,
                        s,
                        party,
                        state.Sources[s].Source.Name,
                        model.Model.Schema,
                        null,
                        state.Sources[s].Latest!.HasParts
                    ),
                    selection,
                    CancellationToken.None
                );
                var stored = groups
                    .GroupBy(g => (g.Storey, g.Class, selection.Decide(n => g.Matches[n])))
                    .ToDictionary(g => g.Key, g => g.Sum(x => x.Count));
                Assert.Equal(
                    core.OrderBy(c => c.Key.ToString(), StringComparer.Ordinal),
                    stored.OrderBy(c => c.Key.ToString(), StringComparer.Ordinal)
                );
                differing += core.Keys.Count(k => k.Item3 is not null);
            }
        }

        // The rules do decide something.
        Assert.True(differing > 500);
    }

    [Fact]
    public async Task The_preview_of_an_order_is_what_its_run_balances()
    {
        await using var db = job.CreateDbContext();
        var orders = new Orders(db, job, job.Options, new StorageQuota(db, new StorageQuotaOptions()));
        int number = await orders.CreateAsync(job.Job.Id, job.Somebody, CancellationToken.None);
        var row = await db.Orders.SingleAsync(o => o.JobId == job.Job.Id && o.Number == number);
        var document = Orders.Everything with
        {
            Rules =
            [
                new OrderRule
                {
                    Do = "only",
                    What = "storey",
                    Are = ["Gallery"],
                },
                new OrderRule
                {
                    Do = "without",
                    What = "property",
                    Key = "Pset_WallCommon.IsExternal",
                    Are = ["False"],
                },
                new OrderRule
                {
                    Do = "without",
                    What = "party",
                    Are = ["SRV"],
                },
            ],
        };
        await orders.SaveAsync(row, "Gallery", document, job.Somebody, CancellationToken.None);
        var state = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
        var preview = await OrderPreview.OfAsync(db, state, document, CancellationToken.None);
        Assert.Null(preview.Problem);
        Assert.True(await orders.RunAsync(row, job.Somebody, CancellationToken.None));
        // A second click while the run waits starts no second one.
        Assert.False(await orders.RunAsync(row, job.Somebody, CancellationToken.None));
        await job.WorkAsync();
        var run = await db.Transmittals.AsNoTracking().Include(t => t.Files).SingleAsync(t => t.OrderId == row.Id);
        Assert.True(run.Balanced, run.Sentence);
        Assert.Equal(document.Write(), OrderDocument.Read(run.Spec).Write());
        var result = System.Text.Json.JsonSerializer.Deserialize<HandoverResult>(run.Result!, Store.IntakeStore.Json)!;
        // Spatial structure with a shape goes with what stands on it, and the preview counts it by rule.
        var rows = result.Reconciliation.Rows.Where(r => r.Class != "IfcSite").ToList();
        Assert.Equal(preview.Rows.Sum(r => r.In - r.Out), rows.Sum(r => r.Found));
        Assert.Equal(
            preview.Reasons.Select(r => r.Name).Order(),
            rows.SelectMany(r => r.Reasons.Keys).Distinct().Order()
        );
        Assert.NotEmpty(run.Files);
    }
}
