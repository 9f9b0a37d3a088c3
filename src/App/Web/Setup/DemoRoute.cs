using System.Text;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>The demo as a job that is under way: parties in frames of their own, and next revisions, one of them with a jumped
/// frame.</summary>
/// <remarks>What lies elsewhere is written by the hand-over itself, as a sender with another origin would have exported it.</remarks>
internal sealed class DemoRoute(IServiceProvider services, ILogger<DemoRoute> log) : BackgroundService
{
    /// <summary>The services engineer's private origin: 12° turned and 100 ft low.</summary>
    public static readonly Frame ServicesFrame = FrameRewrite.Move(new Vec3(118.4, -63.2, -30.48), 12);

    /// <summary>Where the same model lies in its second revision: somebody moved the base point.</summary>
    private static readonly Frame JumpedFrame = FrameRewrite.Move(new Vec3(118.9, -61.7, 0), 12);

    private static readonly TimeSpan Look = TimeSpan.FromSeconds(1);

    /// <summary>What arrives first.</summary>
    public static IEnumerable<DemoDelivery> First =>
        HeronWharf
            .Deliveries.Select(d =>
                (d.Party, d.Source) switch
                {
                    ("SRV", _) => d with { Write = s => Elsewhere(d, ServicesFrame, s) },
                    ("STR", "Frame") => HeronWharf.FrameWithGrid,
                    _ => d,
                }
            )
            .Append(HeronWharf.QuayWall)
            .Concat(HeronWharf.Plans)
            .Concat(HeronWharf.Sheets);

    // What follows, once the first is read: else it might become the first revision.
    private static IEnumerable<DemoDelivery> Next =>
        [
            HeronWharf.Models[2] with
            {
                FileName = "HW-SRV-services-2.ifc",
                Write = s => Elsewhere(HeronWharf.Models[2], JumpedFrame, s),
            },
            HeronWharf.Models[0] with
            {
                FileName = "HW-ARC-terminal-2.ifc",
                Write = Changed,
            },
        ];

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await UntilAsync(() => ReadAsync(stoppingToken), stoppingToken);
        // Handed over and released before the next revisions come: it is stale then.
        await RunAsync(DemoOrders.All[^1].Title, stoppingToken);
        await AmendAsync(stoppingToken);
        await UntilAsync(() => AmendedAsync(stoppingToken), stoppingToken);
        foreach (var demo in Next)
        {
            await UntilAsync(() => IsDueAsync(demo, stoppingToken), stoppingToken);
            await SendAsync(demo, stoppingToken);
        }

        await UntilAsync(() => PlacedAsync(stoppingToken), stoppingToken);
        await SendAsync(HeronWharf.PlanAgain, stoppingToken);
        await SendAsync(Broken, stoppingToken);
        await UntilAsync(() => ReadAsync(stoppingToken), stoppingToken);
        await AskAsync(stoppingToken);
        await RunAsync(DemoOrders.All[0].Title, stoppingToken);
    }

    private async Task AskAsync(CancellationToken cancel)
    {
        await using var scope = services.CreateAsyncScope();
        await ActivatorUtilities.CreateInstance<DemoTopics>(scope.ServiceProvider).MakeAsync(cancel);
        if (scope.ServiceProvider.GetRequiredService<IConfiguration>().GetValue("TopicServers:StandIn", false))
            await ActivatorUtilities.CreateInstance<DemoSharing>(scope.ServiceProvider).MakeAsync(cancel);
    }

    private async Task AmendAsync(CancellationToken cancel)
    {
        await using var scope = services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<LintelDb>();
        var by = await db
            .Memberships.Where(m =>
                m.Role == MemberRole.Coordinator && db.Jobs.Any(j => j.Id == m.JobId && j.Code == "HW")
            )
            .Select(m => m.UserId)
            .FirstAsync(cancel);
        await ActivatorUtilities
            .CreateInstance<DemoAmendments>(scope.ServiceProvider)
            .MakeAsync(new Actor(by, ""), cancel);
    }

    private static async Task UntilAsync(Func<Task<bool>> holds, CancellationToken cancel)
    {
        while (!await holds())
            await Task.Delay(Look, cancel);
    }

    // Cut off on its way, as uploads are: it is held.
    private static DemoDelivery Broken =>
        HeronWharf.FrameWithGrid with
        {
            FileName = "HW-STR-frame-2.ifc",
            Write = s =>
            {
                using var whole = new MemoryStream();
                HeronWharf.FrameWithGrid.Write(whole);
                s.Write(whole.ToArray().AsSpan(0, (int)(whole.Length * 0.6)));
            },
        };

    private async Task<bool> ReadAsync(CancellationToken cancel)
    {
        await using var scope = services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<LintelDb>();
        return !await db.Deliveries.AnyAsync(
            d => d.State < DeliveryState.Ready && db.Jobs.Any(j => j.Id == d.Source.JobId && j.Code == "HW"),
            cancel
        );
    }

    // The newest model is read with what is said beside it.
    private async Task<bool> AmendedAsync(CancellationToken cancel)
    {
        await using var scope = services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<LintelDb>();
        return await ReadAsync(cancel)
            && !await db.Revisions.AnyAsync(
                r =>
                    r.Kind == RevisionKind.Model
                    && r.Amendments != r.Delivery.Source.Amendments
                    && db.Jobs.Any(j => j.Id == r.Delivery.Source.JobId && j.Code == "HW"),
                cancel
            );
    }

    private async Task RunAsync(string title, CancellationToken cancel)
    {
        await using var scope = services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<LintelDb>();
        var order = await db.Orders.FirstOrDefaultAsync(
            o => o.Title == title && db.Jobs.Any(j => j.Id == o.JobId && j.Code == "HW"),
            cancel
        );
        if (order is null || await db.Transmittals.AnyAsync(t => t.OrderId == order.Id, cancel))
            return;
        try
        {
            await scope
                .ServiceProvider.GetRequiredService<Orders>()
                .RunAsync(order, new Actor(order.SavedBy, ""), cancel);
        }
        catch (RefusedException e)
        {
            log.LogWarning("The demo's order {Order} was not run: {Reason}", title, e.Message);
            return;
        }

        await UntilAsync(
            () => db.Transmittals.AnyAsync(t => t.OrderId == order.Id && t.State >= TransmittalState.Done, cancel),
            cancel
        );
    }

    // The architect's plan is scaled, prepared and placed; its next revision runs through the same steps.
    private async Task<bool> PlacedAsync(CancellationToken cancel)
    {
        var plan = HeronWharf.Plans[0];
        if (!await IsDueAsync(plan, cancel))
            return false;
        await using var scope = services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<LintelDb>();
        var source = await db
            .Sources.Include(s => s.Party)
            .FirstAsync(
                s =>
                    s.Name == plan.Source
                    && s.Party.Code == plan.Party
                    && db.Jobs.Any(j => j.Id == s.JobId && j.Code == "HW"),
                cancel
            );
        var state = await JobState.LoadAsync(db, source.JobId, cancel);
        if (state.Schedule.Rungs.FirstOrDefault(r => r.Name == "Concourse")?.Level is not { } level)
            return false;
        if (await db.SettingOuts.AnyAsync(s => s.SourceId == source.Id, cancel))
            return true;
        var by = await db
            .Memberships.Where(m => m.JobId == source.JobId && m.Role == MemberRole.Coordinator)
            .Select(m => m.UserId)
            .FirstAsync(cancel);
        await scope
            .ServiceProvider.GetRequiredService<SettingOuts>()
            .AcceptAsync(
                source,
                source.JobId,
                new SettingOutDocument
                {
                    Scale = 0.1,
                    ScaleEvidence = "dimensions",
                    Shift = [-6, -8, 0],
                    Level = level,
                    Why = "Its dimensions say that a unit is a tenth of a metre; its corner is A/1.",
                },
                new PreparationDocument
                {
                    Steps =
                    [
                        new PreparationStep
                        {
                            Do = "window",
                            Corners =
                            [
                                [10, 10],
                                [570, 350],
                            ],
                        },
                        new PreparationStep { Do = "drop", Layers = ["A-TTLB", "A-DIMS"] },
                    ],
                },
                1,
                new Actor(by, ""),
                cancel
            );
        return true;
    }

    private async Task<bool> IsDueAsync(DemoDelivery demo, CancellationToken cancel)
    {
        await using var scope = services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<LintelDb>();
        return await db.Revisions.AnyAsync(
            r =>
                r.Delivery.Source.Name == demo.Source
                && r.Delivery.Source.Party.Code == demo.Party
                && db.Jobs.Any(j => j.Id == r.Delivery.Source.JobId && j.Code == "HW"),
            cancel
        );
    }

    private async Task SendAsync(DemoDelivery demo, CancellationToken cancel)
    {
        await using var scope = services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<LintelDb>();
        var party = await db.Parties.FirstAsync(
            p => p.Code == demo.Party && db.Jobs.Any(j => j.Id == p.JobId && j.Code == "HW"),
            cancel
        );
        if (await db.Deliveries.AnyAsync(d => d.FileName == demo.FileName && d.Source.JobId == party.JobId, cancel))
            return;
        var by = await db
            .Memberships.Where(m => m.JobId == party.JobId && m.Role == MemberRole.Coordinator)
            .Select(m => m.UserId)
            .FirstAsync(cancel);
        using var bytes = new MemoryStream();
        demo.Write(bytes);
        bytes.Position = 0;
        await scope
            .ServiceProvider.GetRequiredService<Receiving>()
            .DeliverAsync(party, demo.Source, demo.FileName, bytes, new Actor(by, ""), cancel);
        log.LogInformation("The demo's {File} was sent", demo.FileName);
    }

    private static void Elsewhere(DemoDelivery demo, Frame frame, Stream target)
    {
        double turn = Math.Atan2(frame.X.Y, frame.X.X) * 180 / Math.PI;
        Write(
            demo,
            new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null)
            {
                Frame = new FrameChoice(FrameKind.Given, frame.Origin, turn),
            },
            b => b,
            target
        );
    }

    // A handful of changes, as docs of the demo list them.
    private static void Changed(Stream target) =>
        Write(
            HeronWharf.Models[0],
            new OrderDocument
            {
                Rules =
                [
                    new OrderRule
                    {
                        Do = "without",
                        What = "class",
                        Are = ["IfcRailing"],
                    },
                ],
                Changes =
                [
                    new OrderChange
                    {
                        Do = "set property",
                        From = "IfcStairFlight",
                        Key = "HW_Handover.Package",
                        To = "S2",
                    },
                ],
                Split = "none",
                Name = "{party}",
            }.ToOrder(),
            b => b.Replace("'Seat 010'", "'Seat 010, by the stair'", StringComparison.Ordinal),
            target
        );

    private static void Write(DemoDelivery demo, HandoverOrder order, Func<string, string> change, Stream target)
    {
        using var model = new MemoryStream();
        demo.Write(model);
        byte[] bytes = Encoding.Latin1.GetBytes(change(Encoding.Latin1.GetString(model.ToArray())));
        var files = new Files();
        var result = HandoverRunner.Run(
            new HandoverRun(order, [new HandoverSource(demo.Party, demo.Source, ModelSnapshot.Open(bytes))], files)
            {
                Job = "HW",
                TimeStamp = "2026-11-25T10:00:00",
            }
        );
        target.Write(files.Read(result.Files.Single().Name).Span);
    }

    private sealed class Files : IFileSet
    {
        private readonly Dictionary<string, MemoryStream> _files = [];

        public Stream Create(string name) => _files[name] = new MemoryStream();

        public ReadOnlyMemory<byte> Read(string name) => _files[name].ToArray();
    }
}
