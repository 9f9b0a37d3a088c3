using System.Text;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>The demo's amendments: a door schedule that is filled in, sources that let different people amend different things, and
/// amendments that the architect's next revision settles, contradicts and leaves without their element.</summary>
/// <param name="db">The database.</param>
/// <param name="editing">Makes them.</param>
/// <param name="library">Keeps the template.</param>
internal sealed class DemoAmendments(LintelDb db, AmendmentEditing editing, JobLibrary library)
{
    private const string Schedule = "Door schedule";

    private static readonly TemplateDocument Doors = new()
    {
        Sets =
        [
            new PropertySetTemplate
            {
                Name = "Pset_DoorCommon",
                Classes = ["IfcDoor"],
                Properties =
                [
                    new PropertyTemplate
                    {
                        Name = "FireRating",
                        Description = "Fire resistance by the fire concept.",
                        Words = ["none", "EI 30", "EI 60", "EI 90"],
                        Form = "choice",
                        Required = true,
                    },
                    new PropertyTemplate { Name = "SelfClosing", Type = "IfcBoolean" },
                ],
            },
            new PropertySetTemplate
            {
                Name = Schedule,
                Classes = ["IfcDoor"],
                Properties =
                [
                    new PropertyTemplate
                    {
                        Name = "Clear width",
                        Type = "IfcLengthMeasure",
                        Unit = "mm",
                    },
                    new PropertyTemplate
                    {
                        Name = "Handing",
                        Words = ["left", "right"],
                        Form = "choice",
                    },
                    new PropertyTemplate
                    {
                        Name = "Cost",
                        Type = "IfcReal",
                        NotForExchange = true,
                    },
                    new PropertyTemplate { Name = "Manufacturer" },
                    new PropertyTemplate
                    {
                        Name = "Remark",
                        Words = ["seen", "to change", "agreed"],
                        Form = "choice",
                    },
                ],
            },
        ],
    };

    /// <summary>Makes them, once the first models are read.</summary>
    public async Task MakeAsync(Actor by, CancellationToken cancel)
    {
        var job = await db.Jobs.FirstAsync(j => j.Code == "HW", cancel);
        if (await db.Amendments.AnyAsync(a => a.Source.JobId == job.Id, cancel))
            return;
        await library.KeepAsync(
            job.Id,
            LibraryKind.Template,
            Schedule,
            Encoding.UTF8.GetBytes(Doors.Write()),
            by,
            cancel
        );
        var source = await db.Sources.FirstAsync(s => s.JobId == job.Id && s.Name == "Architecture", cancel);
        var who = new JobPermissions(MemberRole.Coordinator, null, false, false);
        var elements = await db
            .Elements.AsNoTracking()
            .Where(e => db.Revisions.Any(r => r.Id == e.RevisionId && r.SourceId == source.Id))
            .Where(e => e.Class == "IfcDoor" || e.Class == "IfcStairFlight" || e.Class == "IfcRailing")
            .OrderBy(e => e.Number)
            .Select(e => new { e.GlobalId, e.Class })
            .ToListAsync(cancel);
        string[] Of(string type) => [.. elements.Where(e => e.Class == type).Select(e => e.GlobalId)];
        await SaveAsync("fire concept, revision C", Fire(Of("IfcDoor")));
        await SaveAsync("door schedule, first pass", Filled(Of("IfcDoor")));
        await SaveAsync("packages by tender", Packages(Of("IfcStairFlight"), Of("IfcRailing")));
        await ProtectAsync(job, by, cancel);

        Task SaveAsync(string why, IEnumerable<Amendment> amendments) =>
            editing.SaveAsync(
                job.Id,
                who,
                [.. amendments.Select(a => new AmendmentWish(source.Id, a, null))],
                Doors,
                why,
                by,
                false,
                cancel
            );
    }

    private static IEnumerable<Amendment> Fire(string[] doors) =>
        doors.Take(12).Select((d, n) => Value(d, "Pset_DoorCommon", "FireRating", n % 3 == 0 ? "EI 60" : "EI 30"));

    private static IEnumerable<Amendment> Filled(string[] doors)
    {
        for (int n = 0; n < Math.Min(8, doors.Length); n++)
        {
            yield return Value(doors[n], Schedule, "Clear width", n % 4 == 3 ? "1.2 m" : "900");
            yield return Value(doors[n], Schedule, "Handing", n % 2 == 0 ? "left" : "right");
            if (n < 3)
                yield return Value(doors[n], Schedule, "Cost", FormattableString.Invariant($"{410 + (n * 105)}"));
        }

        yield return Value(doors[0], Schedule, "Remark", "to change");
        yield return new Amendment
        {
            Element = doors[0],
            Do = "mark",
            Value = "D-101",
        };
    }

    // The next revision gives the package of stair flights as S2, and has no railings.
    private static IEnumerable<Amendment> Packages(string[] flights, string[] railings)
    {
        yield return Value(flights[0], "HW_Handover", "Package", "S2");
        yield return Value(flights[1], "HW_Handover", "Package", "S1");
        yield return Value(railings[0], "HW_Handover", "Package", "S3");
    }

    private static Amendment Value(string element, string set, string name, string value) =>
        new()
        {
            Element = element,
            Set = set,
            Name = name,
            Value = value,
        };

    private async Task ProtectAsync(Job job, Actor by, CancellationToken cancel)
    {
        var words = new Dictionary<string, SourceProtection>
        {
            ["ARC"] = new() { Coordinator = "facts" },
            ["STR"] = new() { Coordinator = "all" },
            ["SRV"] = new() { Coordinator = "properties" },
            ["CIV"] = new() { Coordinator = "nothing" },
        };
        foreach (var source in await db.Sources.Include(s => s.Party).Where(s => s.JobId == job.Id).ToListAsync(cancel))
            if (words.TryGetValue(source.Party.Code, out var protection))
                source.Protection = protection.Write();
        db.Note(by, job.Id, "changed who may amend", "each party's sources, as the parties asked for it");
        await db.SaveChangesAsync(cancel);
    }
}
