using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>Orders again and again: what makes them stale, what is not written again, what is released and received; locks.</summary>
public class TransmittalIssueTests(JobFixture job) : IClassFixture<JobFixture>
{
    private readonly CancellationToken _none = CancellationToken.None;

    private Orders Orders(LintelDb db) => new(db, job, job.Options, new StorageQuota(db, new StorageQuotaOptions()));

    private async Task<OrderRow> OrderAsync(LintelDb db, OrderDocument document)
    {
        int number = await Orders(db).CreateAsync(job.Job.Id, job.Somebody, _none);
        var row = await db.Orders.SingleAsync(o => o.JobId == job.Job.Id && o.Number == number);
        await Orders(db).SaveAsync(row, "Again", document, job.Somebody, _none);
        return row;
    }

    private async Task<Transmittal> RunAsync(LintelDb db, OrderRow order)
    {
        Assert.True(await Orders(db).RunAsync(order, job.Somebody, _none));
        await job.WorkAsync();
        db.ChangeTracker.Clear();
        var run = await db
            .Transmittals.AsNoTracking()
            .Include(t => t.Files)
            .Where(t => t.OrderId == order.Id)
            .OrderByDescending(t => t.Number)
            .FirstAsync();
        Assert.True(run.State == TransmittalState.Done, run.Sentence);
        return run;
    }

    private async Task<IReadOnlyList<string>> StaleAsync(LintelDb db, OrderRow order) =>
        (await Staleness.OfAsync(db, await JobState.LoadAsync(db, job.Job.Id, _none), _none)).GetValueOrDefault(
            order.Id,
            []
        );

    private static byte[] Bytes(string text) => Encoding.UTF8.GetBytes(text);

    [Fact]
    public async Task Recipients_hear_of_a_release_once_and_who_has_not_confirmed_is_listed()
    {
        await using var db = job.CreateDbContext();
        var party = await db.Parties.SingleAsync(p => p.JobId == job.Job.Id && p.Code == "SRV");
        var person = new AppUser
        {
            Id = Guid.NewGuid(),
            UserName = "duct@site.example",
            Email = "duct@site.example",
            DisplayName = "Duct",
        };
        db.Users.Add(person);
        db.Memberships.Add(
            new Membership
            {
                JobId = job.Job.Id,
                UserId = person.Id,
                Role = MemberRole.Recipient,
                PartyId = party.Id,
            }
        );
        await db.SaveChangesAsync();
        var order = await OrderAsync(
            db,
            new OrderDocument
            {
                To = "SRV, workshop",
                Sources = [(await db.Sources.SingleAsync(s => s.Name == "Sink")).Id.ToString()],
                Name = "{source}",
            }
        );
        var run = await RunAsync(db, order);
        var mail = await db.Mails.SingleAsync(m => m.To == person.Email);
        Assert.Contains("transmittal 1 is ready", mail.Subject, StringComparison.Ordinal);
        Assert.Contains("Sink.ifc", mail.Text, StringComparison.Ordinal);
        Assert.Contains(Mailbox.Site + "/jobs/J/delivered", mail.Text, StringComparison.Ordinal);
        var handing = new TransmittalIssue(db);
        var waiting = (await handing.UnconfirmedAsync(job.Job.Id, [party], _none)).Single(w => w.Order == order.Number);
        Assert.Equal(
            (order.Number, 1, run.Files.Count, run.Files.Count),
            (waiting.Order, waiting.People, waiting.Open, waiting.Files)
        );
        // The same files again are no news.
        await RunAsync(db, await db.Orders.SingleAsync(o => o.Id == order.Id));
        Assert.Equal(1, await db.Mails.CountAsync(m => m.To == person.Email));
        var handed = (await handing.ToAsync(job.Job.Id, party, null, _none)).First(h => h.Order == order.Number);
        await handing.ConfirmAsync(job.Job.Id, handed, null, new Actor(person.Id, ""), _none);
        Assert.DoesNotContain(await handing.UnconfirmedAsync(job.Job.Id, [party], _none), w => w.Order == order.Number);
    }

    [Fact]
    public async Task An_order_says_what_has_changed_and_writes_only_that_again()
    {
        await using var db = job.CreateDbContext();
        var library = new JobLibrary(db);
        await library.KeepAsync(
            job.Job.Id,
            LibraryKind.Names,
            "Theirs",
            Bytes("kind,from,to\nstorey,One,01\n"),
            job.Somebody,
            _none
        );
        string sink = (await db.Sources.SingleAsync(s => s.Name == "Sink")).Id.ToString(),
            frame = (await db.Sources.SingleAsync(s => s.Name == "Frame")).Id.ToString();
        var document = new OrderDocument
        {
            To = "STR",
            Sources = [sink, frame],
            Tables = new OrderTables { Names = "Theirs" },
            Storeys = "job",
            Every = "revision",
            Name = "{source}",
        };
        var order = await OrderAsync(db, document);
        var first = await RunAsync(db, order);
        Assert.All(first.Files, f => Assert.Null(f.SameAs));
        Assert.Empty(await StaleAsync(db, order));

        // Nothing changed: the same files, nothing written.
        var second = await RunAsync(db, order);
        Assert.Equal(
            first.Files.Select(f => (f.Name, f.Sha256, f.BlobId)).Order(),
            second.Files.Select(f => (f.Name, f.Sha256, f.BlobId)).Order()
        );
        Assert.All(second.Files, f => Assert.Equal(1, f.SameAs));
        Assert.Equal(first.Result, second.Result);
        Assert.Equal(0, await Orders(db).RunDueAsync(_none));

        // A table changed: every file is written again; that of the source it says nothing of has the same bytes.
        await library.KeepAsync(
            job.Job.Id,
            LibraryKind.Names,
            "Theirs",
            Bytes("kind,from,to\nstorey,One,02\n"),
            job.Somebody,
            _none
        );
        Assert.Equal(["the name table Theirs changed"], await StaleAsync(db, order));
        Assert.Equal(0, await Orders(db).RunDueAsync(_none));

        // A revision came: the order says which, and runs by itself.
        await job.DeliverAsync(
            "SNK",
            "Sink",
            Bytes(Encoding.ASCII.GetString(ModelSink.Bytes()).Replace("'first'", "'second'", StringComparison.Ordinal))
        );
        Assert.Contains("SNK r2 came", await StaleAsync(db, order));
        Assert.Equal(1, await Orders(db).RunDueAsync(_none));
        await job.WorkAsync();
        db.ChangeTracker.Clear();
        order = await db.Orders.SingleAsync(o => o.Id == order.Id);
        Assert.Empty(await StaleAsync(db, order));
        var third = await db
            .Transmittals.AsNoTracking()
            .Include(t => t.Files)
            .SingleAsync(t => t.OrderId == order.Id && t.Number == 3);
        Assert.True(third.Balanced, third.Sentence);
        var compared = TransmittalComparison.Of(second, third);
        Assert.Contains("Sink.ifc", compared.Files.Changed);
        Assert.Equal(["SNK r2 came", "the name table Theirs changed"], compared.Why.Order(StringComparer.Ordinal));
        // The elements are the same; those of the storey that the table calls otherwise now moved.
        Assert.All(compared.Elements, c => Assert.True(c.Was == 0 || c.Is == 0));
        Assert.Equal(compared.Elements.Sum(c => c.Was), compared.Elements.Sum(c => c.Is));
        Assert.Empty(compared.Drawn);
        Assert.Equal(0, await Orders(db).RunDueAsync(_none));

        // The order itself.
        await Orders(db).SaveAsync(order, "Again", document with { Unit = "mm" }, job.Somebody, _none);
        Assert.Equal(["the order was changed"], await StaleAsync(db, order));
        var (started, refused) = await Orders(db).RunStaleAsync(job.Job.Id, job.Somebody, _none);
        Assert.True(started >= 1 && refused.Count == 0);
        await job.WorkAsync();
        Assert.Empty(await StaleAsync(db, order));
        // What an order names cannot be removed under it.
        Assert.Contains(
            "names the name table",
            (
                await Assert.ThrowsAsync<RefusedException>(() =>
                    library.RemoveAsync(job.Job.Id, LibraryKind.Names, "Theirs", job.Somebody, _none)
                )
            ).Message
        );
    }

    // The receiver's frame comes from a source that the order does not give.
    [Fact]
    public async Task A_receiver_that_is_set_out_anew_makes_an_order_stale_and_it_is_written_again()
    {
        await using var db = job.CreateDbContext();
        string sink = (await db.Sources.SingleAsync(s => s.Name == "Sink")).Id.ToString();
        async Task SetOut(double x, string name) =>
            await new SettingOuts(db).AcceptAsync(
                await db.Sources.Include(s => s.Party).SingleAsync(s => s.Name == name),
                job.Job.Id,
                SettingOutDocument.Identity with
                {
                    Shift = [x, 0, 0],
                },
                null,
                1,
                job.Somebody,
                _none
            );
        await SetOut(1, "Architecture");
        await SetOut(0, "Sink");
        var order = await OrderAsync(
            db,
            new OrderDocument
            {
                To = "ARC",
                Sources = [sink],
                Frame = "party",
                Name = "{source}",
            }
        );
        var first = await RunAsync(db, order);
        await SetOut(5, "Architecture");
        Assert.Equal(["a setting-out of the job changed"], await StaleAsync(db, order));
        var second = await RunAsync(db, order);
        Assert.Null(second.Files[0].SameAs);
        Assert.NotEqual(first.Files[0].Sha256, second.Files[0].Sha256);
        foreach (string name in (string[])["Architecture", "Sink"])
            await db
                .SettingOuts.Where(s => db.Sources.Any(o => o.Id == s.SourceId && o.Name == name))
                .ExecuteDeleteAsync();
    }

    [Fact]
    public async Task What_is_not_balanced_waits_for_a_signature_and_what_arrived_is_confirmed()
    {
        await using var db = job.CreateDbContext();
        var handing = new TransmittalIssue(db);
        var party = await db.Parties.SingleAsync(p => p.JobId == job.Job.Id && p.Code == "STR");
        string source = (await db.Sources.SingleAsync(s => s.Name == "Services")).Id.ToString();
        var order = await OrderAsync(
            db,
            new OrderDocument
            {
                To = "STR, office",
                Sources = [source],
                Rules = [new OrderRule { What = "storey", Are = ["Roof"] }],
                Name = "{source}",
            }
        );
        var run = await RunAsync(db, order);
        Assert.Single(await handing.ToAsync(job.Job.Id, party, run.Id, _none));
        var other = await db.Parties.SingleAsync(p => p.JobId == job.Job.Id && p.Code == "ARC");
        Assert.Empty(await handing.ToAsync(job.Job.Id, other, run.Id, _none));

        await db.Transmittals.Where(t => t.Id == run.Id).ExecuteUpdateAsync(u => u.SetProperty(t => t.Balanced, false));
        Assert.Empty(await handing.ToAsync(job.Job.Id, party, run.Id, _none));
        await Assert.ThrowsAsync<RefusedException>(() => handing.SignAsync(order, run.Id, " ", job.Somebody, _none));
        await handing.SignAsync(order, run.Id, "The missing sign is not theirs.", job.Somebody, _none);
        Assert.Contains(await db.Record.Select(r => r.Did).ToListAsync(), w =>
            w.Contains("released though not balanced", StringComparison.Ordinal)
        );
        await Assert.ThrowsAsync<RefusedException>(() =>
            handing.SignAsync(order, run.Id, "again", job.Somebody, _none)
        );

        var handed = Assert.Single(await handing.ToAsync(job.Job.Id, party, run.Id, _none));
        Assert.All(handed.Files, f => Assert.Null(f.ReceivedAt));
        var user = new AppUser
        {
            Id = Guid.NewGuid(),
            UserName = "r@x",
            Email = "r@x",
            DisplayName = "R",
        };
        db.AddRange(
            user,
            new Membership
            {
                JobId = job.Job.Id,
                UserId = user.Id,
                Role = MemberRole.Recipient,
                PartyId = party.Id,
            }
        );
        await db.SaveChangesAsync();
        await handing.ConfirmAsync(job.Job.Id, handed, null, new Actor(user.Id, ""), _none);
        await handing.ConfirmAsync(job.Job.Id, handed, null, new Actor(user.Id, ""), _none);
        Assert.All((await handing.ToAsync(job.Job.Id, party, run.Id, _none))[0].Files, f =>
            Assert.NotNull(f.ReceivedAt)
        );
        // Confirmed by somebody of another party is not received by this one.
        db.Memberships.RemoveRange(db.Memberships.Where(m => m.UserId == user.Id));
        await db.SaveChangesAsync();
        Assert.All((await handing.ToAsync(job.Job.Id, party, run.Id, _none))[0].Files, f => Assert.Null(f.ReceivedAt));
    }

    [Fact]
    public async Task An_order_that_cannot_run_says_why_and_does_not()
    {
        await using var db = job.CreateDbContext();
        string arc = (await db.Sources.SingleAsync(s => s.Name == "Architecture")).Id.ToString();
        async Task<string> Refused(OrderDocument document)
        {
            var order = await OrderAsync(db, document);
            string message = (
                await Assert.ThrowsAsync<RefusedException>(() => Orders(db).RunAsync(order, job.Somebody, _none))
            ).Message;
            Assert.False(await db.Transmittals.AnyAsync(t => t.OrderId == order.Id));
            return message;
        }

        Assert.Contains(
            "two files the name 'J'",
            await Refused(new OrderDocument { Split = "storey+class", Name = "{job}" }),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "There is no set 'Plant'",
            await Refused(
                new OrderDocument { Rules = [new OrderRule { What = "set", Are = ["Plant"] }], Name = "{source}" }
            ),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "does not have any more",
            await Refused(new OrderDocument { Sources = [Guid.NewGuid().ToString()], Name = "{source}" }),
            StringComparison.Ordinal
        );
        await new SettingOuts(db).AcceptAsync(
            await db.Sources.Include(s => s.Party).SingleAsync(s => s.Name == "Services"),
            job.Job.Id,
            SettingOutDocument.Identity,
            null,
            1,
            job.Somebody,
            _none
        );
        Assert.Contains(
            "not set out",
            await Refused(new OrderDocument { Frame = "job", Name = "{source}" }),
            StringComparison.Ordinal
        );
        await db
            .Sources.Where(s => s.Id == Guid.Parse(arc))
            .ExecuteUpdateAsync(u => u.SetProperty(s => s.RetiredAt, DateTime.UtcNow));
        Assert.Contains(
            "was taken out of use",
            await Refused(new OrderDocument { Sources = [arc], Name = "{source}" }),
            StringComparison.Ordinal
        );
        await db
            .Sources.Where(s => s.Id == Guid.Parse(arc))
            .ExecuteUpdateAsync(u => u.SetProperty(s => s.RetiredAt, (DateTime?)null));
    }

    [Fact]
    public async Task A_contradicting_table_is_not_kept_and_names_are_matched_with_the_best_alike()
    {
        await using var db = job.CreateDbContext();
        var library = new JobLibrary(db);
        string refused = (
            await Assert.ThrowsAsync<RefusedException>(() =>
                library.KeepAsync(
                    job.Job.Id,
                    LibraryKind.Layers,
                    "Bad",
                    Bytes("class,layer\nIfcWall,A\nIfcWall,B\n,C\n"),
                    job.Somebody,
                    _none
                )
            )
        ).Message;
        Assert.Contains("Row 3", refused, StringComparison.Ordinal);
        Assert.Contains("Row 4", refused, StringComparison.Ordinal);
        Assert.DoesNotContain(await library.ListAsync(job.Job.Id, _none), i => i.Name == "Bad");
        foreach (var starter in StarterTables.All)
            await library.KeepAsync(job.Job.Id, starter.Kind, starter.Name, starter.ToCsv(), job.Somebody, _none);

        await library.KeepAsync(
            job.Job.Id,
            LibraryKind.Names,
            "Matched",
            Bytes("kind,from,to\nstorey,,Galery\nstorey,,Roof 02\nmaterial,,Steel S 355\n"),
            job.Somebody,
            _none
        );
        var matching = new NameMatching(db, library);
        var state = await JobState.LoadAsync(db, job.Job.Id, _none);
        async Task<NameTable> Table() =>
            NameTable.Read(
                TableFile.Read((await library.ContentAsync(job.Job.Id, LibraryKind.Names, "Matched", _none))!)
            );
        var open = await matching.OpenAsync(state, await Table(), _none);
        var gallery = open.Single(u => u is { Kind: NameKind.Storey, Name: "Gallery" });
        Assert.Equal("Galery", gallery.Best!.Value.Receiver);
        Assert.True(gallery.Count > 100);
        Assert.Equal(
            "Steel S 355",
            open.Single(u => u is { Kind: NameKind.Material, Name: "Steel S355" }).Best!.Value.Receiver
        );
        await matching.ConfirmAsync(
            job.Job.Id,
            "Matched",
            [(NameKind.Storey, "Gallery", "Galery")],
            job.Somebody,
            _none
        );
        Assert.Equal("Galery", (await Table()).Find(NameKind.Storey, "Gallery"));
        Assert.DoesNotContain(await matching.OpenAsync(state, await Table(), _none), u => u.Name == "Gallery");
        Assert.Equal(2, (await library.ListAsync(job.Job.Id, _none)).Single(i => i.Name == "Matched").Version);
    }

    [Fact]
    public async Task A_locked_source_takes_nobody_elses_delivery()
    {
        await using var db = job.CreateDbContext();
        var party = await db.Parties.SingleAsync(p => p.JobId == job.Job.Id && p.Code == "SRV");
        var source = await db.Sources.AsNoTracking().SingleAsync(s => s.Name == "Services");
        var locks = new SourceLocks(db);
        var other = new Actor(Guid.NewGuid(), "");
        await locks.LockAsync(job.Job.Id, source.Id, "ducts are being moved", job.Somebody, _none);
        db.ChangeTracker.Clear();
        var refused = await Assert.ThrowsAsync<RefusedException>(() =>
            job.Receiving(db).BeginAsync(party, "Services", "a.ifc", 10, other, _none)
        );
        Assert.Contains("ducts are being moved", refused.Message, StringComparison.Ordinal);
        await Assert.ThrowsAsync<RefusedException>(() => locks.LockAsync(job.Job.Id, source.Id, "", other, _none));
        await Assert.ThrowsAsync<RefusedException>(() => locks.UnlockAsync(job.Job.Id, source.Id, false, other, _none));
        var own = await job.Receiving(db).BeginAsync(party, "Services", "a.ifc", 10, job.Somebody, _none);
        await db.Deliveries.Where(d => d.Id == own.Id).ExecuteDeleteAsync();
        // A coordinator breaks it, and the record says whose it was.
        await locks.UnlockAsync(job.Job.Id, source.Id, true, other, _none);
        Assert.Contains(await db.Record.Select(r => r.Did).ToListAsync(), w =>
            w.Contains("broke the lock", StringComparison.Ordinal)
        );
        var lines = await SourceLine.ListAsync(db, job.Job.Id, "state", _none);
        Assert.Equal(lines.Select(l => l.Standing).Order(), lines.Select(l => l.Standing));
        Assert.All(lines, l => Assert.Null(l.LockedBy));
    }

    [Fact]
    public async Task A_table_made_from_an_older_version_does_not_replace_a_newer_one()
    {
        await using var db = job.CreateDbContext();
        var library = new JobLibrary(db);
        Task<int> Keep(string storey, int? from) =>
            library.KeepAsync(
                job.Job.Id,
                LibraryKind.Names,
                "Two people",
                Bytes($"kind,from,to\nstorey,One,{storey}\n"),
                job.Somebody,
                _none,
                from
            );
        Assert.Equal(1, await Keep("01", null));
        Assert.Equal(2, await Keep("02", 1));
        string refused = (await Assert.ThrowsAsync<RefusedException>(() => Keep("03", 1))).Message;
        Assert.Contains("made from version 1 of Two people", refused, StringComparison.Ordinal);
        Assert.Contains("saved version 2 since", refused, StringComparison.Ordinal);
        Assert.Contains(
            "02",
            Encoding.UTF8.GetString((await library.ContentAsync(job.Job.Id, LibraryKind.Names, "Two people", _none))!),
            StringComparison.Ordinal
        );
        // Whoever replaces it knowingly says no version.
        Assert.Equal(3, await Keep("03", null));
    }

    [Fact]
    public async Task Each_rule_tells_how_many_it_decides_and_an_element_why()
    {
        await using var db = job.CreateDbContext();
        var state = await JobState.LoadAsync(db, job.Job.Id, _none);
        var document = new OrderDocument
        {
            Rules =
            [
                new OrderRule { What = "storey", Are = ["Gallery"] },
                new OrderRule
                {
                    Do = "without",
                    What = "size",
                    Are = ["", "1"],
                },
                new OrderRule
                {
                    Do = "with",
                    What = "class",
                    Are = ["IfcDoor"],
                },
            ],
            Name = "{source}",
        };
        var preview = await OrderPreview.OfAsync(db, state, document, _none);
        Assert.Null(preview.Problem);
        Assert.Equal(preview.Rows.Sum(r => r.Out), preview.Decided[0] + preview.Decided[1]);
        Assert.True(preview.Decided.All(d => d > 0), string.Join(", ", preview.Decided));
        string door = await db.Elements.Where(e => e.Class == "IfcDoor").Select(e => e.GlobalId).FirstAsync();
        var why = Assert.Single(await OrderPreview.WhyAsync(db, state, document, $" {door} ", _none));
        Assert.Equal("IfcDoor", why.Class);
        Assert.Null(why.Verdict.Reason);
        Assert.Empty(await OrderPreview.WhyAsync(db, state, document, "nobody", _none));
    }

    // Every figure of a balance is as large as the list of elements that it opens.
    [Fact]
    public async Task Figures_of_a_balance_open_as_many_elements_as_they_count()
    {
        await using var db = job.CreateDbContext();
        var order = await OrderAsync(
            db,
            new OrderDocument
            {
                Sources = [(await db.Sources.SingleAsync(s => s.Name == "Architecture")).Id.ToString()],
                Rules =
                [
                    new OrderRule { What = "storey", Are = ["Gallery"] },
                    new OrderRule
                    {
                        Do = "without",
                        What = "class",
                        Are = ["IfcDoor"],
                    },
                ],
                Into = new OrderInto
                {
                    File = "dxf",
                    As = "plan",
                    Depth = 5,
                    Hidden = "out",
                    Hatch = true,
                    Sheet = new OrderSheet { Paper = "A1", Scale = 200 },
                },
                Split = "storey",
                Name = "figures-{storey}",
            }
        );
        var run = await RunAsync(db, order);
        var result = JsonSerializer.Deserialize<HandoverResult>(run.Result!, IntakeStore.Json)!;
        Assert.True(result.Balanced);
        var state = await JobState.LoadAsync(db, job.Job.Id, _none);
        async Task<int> Count(string? storey, string? type, string account) =>
            (await new BalanceFigure(storey, type, account).ElementsAsync(db, state, run, result.Reconciliation, _none))
                .Ids
                .Count;
        foreach (var row in result.Reconciliation.Rows)
            Assert.Equal(
                (row.In, row.LeftOut, row.Written),
                (
                    await Count(row.Storey, row.Class, "in"),
                    await Count(row.Storey, row.Class, "left"),
                    await Count(row.Storey, row.Class, "written")
                )
            );
        Assert.Equal(result.Reconciliation.Rows.Sum(r => r.In), await Count(null, null, "in"));
        var unaccounted = new BalanceFigure(null, null, "unaccounted");
        Assert.Empty((await unaccounted.ElementsAsync(db, state, run, result.Reconciliation, _none)).Ids);
        var one = result.Reconciliation with
        {
            Differences = ["x.ifc: IfcWall 2O2Fr$t4X7Zf8NOew3FNr2 is not in the file."],
        };
        Assert.Equal(["2O2Fr$t4X7Zf8NOew3FNr2"], (await unaccounted.ElementsAsync(db, state, run, one, _none)).Ids);
        // The title block names the order and the transmittal.
        var file = run.Files.Single();
        using var bytes = new MemoryStream();
        await db.Blobs.CopyToAsync(file.BlobId, bytes, _none);
        Assert.Contains(
            $"{order.Number}/{run.Number}",
            Encoding.UTF8.GetString(bytes.ToArray()),
            StringComparison.Ordinal
        );
    }

    // The preview counts stored elements, the balance what is in the files: the same figures, by the same definitions.
    [Fact]
    public async Task A_balance_counts_as_its_preview_did_and_its_file_has_a_picture()
    {
        await using var db = job.CreateDbContext();
        var document = new OrderDocument
        {
            Sources = [(await db.Sources.SingleAsync(s => s.Name == "Architecture")).Id.ToString()],
            Rules =
            [
                new OrderRule
                {
                    Do = "without",
                    What = "class",
                    Are = ["IfcFurniture"],
                },
            ],
            To = "STR, drawing office",
            Name = "pictured",
        };
        var preview = await OrderPreview.OfAsync(db, await JobState.LoadAsync(db, job.Job.Id, _none), document, _none);
        var order = await OrderAsync(db, document);
        var run = await RunAsync(db, order);
        var result = JsonSerializer.Deserialize<HandoverResult>(run.Result!, IntakeStore.Json)!;
        Assert.Equal(preview.Included, result.Reconciliation.Confirmed);
        Assert.True(preview.Included is { Elements: > 100, Annotations: > 0, Rooms: > 0 });
        var picture = (await new TransmittalIssue(db).PictureAsync(run.Id, "pictured.ifc", _none))!;
        Assert.Equal("image/png", FilePictures.TypeOf(picture));
        Assert.Equal("\u0089PNG", Encoding.Latin1.GetString(picture[..4]));
        // It is seen by the party that the order is for, and by no other.
        var parties = await db.Parties.Where(p => p.JobId == job.Job.Id).ToListAsync();
        var issue = new TransmittalIssue(db);
        foreach (var party in parties)
            Assert.Equal(party.Code == "STR", await issue.IsHandedAsync(job.Job.Id, party, run.Id, _none));
        Assert.False(await issue.IsHandedAsync(Guid.NewGuid(), parties.Single(p => p.Code == "STR"), run.Id, _none));
        // Run again with nothing changed, the file and its picture are those of before.
        var again = await RunAsync(db, order);
        Assert.Equal(picture, await new TransmittalIssue(db).PictureAsync(again.Id, "pictured.ifc", _none));
    }

    [Fact]
    public async Task Lines_around_the_building_are_suggested()
    {
        await using var db = job.CreateDbContext();
        var lines = await SectionLines.AroundAsync(db, await JobState.LoadAsync(db, job.Job.Id, _none), _none);
        Assert.Equal(["South", "East", "North", "West", "A", "B"], lines.Select(l => l.Name));
        var order = new OrderDocument
        {
            Into = new OrderInto
            {
                File = "dxf",
                As = "section",
                Lines = lines,
            },
            Name = "{section}",
        }.ToOrder();
        // One looks to the left: of every elevation the building is there.
        double x = lines.Average(l => l.From[0] + l.To[0]) / 2,
            y = lines.Average(l => l.From[1] + l.To[1]) / 2;
        Assert.All(order.LineWork.Lines.Take(4), l =>
            Assert.True((l.To - l.From).Cross(new Geometry.Vec2(x, y) - l.From) > 0)
        );
    }
}
