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

    private static readonly (RuleField Field, string Key, RuleTest Test, string[][] Values)[] Tests =
    [
        (
            RuleField.Class,
            "",
            RuleTest.Equals,
            [
                ["IfcWall.SOLIDWALL"],
                ["IfcSlab.FLOOR", "IfcDoor"],
                ["IfcBuildingElement.NOTDEFINED"],
            ]
        ),
        (
            RuleField.Class,
            "",
            RuleTest.Exactly,
            [
                ["IfcBuildingElement"],
                ["IfcWall"],
            ]
        ),
        (
            RuleField.Class,
            "",
            RuleTest.Like,
            [
                ["Ifc*Segment"],
                ["*.FLOOR"],
            ]
        ),
        (
            RuleField.Layer,
            "",
            RuleTest.Exactly,
            [
                ["A-WALL + A-WALL-2"],
                ["A-WALL-EXT"],
                [""],
            ]
        ),
        (
            RuleField.Layer,
            "",
            RuleTest.Like,
            [
                ["A-*"],
                ["?-COLS"],
            ]
        ),
        (
            RuleField.Type,
            "",
            RuleTest.Like,
            [
                ["*240*"],
                [""],
            ]
        ),
        (
            RuleField.Source,
            "",
            RuleTest.Equals,
            [
                ["SRV Services"],
                ["Frame"],
                ["SNK"],
            ]
        ),
        (
            RuleField.Classification,
            "",
            RuleTest.Equals,
            [
                ["EF_25_10"],
                [""],
            ]
        ),
        (
            RuleField.Group,
            "",
            RuleTest.Like,
            [
                ["*"],
                ["*air*"],
                [""],
            ]
        ),
        (
            RuleField.Size,
            "",
            RuleTest.Between,
            [
                ["", "0.6"],
                ["2", "5"],
            ]
        ),
        (
            RuleField.Bearing,
            "",
            RuleTest.Between,
            [
                ["0", "10"],
                ["80", "100"],
                ["170", "20"],
            ]
        ),
        (
            RuleField.Height,
            "",
            RuleTest.Between,
            [
                ["0", "1.2"],
                ["4.8", ""],
            ]
        ),
        (
            RuleField.Property,
            "Pset_WallCommon.IsExternal",
            RuleTest.Missing,
            [
                [],
            ]
        ),
        (
            RuleField.Property,
            "Set.Blank",
            RuleTest.Blank,
            [
                [],
            ]
        ),
        (
            RuleField.Property,
            "set.pressure",
            RuleTest.Between,
            [
                ["10", "20"],
                ["", "1"],
            ]
        ),
        (
            RuleField.Property,
            "Pset_WallCommon.FireRating",
            RuleTest.Like,
            [
                ["EI*"],
                ["?? 60"],
            ]
        ),
    ];

    private static readonly (RuleField Field, string Key, string?[] Values)[] Candidates =
    [
        (RuleField.Storey, "", ["Gallery", "concourse", "One", "Foundations", ""]),
        (RuleField.Class, "", ["IfcWall", "IfcBuildingElement", "ifcductsegment", "IfcDoor", "IfcSlab", "IfcSite"]),
        (RuleField.Layer, "", ["A-WALL-EXT", "a-wall-int", "S-COLS", "A-WALL-2", ""]),
        (RuleField.Type, "", ["T", "IPE 240", "chair", ""]),
        (RuleField.Material, "", ["Brick", "Steel S355", "concrete C30/37", ""]),
        (RuleField.Party, "", ["ARC", "srv", "SNK"]),
        (RuleField.GlobalId, "", ["0000000000000000000020", "0000000000000000000091"]),
        (RuleField.Property, "Pset_WallCommon.IsExternal", ["True", "false"]),
        (RuleField.Property, "set.pressure", ["12.5", null]),
        (RuleField.Property, "Set.Truth", ["true"]),
        (RuleField.Property, "Pset_WallCommon.FireRating", [null]),
    ];

    private static SelectionRule Rule(Random random, int depth = 0)
    {
        if (random.Next(8) == 0 && depth < 2)
            return new SelectionRule(
                (SelectionVerb)random.Next(3),
                random.Next(2) == 0 ? RuleField.Set : RuleField.View,
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

    // One entry in Core and where it is stored: reader, schema, page, terminal, preview and run go by these.
    [Fact]
    public async Task A_field_that_only_this_test_knows_is_read_and_asked_alike()
    {
        var field = RuleField.Find("kind of class");
        if (field is null)
        {
            field = new RuleField("kind of class", "kind of class", RuleFieldKind.Name)
            {
                Plural = "kinds",
                Read = (snapshot, item) => snapshot.Predefined(item) is { Length: > 0 } kind ? [kind] : [],
            };
            RuleField.Add(field);
            StoredField.Add(field, "array_remove(ARRAY[predefined], '')", true);
        }

        Assert.Contains("kind of class", OrderOptions.RuleField.Words);
        var document = Orders.Everything with
        {
            Rules =
            [
                new OrderRule
                {
                    What = "kind of class",
                    Is = "like",
                    Are = ["*SEGMENT*", "FLOOR"],
                },
            ],
            Name = "{n}",
        };
        var order = OrderDocument.Read(document.Write()).ToOrder();
        await using var db = job.CreateDbContext();
        var state = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
        var preview = await OrderPreview.OfAsync(db, state, document, CancellationToken.None);
        int chosen = state.Sources.Sum(s => order.Selection.Decide(Models[s.Source.Party.Code]).Count(r => r is null));
        Assert.InRange(chosen, 1, preview.Rows.Sum(r => r.In) - 1);
        Assert.Equal(chosen, preview.Rows.Sum(r => r.In - r.Out));
        var values = await ElementValues.OfAsync(db, state, "kind of class", CancellationToken.None);
        Assert.Contains(values, v => v.Name == "FLOOR");
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
