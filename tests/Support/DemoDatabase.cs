using Npgsql;
using SteadyLintel.Demo;

namespace SteadyLintel.Tests;

/// <summary>Databases with the demo job taken in. It is taken in once a run; every test that wants it gets a copy of its own, which takes
/// PostgreSQL a moment where the intake takes most of a minute.</summary>
internal static class DemoDatabase
{
    // Any number that no other lock of the test server has.
    private const long Lock = 0x4845524F4E;

    /// <summary>A connection string to a new database with the demo job.</summary>
    public static async Task<string> NewAsync()
    {
        string given = TestDatabase.New(),
            name = new NpgsqlConnectionStringBuilder(given).Database!;
        var server = new NpgsqlConnectionStringBuilder(given) { Database = "postgres", Pooling = false };
        await using var connection = new NpgsqlConnection(server.ConnectionString);
        await connection.OpenAsync();
        // Test programs run beside each other; the lock goes with the connection.
        await DoAsync(connection, $"SELECT pg_advisory_lock({Lock})", seconds: 600);
        string original = "demo_" + typeof(DemoDelivery).Module.ModuleVersionId.ToString("N") + Build();
        if (!await ExistsAsync(connection, original))
        {
            string making = "making_" + Guid.NewGuid().ToString("N");
            server.Database = making;
            await TakeInAsync(server.ConnectionString);
            await DoAsync(connection, $"ALTER DATABASE {making} RENAME TO {original}");
        }

        await DoAsync(connection, $"CREATE DATABASE {name} TEMPLATE {original}");
        return given;
    }

    // A database of an older build is of no use: what is taken in may have changed.
    private static string Build() =>
        File.GetLastWriteTimeUtc(Path.Combine(AppContext.BaseDirectory, "SteadyLintel.Web.dll")).Ticks.ToString("x");

    private static async Task TakeInAsync(string connection)
    {
        using var server = await ServerProcess.StartAsync(connection, demo: true);
        using var client = new LintelClient(server.Address);
        await client.SignInAsync("coordinator@heron.example");
        int all = HeronWharf.Deliveries.Count();
        for (int i = 0; i < 900; i++)
        {
            if (
                (await client.GetAsync("/jobs/HW/receive?handler=List")).Split("data-state=\"Ready\"").Length > all
                && await IsIdleAsync(connection)
            )
                return;
            await Task.Delay(200);
        }

        throw new TimeoutException("The demo was not taken in: " + server.LogText);
    }

    // Whether the queue knows too that the work is done: what it held when its server ends, every copy would do again.
    private static async Task<bool> IsIdleAsync(string connection)
    {
        await using var open = new NpgsqlConnection(
            new NpgsqlConnectionStringBuilder(connection) { Pooling = false }.ConnectionString
        );
        await open.OpenAsync();
        await using var ask = new NpgsqlCommand(
            "SELECT NOT EXISTS (SELECT 1 FROM hangfire.jobqueue) AND NOT EXISTS (SELECT 1 FROM hangfire.lock)",
            open
        );
        return await ask.ExecuteScalarAsync() is true;
    }

    private static async Task<bool> ExistsAsync(NpgsqlConnection connection, string name)
    {
        await using var ask = new NpgsqlCommand("SELECT 1 FROM pg_database WHERE datname = $1", connection);
        ask.Parameters.AddWithValue(name);
        return await ask.ExecuteScalarAsync() is not null;
    }

    private static async Task DoAsync(NpgsqlConnection connection, string statement, int seconds = 60)
    {
        await using var command = new NpgsqlCommand(statement, connection) { CommandTimeout = seconds };
        await command.ExecuteNonQueryAsync();
    }
}
