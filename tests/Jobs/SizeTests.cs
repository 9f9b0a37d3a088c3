using System.Globalization;
using System.Text;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>Very many elements are read piece by piece, and none at all is refused.</summary>
public class SizeTests(JobFixture job) : IClassFixture<JobFixture>
{
    private static int Count => int.TryParse(Environment.GetEnvironmentVariable("LINTEL_PRODUCTS"), out int n) ? n : 60_000;

    private static int LongName => int.TryParse(Environment.GetEnvironmentVariable("LINTEL_NAME"), out int n) ? n : 2_000_000;

    private const string Digits = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$";

    [Fact]
    public async Task Products_without_any_shape_are_read_in_bounded_memory_and_all_are_there()
    {
        var text = new StringBuilder("ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),(''),'','','');\n"
            + "FILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n#1=IFCPROJECT('0000000000000000000001',$,'P',$,$,$,$,$,$);\n");
        for (int n = 0; n < Count; n++)
            text.Append(CultureInfo.InvariantCulture, $"#{n + 100}=IFCWALL('{GlobalId(n)}',$,'W{n}',$,$,$,$,$,$);\n");
        byte[] bytes = Encoding.ASCII.GetBytes(text.Append("ENDSEC;\nEND-ISO-10303-21;\n").ToString());
        text.Clear().Capacity = 0;
        long before = GC.GetTotalAllocatedBytes();
        var clock = System.Diagnostics.Stopwatch.StartNew();
        var id = await job.DeliverAsync("SNK", "Many", bytes);
        TestContext.Current.SendDiagnosticMessage($"{Count} products: {clock.Elapsed.TotalSeconds:0.0} s, "
            + $"{(GC.GetTotalAllocatedBytes() - before) >> 20} MB allocated, peak {Environment.WorkingSet >> 20} MB");
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
        string text = "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),(''),'','','');\nFILE_SCHEMA(('IFC4'));\nENDSEC;\n"
            + $"DATA;\n#1=IFCPROJECT('0000000000000000000001',$,'P',$,$,$,$,$,$);\n#2=IFCWALL('0000000000000000000002',$,'{new string('x', LongName)}',$,$,$,$,$,$);\n"
            + "ENDSEC;\nEND-ISO-10303-21;\n";
        var id = await job.DeliverAsync("SNK", "Long name", Encoding.ASCII.GetBytes(text));
        await using var db = job.CreateDbContext();
        Assert.Equal((DeliveryState.Ready, ""), await db.Deliveries.Where(d => d.Id == id).Select(d => new ValueTuple<DeliveryState,
            string>(d.State, d.Sentence)).SingleAsync());
        var row = await db.Elements.AsNoTracking().SingleAsync(e => e.RevisionId == id);
        Assert.Equal(StoredText.MaxText, row.Name.Length);
        Assert.Equal(StoredText.MaxText, IntakeStore.Unpack(row.Facts).Name.Length);
    }

    [Theory]
    [InlineData("a.ifc", "ISO-10303-21;HEADER;FILE_DESCRIPTION((''),'2;1');FILE_NAME('','',(''),(''),'','','');FILE_SCHEMA(('IFC4'));ENDSEC;DATA;ENDSEC;END-ISO-10303-21;", "not even a project")]
    [InlineData("a.dxf", "0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n", "no entity in it")]
    public async Task A_file_without_any_content_is_refused_and_kept(string name, string text, string why)
    {
        var id = await job.DeliverAsync("SRV", "Empty " + name, System.Text.Encoding.ASCII.GetBytes(text), name);
        await using var db = job.CreateDbContext();
        var delivery = await db.Deliveries.AsNoTracking().SingleAsync(d => d.Id == id);
        Assert.Equal(DeliveryState.Refused, delivery.State);
        Assert.Contains(why, delivery.Sentence);
        Assert.Equal(text.Length, (await new Blobs(db).HeldAsync(delivery.BlobId)).Bytes);
    }

    private static string GlobalId(long n)
    {
        Span<char> id = stackalloc char[22];
        for (int i = 21; i >= 0; i--, n /= 64) id[i] = Digits[(int)(n % 64)];
        return new string(id);
    }
}
