using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Loads the demo job once: people, parties, sources and deliveries.</summary>
public sealed class DemoSeed(
    LintelDb db,
    UserManager<AppUser> users,
    Receiving receiving,
    JobLibrary library,
    Orders orders,
    IConfiguration configuration,
    ILogger<DemoSeed> log
)
{
    /// <summary>The password of all demo accounts, unless <c>Demo:Password</c> says another. Printed at start.</summary>
    public const string DefaultPassword = "heron-wharf-2026";

    /// <summary>Loads the demo unless it is there.</summary>
    public async Task RunAsync()
    {
        if (await db.Jobs.AnyAsync(j => j.Code == "HW"))
            return;
        var job = new Job
        {
            Id = Guid.NewGuid(),
            Code = "HW",
            Name = "Heron Wharf",
            Description = "Ferry terminal. Metres, levels from quay.",
        };
        // Okabe and Ito (2008), darkened until they read on paper as text (WCAG AA).
        job.Parties.AddRange([
            Party("ARC", "Architecture", "#0072b2"),
            Party("STR", "Structure", "#b84a00"),
            Party("SRV", "Services", "#00795a"),
        ]);
        if (IsRoute)
            job.Parties.Add(Party("CIV", "Civil works", "#8a4570"));
        // The parties agreed on the levels before the first model came.
        job.Levels = new LevelDocument
        {
            Levels =
            [
                .. HeronWharf
                    .Levels.OrderBy(l => l.Elevation)
                    .Select((l, n) => new JobLevel(n + 1, l.Name, l.Elevation, ByHand: true)),
            ],
        }.Write();
        // In this job a class of a few elements may go without anybody being asked.
        job.Settings = new JobSettings { Deliveries = DeliveryLimits.Default with { ClassSize = 20 } }.Write();
        db.Jobs.Add(job);
        await db.SaveChangesAsync();
        var coordinator = await UserAsync("coordinator@heron.example", "Coordinator");
        coordinator.IsAdministrator = true;
        await JoinAsync(job, coordinator, MemberRole.Coordinator, null);
        await JoinAsync(
            job,
            await UserAsync("services@heron.example", "Services, SRV"),
            MemberRole.Contributor,
            job.Parties[2].Id
        );
        await JoinAsync(job, await UserAsync("reader@heron.example", "Reader"), MemberRole.Reader, null);
        await JoinAsync(
            job,
            await UserAsync("recipient@heron.example", "Fabricator, STR"),
            MemberRole.Recipient,
            job.Parties[1].Id
        );
        await UserAsync("stranger@heron.example", "Stranger");
        foreach (var delivery in IsRoute ? DemoRoute.First : HeronWharf.Deliveries)
            await DeliverAsync(job, delivery, coordinator.Id);
        await SetOutAsync(job, coordinator.Id);
        if (IsRoute)
            await OrderAsync(job, new Actor(coordinator.Id, ""));
        log.LogInformation("The demo job {Job} was loaded", job.Name);
    }

    private static Party Party(string code, string discipline, string colour) =>
        new()
        {
            Id = Guid.NewGuid(),
            Code = code,
            Discipline = discipline,
            Colour = colour,
        };

    private async Task<AppUser> UserAsync(string email, string name)
    {
        if (await users.FindByEmailAsync(email) is { } known)
            return known;
        var user = new AppUser
        {
            Id = Guid.NewGuid(),
            UserName = email,
            Email = email,
            EmailConfirmed = true,
            DisplayName = name,
        };
        var created = await users.CreateAsync(user, configuration["Demo:Password"] ?? DefaultPassword);
        return created.Succeeded
            ? user
            : throw new InvalidOperationException(string.Join(" ", created.Errors.Select(e => e.Description)));
    }

    private async Task JoinAsync(Job job, AppUser user, MemberRole role, Guid? party)
    {
        db.Memberships.Add(
            new Membership
            {
                JobId = job.Id,
                UserId = user.Id,
                Role = role,
                PartyId = party,
            }
        );
        await db.SaveChangesAsync();
    }

    // Parties in frames of their own, and work that waits; tests of other stops do without.
    private bool IsRoute => configuration.GetValue("Demo:Route", false);

    // The parties agreed on one frame, and that was checked; services draws in another, which was fitted. What civil works sent waits.
    private async Task SetOutAsync(Job job, Guid by)
    {
        foreach (var source in await db.Sources.Include(s => s.Party).Where(s => s.JobId == job.Id).ToListAsync())
        {
            // Drawings are scaled and placed on a desk of their own.
            if (
                source.Party.Code == "CIV"
                || HeronWharf
                    .Drawings.Concat(HeronWharf.Plans)
                    .Concat(HeronWharf.Sheets)
                    .Any(d => d.Source == source.Name)
            )
                continue;
            bool reference = source.Party.Code == "ARC";
            var document =
                IsRoute && source.Party.Code == "SRV"
                    ? Fitted()
                    : SettingOutDocument.Identity with
                    {
                        Evidence = reference ? EvidenceKind.Reference : EvidenceKind.Typed,
                        Why = reference
                            ? "The architect's frame is the job's."
                            : "Agreed: all parties draw in the architect's frame.",
                    };
            db.SettingOuts.Add(
                new SettingOutRow
                {
                    Id = Guid.NewGuid(),
                    SourceId = source.Id,
                    Document = document.Write(),
                    AcceptedAt = DateTime.UtcNow,
                    AcceptedBy = by,
                }
            );
        }

        await db.SaveChangesAsync();
    }

    private async Task OrderAsync(Job job, Actor by)
    {
        foreach (var table in DemoOrders.Tables)
            await library.KeepAsync(
                job.Id,
                Enum.Parse<LibraryKind>(table.Kind, true),
                table.Name,
                System.Text.Encoding.UTF8.GetBytes(table.Csv),
                by,
                CancellationToken.None
            );
        // What civil works sent is not set out yet: nothing is ordered of it.
        var sources = await db
            .Sources.Where(s => s.JobId == job.Id && s.Party.Code != "CIV")
            .Select(s => new { s.Id, s.Name })
            .ToListAsync();
        string[] models =
        [
            .. sources.Where(s => HeronWharf.Models.Any(m => m.Source == s.Name)).Select(s => s.Id.ToString()),
        ];
        foreach (var demo in DemoOrders.All)
        {
            int number = await orders.CreateAsync(job.Id, by, CancellationToken.None);
            var order = await db.Orders.SingleAsync(o => o.JobId == job.Id && o.Number == number);
            await orders.SaveAsync(
                order,
                demo.Title,
                OrderDocument.Read(demo.Json) with
                {
                    Sources = models,
                },
                by,
                CancellationToken.None
            );
        }
    }

    private static SettingOutDocument Fitted()
    {
        var points = new[] { ("A / 1", 0, 0), ("G / 1", 48, 0), ("G / 4", 48, 24), ("C / 3", 16, 16) }
            .Select(p =>
                new Geometry.Vec3(p.Item2, p.Item3, 0) is var j
                    ? new ControlPoint(p.Item1, DemoRoute.ServicesFrame.Point(j), j)
                    : null!
            )
            .ToList();
        return SettingOutDocument.Of(
            SettingOutFit.Fit(points),
            points,
            EvidenceKind.Points,
            "Grid points that services named by e-mail."
        );
    }

    private async Task DeliverAsync(Job job, DemoDelivery demo, Guid by)
    {
        using var bytes = new MemoryStream();
        demo.Write(bytes);
        bytes.Position = 0;
        await receiving.DeliverAsync(
            job.Parties.First(p => p.Code == demo.Party),
            demo.Source,
            demo.FileName,
            bytes,
            new Actor(by, ""),
            CancellationToken.None
        );
    }
}
