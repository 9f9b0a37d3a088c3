using System.Globalization;
using System.Text;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>Very many elements are read piece by piece, and none at all is refused.</summary>
public class SizeTests(JobFixture job) : IClassFixture<JobFixture>
{
    private static int Count =>
        int.TryParse(Environment.GetEnvironmentVariable("LINTEL_PRODUCTS"), out int n) ? n : 60_000;

    private static int LongName =>
        int.TryParse(Environment.GetEnvironmentVariable("LINTEL_NAME"), out int n) ? n : 2_000_000;

    private const string Digits = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$";

    [Fact]
    public async Task Products_without_any_shape_are_read_in_bounded_memory_and_all_are_there()
    {
        var text = new StringBuilder(
            "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),(''),'','','');\n"
                + "FILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n#1=IFCPROJECT('0000000000000000000001',$,'P',$,$,$,$,$,$);\n"
        );
        for (int n = 0; n < Count; n++)
            text.Append(CultureInfo.InvariantCulture, $"#{n + 100}=IFCWALL('{GlobalId(n)}',$,'W{n}',$,$,$,$,$,$);\n");
        byte[] bytes = Encoding.ASCII.GetBytes(text.Append("ENDSEC;\nEND-ISO-10303-21;\n").ToString());
        text.Clear().Capacity = 0;
        long before = GC.GetTotalAllocatedBytes();
        var clock = System.Diagnostics.Stopwatch.StartNew();
        var id = await job.DeliverAsync("SNK", "Many", bytes);
        TestContext.Current.SendDiagnosticMessage(
            $"{Count} products: {clock.Elapsed.TotalSeconds:0.0} s, "
                + $"{(GC.GetTotalAllocatedBytes() - before) >> 20} MB allocated, peak {Environment.WorkingSet >> 20} MB"
        );
        await using var db = job.CreateDbContext();
        var delivery = await db.Deliveries.AsNoTracking().Include(d => d.Revision).FirstAsync(d => d.Id == id);
        Assert.Equal((DeliveryState.Ready, ""), (delivery.State, delivery.Sentence));
        Assert.Equal(Count, delivery.Revision!.Elements);
        Assert.Equal(Count, await db.Elements.CountAsync(e => e.RevisionId == id));
        Assert.Equal([Count], await db.Facets.Where(f => f.RevisionId == id).Select(f => f.Count).ToListAsync());
    }

    [Fact]
    public async Task A_name_that_nobody_can_read_is_kept_as_far_as_anybody_would()
    {
        string text =
            "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),(''),'','','');\nFILE_SCHEMA(('IFC4'));\nENDSEC;\n"
            + $"DATA;\n#1=IFCPROJECT('0000000000000000000001',$,'P',$,$,$,$,$,$);\n#2=IFCWALL('0000000000000000000002',$,'{new string('x', LongName)}',$,$,$,$,$,$);\n"
            + "ENDSEC;\nEND-ISO-10303-21;\n";
        var id = await job.DeliverAsync("SNK", "Long name", Encoding.ASCII.GetBytes(text));
        await using var db = job.CreateDbContext();
        Assert.Equal(
            (DeliveryState.Ready, ""),
            await db
                .Deliveries.Where(d => d.Id == id)
                .Select(d => new ValueTuple<DeliveryState, string>(d.State, d.Sentence))
                .SingleAsync()
        );
        var row = await db.Elements.AsNoTracking().SingleAsync(e => e.RevisionId == id);
        Assert.Equal(StoredText.MaxText, row.Name.Length);
        Assert.Equal(StoredText.MaxText, (await IntakeStore.FactsAsync(db, row, default)).Name.Length);
    }

    [Theory]
    [InlineData(
        "a.ifc",
        "ISO-10303-21;HEADER;FILE_DESCRIPTION((''),'2;1');FILE_NAME('','',(''),(''),'','','');FILE_SCHEMA(('IFC4'));ENDSEC;DATA;ENDSEC;END-ISO-10303-21;",
        "not even a project"
    )]
    [InlineData("a.dxf", "0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n", "no entity in it")]
    public async Task A_file_without_any_content_is_refused_and_kept(string name, string text, string why)
    {
        var id = await job.DeliverAsync("SRV", "Empty " + name, System.Text.Encoding.ASCII.GetBytes(text), name);
        await using var db = job.CreateDbContext();
        var delivery = await db.Deliveries.AsNoTracking().SingleAsync(d => d.Id == id);
        Assert.Equal(DeliveryState.Refused, delivery.State);
        Assert.Contains(why, delivery.Sentence);
        Assert.Equal(text.Length, (await db.Blobs.HeldAsync(delivery.BlobId)).Bytes);
    }

    // Two revisions with very many elements: read from the database and compared. LINTEL_PRODUCTS=400000 is what docs/performance.md tells
    // of.
    [Fact]
    public async Task Revisions_of_many_elements_are_read_as_columns_and_compared()
    {
        int count = Math.Min(Count, 400_000);
        var ids = new List<Guid>();
        foreach (string name in (string[])["A", "B"])
            ids.Add(
                await job.DeliverAsync(
                    "SNK",
                    "Compared",
                    Encoding.ASCII.GetBytes(
                        Sample.Text($"#20=IFCWALL('0000000000000000000020',$,'{name}',$,$,$,$,$,$);")
                    )
                )
            );
        await using var db = job.CreateDbContext();
        db.Database.SetCommandTimeout(TimeSpan.FromMinutes(5));
        for (int n = 0; n < 2; n++)
        {
            // The second lies elsewhere altogether; each hundredth element moved beside, each two hundred and fiftieth has another name.
            await db.Database.ExecuteSqlAsync(
                $"""
                INSERT INTO elements (revision_id, number, global_id, class, name, storey, layer, layers, type_name, materials, sets,
                    place, shape, volume, area, facts)
                SELECT {ids[
                    n
                ]}, i, lpad(i::text, 22, '0'), 'IfcWall', 'W' || i || CASE WHEN {n} = 1 AND i % 250 = 0 THEN 'b' ELSE '' END,
                    i % 12, 'A-WALL', ARRAY['A-WALL'],
                  'Type ' || i % 50, ARRAY['Concrete'], ARRAY[]::int[], ARRAY[p.x, p.y, p.z, p.x, p.y, p.z, 1, 0, 0, 0, 0, 1]::float8[],
                  ARRAY[1 + i % 7, 3, 2, 1]::float8[], 1, 3, ''::bytea
                FROM generate_series(1, {count}) AS i, LATERAL (SELECT i % 199 + {n} * 500.0
                    + CASE WHEN {n} = 1 AND i % 100 = 0 THEN 0.1 ELSE 0 END AS x,
                  i / 199 % 97 - {n} * 30.48 AS y, i / 20000.0 AS z) AS p
                """
            );
        }

        var clock = System.Diagnostics.Stopwatch.StartNew();
        var (old, now) = await StoredFingerprints.LoadAsync(db, ids[0], ids[1], default);
        double read = clock.Elapsed.TotalSeconds;
        var changes = RevisionComparer.Compare(old!, now!);
        TestContext.Current.SendDiagnosticMessage(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{count} elements: columns of both revisions {read:0.00} s, compared {clock.Elapsed.TotalSeconds - read:0.00} s"
            )
        );
        Assert.Equal((count / 100, (count / 250) + 1), (changes.Moved.Count, changes.Renamed.Count));
        Assert.Equal(
            (500, -30.48),
            (Math.Round(changes.FrameJump!.Shift.X, 4), Math.Round(changes.FrameJump.Shift.Y, 4))
        );

        // Set out so that nothing moved: what moves is a row, whatever the number of elements.
        clock.Restart();
        var source = await db.Sources.Include(o => o.Party).SingleAsync(o => o.Revisions.Any(r => r.Id == ids[1]));
        await new SettingOuts(db).AcceptAsync(
            source,
            source.JobId,
            SettingOutDocument.Of(changes.FrameJump.Frame.Inverse(), EvidenceKind.Jump),
            null,
            2,
            new Actor(Guid.NewGuid(), ""),
            default
        );
        var state = await JobState.LoadAsync(db, source.JobId, default);
        TestContext.Current.SendDiagnosticMessage(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{count} elements: placed anew in {clock.Elapsed.TotalSeconds:0.000} s"
            )
        );
        Assert.Equal(-500, state.Sources.Single(x => x.Source.Id == source.Id).Frame.Origin.X, 3);
    }

    private static string GlobalId(long n)
    {
        Span<char> id = stackalloc char[22];
        for (int i = 21; i >= 0; i--, n /= 64)
            id[i] = Digits[(int)(n % 64)];
        return new string(id);
    }
}
