using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>What holds for all topics of a job: its words, its parties and people, what closes a topic.</summary>
public sealed class TopicBoard
{
    private readonly Dictionary<string, TopicPerson> _people;

    private TopicBoard(
        Guid job,
        TopicArchive project,
        TopicSettings settings,
        IReadOnlyList<Party> parties,
        Dictionary<string, TopicPerson> people
    ) => (Job, Project, Settings, Parties, _people) = (job, project, settings, parties, people);

    /// <summary>The job.</summary>
    public Guid Job { get; }

    /// <summary>What BCF says beside the topics; its words are never null.</summary>
    public TopicArchive Project { get; }

    /// <summary>The job's words.</summary>
    public TopicExtensions Words => Project.Extensions!;

    /// <summary>What the job wants of its topics.</summary>
    public TopicSettings Settings { get; }

    /// <summary>The parties, by code.</summary>
    public IReadOnlyList<Party> Parties { get; }

    /// <summary>Who can owe an answer: parties by their codes, then people by their mail addresses.</summary>
    public IEnumerable<(string Word, TopicPerson Person)> Answerers =>
        Parties
            .Select(p => (p.Code, new TopicPerson(null, p.Code, p.Id)))
            .Concat(_people.OrderBy(p => p.Value.Name, StringComparer.Ordinal).Select(p => (p.Key, p.Value)));

    /// <summary>Who is meant by a word of a topic: a mail address, or the code of a party.</summary>
    public TopicPerson PersonOf(string word) =>
        _people.TryGetValue(word, out var person) ? person
        : Parties.FirstOrDefault(p => p.Code.Equals(word, StringComparison.OrdinalIgnoreCase)) is { } party
            ? new TopicPerson(null, party.Code, party.Id)
        : new TopicPerson(null, word, null);

    /// <summary>The mail address of a member, which is their name in topics.</summary>
    /// <exception cref="RefusedException">They are not in the job.</exception>
    public string AuthorOf(Actor actor) =>
        _people.FirstOrDefault(p => p.Value.Id == actor.User).Key
        ?? throw new RefusedException(RefusalKind.Forbidden, "Members of the job write topics.");

    /// <summary>The party; null where it is none of the job's.</summary>
    public Party? PartyOf(Guid? id) => Parties.FirstOrDefault(p => p.Id == id);

    /// <summary>Loads it.</summary>
    public static async Task<TopicBoard> LoadAsync(LintelDb db, Guid job, CancellationToken cancel)
    {
        var row = await db.TopicProjects.AsNoTracking().FirstOrDefaultAsync(p => p.JobId == job, cancel);
        var known = await db.Jobs.Where(j => j.Id == job).Select(j => new { j.Code, j.Name }).FirstAsync(cancel);
        var project = row is null
            ? new TopicArchive { ProjectId = job.ToString(), ProjectName = $"{known.Code} {known.Name}" }
            : TopicJson.ReadProject(row.Document);
        var parties = await db
            .Parties.AsNoTracking()
            .Where(p => p.JobId == job)
            .OrderBy(p => p.Code)
            .ToListAsync(cancel);
        var people = await db
            .Memberships.Where(m => m.JobId == job)
            .Join(
                db.Users,
                m => m.UserId,
                u => u.Id,
                (m, u) =>
                    new
                    {
                        u.Id,
                        u.Email,
                        u.DisplayName,
                        m.PartyId,
                    }
            )
            .ToListAsync(cancel);
        var named = new Dictionary<string, TopicPerson>(StringComparer.OrdinalIgnoreCase);
        foreach (var p in people.Where(p => p.Email is not null))
            named[p.Email!] = new TopicPerson(p.Id, p.DisplayName, p.PartyId);
        return new TopicBoard(
            job,
            project with
            {
                Extensions = project.Extensions ?? TopicSettings.Words,
            },
            TopicSettings.Read(row?.Settings),
            parties,
            named
        );
    }

    /// <summary>Notes another project document or other settings, saved with whatever else is saved.</summary>
    public static async Task NoteAsync(
        LintelDb db,
        Guid job,
        TopicArchive project,
        TopicSettings settings,
        CancellationToken cancel
    )
    {
        var row = await db.TopicProjects.FirstOrDefaultAsync(p => p.JobId == job, cancel);
        if (row is null)
            db.TopicProjects.Add(row = new TopicProject { JobId = job });
        (row.Document, row.Settings) = (TopicJson.WriteProject(project), settings.Write());
    }
}
