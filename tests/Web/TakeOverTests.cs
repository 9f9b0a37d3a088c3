using SteadyLintel.Bench;

namespace SteadyLintel.Tests;

public class TakeOverTests
{
    // Enough that a test sees it being read before it is done.
    internal const int Elements = 6_000;

    internal static byte[] Tower(int elements = Elements)
    {
        using var stream = new MemoryStream();
        TowerWriter.WriteElements(stream, elements);
        return stream.ToArray();
    }

    [Fact]
    public async Task Two_processes_share_everything_and_one_finishes_what_the_other_began()
    {
        string connection = await DemoDatabase.NewAsync();
        using var first = await ServerProcess.StartAsync(connection, demo: true);
        using var one = new LintelClient(first.Address);
        await one.SignInAsync("coordinator@heron.example");
        string id = await one.DeliverAsync(await one.PartyAsync("STR"), "Tower", "tower.ifc", Tower());
        await one.WaitAsync(id, 60, "Reading", "Shaping");
        // The first halts in the middle, so that the second cannot come too late; the sign-in is good there too.
        first.Pause();
        using var second = await ServerProcess.StartAsync(connection, demo: false);
        using var two = one.At(second.Address);
        Assert.Contains("Tower", (await two.StateAsync(id)).Row);
        first.Kill();
        var (_, row) = await two.WaitAsync(id, 90, "Ready");
        Assert.Contains("6\u202F000", row);
        Assert.Contains("Heron Wharf", await two.GetAsync("/"));
    }

    [Fact]
    [Trait("Slow", "yes")]
    public async Task A_killed_server_goes_on_where_it_was_told_to()
    {
        string connection = await DemoDatabase.NewAsync();
        string id;
        LintelClient client;
        using (var first = await ServerProcess.StartAsync(connection, demo: true))
        {
            client = new LintelClient(first.Address);
            await client.SignInAsync("coordinator@heron.example");
            id = await client.DeliverAsync(await client.PartyAsync("STR"), "Tower", "tower.ifc", Tower());
            await client.WaitAsync(id, 60, "Indexing", "Reading", "Shaping");
            first.Kill();
        }

        using var again = await ServerProcess.StartAsync(connection, demo: false);
        using var later = client.At(again.Address);
        await later.WaitAsync(id, 90, "Ready");
    }

    // A process that is killed while the queue notes that a work is done leaves its lock behind.
    [Fact]
    public async Task A_lock_that_a_killed_server_left_holds_nobody_up_for_long()
    {
        string connection = await DemoDatabase.NewAsync();
        await using (var open = new Npgsql.NpgsqlConnection(connection))
        {
            await open.OpenAsync();
            await using var leave = new Npgsql.NpgsqlCommand(
                """
                INSERT INTO hangfire.lock (resource, updatecount, acquired)
                SELECT 'hangfire:job:' || (SELECT max(id) + n FROM hangfire.job) || ':state-lock', 0, now() FROM generate_series(1, 3) n
                """,
                open
            );
            await leave.ExecuteNonQueryAsync();
        }

        using var server = await ServerProcess.StartAsync(connection, demo: true);
        using var client = new LintelClient(server.Address);
        await client.SignInAsync("coordinator@heron.example");
        string id = await client.DeliverAsync(await client.PartyAsync("STR"), "Tower", "tower.ifc", Tower(40));
        await client.WaitAsync(id, 60, "Ready");
    }

    [Fact]
    public async Task A_delivery_can_be_cancelled_in_the_middle()
    {
        using var server = await ServerProcess.StartAsync(await DemoDatabase.NewAsync(), demo: true);
        using var client = new LintelClient(server.Address);
        await client.SignInAsync("coordinator@heron.example");
        string id = await client.DeliverAsync(await client.PartyAsync("STR"), "Tower", "tower.ifc", Tower());
        await client.WaitAsync(id, 60, "Reading", "Shaping");
        (await client.PostAsync($"/jobs/HW/receive?handler=Cancel&id={id}")).EnsureSuccessStatusCode();
        Assert.Contains("Cancelled", (await client.WaitAsync(id, 30, "Cancelled")).Row);
    }
}
