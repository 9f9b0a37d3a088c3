using Microsoft.EntityFrameworkCore;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>What the preview of an order counts is what a run decides, whatever the order says.</summary>
public class PreviewAgreementTests(JobFixture job) : IClassFixture<JobFixture>
{
    private static readonly OrderRule[] Rules =
    [
        new()
        {
            Do = "only",
            What = "storey",
            Are = ["Gallery", "Concourse"],
        },
        new()
        {
            Do = "without",
            What = "class",
            Are = ["IfcFurniture"],
        },
        new()
        {
            Do = "only",
            What = "class",
            Are = ["IfcStair", "IfcWall", "IfcSlab"],
        },
        new()
        {
            Do = "with",
            What = "class",
            Are = ["IfcStair.STRAIGHT_RUN_STAIR", "IfcDoor"],
        },
        new()
        {
            Do = "without",
            What = "property",
            Key = "Pset_WallCommon.IsExternal",
            Are = ["False"],
        },
        new()
        {
            Do = "without",
            What = "party",
            Are = ["SRV"],
        },
        new()
        {
            Do = "without",
            What = "size",
            Are = ["", "400 mm"],
        },
        new()
        {
            Do = "only",
            What = "property",
            Key = "Qto_WallBaseQuantities.Length",
            Is = "between",
            Are = ["2 m", "9"],
        },
        new()
        {
            Do = "without",
            What = "layer",
            Are = ["A-FURN"],
        },
        new()
        {
            Do = "with",
            What = "type",
            Is = "like",
            Are = ["*240*"],
        },
    ];

    private static readonly string[][] ClassTables =
    [
        ["IfcFurniture,,,,do not send", "IfcWall,,Pset_WallCommon.IsExternal,False,IfcCovering.CLADDING"],
        [
            "IfcStair,,,,do not send",
            "IfcDuctSegment,,,,IfcBuildingElementProxy",
            "*,,Pset_WallCommon.FireRating,EI*,IfcWall",
        ],
        ["IfcWall.SOLIDWALL,,,,do not send", "IfcSlab,,,,IfcCovering"],
    ];

    private static OrderDocument Random(Random random)
    {
        var rules = Enumerable.Range(0, random.Next(4)).Select(_ => Rules[random.Next(Rules.Length)]).ToList();
        string file = random.Next(3) == 0 ? "dxf" : "ifc";
        return Orders.Everything with
        {
            Rules = rules,
            Into = new OrderInto { File = file, Detail = random.Next(3) == 0 ? "coarse" : null },
            Tables =
                file == "ifc" && random.Next(2) == 0
                    ? new OrderTables { Classes = $"{random.Next(ClassTables.Length)}" }
                    : null,
            Split = (string[])["storey", "class", "none", "storey+party"] is var all ? all[random.Next(4)] : "",
            Name = "{n}",
        };
    }

    [Fact]
    public async Task Preview_and_run_agree_on_random_orders()
    {
        await using var db = job.CreateDbContext();
        var library = new JobLibrary(db);
        for (int n = 0; n < ClassTables.Length; n++)
            await library.KeepAsync(
                job.Job.Id,
                LibraryKind.Classes,
                $"{n}",
                System.Text.Encoding.UTF8.GetBytes(
                    string.Join('\n', ClassTables[n].Prepend("class,predefined type,property,value,to"))
                ),
                job.Somebody,
                CancellationToken.None
            );
        var state = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
        var models = HeronWharf.Models.ToDictionary(
            d => d.Party,
            d =>
            {
                using var stream = new MemoryStream();
                d.Write(stream);
                return ModelSnapshot.Open(stream.ToArray());
            }
        );
        models["SNK"] = ModelSnapshot.Open(ModelSink.Bytes());
        var sources = state
            .Sources.Select(s => new HandoverSource(
                s.Source.Party.Code,
                s.Source.Name,
                models[s.Source.Party.Code],
                s.SetOut?.Frame
            ))
            .ToList();
        var random = new Random(8);
        int left = 0,
            sent = 0;
        for (int n = 0; n < 60; n++)
        {
            var document = Random(random);
            var preview = await OrderPreview.OfAsync(db, state, document, CancellationToken.None);
            var order = document.ToOrder(await library.LoadAsync(job.Job.Id, document, CancellationToken.None));
            var plan = HandoverPlan.Of(order, sources, state.Schedule);
            var target = Target.Of(order);
            var reasons = new SortedDictionary<string, int>(StringComparer.Ordinal);
            int goes = 0;
            var included = (Elements: 0, Annotations: 0, Rooms: 0);
            for (int s = 0; s < sources.Count; s++)
            {
                foreach (var element in sources[s].Snapshot.Elements)
                {
                    bool shaped = sources[s].Snapshot.BodyOf(element) is not null;
                    bool drawn = !shaped && !sources[s].Snapshot.Shapes.ForPlan(element.Index).IsEmpty;
                    if ((plan.Decisions[s][element.Number] ?? target.CannotHold(shaped, drawn)) is { } reason)
                        reasons[reason] = reasons.GetValueOrDefault(reason) + 1;
                    else
                    {
                        goes++;
                        if (element.Class == "IfcSpace")
                            included.Rooms++;
                        else if (shaped)
                            included.Elements++;
                        else
                            included.Annotations++;
                    }
                }
            }

            string about = document.Write();
            Assert.True(
                reasons.SequenceEqual(
                    preview.Reasons.ToDictionary(r => r.Name, r => r.Count).OrderBy(r => r.Key, StringComparer.Ordinal)
                ),
                $"{about}\n{string.Join(", ", reasons)}\n{string.Join(", ", preview.Reasons)}"
            );
            Assert.Equal(new KindCounts(included.Elements, included.Annotations, included.Rooms), preview.Included);
            Assert.Equal(goes, preview.Rows.Sum(r => r.In - r.Out));
            (left, sent) = (left + reasons.Values.Sum(), sent + goes);
        }

        Assert.True(left > 5000 && sent > 5000);
    }

    [Fact]
    public async Task The_names_of_storeys_that_a_table_gives_are_in_the_preview()
    {
        await using var db = job.CreateDbContext();
        await new JobLibrary(db).KeepAsync(
            job.Job.Id,
            LibraryKind.Names,
            "Same",
            "kind,from,to\nstorey,Gallery,L1\nstorey,Concourse,L1\n"u8.ToArray(),
            job.Somebody,
            CancellationToken.None
        );
        var state = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
        var document = Orders.Everything with
        {
            Sources = [state.Sources.First(s => s.Source.Party.Code == "ARC").Source.Id.ToString()],
            Name = "{storey}",
        };
        Assert.Null((await OrderPreview.OfAsync(db, state, document, CancellationToken.None)).Problem);
        // Two storeys of one name would be two files of one name: said before anything is written.
        var renamed = document with { Tables = new OrderTables { Names = "Same" } };
        Assert.Contains(
            "two files the name 'L1'",
            (await OrderPreview.OfAsync(db, state, renamed, CancellationToken.None)).Problem,
            StringComparison.Ordinal
        );
    }
}
