using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What was handed over to a party: a transmittal that was released.</summary>
/// <param name="Id">The transmittal.</param>
/// <param name="Order">The order's number.</param>
/// <param name="Title">The order's title.</param>
/// <param name="Number">The transmittal's number in the order.</param>
/// <param name="RanAt">When it was run.</param>
/// <param name="Files">Its files.</param>
/// <param name="Changes">What changed against the transmittal of the order before it; null for the first.</param>
public sealed record HandedOver(
    Guid Id,
    int Order,
    string Title,
    int Number,
    DateTime RanAt,
    IReadOnlyList<HandedFile> Files,
    TransmittalChanges? Changes
)
{
    /// <summary>What it gives less of than the transmittal before it, a sentence each.</summary>
    public IReadOnlyList<string> Less { get; init; } = [];
}

/// <summary>A file that was handed over.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Length">Its length.</param>
/// <param name="Sha256">SHA-256, lower-case hex.</param>
/// <param name="SameAs">The transmittal that has the same bytes; null where they are new.</param>
/// <param name="ReceivedAt">When somebody of the party confirmed it; null for not yet.</param>
/// <param name="HasPicture">Whether there is a picture of it.</param>
public sealed record HandedFile(
    string Name,
    long Length,
    string Sha256,
    int? SameAs,
    DateTime? ReceivedAt,
    bool HasPicture
);

/// <summary>A released transmittal that its recipient has not confirmed.</summary>
/// <param name="Order">The order's number.</param>
/// <param name="Title">The order's title.</param>
/// <param name="Number">The transmittal's number.</param>
/// <param name="RanAt">When it was run.</param>
/// <param name="To">The party it is for.</param>
/// <param name="People">People of the party that can confirm it.</param>
/// <param name="Open">Files that nobody of the party has confirmed.</param>
/// <param name="Files">All files.</param>
public sealed record Unconfirmed(
    int Order,
    string Title,
    int Number,
    DateTime RanAt,
    Party To,
    int People,
    int Open,
    int Files
);

/// <summary>Releases transmittals to whom they are for, and takes their word that they arrived.</summary>
/// <param name="db">The database.</param>
public sealed class TransmittalIssue(LintelDb db)
{
    /// <summary>The longest reason, letters.</summary>
    public const int LongestReason = 400;

    /// <summary>Releases a transmittal that is not balanced, with a reason; the record keeps both.</summary>
    /// <exception cref="RefusedException">There is no reason, or nothing to sign.</exception>
    public async Task SignAsync(OrderRow order, Guid run, string? why, Actor by, CancellationToken cancel)
    {
        string reason = InputRules.Of(why, "The reason", LongestReason);
        var transmittal = await db.Transmittals.FirstOrDefaultAsync(t => t.Id == run && t.OrderId == order.Id, cancel)
            ?? throw new RefusedException(RefusalKind.Unknown, "The order has no such transmittal.");
        if (transmittal.State != TransmittalState.Done || transmittal.Balanced || transmittal.SignedBy is not null)
            throw new RefusedException(
                RefusalKind.Conflict,
                "Only a finished transmittal that is not balanced waits for a signature."
            );
        (transmittal.SignedBy, transmittal.SignedAt, transmittal.SignedWhy) = (by.User, DateTime.UtcNow, reason);
        db.Note(
            by,
            order.JobId,
            "released though not balanced",
            $"{order.Number} {order.Title}, transmittal {transmittal.Number}: {reason}"
        );
        await AnnounceAsync(db, run, cancel);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>What was handed over to a party, newest first, as its people see it.</summary>
    /// <param name="job">The job.</param>
    /// <param name="party">The party.</param>
    /// <param name="only">One transmittal alone; null for all.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task<IReadOnlyList<HandedOver>> ToAsync(Guid job, Party party, Guid? only, CancellationToken cancel)
    {
        var done = await db
            .Transmittals.IgnoreQueryFilters()
            .AsNoTracking()
            .Where(t => t.Order.JobId == job && t.State == TransmittalState.Done && (t.Balanced || t.SignedBy != null))
            .OrderByDescending(t => t.RanAt)
            .Select(t => new
            {
                t.Id,
                Order = t.Order.Number,
                t.Order.Title,
                t.Number,
                t.RanAt,
                t.Spec,
                t.Files,
                t.Receipts,
                Pictures = db.FilePictures.Where(p => p.TransmittalId == t.Id).Select(p => p.Name).ToList(),
            })
            .ToListAsync(cancel);
        var people = await db
            .Memberships.Where(m => m.JobId == job && m.PartyId == party.Id)
            .Select(m => m.UserId)
            .ToListAsync(cancel);
        // The sentences alone: what came of a run may be long.
        var less = (
            await db
                .Database.SqlQuery<LessRow>(
                    $"""
                    SELECT t.id, (t.result -> 'less')::text AS sentences FROM transmittals t
                    JOIN orders o ON o.id = t.order_id WHERE o.job_id = {job} AND jsonb_array_length(coalesce(t.result -> 'less', '[]')) > 0
                    """
                )
                .ToListAsync(cancel)
        ).ToDictionary(
            l => l.Id,
            l => System.Text.Json.JsonSerializer.Deserialize<List<string>>(l.Sentences, IntakeStore.Json)!
        );
        var meant = done.Where(t => IsFor(StoredOrder.Read(t.Spec).Document.To, party)).ToList();
        return
        [
            .. meant
                .Where(t => only is null || t.Id == only)
                .Select(t => new HandedOver(
                    t.Id,
                    t.Order,
                    t.Title,
                    t.Number,
                    t.RanAt,
                    [
                        .. t
                            .Files.OrderBy(f => f.Name, StringComparer.Ordinal)
                            .Select(f => new HandedFile(
                                f.Name,
                                f.Length,
                                f.Sha256,
                                f.SameAs,
                                t.Receipts.Where(r => r.Name == f.Name && people.Contains(r.UserId))
                                    .Select(r => (DateTime?)r.At)
                                    .Min(),
                                t.Pictures.Contains(f.Name)
                            )),
                    ],
                    meant.Find(o => o.Order == t.Order && o.Number < t.Number) is { } before
                        ? TransmittalChanges.Of(before.Files, t.Files)
                        : null
                )
                {
                    Less = less.GetValueOrDefault(t.Id, []),
                }),
        ];
    }

    /// <summary>Whether a transmittal was handed over to a party; asked for each picture, so it looks at that transmittal alone.</summary>
    public async Task<bool> IsHandedAsync(Guid job, Party party, Guid id, CancellationToken cancel) =>
        await db
            .Transmittals.IgnoreQueryFilters()
            .Where(t =>
                t.Id == id
                && t.Order.JobId == job
                && t.State == TransmittalState.Done
                && (t.Balanced || t.SignedBy != null)
            )
            .Select(t => t.Spec)
            .FirstOrDefaultAsync(cancel)
            is { } spec
        && IsFor(StoredOrder.Read(spec).Document.To, party);

    /// <summary>The picture of a handed-over file; null where it has none.</summary>
    public Task<byte[]?> PictureAsync(Guid transmittal, string name, CancellationToken cancel) =>
        db
            .FilePictures.Where(p => p.TransmittalId == transmittal && p.Name == name)
            .Select(p => p.Bytes)
            .FirstOrDefaultAsync(cancel);

    /// <summary>A transmittal beside the one of its order that the party had before it; null where it is the first.</summary>
    /// <remarks>What the party sees of it are its files and counts, not what the order rests on.</remarks>
    public async Task<TransmittalComparison?> ChangesAsync(Guid job, Party party, Guid id, CancellationToken cancel)
    {
        var handed = await ToAsync(job, party, null, cancel);
        if (
            handed.FirstOrDefault(t => t.Id == id) is not { } newer
            || handed.FirstOrDefault(t => t.Order == newer.Order && t.Number < newer.Number) is not { } older
        )
            return null;
        var both = await db
            .Transmittals.IgnoreQueryFilters()
            .AsNoTracking()
            .Include(t => t.Files)
            .Where(t => t.Id == older.Id || t.Id == newer.Id)
            .ToDictionaryAsync(t => t.Id, cancel);
        return TransmittalComparison.Of(both[older.Id], both[newer.Id]) with { Why = [] };
    }

    /// <summary>The newest released transmittal of each order for a party, where files of it wait for the party's word, oldest
    /// first.</summary>
    public async Task<IReadOnlyList<Unconfirmed>> UnconfirmedAsync(
        Guid job,
        IReadOnlyCollection<Party> parties,
        CancellationToken cancel
    )
    {
        var newest = await db
            .Orders.AsNoTracking()
            .Where(o => o.JobId == job)
            .Select(o => new
            {
                o.Number,
                o.Title,
                Last = o
                    .Transmittals.Where(t => t.State == TransmittalState.Done && (t.Balanced || t.SignedBy != null))
                    .OrderByDescending(t => t.Number)
                    .Select(t => new
                    {
                        t.Number,
                        t.RanAt,
                        t.Spec,
                        Files = t.Files.Select(f => f.Name).ToList(),
                        Receipts = t.Receipts.Select(r => new { r.Name, r.UserId }).ToList(),
                    })
                    .FirstOrDefault(),
            })
            .ToListAsync(cancel);
        var people = (
            await db
                .Memberships.AsNoTracking()
                .Where(m => m.JobId == job && m.PartyId != null)
                .Select(m => new { Party = m.PartyId!.Value, m.UserId })
                .ToListAsync(cancel)
        ).ToLookup(m => m.Party, m => m.UserId);
        var waiting = new List<Unconfirmed>();
        foreach (var order in newest.Where(o => o.Last is not null))
        {
            string to = StoredOrder.Read(order.Last!.Spec).Document.To;
            if (parties.FirstOrDefault(p => IsFor(to, p)) is not { } party)
                continue;
            var own = people[party.Id].ToHashSet();
            int open = order.Last.Files.Count(f =>
                !order.Last.Receipts.Any(r => r.Name == f && own.Contains(r.UserId))
            );
            if (open > 0)
                waiting.Add(
                    new Unconfirmed(
                        order.Number,
                        order.Title,
                        order.Last.Number,
                        order.Last.RanAt,
                        party,
                        own.Count,
                        open,
                        order.Last.Files.Count
                    )
                );
        }

        return [.. waiting.OrderBy(w => w.RanAt)];
    }

    /// <summary>Writes to the people of the party that a released transmittal is for; saved with whatever else is saved. Nobody is
    /// written to
    /// where all files are those of a transmittal before.</summary>
    internal static async Task AnnounceAsync(LintelDb db, Guid run, CancellationToken cancel)
    {
        var done = await db
            .Transmittals.IgnoreQueryFilters()
            .AsNoTracking()
            .Where(t => t.Id == run)
            .Select(t => new
            {
                t.Number,
                t.Spec,
                t.Order.Title,
                t.Order.JobId,
                Files = t.Files.Select(f => new { f.Name, f.SameAs }).ToList(),
                Job = db.Jobs.Where(j => j.Id == t.Order.JobId).Select(j => new { j.Code, j.Name }).Single(),
            })
            .FirstAsync(cancel);
        if (done.Files.TrueForAll(f => f.SameAs is not null))
            return;
        string to = StoredOrder.Read(done.Spec).Document.To;
        var party = (await db.Parties.AsNoTracking().Where(p => p.JobId == done.JobId).ToListAsync(cancel)).Find(p =>
            IsFor(to, p)
        );
        if (party is null)
            return;
        var people = await db
            .Memberships.Where(m => m.JobId == done.JobId && m.PartyId == party.Id)
            .Join(db.Users, m => m.UserId, u => u.Id, (_, u) => u.Email!)
            .ToListAsync(cancel);
        string names =
            string.Join("\n", done.Files.Take(MostListed).Select(f => "  " + f.Name))
            + (done.Files.Count > MostListed ? $"\n  and {done.Files.Count - MostListed} more" : "");
        foreach (string email in people)
            Mailbox.Write(
                db,
                email,
                $"{done.Job.Name}: {done.Title}, transmittal {done.Number} is ready",
                $"Transmittal {done.Number} of “{done.Title}” is released for {party.Code}:\n\n{names}\n\n"
                    + $"Download the files, see what changed and confirm receipt here:\n{Mailbox.Site}/jobs/{done.Job.Code}/delivered"
            );
    }

    private const int MostListed = 20;

    private sealed record LessRow(Guid Id, string Sentences);

    /// <summary>Keeps the word of a person that files arrived.</summary>
    /// <param name="job">The job.</param>
    /// <param name="handed">What was handed over.</param>
    /// <param name="name">The file; null for all of them.</param>
    /// <param name="by">Who says so.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task ConfirmAsync(Guid job, HandedOver handed, string? name, Actor by, CancellationToken cancel)
    {
        var known = await db
            .Receipts.Where(r => r.TransmittalId == handed.Id && r.UserId == by.User)
            .Select(r => r.Name)
            .ToListAsync(cancel);
        foreach (var file in handed.Files.Where(f => (name is null || f.Name == name) && !known.Contains(f.Name)))
            db.Receipts.Add(
                new Receipt
                {
                    TransmittalId = handed.Id,
                    Name = file.Name,
                    UserId = by.User,
                    At = DateTime.UtcNow,
                }
            );
        db.Note(by, job, "confirmed receipt", $"{name ?? "all files"} of transmittal {handed.Number}, {handed.Title}");
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Whether an order's words mean a party: by its code, alone or before other words, or by its name.</summary>
    public static bool IsFor(string to, Party party) =>
        to.Trim().Equals(party.Code, StringComparison.OrdinalIgnoreCase)
        || to.Split(' ', ',', ';')[0].Equals(party.Code, StringComparison.OrdinalIgnoreCase)
        || (party.Name.Length > 0 && to.Trim().Equals(party.Name, StringComparison.OrdinalIgnoreCase));
}
