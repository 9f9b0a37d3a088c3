using System.Text;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>What is said beside the files of a job: by whom, over what, through which revisions, into which orders.</summary>
public class AmendmentJobTests(JobFixture job) : IClassFixture<JobFixture>
{
    private static readonly CancellationToken None = CancellationToken.None;

    private static readonly JobPermissions Coordinator = new(MemberRole.Coordinator, null, false, false);

    private static byte[] Architecture(Func<string, string>? change = null)
    {
        using var stream = new MemoryStream();
        HeronWharf.Models[0].Write(stream);
        string text = Encoding.Latin1.GetString(stream.ToArray());
        return Encoding.Latin1.GetBytes(change?.Invoke(text) ?? text);
    }

    private static AmendmentEditing Editing(LintelDb db, JobFixture job) => new(db, new ReadAgain(db, job));

    private async Task<(Guid Source, string[] Doors)> SourceAsync(string name)
    {
        await job.DeliverAsync("ARC", name, Architecture());
        await using var db = job.CreateDbContext();
        var source = await db.Sources.SingleAsync(s => s.Name == name);
        var doors = await db
            .Elements.Where(e =>
                e.Class == "IfcDoor" && db.Revisions.Any(r => r.Id == e.RevisionId && r.SourceId == source.Id)
            )
            .OrderBy(e => e.Number)
            .Select(e => e.GlobalId)
            .Take(4)
            .ToArrayAsync();
        return (source.Id, doors);
    }

    private static Amendment Fire(string door, string value) =>
        new()
        {
            Element = door,
            Set = "Pset_DoorCommon",
            Name = "FireRating",
            Value = value,
        };

    private async Task SaveAsync(Guid source, params Amendment[] amendments)
    {
        await using var db = job.CreateDbContext();
        var known = await new AmendmentQuery(db).InForceAsync(source, None);
        await Editing(db, job)
            .SaveAsync(
                job.Job.Id,
                Coordinator,
                [
                    .. amendments.Select(a => new AmendmentWish(
                        source,
                        a,
                        known.TryGetValue(a.Subject, out var id) ? id : null
                    )),
                ],
                null,
                "test",
                job.Somebody,
                false,
                None
            );
        await job.WorkAsync();
    }

    private async Task<Dictionary<string, AmendmentRow>> RowsAsync(Guid source)
    {
        await using var db = job.CreateDbContext();
        return await db
            .Amendments.AsNoTracking()
            .Where(a => a.SourceId == source && a.Step != AmendmentStep.Replaced)
            .ToDictionaryAsync(a => a.Element);
    }

    private async Task<ElementRow> ElementAsync(Guid source, string id)
    {
        await using var db = job.CreateDbContext();
        return await db
            .Elements.AsNoTracking()
            .Where(e => e.GlobalId == id && db.Revisions.Any(r => r.Id == e.RevisionId && r.SourceId == source))
            .OrderByDescending(e => db.Revisions.First(r => r.Id == e.RevisionId).Number)
            .FirstAsync();
    }

    [Fact]
    public async Task An_amendment_is_in_the_stored_elements_and_the_report_is_as_it_came()
    {
        var (source, doors) = await SourceAsync("Amended");
        await SaveAsync(
            source,
            Fire(doors[0], "EI 60"),
            new Amendment
            {
                Element = doors[0],
                Do = "name",
                Value = "D-101",
            },
            new Amendment { Element = doors[1], Do = "leave out" }
        );
        await using var db = job.CreateDbContext();
        var row = await ElementAsync(source, doors[0]);
        Assert.Equal("D-101", row.Name);
        var facts = await IntakeStore.FactsAsync(db, row, None);
        Assert.Equal(
            "EI 60",
            facts.Sets.Single(s => s.Name == "Pset_DoorCommon").Properties.Single(p => p.Name == "FireRating").Value
        );
        Assert.True((await ElementAsync(source, doors[1])).LeftOut);
        Assert.All(await db.Amendments.Where(a => a.SourceId == source).ToListAsync(), a =>
            Assert.Equal(AmendmentStep.Holds, a.Step)
        );
        var revision = await db.Revisions.SingleAsync(r => r.SourceId == source);
        Assert.DoesNotContain("D-101", revision.Report, StringComparison.Ordinal);
        Assert.Equal(1, revision.Amendments);
        // Withdrawn, everything is as the file has it.
        await Editing(db, job)
            .WithdrawAsync(
                job.Job.Id,
                Coordinator,
                await db.Amendments.Where(a => a.SourceId == source).Select(a => a.Id).ToListAsync(),
                job.Somebody,
                None
            );
        await job.WorkAsync();
        Assert.Equal("Door 3", (await ElementAsync(source, doors[0])).Name);
        Assert.False((await ElementAsync(source, doors[1])).LeftOut);
    }

    private async Task<string> RatingAsync(LintelDb db, Guid source, string door) =>
        (await IntakeStore.FactsAsync(db, await ElementAsync(source, door), None))
            .Sets[0]
            .Properties.Single(p => p.Name == "FireRating")
            .Value;

    [Fact]
    public async Task The_next_revision_settles_contradicts_or_leaves_them_without_their_element()
    {
        var (source, doors) = await SourceAsync("Next");
        await SaveAsync(source, [.. doors.Select((d, n) => Fire(d, n == 0 ? "EI 60" : "EI 30"))]);
        // The sender does the same for the first, something else for the second, and has no third.
        var model = ModelSnapshot.Open(Architecture());
        var theirs = AmendedModel.Of(model, [Fire(doors[0], "EI 60"), Fire(doors[1], "EI 90")], DateTime.UnixEpoch);
        string text = Encoding
            .Latin1.GetString(theirs.Snapshot.Model.File.Bytes.Span)
            .Replace($"IFCDOOR('{doors[2]}'", "IFCDOOR('3zzzzzzzzzzzzzzzzzzzzz'", StringComparison.Ordinal);
        await job.DeliverAsync("ARC", "Next", Encoding.Latin1.GetBytes(text));
        var rows = await RowsAsync(source);
        Assert.Equal(AmendmentStep.Settled, rows[doors[0]].Step);
        Assert.Equal(AmendmentStep.Contradicts, rows[doors[1]].Step);
        Assert.Equal("EI 90", SourceAmendments.FileOf(rows[doors[1]])!.Text);
        // The third is the same door under another GlobalId: it is found, and still holds.
        Assert.Equal(AmendmentStep.Holds, rows["3zzzzzzzzzzzzzzzzzzzzz"].Step);
        Assert.Equal(AmendmentStep.Holds, rows[doors[3]].Step);
        await using var db = job.CreateDbContext();
        Assert.Equal(1, await AmendmentQuery.WaitingAsync(db, job.Job.Id, None));
        // What contradicts is not applied until somebody decides; then ours holds over what the file says now.
        Assert.Equal("EI 90", await RatingAsync(db, source, doors[1]));
        await Editing(db, job).KeepOursAsync(job.Job.Id, Coordinator, [rows[doors[1]].Id], job.Somebody, None);
        await job.WorkAsync();
        Assert.Equal("EI 30", await RatingAsync(db, source, doors[1]));
        Assert.Equal(AmendmentStep.Holds, (await RowsAsync(source))[doors[1]].Step);
        await Assert.ThrowsAsync<RefusedException>(() =>
            Editing(db, job).TakeTheirsAsync(job.Job.Id, Coordinator, [rows[doors[1]].Id], job.Somebody, None)
        );
    }

    [Fact]
    public async Task Of_two_people_who_say_something_at_once_the_second_learns_of_the_first()
    {
        var (source, doors) = await SourceAsync("Two");
        async Task<Exception?> TryAsync(string value, Guid? over)
        {
            await using var db = job.CreateDbContext();
            return await Record.ExceptionAsync(() =>
                Editing(db, job)
                    .SaveAsync(
                        job.Job.Id,
                        Coordinator,
                        [new AmendmentWish(source, Fire(doors[0], value), over)],
                        null,
                        "",
                        job.Somebody,
                        false,
                        None
                    )
            );
        }

        var both = await Task.WhenAll(TryAsync("EI 30", null), TryAsync("EI 60", null));
        Assert.Single(both, e => e is null);
        var refused = Assert.IsType<RefusedException>(both.Single(e => e is not null));
        Assert.Equal(RefusalKind.Conflict, refused.Kind);
        var rows = await RowsAsync(source);
        Assert.Null(await TryAsync("EI 90", rows[doors[0]].Id));
        Assert.IsType<RefusedException>(await TryAsync("EI 120", rows[doors[0]].Id));
        await job.WorkAsync();
    }

    [Theory]
    [InlineData("nothing", "property", false)]
    [InlineData("properties", "property", true)]
    [InlineData("properties", "name", false)]
    [InlineData("facts", "name", true)]
    [InlineData("facts", "move", false)]
    [InlineData("all", "move", true)]
    public async Task A_source_says_what_coordinators_may_amend_and_the_rest_can_be_asked_for(
        string reach,
        string kind,
        bool may
    )
    {
        var (source, doors) = await SourceAsync($"Protected {reach} {kind}");
        await using var db = job.CreateDbContext();
        var row = await db.Sources.SingleAsync(s => s.Id == source);
        row.Protection = new SourceProtection { Coordinator = reach }.Write();
        await db.SaveChangesAsync();
        var amendment = kind switch
        {
            "property" => Fire(doors[0], "EI 60"),
            "name" => new Amendment
            {
                Element = doors[0],
                Do = "name",
                Value = "N",
            },
            _ => new Amendment
            {
                Element = doors[0],
                Do = "move",
                X = 1,
            },
        };
        Task<(int, int)> SaveAsync(JobPermissions who, bool ask) =>
            Editing(db, job)
                .SaveAsync(
                    job.Job.Id,
                    who,
                    [new AmendmentWish(source, amendment, null)],
                    null,
                    "",
                    job.Somebody,
                    ask,
                    None
                );
        if (may)
        {
            Assert.Equal((1, 0), await SaveAsync(Coordinator, false));
            await job.WorkAsync();
            return;
        }

        var e = await Assert.ThrowsAsync<RefusedException>(() => SaveAsync(Coordinator, false));
        Assert.Equal(RefusalKind.Forbidden, e.Kind);
        Assert.Contains("You can ask ARC", e.Message, StringComparison.Ordinal);
        db.ChangeTracker.Clear();
        Assert.Equal((0, 1), await SaveAsync(Coordinator, true));
        var request = (await RowsAsync(source))[doors[0]];
        Assert.Equal(AmendmentStep.Requested, request.Step);
        // Only the owning party answers.
        await Assert.ThrowsAsync<RefusedException>(() =>
            Editing(db, job).AcceptAsync(job.Job.Id, Coordinator, [request.Id], job.Somebody, None)
        );
        db.ChangeTracker.Clear();
        var owner = new JobPermissions(MemberRole.Contributor, row.PartyId, false, false);
        await Editing(db, job).AcceptAsync(job.Job.Id, owner, [request.Id], job.Somebody, None);
        await job.WorkAsync();
        Assert.Equal(AmendmentStep.Holds, (await RowsAsync(source))[doors[0]].Step);
    }

    [Fact]
    public void Readers_recipients_other_parties_and_archived_jobs_amend_nothing()
    {
        var party = Guid.NewGuid();
        var protection = new SourceProtection();
        foreach (var role in (MemberRole[])[MemberRole.Reader, MemberRole.Recipient])
            Assert.False(
                new JobPermissions(role, party, true, false).MayAmend(party, protection, AmendmentReach.Properties)
            );
        Assert.True(
            new JobPermissions(MemberRole.Contributor, party, false, false).MayAmend(
                party,
                protection,
                AmendmentReach.All
            )
        );
        Assert.False(
            new JobPermissions(MemberRole.Contributor, Guid.NewGuid(), false, false).MayAmend(
                party,
                protection,
                AmendmentReach.Properties
            )
        );
        Assert.False(
            new JobPermissions(MemberRole.Coordinator, null, false, true).MayAmend(
                party,
                protection,
                AmendmentReach.Properties
            )
        );
    }

    [Fact]
    public async Task An_order_becomes_stale_carries_them_and_can_leave_them_out()
    {
        var (source, doors) = await SourceAsync("Ordered");
        await using var db = job.CreateDbContext();
        var orders = new Orders(db, job, job.Options, new StorageQuota(db, new StorageQuotaOptions()));
        async Task<OrderRow> OrderAsync(bool? carries)
        {
            int number = await orders.CreateAsync(job.Job.Id, job.Somebody, None);
            var order = await db.Orders.SingleAsync(o => o.JobId == job.Job.Id && o.Number == number);
            await orders.SaveAsync(
                order,
                "All",
                Orders.Everything with
                {
                    Sources = [source.ToString()],
                    Amendments = carries,
                },
                job.Somebody,
                None
            );
            await orders.RunAsync(order, job.Somebody, None);
            await job.WorkAsync();
            return order;
        }

        var (with, without) = (await OrderAsync(null), await OrderAsync(false));
        await SaveAsync(source, Fire(doors[0], "EI 60"));
        var state = await JobState.LoadAsync(db, job.Job.Id, None);
        var stale = await Staleness.OfAsync(db, state, None);
        Assert.Contains("the amendments of", Assert.Single(stale[with.Id]), StringComparison.Ordinal);
        Assert.DoesNotContain(without.Id, stale.Keys);
        foreach (var order in (OrderRow[])[with, without])
            await orders.RunAsync(order, job.Somebody, None);
        await job.WorkAsync();
        async Task<Transmittal> LastAsync(OrderRow order) =>
            await db
                .Transmittals.AsNoTracking()
                .Where(t => t.OrderId == order.Id)
                .OrderByDescending(t => t.Number)
                .FirstAsync();
        var (carried, plain) = (await LastAsync(with), await LastAsync(without));
        Assert.True(carried.Balanced, carried.Sentence);
        Assert.Contains(ModelLedger.AmendedRule, carried.Result, StringComparison.Ordinal);
        Assert.DoesNotContain(ModelLedger.AmendedRule, plain.Result, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_grid_shows_four_states_apart_and_a_table_comes_back_as_its_differences()
    {
        var (source, doors) = await SourceAsync("Grid");
        await SaveAsync(
            source,
            Fire(doors[0], "EI 60"),
            new Amendment
            {
                Element = doors[1],
                Set = "Pset_DoorCommon",
                Name = "SelfClosing",
                Value = "",
            }
        );
        await using var db = job.CreateDbContext();
        var template = new TemplateDocument
        {
            Sets =
            [
                new PropertySetTemplate
                {
                    Name = "Pset_DoorCommon",
                    Classes = ["IfcDoor"],
                    Properties =
                    [
                        new PropertyTemplate { Name = "FireRating", Required = true },
                        new PropertyTemplate { Name = "SelfClosing", Type = "IfcBoolean" },
                        new PropertyTemplate { Name = "Own", Type = "IfcInteger" },
                    ],
                },
            ],
        };
        var library = new JobLibrary(db);
        var state = await JobState.LoadAsync(db, job.Job.Id, None);
        var grid = await new PropertyGridQuery(db, library, new AmendmentQuery(db)).LoadAsync(
            state,
            template,
            new GridWish
            {
                Rules =
                [
                    new OrderRule
                    {
                        Do = "only",
                        What = "source",
                        Are = ["Grid"],
                    },
                ],
            },
            None
        );
        Assert.Equal(57, grid.Total);
        GridRow Row(string id) => grid.Rows.Single(r => r.GlobalId == id);
        Assert.Equal(
            ["EI 60", "–", "–"],
            [
                GridTable.Text(Row(doors[0]).Cells[0]),
                GridTable.Text(Row(doors[1]).Cells[1]),
                GridTable.Text(Row(doors[2]).Cells[0]),
            ]
        );
        Assert.Equal("", GridTable.Text(Row(doors[2]).Cells[2]));
        Assert.Equal(56, grid.Missing);
        // What comes back as it went changes nothing; what is typed wrongly is named by its row.
        var same = TableFile.Read(TableFile.WriteXlsx(GridTable.Rows(grid), "Grid"));
        var (edits, problems) = GridTable.Differences(grid, same);
        Assert.Equal((0, 0), (edits.Count, problems.Count));
        var rows = GridTable.Rows(grid).Select(r => r.ToArray()).ToList();
        int at = rows.FindIndex(r => (string?)r[0] == doors[2]);
        (rows[at][4], rows[at][6]) = ("EI 30", "many");
        (edits, problems) = GridTable.Differences(grid, TableFile.Read(TableFile.WriteCsv(rows)));
        Assert.Equal((doors[2], "FireRating", "EI 30"), (Assert.Single(edits).Element, edits[0].Name, edits[0].Value));
        Assert.Contains("'many' is no number", Assert.Single(problems), StringComparison.Ordinal);
    }
}
