namespace SteadyLintel.Tests;

/// <summary>Processes that work may be elsewhere, and may die.</summary>
public class WorkerTests
{
    [Fact]
    [Trait("Slow", "yes")]
    public async Task Another_machine_works_while_the_web_serves_pages_alone()
    {
        string connection = await DemoDatabase.NewAsync();
        using var web = await ServerProcess.StartAsync(connection, demo: true, ("Work__Here", "false"));
        using var client = new LintelClient(web.Address);
        await client.SignInAsync("coordinator@heron.example");
        string id = await client.DeliverAsync(
            await client.PartyAsync("STR"),
            "Tower",
            "tower.ifc",
            TakeOverTests.Tower(500)
        );
        await Task.Delay(3000);
        Assert.Equal("Received", (await client.StateAsync(id)).State);
        using var worker = ServerProcess.StartWorker(connection);
        await client.WaitAsync(id, 60, "Ready");
    }

    [Fact]
    public async Task The_end_of_the_process_that_reads_is_not_the_servers_and_twice_sets_the_delivery_aside()
    {
        using var server = await ServerProcess.StartAsync(await DemoDatabase.NewAsync(), demo: true);
        using var client = new LintelClient(server.Address);
        await client.SignInAsync("coordinator@heron.example");
        string party = await client.PartyAsync("STR");
        string once = await client.DeliverAsync(party, "Tower", "tower.ifc", TakeOverTests.Tower());
        await client.WaitAsync(once, 60, "Reading", "Shaping");
        Assert.True(server.KillRunners() > 0);
        await client.WaitAsync(once, 90, "Ready");

        string twice = await client.DeliverAsync(
            party,
            "Other tower",
            "tower.ifc",
            [.. TakeOverTests.Tower(), (byte)'\n']
        );
        for (int n = 0; n < 2; n++)
        {
            await client.WaitAsync(twice, 60, "Reading", "Shaping");
            Assert.True(server.KillRunners() > 0);
            // The state stays what it was until somebody takes it up again.
            await Task.Delay(3000);
        }

        Assert.Contains("set aside", (await client.WaitAsync(twice, 30, "Refused")).Row);
        Assert.Contains("Heron Wharf", await client.GetAsync("/"));
    }
}
