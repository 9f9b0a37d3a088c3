using Microsoft.EntityFrameworkCore;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>Details kept under names and placed by steps; steps asked of each revision as it arrives; sources laid over one another.</summary>
public class LibraryTests(JobFixture job) : IClassFixture<JobFixture>
{
    private static byte[] Plan(params string[] layers)
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        foreach (string layer in layers)
            drawing.Add(
                new Line
                {
                    Layer = drawing.AddLayer(layer).Handle,
                    Start = new(10, 20, 0),
                    End = new(40, 20, 0),
                }
            );
        using var stream = new MemoryStream();
        DwgWriter.Write(drawing, stream);
        return stream.ToArray();
    }

    private async Task<Source> SourceAsync(LintelDb db, string name) =>
        await db.Sources.Include(s => s.Party).SingleAsync(s => s.JobId == job.Job.Id && s.Name == name);

    private async Task SetAsync(string name, SettingOutDocument document, params PreparationStep[] steps)
    {
        await using var db = job.CreateDbContext();
        await new SettingOuts(db).AcceptAsync(
            await SourceAsync(db, name),
            job.Job.Id,
            document,
            new PreparationDocument { Steps = steps },
            1,
            job.Somebody,
            CancellationToken.None
        );
    }

    [Fact]
    public async Task The_newest_version_of_a_detail_counts_until_it_is_removed()
    {
        await using var db = job.CreateDbContext();
        var library = new Details(db);
        var facts = new DetailFacts(0.001, 0.03, 0, "ARC r1");
        byte[] first = DetailCut.Of(
            CadFile.Read(Plan("ONE")).Drawing,
            [
                [0, 0],
                [50, 50],
            ],
            [10, 20]
        );
        byte[] second = DetailCut.Of(
            CadFile.Read(Plan("TWO")).Drawing,
            [
                [0, 0],
                [50, 50],
            ],
            [10, 20]
        );
        Assert.Equal(
            1,
            await library.KeepAsync(job.Job.Id, " Sill ", first, facts, job.Somebody, CancellationToken.None)
        );
        Assert.Equal(
            2,
            await library.KeepAsync(job.Job.Id, "Sill", second, facts, job.Somebody, CancellationToken.None)
        );
        await Assert.ThrowsAsync<RefusedException>(() =>
            library.KeepAsync(job.Job.Id, "", first, facts, job.Somebody, CancellationToken.None)
        );
        var kept = Assert.Single(await library.ListAsync(job.Job.Id, CancellationToken.None));
        Assert.Equal(("Sill", 2, facts), (kept.Name, kept.Version, kept.Facts));
        Assert.Equal(second, await library.ContentAsync(job.Job.Id, kept.Id, CancellationToken.None));
        Assert.Null(await library.ContentAsync(Guid.NewGuid(), kept.Id, CancellationToken.None));
        await job.DeliverAsync("ARC", "With sill", Plan("A-WALL"), "w.dwg");
        await SetAsync(
            "With sill",
            new SettingOutDocument { Scale = 0.001 },
            new PreparationStep
            {
                Do = "detail",
                To = "Sill",
                At = [100, 0],
            },
            new PreparationStep
            {
                Do = "detail",
                To = "Head",
                At = [0, 0],
                Off = true,
            }
        );
        Assert.Contains((await PreparedAsync("With sill")).Layers, l => l.Name == "TWO");
        await library.RemoveAsync(job.Job.Id, "Sill", job.Somebody, CancellationToken.None);
        Assert.DoesNotContain((await PreparedAsync("With sill")).Blocks, b => b.Name == "Sill");
        await Assert.ThrowsAsync<RefusedException>(() =>
            library.RemoveAsync(job.Job.Id, "Sill", job.Somebody, CancellationToken.None)
        );
        Assert.Equal(
            ["saved the detail", "saved the detail", "removed the detail"],
            await db
                .Record.Where(r => r.JobId == job.Job.Id && r.Did.Contains("detail"))
                .OrderBy(r => r.Id)
                .Select(r => r.Did)
                .ToListAsync()
        );
    }

    [Fact]
    public async Task A_step_that_finds_nothing_in_a_new_revision_is_a_finding_of_it()
    {
        await job.DeliverAsync("ARC", "Stepped", Plan("A-WALL", "A-TTLB"), "s.dwg");
        await SetAsync(
            "Stepped",
            new SettingOutDocument { Scale = 0.001 },
            new PreparationStep { Do = "drop", Layers = ["A-TTLB"] },
            new PreparationStep
            {
                Do = "drop",
                Layers = ["A-WALL"],
                Off = true,
            }
        );
        var fine = await job.DeliverAsync("ARC", "Stepped", Plan("A-WALL", "A-TTLB", "A-NEW"), "s.dwg");
        var odd = await job.DeliverAsync("ARC", "Stepped", Plan("A-WALL", "A-NEW", "A-OTHR"), "s.dwg");
        await using var db = job.CreateDbContext();
        Assert.DoesNotContain(
            "CAD-STEP",
            (await db.Revisions.SingleAsync(r => r.Id == fine)).Report,
            StringComparison.Ordinal
        );
        string report = (await db.Revisions.SingleAsync(r => r.Id == odd)).Report;
        Assert.Contains("CAD-STEP", report, StringComparison.Ordinal);
        Assert.Contains("step 1, drop: There is nothing of it any more.", report, StringComparison.Ordinal);
        // The revision is what came, whatever its steps do.
        Assert.Contains("\"A-WALL\"", report, StringComparison.Ordinal);
    }

    // The column at A/1 is a pipe 273 mm across, on the axes: what a cut draws of it lies on its circle, by chords and steps of a millimetre.
    [Fact]
    public async Task A_model_and_a_drawing_can_be_laid_over_in_plan()
    {
        await job.DeliverAsync("ARC", "Overlaid", Plan("A-WALL"), "o.dwg");
        await SetAsync("Overlaid", new SettingOutDocument { Scale = 0.1, Shift = [5, 0, 0] });
        using var prepared = new PreparedDrawings();
        await using var db = job.CreateDbContext();
        var state = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
        var drawn = await OverlayLines.LoadAsync(
            db,
            prepared,
            state,
            (await SourceAsync(db, "Overlaid")).Id,
            null,
            100,
            CancellationToken.None
        );
        Assert.Equal([(new Vec2(6, 2), new Vec2(9, 2))], drawn!);
        var frame = state.Sources.Single(s => s.Source.Party.Code == "STR").Source.Id;
        var cut = (
            await OverlayLines.LoadAsync(
                db,
                prepared,
                state,
                frame,
                state.Schedule.Rungs.First(r => r.Name.StartsWith("Concourse", StringComparison.Ordinal)).Level,
                50_000,
                CancellationToken.None
            )
        )!;
        var pipe = cut.Where(l => l.A.Length < 0.4).ToList();
        Assert.True(pipe.Count >= 16, $"{pipe.Count} of {cut.Count}");
        Assert.All(pipe.Where(l => l.A.Length > 0.13), l => Assert.InRange(l.A.Length, 0.1345, 0.1385));
        Assert.Null(
            await OverlayLines.LoadAsync(db, prepared, state, Guid.NewGuid(), null, 10, CancellationToken.None)
        );
        Assert.Equal(
            7,
            (await OverlayLines.LoadAsync(db, prepared, state, frame, null, 7, CancellationToken.None))!.Count
        );
    }

    [Fact]
    public async Task A_prepared_drawing_is_read_once_until_its_steps_are_others()
    {
        await job.DeliverAsync("ARC", "Held", Plan("A-WALL"), "h.dwg");
        await SetAsync("Held", new SettingOutDocument { Scale = 0.1 });
        using var prepared = new PreparedDrawings();
        async Task<Drawing> ReadAsync()
        {
            await using var db = job.CreateDbContext();
            var state = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
            var drawing = state.Drawings.Single(d => d.Source.Name == "Held");
            return await prepared.OfAsync(db, state, drawing, CancellationToken.None);
        }

        var first = await ReadAsync();
        Assert.Same(first, await ReadAsync());
        await SetAsync(
            "Held",
            new SettingOutDocument { Scale = 0.1 },
            new PreparationStep { Do = "drop", Layers = ["A-WALL"] }
        );
        var second = await ReadAsync();
        Assert.NotSame(first, second);
        Assert.True(second.Model.Entities.Count < first.Model.Entities.Count);
    }

    private async Task<Drawing> PreparedAsync(string name)
    {
        await using var db = job.CreateDbContext();
        var state = await JobState.LoadAsync(db, job.Job.Id, CancellationToken.None);
        return await SheetDesk.ReadPreparedAsync(
            db,
            job.Job.Id,
            state.Drawings.Single(d => d.Source.Name == name),
            CancellationToken.None
        );
    }
}
