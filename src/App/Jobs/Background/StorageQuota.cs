using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>How much may be kept.</summary>
public sealed record StorageQuotaOptions
{
    /// <summary>What originals and transmittals of one job may take, bytes.</summary>
    public long JobBytes { get; init; } = 100L << 30;

    /// <summary>What one person may have sent that is still kept, bytes.</summary>
    public long PersonBytes { get; init; } = 50L << 30;

    /// <summary>What stays free on each of <see cref="Watched"/>, bytes.</summary>
    public long FreeBytes { get; init; } = 1L << 30;

    /// <summary>Folders whose disks are watched: that for temporary files, and those of originals and database where they are on this
    /// machine.</summary>
    public IReadOnlyList<string> Watched { get; init; } = [Path.GetTempPath()];
}

/// <summary>Says whether there is room for something, before it is begun.</summary>
public sealed class StorageQuota(LintelDb db, StorageQuotaOptions options)
{
    /// <summary>PostgreSQL's code for a full disk (appendix A, class 53).</summary>
    private const string DiskFull = Npgsql.PostgresErrorCodes.DiskFull;

    // ENOSPC (POSIX.1-2017, errno.h) as .NET carries it on Linux.
    private const int NoSpace = 28;

    /// <summary>The bytes that a job keeps: originals that are not let go of again, files of its transmittals and of its topics.</summary>
    public async Task<long> OfJobAsync(Guid job, CancellationToken cancel) =>
        (await Kept().Where(d => d.Source.JobId == job).SumAsync(d => (long?)d.Length, cancel) ?? 0)
        + (
            await db
                .TransmittalFiles.Where(f => db.Transmittals.Any(t => t.Id == f.TransmittalId && t.Order.JobId == job))
                .SumAsync(f => (long?)f.Length, cancel)
            ?? 0
        )
        + (await db.TopicParts.Where(p => p.JobId == job).SumAsync(p => (long?)p.Length, cancel) ?? 0);

    /// <summary>Refuses what there is no room for.</summary>
    /// <param name="job">The job.</param>
    /// <param name="person">Who sends.</param>
    /// <param name="more">How many bytes are to come; 0 when that is not known.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">There is none, with a sentence that says whose room is used up.</exception>
    public async Task CheckAsync(Guid job, Guid person, long more, CancellationToken cancel)
    {
        foreach (string folder in options.Watched)
            if (Free(folder) - more < options.FreeBytes)
                throw Full("The server's disk is nearly full; nothing new can be taken. Tell your administrator.");
        long held = await OfJobAsync(job, cancel);
        if (held + more > options.JobBytes)
            throw Full(
                $"The job keeps {Megabytes(held)} of {Megabytes(options.JobBytes)} it may; {Megabytes(more)} more do not fit. "
                    + "Whoever runs this site can give it more room."
            );
        long sent = await Kept().Where(d => d.ReceivedBy == person).SumAsync(d => (long?)d.Length, cancel) ?? 0;
        if (sent + more > options.PersonBytes)
            throw Full(
                $"You have sent {Megabytes(sent)} of {Megabytes(options.PersonBytes)} you may; {Megabytes(more)} more do not fit. "
                    + "Whoever runs this site can give you more room."
            );
    }

    /// <summary>Does something that keeps bytes; a full disk becomes a sentence.</summary>
    public static async Task KeepAsync(Func<Task> keep)
    {
        try
        {
            await keep();
        }
        catch (Exception e) when (IsFull(e))
        {
            throw Full("The server's disk is full; this was not stored. Tell your administrator, then send it again.");
        }
    }

    /// <summary>Whether an exception says that a disk is full.</summary>
    public static bool IsFull(Exception e) =>
        e switch
        {
            Npgsql.PostgresException { SqlState: DiskFull } => true,
            IOException io when (io.HResult & 0xFFFF) == NoSpace => true,
            DbUpdateException { InnerException: { } inner } => IsFull(inner),
            _ => false,
        };

    /// <summary>The free bytes of a folder's disk; very many when they cannot be asked.</summary>
    public static long Free(string folder)
    {
        try
        {
            return new DriveInfo(Path.GetFullPath(folder)).AvailableFreeSpace;
        }
        catch (Exception e) when (e is IOException or ArgumentException or UnauthorizedAccessException)
        {
            return long.MaxValue;
        }
    }

    private IQueryable<Delivery> Kept() =>
        db.Deliveries.Where(d => d.State != DeliveryState.Same && d.State != DeliveryState.Cancelled);

    private static string Megabytes(long bytes) => $"{(bytes + (1 << 20) - 1) >> 20} MB";

    private static RefusedException Full(string why) => new(RefusalKind.Full, why);
}
