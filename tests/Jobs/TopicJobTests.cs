using System.Text;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Jobs;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Tests;

/// <summary>Topics of a job: asked, answered, imported, exported, merged; by whom, and seen by whom.</summary>
public class TopicJobTests(JobFixture job) : IClassFixture<JobFixture>
{
    private static readonly CancellationToken None = CancellationToken.None;

    private static readonly JobPermissions Coordinator = new(MemberRole.Coordinator, null, false, false);

    private static readonly byte[] Png = [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A, 1, 2, 3];

    private readonly Actor _me = new(Guid.NewGuid(), "");

    private async Task<JobState> StateAsync(LintelDb db)
    {
        if (!await db.Users.AnyAsync(u => u.Id == _me.User))
        {
            string name = $"{_me.User:N}@heron.example";
            db.Users.Add(
                new AppUser
                {
                    Id = _me.User,
                    UserName = name,
                    Email = name,
                    DisplayName = "Somebody",
                }
            );
            db.Memberships.Add(
                new Membership
                {
                    JobId = job.Job.Id,
                    UserId = _me.User,
                    Role = MemberRole.Coordinator,
                }
            );
            await db.SaveChangesAsync();
        }

        return await JobState.LoadAsync(db, job.Job.Id, None);
    }

    private static TopicEditing Editing(LintelDb db) => new(db, new StorageQuota(db, new StorageQuotaOptions()));

    private async Task<int> AskAsync(TopicWish wish)
    {
        await using var db = job.CreateDbContext();
        return (await Editing(db).AskAsync(await StateAsync(db), Coordinator, wish, _me, None)).Number;
    }

    private async Task<TopicPage> PageAsync(int number, JobPermissions? who = null)
    {
        await using var db = job.CreateDbContext();
        return (await new TopicQuery(db).OneAsync(job.Job.Id, who ?? Coordinator, number, None))!;
    }

    private async Task<byte[]> PictureAsync(int number)
    {
        await using var db = job.CreateDbContext();
        return (await new TopicQuery(db).PartAsync(job.Job.Id, Coordinator, number, null, None))!.Bytes();
    }

    private static Vec3 Eye(TopicPage page) => page.Topic.Viewpoints[0].Info!.Perspective!.ViewPoint;

    private static ViewInfo View(params string[] elements) =>
        ViewTranslation.FromDocument(
            Guid.NewGuid().ToString(),
            new ViewDocument
            {
                Eye = [1, 2, 3],
                At = [4, 5, 3],
                Picked = elements,
            },
            true,
            [],
            1.6
        );

    private static TopicWish Wish(string title) =>
        new()
        {
            Title = title,
            Description = "Line one\nline two",
            Type = "question",
            Assigned = "STR",
            Due = new DateOnly(2026, 12, 4),
            Labels = ["openings", "openings", " steel "],
        };

    private Task<byte[]> ExportAsync(TopicVersion version, TopicFrame frame, params int[] numbers) =>
        ExportAsync(Coordinator, version, frame, numbers);

    private async Task<byte[]> ExportAsync(
        JobPermissions who,
        TopicVersion version,
        TopicFrame frame,
        params int[] numbers
    )
    {
        await using var db = job.CreateDbContext();
        var ids = await db
            .Topics.Where(t => t.JobId == job.Job.Id && numbers.Contains(t.Number))
            .Select(t => t.Id)
            .ToListAsync();
        using var stream = new MemoryStream();
        await new TopicExchange(db, new StorageQuota(db, new StorageQuotaOptions())).ExportAsync(
            await StateAsync(db),
            who,
            ids,
            version,
            frame,
            stream,
            None
        );
        return stream.ToArray();
    }

    private async Task<TopicMergeResult> ImportAsync(byte[] file, TopicFrame? frame = null, params string[] theirs)
    {
        await using var db = job.CreateDbContext();
        var exchange = new TopicExchange(db, new StorageQuota(db, new StorageQuotaOptions()));
        var id = await exchange.UploadAsync(job.Job.Id, Coordinator, "topics.bcf", new MemoryStream(file), _me, None);
        return await exchange.ImportAsync(
            await StateAsync(db),
            Coordinator,
            id,
            frame ?? TopicFrame.ByTopic,
            theirs.ToHashSet(),
            _me,
            None
        );
    }

    private static TopicArchive Read(byte[] file) =>
        TopicArchiveReader.Read(TopicArchiveReader.Open(new MemoryStream(file)));

    private static byte[] Write(TopicArchive archive)
    {
        using var stream = new MemoryStream();
        TopicArchiveWriter.Write(archive, stream);
        return stream.ToArray();
    }

    [Fact]
    public async Task A_question_with_a_picture_is_answered_handed_on_and_closed()
    {
        int number = await AskAsync(Wish("Riser through beam") with { View = View(), Picture = Png });
        var page = await PageAsync(number);
        Assert.Equal(
            ("Riser through beam", "Question", "Open", false),
            (page.Row.Title, page.Row.Type, page.Row.Status, page.Row.Closed)
        );
        Assert.Equal(["openings", "steel"], page.Row.Labels);
        Assert.Equal("STR", page.Board.PartyOf(page.Row.OwedBy)!.Code);
        Assert.Equal(new DateOnly(2026, 12, 4), page.Row.Due);
        Assert.Equal(Png, await PictureAsync(number));
        await using (var db = job.CreateDbContext())
        {
            await Editing(db)
                .AnswerAsync(
                    await StateAsync(db),
                    Coordinator,
                    number,
                    new TopicAnswer
                    {
                        Text = "Moved.",
                        Status = "Closed",
                        Assigned = "",
                        View = View(),
                        Picture = Png,
                        Files = [("../evil/Detail 14.pdf", "%PDF"u8.ToArray())],
                    },
                    _me,
                    None
                );
        }

        page = await PageAsync(number);
        Assert.True(page.Row.Closed);
        Assert.NotNull(page.Row.ClosedAt);
        Assert.Null(page.Row.OwedBy);
        Assert.Equal(2, page.Topic.Viewpoints.Count);
        Assert.Equal(page.Topic.Viewpoints[1].Guid, page.Topic.Comments.Single().Viewpoint);
        Assert.Contains(page.Topic.Parts, p => p.Name == "Detail 14.pdf");
        Assert.Equal(
            [
                "topic_created",
                "assigned_to_updated",
                "viewpoint_created",
                "document_reference_created",
                "comment_created",
                "status_updated",
                "assigned_to_updated",
            ],
            page.Events.Select(e => e.Did)
        );
    }

    [Fact]
    public async Task Of_two_who_change_a_topic_the_second_learns_of_the_first()
    {
        int number = await AskAsync(Wish("Two change it"));
        int version = (await PageAsync(number)).Row.Version;
        async Task ChangeAsync(string title)
        {
            await using var db = job.CreateDbContext();
            await Editing(db)
                .ChangeAsync(await StateAsync(db), Coordinator, number, version, Wish(title), "Open", _me, None);
        }

        await ChangeAsync("The first");
        var refused = await Assert.ThrowsAsync<RefusedException>(() => ChangeAsync("The second"));
        Assert.Equal(RefusalKind.Conflict, refused.Kind);
        Assert.Equal("The first", (await PageAsync(number)).Row.Title);
    }

    [Fact]
    public async Task Comments_of_many_at_once_are_all_there()
    {
        int number = await AskAsync(Wish("Many answer"));
        await Task.WhenAll(
            Enumerable
                .Range(0, 12)
                .Select(async n =>
                {
                    await using var db = job.CreateDbContext();
                    await Editing(db)
                        .AnswerAsync(
                            await StateAsync(db),
                            Coordinator,
                            number,
                            new TopicAnswer { Text = $"answer {n}" },
                            _me,
                            None
                        );
                })
        );
        Assert.Equal(12, (await PageAsync(number)).Topic.Comments.Select(c => c.Text).Distinct().Count());
    }

    [Fact]
    public async Task Everybody_edits_and_withdraws_their_own_comments_and_the_history_has_the_words_before()
    {
        int number = await AskAsync(Wish("Edited"));
        var other = new Actor(Guid.NewGuid(), "");
        await using var db = job.CreateDbContext();
        var state = await StateAsync(db);
        db.Users.Add(
            new AppUser
            {
                Id = other.User,
                UserName = "o",
                Email = $"{other.User:N}@heron.example",
                DisplayName = "Other",
            }
        );
        db.Memberships.Add(
            new Membership
            {
                JobId = job.Job.Id,
                UserId = other.User,
                Role = MemberRole.Coordinator,
            }
        );
        await db.SaveChangesAsync();
        var editing = Editing(db);
        await editing.AnswerAsync(state, Coordinator, number, new TopicAnswer { Text = "frist" }, _me, None);
        string guid = (await PageAsync(number)).Topic.Comments.Single().Guid;
        await Assert.ThrowsAsync<RefusedException>(() =>
            editing.EditCommentAsync(state, Coordinator, number, guid, "theirs", other, None)
        );
        db.ChangeTracker.Clear();
        await editing.EditCommentAsync(state, Coordinator, number, guid, "first", _me, None);
        Assert.Equal("first", (await PageAsync(number)).Topic.Comments.Single().Text);
        await editing.EditCommentAsync(state, Coordinator, number, guid, null, _me, None);
        var page = await PageAsync(number);
        Assert.Empty(page.Topic.Comments);
        Assert.Equal(
            [("comment_text_updated", "frist"), ("comment_deleted", "first")],
            page.Events.Skip(3).Select(e => (e.Did, e.Value))
        );
    }

    [Fact]
    public async Task Asked_about_the_same_again_the_open_topic_is_found()
    {
        string cause = TopicCause.Finding(Guid.NewGuid(), "IFC-STOREY-NONE");
        int first = await AskAsync(Wish("Storeys") with { Cause = cause });
        Assert.Equal(first, await AskAsync(Wish("Storeys again") with { Cause = cause }));
        await using var db = job.CreateDbContext();
        var state = await StateAsync(db);
        await Editing(db).AnswerAsync(state, Coordinator, first, new TopicAnswer { Status = "Closed" }, _me, None);
        Assert.NotEqual(first, await AskAsync(Wish("Storeys, later") with { Cause = cause }));
    }

    [Theory]
    [InlineData("unheard of", null, null, "is no type of this job")]
    [InlineData(null, "nobody@nowhere.example", null, "neither a party nor a member")]
    [InlineData(null, null, "Asap", "is no priority of this job")]
    public async Task Words_that_the_job_does_not_have_are_refused(
        string? type,
        string? to,
        string? priority,
        string says
    )
    {
        var refused = await Assert.ThrowsAsync<RefusedException>(() =>
            AskAsync(
                new TopicWish
                {
                    Title = "Words",
                    Type = type,
                    Assigned = to,
                    Priority = priority,
                }
            )
        );
        Assert.Contains(says, refused.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_recipient_sees_and_answers_the_topics_that_were_handed_to_its_party_and_no_others()
    {
        await using var db = job.CreateDbContext();
        var state = await StateAsync(db);
        var parties = await db.Parties.Where(p => p.JobId == job.Job.Id).ToDictionaryAsync(p => p.Code);
        int own = await AskAsync(Wish("For STR")),
            others = await AskAsync(Wish("For ARC") with { Assigned = "ARC" });
        var who = new JobPermissions(MemberRole.Recipient, parties["STR"].Id, false, false);
        var query = new TopicQuery(db);
        var (seen, _) = await query.ListAsync(job.Job.Id, who, new TopicFilter { State = "all" }, 1000, None);
        Assert.Contains(seen, t => t.Number == own);
        Assert.DoesNotContain(seen, t => t.Number == others);
        Assert.Null(await query.OneAsync(job.Job.Id, who, others, None));
        Assert.Null(await query.PartAsync(job.Job.Id, who, others, null, None));
        var editing = Editing(db);
        await Assert.ThrowsAsync<RefusedException>(() =>
            editing.AnswerAsync(state, who, others, new TopicAnswer { Text = "x" }, _me, None)
        );
        db.ChangeTracker.Clear();
        await editing.AnswerAsync(state, who, own, new TopicAnswer { Text = "Seen." }, _me, None);
        await Assert.ThrowsAsync<RefusedException>(() => editing.AskAsync(state, who, Wish("Not me"), _me, None));
        var reader = new JobPermissions(MemberRole.Reader, null, false, false);
        db.ChangeTracker.Clear();
        await Assert.ThrowsAsync<RefusedException>(() =>
            editing.AnswerAsync(state, reader, own, new TopicAnswer { Text = "x" }, _me, None)
        );
    }

    // A recipient answers and no more, and what it exports has nothing of other topics.
    [Fact]
    public async Task A_recipient_neither_closes_nor_hands_on_nor_gets_files_and_people_of_others()
    {
        int own = await AskAsync(Wish("Handed over"));
        string secret = Guid.NewGuid().ToString();
        var other = new Topic
        {
            Guid = Guid.NewGuid().ToString(),
            Title = "Other",
            Type = "",
            Status = "Open",
            Documents = [new DocumentReference { Guid = Guid.NewGuid().ToString(), Document = secret }],
        };
        await ImportAsync(
            Write(
                new TopicArchive
                {
                    Extensions = new TopicExtensions { Users = ["planner@secret.example"] },
                    Documents = [new TopicDocument(secret, "secret.pdf", null)],
                    Parts =
                    [
                        TopicPart.Of($"documents/{secret}", "secret"u8.ToArray()),
                        TopicPart.Of("odd.bin", "secret"u8.ToArray()),
                    ],
                    Topics = [other],
                }
            )
        );
        await using var db = job.CreateDbContext();
        var state = await StateAsync(db);
        var party = await db.Parties.SingleAsync(p => p.JobId == job.Job.Id && p.Code == "STR");
        var who = new JobPermissions(MemberRole.Recipient, party.Id, false, false);
        var answer = new TopicAnswer
        {
            Text = "Done.",
            Status = "Closed",
            Assigned = "ARC",
        };
        await Editing(db).AnswerAsync(state, who, own, answer, _me, None);
        var page = await PageAsync(own);
        Assert.Equal((false, "STR", 1), (page.Row.Closed, page.Row.Assigned, page.Row.Comments));
        foreach (var (asks, sees) in new[] { (who, false), (Coordinator, true) })
        {
            var archive = Read(await ExportAsync(asks, TopicVersion.V30, TopicFrame.ByTopic, own));
            Assert.Equal(sees, archive.Parts.Any(p => p.Name == "odd.bin"));
            Assert.Equal(sees, archive.Extensions!.Users.Contains("planner@secret.example"));
            // A document goes with the topics that refer to it, for everybody.
            Assert.Empty(archive.Documents);
            Assert.DoesNotContain(archive.Parts, p => p.Name.Contains(secret, StringComparison.Ordinal));
        }

        int number = await db.Topics.Where(t => t.Guid == other.Guid).Select(t => t.Number).SingleAsync();
        var with = Read(await ExportAsync(TopicVersion.V30, TopicFrame.ByTopic, number));
        Assert.Equal(secret, with.Documents.Single().Guid);
    }

    [Theory]
    [InlineData("Please look. @STR", true)]
    [InlineData("(@str)", true)]
    [InlineData("write to x@structure.example", false)]
    [InlineData("@STR-2 is another", false)]
    public async Task Who_is_mentioned_gets_a_mail_and_nobody_else(string text, bool mentioned)
    {
        int number = await AskAsync(Wish("Mentions"));
        await using var db = job.CreateDbContext();
        var state = await StateAsync(db);
        var party = await db.Parties.SingleAsync(p => p.JobId == job.Job.Id && p.Code == "STR");
        var other = Guid.NewGuid();
        string address = $"{other:N}@heron.example";
        db.Users.Add(
            new AppUser
            {
                Id = other,
                UserName = address,
                Email = address,
                DisplayName = "S",
            }
        );
        db.Memberships.Add(
            new Membership
            {
                JobId = job.Job.Id,
                UserId = other,
                Role = MemberRole.Contributor,
                PartyId = party.Id,
            }
        );
        await db.SaveChangesAsync();
        await Editing(db).AnswerAsync(state, Coordinator, number, new TopicAnswer { Text = text }, _me, None);
        Assert.Equal(mentioned, await db.Mails.AnyAsync(m => m.To == address && m.Subject.Contains("mentioned")));
    }

    [Theory]
    [InlineData(TopicVersion.V21)]
    [InlineData(TopicVersion.V30)]
    public async Task What_was_exported_is_the_same_when_it_is_imported_again(TopicVersion version)
    {
        int number = await AskAsync(Wish($"There and back {version}") with { View = View("0abc"), Picture = Png });
        await using (var db = job.CreateDbContext())
            await Editing(db)
                .AnswerAsync(
                    await StateAsync(db),
                    Coordinator,
                    number,
                    new TopicAnswer { Text = "With a file", Files = [("list.csv", "a;b"u8.ToArray())] },
                    _me,
                    None
                );
        byte[] file = await ExportAsync(version, TopicFrame.ByTopic, number);
        var archive = Read(file);
        Assert.Equal(version, archive.Version);
        var topic = Assert.Single(archive.Topics);
        Assert.Contains(
            "a;b",
            Encoding.ASCII.GetString(file.Length > 0 ? Attachment(archive, topic) : []),
            StringComparison.Ordinal
        );
        var before = await PageAsync(number);
        var result = await ImportAsync(file);
        Assert.Empty(result.Added);
        Assert.Empty(result.Conflicts);
        var after = await PageAsync(number);
        Assert.Equal(
            before.Topic.Comments.Select(c => (c.Guid, c.Date, c.Text)),
            after.Topic.Comments.Select(c => (c.Guid, c.Date, c.Text))
        );
        Assert.Equal(Eye(before), Eye(after));
        // And a second time nothing changes at all.
        var again = await ImportAsync(await ExportAsync(version, TopicFrame.ByTopic, number));
        Assert.Equal((0, 0, 1), (again.Added.Count, again.Changed.Count, again.Same.Count));
    }

    private static byte[] Attachment(TopicArchive archive, Topic topic) =>
        archive
            .Parts.Concat(topic.Parts)
            .First(p => p.Name.Contains("documents/", StringComparison.Ordinal) || p.Name == "list.csv")
            .Bytes();

    // Theirs and ours since the file was exported: both are there; the same word changed by both is asked about.
    [Fact]
    public async Task Changes_of_both_sides_are_joined_and_what_both_changed_is_decided()
    {
        int number = await AskAsync(Wish("Both change"));
        var archive = Read(await ExportAsync(TopicVersion.V30, TopicFrame.ByTopic, number));
        // What both know is what was imported last.
        await ImportAsync(Write(archive));
        var topic = archive.Topics[0];
        var theirs = archive with
        {
            Topics =
            [
                topic with
                {
                    Title = "Their title",
                    Priority = "High",
                    Comments =
                    [
                        new TopicComment
                        {
                            Guid = Guid.NewGuid().ToString(),
                            Author = "them@example.com",
                            Date = "2026-11-01T10:00:00Z",
                            Text = "Theirs",
                        },
                    ],
                },
            ],
        };
        await using (var db = job.CreateDbContext())
        {
            var state = await StateAsync(db);
            var editing = Editing(db);
            await editing.ChangeAsync(
                state,
                Coordinator,
                number,
                (await PageAsync(number)).Row.Version,
                Wish("Our title"),
                "Open",
                _me,
                None
            );
            await editing.AnswerAsync(state, Coordinator, number, new TopicAnswer { Text = "Ours" }, _me, None);
        }

        var kept = await ImportAsync(Write(theirs));
        var conflict = Assert.Single(kept.Conflicts);
        Assert.Equal(("Our title", "Their title"), (conflict.Ours, conflict.Theirs));
        var page = await PageAsync(number);
        Assert.Equal(("Our title", "High"), (page.Row.Title, page.Row.Priority));
        Assert.Equal(["Ours", "Theirs"], page.Topic.Comments.Select(c => c.Text).Order());
    }

    [Fact]
    public async Task A_conflict_is_decided_for_the_file_where_somebody_says_so()
    {
        int number = await AskAsync(Wish("Decide"));
        var archive = Read(await ExportAsync(TopicVersion.V30, TopicFrame.ByTopic, number));
        await ImportAsync(Write(archive));
        await using (var db = job.CreateDbContext())
            await Editing(db)
                .ChangeAsync(
                    await StateAsync(db),
                    Coordinator,
                    number,
                    (await PageAsync(number)).Row.Version,
                    Wish("Ours"),
                    "Open",
                    _me,
                    None
                );
        byte[] theirs = Write(archive with { Topics = [archive.Topics[0] with { Title = "Theirs" }] });
        TopicConflict conflict;
        await using (var db = job.CreateDbContext())
        {
            var exchange = new TopicExchange(db, new StorageQuota(db, new StorageQuotaOptions()));
            var id = await exchange.UploadAsync(job.Job.Id, Coordinator, "a.bcf", new MemoryStream(theirs), _me, None);
            var preview = await exchange.PreviewAsync(await StateAsync(db), Coordinator, id, TopicFrame.ByTopic, None);
            conflict = preview!.Result.Conflicts.Single();
        }

        await ImportAsync(theirs, null, TopicImportPreview.KeyOf(conflict));
        Assert.Equal("Theirs", (await PageAsync(number)).Row.Title);
    }

    // The services model is turned and moved: its topics are seen where its elements are.
    [Fact]
    public async Task Views_of_a_file_in_a_sources_frame_look_at_the_same_point_of_the_job()
    {
        await using var db = job.CreateDbContext();
        var state = await StateAsync(db);
        var source = state.Sources.First(s => s.Latest is not null);
        var frame = FrameRewrite.Move(new Vec3(118.4, -63.2, -30.48), 12);
        db.SettingOuts.Add(
            new SettingOutRow
            {
                Id = Guid.NewGuid(),
                SourceId = source.Source.Id,
                Document = (
                    SettingOutDocument.Identity with
                    {
                        Shift = [118.4, -63.2, -30.48],
                        TurnDegrees = 12,
                    }
                ).Write(),
                AcceptedAt = DateTime.UtcNow,
                AcceptedBy = _me.User,
                FromRevision = 1,
            }
        );
        await db.SaveChangesAsync();
        var view = View();
        var archive = new TopicArchive
        {
            Version = TopicVersion.V21,
            Topics =
            [
                new Topic
                {
                    Guid = Guid.NewGuid().ToString(),
                    Title = "In its own frame",
                    Viewpoints =
                    [
                        new Viewpoint
                        {
                            Guid = view.Guid!,
                            File = $"{view.Guid}.bcfv",
                            Info = view,
                        },
                    ],
                },
            ],
        };
        var result = await ImportAsync(Write(archive), new TopicFrame(false, source.Source.Id));
        Assert.Single(result.Added);
        state = await StateAsync(db);
        var of = TopicQuery.FrameOf(state.Model, source.Source.Id);
        await using var fresh = job.CreateDbContext();
        var row = await fresh.Topics.SingleAsync(t => t.Title == "In its own frame");
        Assert.Equal(source.Source.Id, row.FrameOf);
        var eye = of.Point(new Vec3(1, 2, 3));
        Assert.True((of.Origin - frame.Origin).Length < 1e-6);
        var seen = ViewMove.Into(TopicRowsView(row), of).Perspective!;
        Assert.True((seen.ViewPoint - eye).Length < 1e-9);
        // Exported in the job's frame, the camera is there; in its own it is what it was.
        var inJob = Read(await ExportAsync(TopicVersion.V21, TopicFrame.OfJob, row.Number))
            .Topics[0]
            .Viewpoints[0]
            .Info!;
        Assert.True((inJob.Perspective!.ViewPoint - eye).Length < 1e-9);
        var own = Read(await ExportAsync(TopicVersion.V21, TopicFrame.ByTopic, row.Number))
            .Topics[0]
            .Viewpoints[0]
            .Info!;
        Assert.Equal(view.Perspective!.ViewPoint, own.Perspective!.ViewPoint);
    }

    private static ViewInfo TopicRowsView(TopicRow row) => TopicJson.Read(row.Document).Viewpoints[0].Info!;

    [Fact]
    public async Task A_file_that_is_no_topic_file_is_refused_and_nothing_of_it_remains()
    {
        await using var db = job.CreateDbContext();
        await StateAsync(db);
        await Assert.ThrowsAsync<RefusedException>(() =>
            new TopicExchange(db, new StorageQuota(db, new StorageQuotaOptions())).UploadAsync(
                job.Job.Id,
                Coordinator,
                "x.bcf",
                new MemoryStream([1, 2, 3]),
                _me,
                None
            )
        );
        Assert.False(await db.TopicImports.AnyAsync(i => i.FileName == "x.bcf"));
    }

    [Fact]
    public async Task A_topic_about_a_finding_says_when_a_revision_no_longer_has_it_and_closes_where_the_job_wishes()
    {
        using var stream = new MemoryStream();
        HeronWharf.Models[1].Write(stream);
        string good = Encoding.Latin1.GetString(stream.ToArray());
        await job.DeliverAsync("STR", "Causes", Encoding.Latin1.GetBytes(good));
        await using var db = job.CreateDbContext();
        var state = await StateAsync(db);
        var source = await db.Sources.SingleAsync(s => s.Name == "Causes");
        int number = await AskAsync(Wish("Cause") with { Cause = TopicCause.Finding(source.Id, "IFC-NEVER-FOUND") });
        await Editing(db)
            .WordsAsync(
                job.Job.Id,
                Coordinator,
                TopicSettings.Words,
                new TopicSettings { ClosesWhenGone = true },
                _me,
                None
            );
        await job.DeliverAsync(
            "STR",
            "Causes",
            Encoding.Latin1.GetBytes(
                good.Replace("2026-11-14T09:30:00", "2026-11-15T09:30:00", StringComparison.Ordinal)
            )
        );
        var page = await PageAsync(number);
        Assert.NotNull(page.Row.CauseGoneAt);
        Assert.True(page.Row.Closed);
        Assert.Contains(page.Events, e =>
            e.Did == TopicAction.CauseGone && e.Value.Contains("Causes", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task A_filter_is_stored_for_the_job_and_outlives_other_words()
    {
        await using var db = job.CreateDbContext();
        await StateAsync(db);
        var editing = Editing(db);
        await editing.SaveFilterAsync(job.Job.Id, Coordinator, "Doors", "as=list&label=doors", _me, None);
        await editing.SaveFilterAsync(job.Job.Id, Coordinator, "Doors", "as=list&type=Question", _me, None);
        var board = await TopicBoard.LoadAsync(db, job.Job.Id, None);
        await editing.WordsAsync(job.Job.Id, Coordinator, board.Words, new TopicSettings(), _me, None);
        board = await TopicBoard.LoadAsync(db, job.Job.Id, None);
        Assert.Equal([new SavedTopicFilter("Doors", "as=list&type=Question")], board.Settings.Filters);
        var reader = new JobPermissions(MemberRole.Reader, null, false, false);
        await Assert.ThrowsAsync<RefusedException>(() =>
            editing.SaveFilterAsync(job.Job.Id, reader, "Mine", "mine=yes", _me, None)
        );
        await editing.RemoveFilterAsync(job.Job.Id, Coordinator, "Doors", _me, None);
        Assert.Empty((await TopicBoard.LoadAsync(db, job.Job.Id, None)).Settings.Filters);
    }

    [Fact]
    public async Task A_topics_life_says_who_owed_the_answer_when()
    {
        int number = await AskAsync(new TopicWish { Title = "Life", Assigned = "ARC" });
        await using var db = job.CreateDbContext();
        var state = await StateAsync(db);
        var editing = Editing(db);
        await Task.Delay(20);
        await editing.AnswerAsync(
            state,
            Coordinator,
            number,
            new TopicAnswer
            {
                Text = "No.",
                Status = "Answered",
                Assigned = "",
            },
            _me,
            None
        );
        await Task.Delay(20);
        await editing.AnswerAsync(
            state,
            Coordinator,
            number,
            new TopicAnswer { Text = "Done.", Status = "Closed" },
            _me,
            None
        );
        var life = TopicLife.Of(await PageAsync(number), DateTime.UtcNow.AddHours(1));
        Assert.Equal(["ARC", ""], life.Spans.Select(s => s.Owes));
        Assert.Equal(["Answered", "Closed"], life.Statuses.Select(s => s.Status));
        Assert.Equal(2, life.Answers.Count);
        Assert.Equal(life.From, life.Spans[0].From);
        Assert.Equal(life.Spans[0].To, life.Spans[1].From);
        Assert.Equal(life.To, life.Spans[1].To);
        Assert.True(life.To < DateTime.UtcNow);
        Assert.Equal((0, 1), (life.Along(life.From.AddDays(-1)), life.Along(life.To.AddDays(1))));
    }

    [Fact]
    public async Task A_place_of_a_topic_without_a_view_is_seen_from_above()
    {
        int number = await AskAsync(new TopicWish { Title = "Here", At = new Vec3(12, 34, 5) });
        var page = await PageAsync(number);
        var camera = Assert.Single(page.Topic.Viewpoints).Info!.Orthogonal!;
        Assert.Equal((new Vec3(12, 34, 15), -Vec3.AxisZ), (camera.ViewPoint, camera.Direction));
        Assert.Equal([12, 34, 5], page.Row.Place!);
    }
}
