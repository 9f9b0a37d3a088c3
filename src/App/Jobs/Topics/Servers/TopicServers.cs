using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>Other servers that a job shares its topics with: added, signed in at, looked at, removed.</summary>
/// <param name="db">The database.</param>
/// <param name="connection">The way there.</param>
/// <param name="signIn">Signs in there.</param>
public sealed class TopicServers(LintelDb db, TopicServerConnection connection, TopicServerSignIn signIn)
{
    private const int MostServers = 10,
        MostOpen = 200,
        LongestName = 80,
        LongestSecret = 4000;

    /// <summary>The servers of a job, with what needs a look.</summary>
    public async Task<IReadOnlyList<ShownServer>> ListAsync(Guid job, CancellationToken cancel)
    {
        var servers = await db
            .TopicServers.AsNoTracking()
            .Where(s => s.JobId == job)
            .OrderBy(s => s.Name)
            .ToListAsync(cancel);
        var shown = new List<ShownServer>();
        foreach (var server in servers)
        {
            var noted = db.TopicServerTopics.Where(t => t.ServerId == server.Id);
            var topics = db.Topics.Where(t => t.JobId == job);
            int waiting = await topics.CountAsync(
                t =>
                    noted.Any(n => n.Guid == t.Guid && n.Version != t.Version)
                    || (server.SendsOwn && !noted.Any(n => n.Guid == t.Guid)),
                cancel
            );
            var open = await noted
                .Where(n => n.Problem != "")
                .Join(
                    topics,
                    n => n.Guid,
                    t => t.Guid,
                    (n, t) =>
                        new
                        {
                            Noted = n,
                            t.Number,
                            t.Title,
                        }
                )
                .OrderBy(o => o.Number)
                .Take(MostOpen)
                .ToListAsync(cancel);
            shown.Add(
                new ShownServer(
                    server,
                    await noted.CountAsync(n => n.Common != null, cancel),
                    server.Project.Length == 0 ? 0 : waiting,
                    [
                        .. open.Select(o => new OpenServerTopic(
                            o.Noted.Guid,
                            o.Number,
                            o.Title,
                            o.Noted.Problem,
                            o.Noted.Conflicts is { } c
                                ? Undecided(
                                    JsonSerializer.Deserialize<List<TopicConflict>>(c)!,
                                    TopicDecision.Read(o.Noted.Decisions)
                                )
                                : []
                        )),
                    ]
                )
            );
        }

        return shown;
    }

    private static List<TopicConflict> Undecided(
        List<TopicConflict> conflicts,
        IReadOnlyList<TopicDecision> decisions
    ) => conflicts.FindAll(c => !decisions.Any(d => d.IsAbout(c)));

    /// <summary>Adds a server, once it answers; signed in at is it where that needs nobody.</summary>
    /// <returns>The server.</returns>
    /// <exception cref="RefusedException">A word is wrong, the server does not answer or let the job in, or the person may not.</exception>
    public async Task<TopicServer> AddAsync(
        Guid job,
        JobPermissions who,
        ServerWish wish,
        Actor by,
        CancellationToken cancel
    )
    {
        Allow(who);
        if (await db.TopicServers.CountAsync(s => s.JobId == job, cancel) >= MostServers)
            throw new RefusedException(RefusalKind.Conflict, $"{MostServers} servers are the most; remove one first.");
        if (wish.SignIn is not { } way || !TopicServerSignIn.Ways.ContainsKey(way))
            throw new RefusedException(RefusalKind.Wrong, "Say how the job signs in there.");
        string secret = InputRules.Of(
            wish.Secret,
            way == "token" ? "The token" : "The secret",
            LongestSecret,
            way != "person"
        );
        string client = InputRules.Of(wish.ClientId, "The client ID", LongestName * 4, way != "token");
        string address = connection.Checked(wish.Address);
        var server = new TopicServer
        {
            Id = Guid.NewGuid(),
            JobId = job,
            SignIn = way,
            ClientId = client,
            Secret = signIn.Protect(secret),
            AddedBy = by.User,
            AddedAt = DateTime.UtcNow,
            NextAt = DateTime.UtcNow,
        };
        await AskingAsync(async () =>
        {
            var found = await signIn.DiscoverAsync(address, cancel);
            (server.Address, server.ApiAddress, server.Version) = (found.Address, found.ApiAddress, found.Version);
            (server.SignInAddress, server.TokenAddress) = (found.SignInAddress, found.TokenAddress);
            server.Name = InputRules.Of(wish.Name, "The name", LongestName, false) is { Length: > 0 } name
                ? name
                : new Uri(found.Address).Host;
            if (
                (way == "person" && server.SignInAddress.Length == 0)
                || (way != "token" && server.TokenAddress.Length == 0)
            )
                throw new RefusedException(
                    RefusalKind.Wrong,
                    $"{server.Name} offers no such sign-in; use a token that somebody made there."
                );
            if (way != "person")
                await WhoAsync(server, cancel);
        });
        db.TopicServers.Add(server);
        db.Note(by, job, "added a server for topics", $"{server.Name} {server.Address}");
        await db.SaveChangesAsync(cancel);
        return server;
    }

    /// <summary>The address where a person signs in for the job.</summary>
    public async Task<string> SignInAddressAsync(
        Guid job,
        JobPermissions who,
        Guid id,
        Guid user,
        string back,
        CancellationToken cancel
    )
    {
        Allow(who);
        return signIn.Address(await OneAsync(job, id, cancel), user, back);
    }

    /// <summary>Takes what a person brings back from the sign-in.</summary>
    /// <param name="state">What they were given.</param>
    /// <param name="code">The server's code.</param>
    /// <param name="back">Where they came back to.</param>
    /// <param name="may">What the person may do in a job; null where they are not in it.</param>
    /// <param name="by">The person.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The job.</returns>
    /// <exception cref="RefusedException">The state is not one that the person was given, or the server does not accept it.</exception>
    public async Task<Guid> SignedInAsync(
        string? state,
        string? code,
        string back,
        Func<Guid, Task<JobPermissions?>> may,
        Actor by,
        CancellationToken cancel
    )
    {
        if (signIn.Read(state, by.User) is not var (id, verifier))
            throw new RefusedException(
                RefusalKind.Wrong,
                "This sign-in took too long, or was not begun here. Begin it again."
            );
        var server = await db.TopicServers.FirstOrDefaultAsync(s => s.Id == id, cancel);
        if (server is null || await may(server.JobId) is not { } who)
            throw new RefusedException(RefusalKind.Unknown, "There is no such server any more.");
        Allow(who);
        await AskingAsync(async () =>
        {
            await signIn.TakeCodeAsync(server, code ?? "", verifier, back, cancel);
            await WhoAsync(server, cancel);
        });
        (server.NextAt, server.Failures, server.State) = (DateTime.UtcNow, 0, TopicServerState.Waiting);
        db.Note(by, server.JobId, "signed in at a server for topics", $"{server.Name} as {server.Account}");
        await db.SaveChangesAsync(cancel);
        return server.JobId;
    }

    /// <summary>The projects that the job can share with there.</summary>
    public async Task<IReadOnlyList<(string Id, string Name)>> ProjectsAsync(
        Guid job,
        JobPermissions who,
        Guid id,
        CancellationToken cancel
    )
    {
        Allow(who);
        var server = await OneAsync(job, id, cancel);
        IReadOnlyList<ProjectEntry> projects = [];
        await AskingAsync(async () =>
        {
            string renewal = server.Renewal;
            var client = await signIn.ClientAsync(server, cancel);
            if (server.Renewal != renewal)
                await db.SaveChangesAsync(cancel);
            projects = await client.GetAsync<IReadOnlyList<ProjectEntry?>>("projects", cancel) is { } many
                ? [.. many.OfType<ProjectEntry>()]
                : [];
        });
        return
        [
            .. projects
                .Where(p => p.ProjectId is { Length: > 0 })
                .Select(p => (p.ProjectId!, p.Name ?? p.ProjectId!))
                .OrderBy(p => p.Item2, StringComparer.Ordinal),
        ];
    }

    /// <summary>Chooses the project there and what is shared; the first exchange begins.</summary>
    public async Task ChooseAsync(
        Guid job,
        JobPermissions who,
        Guid id,
        string? project,
        string? frame,
        bool sendsOwn,
        Actor by,
        CancellationToken cancel
    )
    {
        var known = await ProjectsAsync(job, who, id, cancel);
        var server = await OneAsync(job, id, cancel);
        var (chosen, name) = known.FirstOrDefault(p => p.Id == project);
        if (chosen is null)
            throw new RefusedException(RefusalKind.Wrong, "Choose a project of the list.");
        if (server.Project.Length > 0 && server.Project != chosen)
        {
            if (server.HeldUntil > DateTime.UtcNow)
                throw new RefusedException(
                    RefusalKind.Conflict,
                    "Topics are being exchanged at this moment. Choose another project once that has ended."
                );
            // What was shared with another project says nothing about this one.
            await db.TopicServerTopics.Where(t => t.ServerId == id).ExecuteDeleteAsync(cancel);
            server.TheirTime = null;
        }

        (server.Project, server.ProjectName, server.SendsOwn) = (chosen, name, sendsOwn);
        server.Frame = TopicFrame.Read(frame) is { Automatic: true } ? "auto" : frame!;
        (server.NextAt, server.State) = (DateTime.UtcNow, TopicServerState.Waiting);
        db.Note(by, job, "shares topics with", $"{server.Name}, {name}");
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Has topics exchanged now.</summary>
    /// <param name="job">The job.</param>
    /// <param name="who">What the person may do.</param>
    /// <param name="id">The server.</param>
    /// <param name="everything">Whether every topic is compared, and not those alone that changed.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task NowAsync(Guid job, JobPermissions who, Guid id, bool everything, CancellationToken cancel)
    {
        if (!who.MayWriteTopics)
            throw new RefusedException(RefusalKind.Forbidden, "Coordinators and contributors exchange topics.");
        var server = await OneAsync(job, id, cancel);
        if (everything)
        {
            server.TheirTime = null;
            await db
                .TopicServerTopics.Where(t => t.ServerId == id)
                .ExecuteUpdateAsync(
                    u => u.SetProperty(t => t.TheirModified, "").SetProperty(t => t.Version, -1),
                    cancel
                );
        }

        server.NextAt = DateTime.UtcNow;
        if (server.State != TopicServerState.Underway)
            server.State = TopicServerState.Waiting;
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Decides values that both sides changed.</summary>
    /// <param name="job">The job.</param>
    /// <param name="who">What the person may do.</param>
    /// <param name="id">The server.</param>
    /// <param name="guid">The topic.</param>
    /// <param name="what">Which value (<see cref="TopicConflict.What"/>).</param>
    /// <param name="takesTheirs">Whether the server's is taken.</param>
    /// <param name="by">Who.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">It is decided or changed by now, or the person may not.</exception>
    public async Task DecideAsync(
        Guid job,
        JobPermissions who,
        Guid id,
        string guid,
        string what,
        bool takesTheirs,
        Actor by,
        CancellationToken cancel
    )
    {
        if (!who.MayWriteTopics)
            throw new RefusedException(RefusalKind.Forbidden, "Coordinators and contributors decide about topics.");
        var server = await OneAsync(job, id, cancel);
        var noted = await db.TopicServerTopics.FirstOrDefaultAsync(t => t.ServerId == id && t.Guid == guid, cancel);
        if (
            noted?.Conflicts is not { } json
            || JsonSerializer.Deserialize<List<TopicConflict>>(json)!.FirstOrDefault(c => c.What == what)
                is not { } conflict
        )
            throw new RefusedException(RefusalKind.Conflict, "This is decided or changed by now.");
        noted.Decisions = TopicDecision.Write([
            .. TopicDecision.Read(noted.Decisions).Where(d => d.What != what),
            new TopicDecision(what, conflict.Ours, conflict.Theirs, takesTheirs),
        ]);
        server.NextAt = DateTime.UtcNow;
        db.Note(
            by,
            job,
            takesTheirs ? "chose the server's value" : "chose the job's value against the server",
            $"{what} of {conflict.Title}"
        );
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Shares no more with a server; the topics stay on both sides.</summary>
    public async Task RemoveAsync(Guid job, JobPermissions who, Guid id, Actor by, CancellationToken cancel)
    {
        Allow(who);
        var server = await OneAsync(job, id, cancel);
        db.TopicServers.Remove(server);
        db.Note(by, job, "removed a server for topics", server.Name);
        await db.SaveChangesAsync(cancel);
        signIn.Forget(server);
    }

    private async Task WhoAsync(TopicServer server, CancellationToken cancel)
    {
        var client = await signIn.ClientAsync(server, cancel);
        var me = await client.GetAsync<PersonEntry>("current-user", cancel)
            ?? await client.GetAsync<PersonEntry>("../../foundation/1.0/current-user", cancel);
        server.Account = me?.Id ?? "";
    }

    // What comes in between with the server is a sentence for whoever waits.
    private static async Task AskingAsync(Func<Task> ask)
    {
        try
        {
            await ask();
        }
        catch (TopicServerException e)
        {
            throw new RefusedException(RefusalKind.Wrong, e.Message);
        }
    }

    private async Task<TopicServer> OneAsync(Guid job, Guid id, CancellationToken cancel) =>
        await db.TopicServers.FirstOrDefaultAsync(s => s.Id == id && s.JobId == job, cancel)
        ?? throw new RefusedException(RefusalKind.Unknown, "There is no such server any more.");

    private static void Allow(JobPermissions who)
    {
        if (!who.MayManageTopics)
            throw new RefusedException(RefusalKind.Forbidden, "Coordinators share topics with other servers.");
    }

    private sealed record ProjectEntry(string? ProjectId, string? Name);

    private sealed record PersonEntry(string? Id, string? Name);
}
