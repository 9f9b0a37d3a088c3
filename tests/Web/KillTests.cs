using System.Diagnostics;
using System.Text;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>Server, worker and database are killed at random moments of an upload, an intake and a run: nothing is lost, doubled or
/// stuck.</summary>
public sealed class KillTests : IDisposable
{
    // The server once in the slow run; LINTEL_KILLS=30 for the long run, in which worker and database come too.
    private static readonly int Kills = int.TryParse(Environment.GetEnvironmentVariable("LINTEL_KILLS"), out int n)
        ? n
        : 1;

    // A database of its own: others' must not be killed.
    private readonly string _folder = Directory.CreateTempSubdirectory("lintel-kills-").FullName;
    private readonly string _connection;
    private ServerProcess? _server;

    public KillTests()
    {
        Database("postgres_start");
        _connection = Script($"postgres_connection '{_folder}' kills").Trim();
    }

    [Fact]
    [Trait("Slow", "yes")]
    public async Task Whatever_is_killed_nothing_is_lost_doubled_or_stuck()
    {
        await StartAsync(demo: true);
        using var client = new LintelClient(_server!.Address);
        await client.SignInAsync("coordinator@heron.example");
        string party = await client.PartyAsync("STR");
        // An order has nothing to run on before the demo's models are read.
        for (
            int i = 0;
            i < 600 && Regex.Count(await client.GetAsync("/jobs/HW/receive?handler=List"), "data-state=\"Ready\"") < 4;
            i++
        )
            await Task.Delay(100);
        var made = await client.FormAsync("/jobs/HW/handover", "New");
        string order = made.RequestMessage!.RequestUri!.AbsolutePath;
        Assert.Matches(@"handover/\d+$", order);
        var random = new Random(20261128);
        var sent = new List<string>();
        for (int round = 0; round < Kills; round++)
        {
            int target = round % 3;
            var killing = KillAsync(target, TimeSpan.FromMilliseconds(random.Next(50, 2500)));
            sent.Add(await PersistAsync(at => SendAsync(at, party, round), client));
            await PersistAsync(
                async at =>
                {
                    (
                        await at.FormAsync(
                            order,
                            "Run",
                            ("Form", "ifc"),
                            ("Unit", ""),
                            ("Split", "storey"),
                            ("Name", "{job}-{party}-{storey}")
                        )
                    ).EnsureSuccessStatusCode();
                    return "";
                },
                client
            );
            await killing;
            await PersistAsync(async at => (await at.WaitAsync(sent[^1], 90, "Ready")).Row, client);
        }

        await using var db = Open();
        for (int i = 0; i < 900 && await db.Transmittals.AnyAsync(t => t.State < TransmittalState.Done); i++)
            await Task.Delay(100);
        var runs = await db
            .Transmittals.AsNoTracking()
            .Select(t => new
            {
                t.Number,
                t.State,
                t.Sentence,
                t.Balanced,
            })
            .ToListAsync();
        Assert.NotEmpty(runs);
        Assert.All(runs, r => Assert.Equal((TransmittalState.Done, ""), (r.State, r.Sentence)));
        var revisions = await db
            .Revisions.AsNoTracking()
            .Where(r => r.Delivery.Source.Name == "Killed")
            .OrderBy(r => r.Number)
            .Select(r => new
            {
                r.Id,
                r.Number,
                r.Elements,
            })
            .ToListAsync();
        Assert.Equal(sent.Order(), revisions.Select(r => r.Id.ToString()).Order());
        Assert.Equal(Enumerable.Range(1, Kills), revisions.Select(r => r.Number));
        foreach (var revision in revisions)
            Assert.Equal(revision.Elements, await db.Elements.CountAsync(e => e.RevisionId == revision.Id));
        Assert.Empty((await Integrity.CheckAsync(db, CancellationToken.None)).Faults);
    }

    public void Dispose()
    {
        _server?.Dispose();
        Npgsql.NpgsqlConnection.ClearAllPools();
        Database("postgres_remove");
        if (Directory.Exists(_folder))
            Directory.Delete(_folder, true);
    }

    // A small model, made longer than one piece by a comment.
    private static async Task<string> SendAsync(LintelClient at, string party, int round)
    {
        await at.TokenAsync("/jobs/HW/receive");
        string model = Encoding.ASCII.GetString(TakeOverTests.Tower(150));
        string text = model.Replace(
            "ENDSEC;\nEND-ISO",
            $"/* {round} {new string('x', 5_000_000)} */ENDSEC;\nEND-ISO",
            StringComparison.Ordinal
        );
        Assert.NotEqual(model, text);
        return await at.DeliverAsync(
            party,
            "Killed",
            $"killed-{round}.ifc",
            Encoding.ASCII.GetBytes(text),
            PersistAsync
        );

        async Task<HttpResponseMessage> PersistAsync(Func<Task<HttpResponseMessage>> ask)
        {
            // As the page does: an answer that does not come is asked for again.
            for (int tries = 0; ; tries++)
            {
                try
                {
                    var answer = await ask();
                    if ((int)answer.StatusCode < 500 || tries > 60)
                        return answer;
                }
                catch (HttpRequestException) when (tries < 60)
                {
                    // The server is away.
                }

                await Task.Delay(500);
            }
        }
    }

    private async Task<string> PersistAsync(Func<LintelClient, Task<string>> ask, LintelClient client)
    {
        for (int tries = 0; ; tries++)
        {
            try
            {
                return await ask(client);
            }
            catch (Exception e) when (e is HttpRequestException && tries < 60)
            {
                await Task.Delay(500);
            }
        }
    }

    private async Task KillAsync(int target, TimeSpan after)
    {
        await Task.Delay(after);
        switch (target)
        {
            case 0:
                _server!.Kill();
                await StartAsync(demo: false);
                break;
            case 1:
                _server!.KillRunners();
                break;
            default:
                Script($"kill -9 $(head -1 $(postgres_home '{_folder}')/data/postmaster.pid)");
                await Task.Delay(1000);
                for (int i = 0; i < 20 && !Database("postgres_start"); i++)
                    await Task.Delay(500);
                break;
        }
    }

    private async Task StartAsync(bool demo)
    {
        var before = _server;
        _server = await ServerProcess.StartAsync(
            _connection,
            demo,
            before is null
                ? [("Work__LostSeconds", "5")]
                : [("Work__LostSeconds", "5"), ("ASPNETCORE_URLS", before.Address.ToString())]
        );
        before?.Dispose();
    }

    private bool Database(string verb) =>
        Script($"{verb} '{_folder}' && echo fine").TrimEnd().EndsWith("fine", StringComparison.Ordinal);

    private static string Script(string command)
    {
        var start = new ProcessStartInfo("bash", ["-c", ". scripts/postgres.sh; " + command])
        {
            RedirectStandardOutput = true,
            WorkingDirectory = ServerProcess.Root(),
        };
        using var process = Process.Start(start)!;
        string text = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return text;
    }

    private LintelDb Open()
    {
        var options = new DbContextOptionsBuilder<LintelDb>();
        LintelDbFactory.Configure(options, _connection);
        return new LintelDb(options.Options);
    }
}
