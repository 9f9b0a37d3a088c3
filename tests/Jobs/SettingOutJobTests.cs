using Microsoft.EntityFrameworkCore;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>Settings-out in a job: accepted, everything downstream moves at once; taken back, it moves back; a jump of the frame is one
/// finding.</summary>
public class SettingOutJobTests(JobFixture job) : IClassFixture<JobFixture>
{
    private static readonly Vec3 Jump = new(250, -40, -30.48);

    private const double Turn = 12;

    private sealed class Files : IFileSet
    {
        private readonly Dictionary<string, MemoryStream> _files = [];

        public Stream Create(string name) => _files[name] = new MemoryStream();

        public ReadOnlyMemory<byte> Read(string name) => _files[name].ToArray();
    }

    private static byte[] Demo(string party)
    {
        using var stream = new MemoryStream();
        HeronWharf.Models.Single(m => m.Party == party).Write(stream);
        return stream.ToArray();
    }

    // The party's model as a sender with another origin would have exported it.
    private static byte[] Elsewhere(string party)
    {
        var files = new Files();
        var order = new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null)
        {
            Frame = new FrameChoice(FrameKind.Given, Jump, Turn),
        };
        var result = HandoverRunner.Run(
            new HandoverRun(order, [new HandoverSource(party, party, ModelSnapshot.Open(Demo(party)))], files)
            {
                Job = "J",
            }
        );
        return files.Read(result.Files.Single().Name).ToArray();
    }

    private async Task<Source> SourceAsync(string party, string name)
    {
        await using var db = job.CreateDbContext();
        return await db
            .Sources.AsNoTracking()
            .Include(s => s.Party)
            .SingleAsync(s => s.Party.Code == party && s.Name == name);
    }

    private async Task<JobState> StateAsync()
    {
        await using var db = job.CreateDbContext();
        return await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
    }

    [Fact]
    public async Task The_first_model_gives_the_job_its_frame_and_the_others_wait()
    {
        var state = await StateAsync();
        var set = state.Sources.Where(s => s.SetOut is not null).ToList();
        Assert.Equal(
            EvidenceKind.Reference,
            set.Single(s => s.SetOut!.Evidence == EvidenceKind.Reference).SetOut!.Evidence
        );
        Assert.Contains(state.Sources, s => s is { Latest: not null, SetOut: null });
    }

    [Fact]
    public async Task What_is_kept_compares_as_the_files_do()
    {
        await job.DeliverAsync("STR", "Moves", Demo("STR"));
        await job.DeliverAsync("STR", "Moves", Elsewhere("STR"));
        var source = await SourceAsync("STR", "Moves");
        await using var db = job.CreateDbContext();
        var ids = await db
            .Revisions.Where(r => r.SourceId == source.Id)
            .OrderBy(r => r.Number)
            .Select(r => r.Id)
            .ToListAsync();
        RevisionFingerprint old = (await StoredFingerprints.LoadAsync(db, ids[0], CancellationToken.None))!,
            now = (await StoredFingerprints.LoadAsync(db, ids[1], CancellationToken.None))!;
        var kept = RevisionComparer.Compare(old, now);
        var files = RevisionComparer.Compare(
            RevisionFingerprint.Of(ModelSnapshot.Open(Demo("STR"))),
            RevisionFingerprint.Of(ModelSnapshot.Open(Elsewhere("STR")))
        );
        Assert.Equal(files.Same, kept.Same);
        Assert.Equal(Turn, kept.FrameJump!.TurnDegrees, 6);
        Assert.True((kept.FrameJump.Shift - Jump).Length < 1e-4);
        Assert.True((kept with { FrameJump = null }).IsEmpty);
        Assert.True(RevisionComparer.Compare(old, old).IsEmpty);

        // It waits at the stop until somebody has seen it.
        Assert.Contains(source.Id, await FrameJumps.OpenAsync(db, job.Job.Id, CancellationToken.None));

        // Taken back, the newer revision lies where the older lay, level by level.
        var before = (await StateAsync()).Storeys.Count(s => s.PlacementZ is { } z && z < -20);
        Assert.True(before > 0);
        var frame = Frame.Identity.Compose(kept.FrameJump.Frame.Inverse());
        await new SettingOuts(db).AcceptAsync(
            source,
            job.Job.Id,
            SettingOutDocument.Of(frame, EvidenceKind.Jump),
            null,
            2,
            job.Somebody,
            CancellationToken.None
        );
        Assert.DoesNotContain(source.Id, await FrameJumps.OpenAsync(db, job.Job.Id, CancellationToken.None));
        var state = await StateAsync();
        int number = state.Sources.ToList().FindIndex(s => s.Source.Id == source.Id);
        int plain = state.Sources.ToList().FindIndex(s => s.Source.Party.Code == "STR" && s.Source.Id != source.Id);
        Assert.Equal(
            state.Storeys.Where(s => s.Source == plain).Select(s => Math.Round(s.Elevation, 3)),
            state.Storeys.Where(s => s.Source == number).Select(s => Math.Round(s.Elevation, 3))
        );
        // And they stand on the same levels; those that only the jumped storeys had made are gone.
        Assert.All(state.Schedule.Rungs.Where(r => r.Storeys.Any(s => s.Source == plain)), r =>
            Assert.Contains(r.Storeys, s => s.Source == number)
        );
        Assert.DoesNotContain(state.Schedule.Rungs, r => r.Elevation < -20);
        var frames = await SourceFrames.LoadAsync(db, job.Job.Id, CancellationToken.None);
        Assert.Null(frames.Of(source.Id, 1));
        Assert.NotNull(frames.Of(source.Id, 2));

        // Taken back: it lies as it came again, and the history keeps it.
        var row = await db.SettingOuts.SingleAsync(s => s.SourceId == source.Id);
        await new SettingOuts(db).TakeBackAsync(source, job.Job.Id, row.Id, job.Somebody, CancellationToken.None);
        Assert.Contains((await StateAsync()).Storeys, s => s.PlacementZ < -20);
        Assert.NotNull((await db.SettingOuts.AsNoTracking().SingleAsync(s => s.SourceId == source.Id)).TakenBackAt);
        await Assert.ThrowsAsync<RefusedException>(() =>
            new SettingOuts(db).TakeBackAsync(source, job.Job.Id, row.Id, job.Somebody, CancellationToken.None)
        );
    }

    [Fact]
    public void A_source_elsewhere_is_set_out_by_grid_tags_and_its_height_by_levels()
    {
        var reference = new ProposalSource(
            "ARC r1",
            FrameReader.Read(ModelSnapshot.Open(Demo("ARC"))),
            SettingOutDocument.Identity
        );
        var source = new ProposalSource("SRC r1", FrameReader.Read(ModelSnapshot.Open(Elsewhere("ARC"))), null);
        var levels = reference.Facts.Storeys.Select(s => (s.Name, s.Placed!.Value)).ToList();
        var proposal = Proposal.Of(
            new ProposalWish { Way = "grids" },
            source,
            reference,
            levels,
            LengthNotation.Metres
        );
        Assert.Null(proposal.Problem);
        var there = proposal.Document!.Frame.Compose(
            new SettingOutDocument { Shift = [Jump.X, Jump.Y, Jump.Z], TurnDegrees = Turn }.Frame
        );
        Assert.True(there.Origin.Length < 1e-6, $"{there.Origin}");
        Assert.Equal(0, there.X.Y, 9);
        Assert.Contains(
            "4 of 4 agree",
            proposal.Evidence.Single(e => e.Name == "Height").Evidence,
            StringComparison.Ordinal
        );
        // A switched off point has no say; typed words that are no length are said to be none.
        var off = Proposal.Of(
            new ProposalWish { Way = "grids", Off = [proposal.Points[0].Name] },
            source,
            reference,
            levels,
            LengthNotation.Metres
        );
        Assert.False(off.Points[0].Used);
        Assert.Contains(
            "no length",
            Proposal
                .Of(new ProposalWish { Way = "typed", X = "far" }, source, reference, levels, LengthNotation.Metres)
                .Problem,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "no map conversion",
            Proposal
                .Of(new ProposalWish { Way = "declared" }, source, reference, levels, LengthNotation.Metres)
                .Problem,
            StringComparison.Ordinal
        );
        var typed = Proposal
            .Of(
                new ProposalWish
                {
                    Way = "typed",
                    X = "-100'",
                    Y = "1 m",
                    Z = "4964 mm",
                    Turn = "-1.4°",
                },
                source,
                reference,
                levels,
                LengthNotation.Metres
            )
            .Document!;
        Assert.Equal(
            (-30.48, 1, 4.964, -1.4),
            (Math.Round(typed.Shift[0], 9), typed.Shift[1], typed.Shift[2], typed.TurnDegrees)
        );
    }

    [Fact]
    public async Task Levels_are_kept_by_hand()
    {
        await using var db = job.CreateDbContext();
        var levels = new LevelEditing(db);
        await levels.ChangeAsync(
            job.Job.Id,
            null,
            "Mezzanine",
            "22'-0\"",
            LengthNotation.Metres,
            job.Somebody,
            CancellationToken.None
        );
        var made = LevelDocument
            .Read((await db.Jobs.AsNoTracking().SingleAsync(j => j.Id == job.Job.Id)).Levels)
            .Levels.Single(l => l.Name == "Mezzanine");
        Assert.Equal(6.7056, made.Elevation, 9);
        await Assert.ThrowsAsync<RefusedException>(() =>
            levels.ChangeAsync(
                job.Job.Id,
                null,
                "mezzanine",
                "1",
                LengthNotation.Metres,
                job.Somebody,
                CancellationToken.None
            )
        );
        var source = await SourceAsync("SNK", "Sink");
        await levels.MatchAsync(job.Job.Id, source.Id, "Two", made.Id, job.Somebody, CancellationToken.None);
        // What was said by hand stays when the source is set out anew.
        await new SettingOuts(db).AcceptAsync(
            source,
            job.Job.Id,
            new SettingOutDocument { Shift = [0, 0, 100] },
            null,
            1,
            job.Somebody,
            CancellationToken.None
        );
        var rung = (await StateAsync()).Schedule.Rungs.Single(r => r.Name == "Mezzanine");
        Assert.Contains(rung.Storeys, s => s.Name == "Two");
        // An offset is no difference any more.
        await levels.OffsetAsync(
            job.Job.Id,
            source.Id,
            "One",
            "100 m",
            LengthNotation.Metres,
            job.Somebody,
            CancellationToken.None
        );
        var one = (await StateAsync()).Schedule.Rungs.Single(r => r.Storeys.Any(s => s.Name == "One"));
        Assert.Contains(one.Storeys, s => s.Name == "One" && Math.Abs(s.Elevation - one.Elevation) < 0.4);
        await levels.RemoveAsync(job.Job.Id, made.Id, job.Somebody, CancellationToken.None);
        Assert.DoesNotContain((await StateAsync()).Schedule.Rungs, r => r.Name == "Mezzanine");
    }
}
