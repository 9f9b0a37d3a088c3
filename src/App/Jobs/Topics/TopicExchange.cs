using System.IO.Compression;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Files;
using SteadyLintel.Geometry;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>Topics of a job from and into topic files.</summary>
/// <param name="db">The database.</param>
/// <param name="space">Says whether there is room.</param>
public sealed class TopicExchange(LintelDb db, StorageQuota space)
{
    /// <summary>The largest topic file that is taken, bytes.</summary>
    public const long LargestFile = 2L << 30;

    private const int Batch = 500;

    internal const string DocumentFolder = "documents/";

    private static readonly TimeSpan Waits = TimeSpan.FromDays(1);

    /// <summary>Keeps a file that somebody wants to import, until it is imported or a day is over.</summary>
    /// <exception cref="RefusedException">The person may not import, there is no room, or it is no topic file.</exception>
    public async Task<Guid> UploadAsync(
        Guid job,
        JobPermissions who,
        string fileName,
        Stream file,
        Actor by,
        CancellationToken cancel
    )
    {
        Allow(who);
        foreach (var old in await db.TopicImports.Where(i => i.At < DateTime.UtcNow - Waits).ToListAsync(cancel))
            await RemoveAsync(old, cancel);
        await space.CheckAsync(job, by.User, file.CanSeek ? file.Length : 0, cancel);
        var import = new TopicImport
        {
            Id = Guid.NewGuid(),
            JobId = job,
            BlobId = Guid.NewGuid(),
            FileName = StoredText.Clean(fileName, StoredText.MaxIndexed),
            By = by.User,
            At = DateTime.UtcNow,
        };
        await StorageQuota.KeepAsync(() => db.Blobs.PutAllAsync(import.BlobId, file, cancel));
        db.TopicImports.Add(import);
        await db.SaveChangesAsync(cancel);
        try
        {
            // Whether it can be read at all is found out before anybody looks at it.
            await using var read = await OpenAsync(import, cancel);
            return import.Id;
        }
        catch (RefusedException)
        {
            await RemoveAsync(import, cancel);
            throw;
        }
    }

    /// <summary>What importing a file would do; null where there is no such file.</summary>
    /// <param name="state">The job.</param>
    /// <param name="who">What the person may do.</param>
    /// <param name="id">The file.</param>
    /// <param name="frame">The frame of its views.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">The file cannot be read.</exception>
    public async Task<TopicImportPreview?> PreviewAsync(
        JobState state,
        JobPermissions who,
        Guid id,
        TopicFrame frame,
        CancellationToken cancel
    )
    {
        Allow(who);
        if (
            await db.TopicImports.FirstOrDefaultAsync(i => i.Id == id && i.JobId == state.Job, cancel) is not { } import
        )
            return null;
        await using var file = await OpenAsync(import, cancel);
        var (result, _, _) = await MergeAsync(state, file.Archive, frame, new HashSet<string>(), cancel);
        return new TopicImportPreview(import, file.Archive.Version, result, file.Archive.Findings);
    }

    /// <summary>Imports a file, all of it or nothing.</summary>
    /// <param name="state">The job.</param>
    /// <param name="who">What the person may do.</param>
    /// <param name="id">The file.</param>
    /// <param name="frame">The frame of its views.</param>
    /// <param name="theirs">The conflicts in which the file is right (<see cref="TopicImportPreview.KeyOf"/>).</param>
    /// <param name="by">Who.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">There is no such file, or it cannot be read.</exception>
    public async Task<TopicMergeResult> ImportAsync(
        JobState state,
        JobPermissions who,
        Guid id,
        TopicFrame frame,
        IReadOnlySet<string> theirs,
        Actor by,
        CancellationToken cancel
    )
    {
        Allow(who);
        var import = await db.TopicImports.FirstOrDefaultAsync(i => i.Id == id && i.JobId == state.Job, cancel)
            ?? throw new RefusedException(RefusalKind.Unknown, "This file was imported or discarded meanwhile.");
        await using var file = await OpenAsync(import, cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"SELECT 1 FROM jobs WHERE id = {state.Job} FOR UPDATE", cancel);
        var (result, board, rows) = await MergeAsync(state, file.Archive, frame, theirs, cancel);
        await TopicBoard.NoteAsync(
            db,
            state.Job,
            result.Archive with
            {
                ProjectId = board.Project.ProjectId,
                ProjectName = board.Project.ProjectName,
            },
            board.Settings,
            cancel
        );
        var gone = new List<Guid>();
        gone.AddRange(await new TopicParts(db).ReplaceAsync(state.Job, null, result.Archive.Parts, null, cancel));
        var writing = new TopicImportWriter(db, state, board, frame, import.FileName, by);
        gone.AddRange(await writing.WriteAsync(result, file.Archive, rows, Batch, cancel));
        db.Note(
            by,
            state.Job,
            "imported topics",
            $"{import.FileName}: {result.Added.Count} new, {result.Changed.Count} changed, {result.Same.Count} the same"
        );
        db.TopicImports.Remove(db.TopicImports.Local.FirstOrDefault(i => i.Id == id) ?? import);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        foreach (var blob in gone.Append(import.BlobId))
            await db.Blobs.DeleteAsync(blob, cancel);
        return result;
    }

    /// <summary>Discards a file that was not imported.</summary>
    public async Task DiscardAsync(Guid job, JobPermissions who, Guid id, CancellationToken cancel)
    {
        Allow(who);
        if (await db.TopicImports.FirstOrDefaultAsync(i => i.Id == id && i.JobId == job, cancel) is { } import)
            await RemoveAsync(import, cancel);
    }

    /// <summary>Keeps a document that topics can refer to.</summary>
    /// <param name="job">The job.</param>
    /// <param name="who">What the person may do.</param>
    /// <param name="guid">Its GUID, where whoever sends it has one already; null for a new one.</param>
    /// <param name="name">Its name.</param>
    /// <param name="content">The file.</param>
    /// <param name="by">Who sends it.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">It has no name, is known already, there is no room, or the person may not.</exception>
    public async Task<TopicDocument> AddDocumentAsync(
        Guid job,
        JobPermissions who,
        Guid? guid,
        string? name,
        Stream content,
        Actor by,
        CancellationToken cancel
    )
    {
        Allow(who);
        var document = new TopicDocument(
            (guid ?? Guid.NewGuid()).ToString(),
            InputRules.Of(Path.GetFileName(name), "The name of the document", StoredText.MaxIndexed),
            null
        );
        await using var file = TemporaryFile.Open();
        await content.CopyToAsync(file, cancel);
        await space.CheckAsync(job, by.User, file.Length, cancel);
        file.Position = 0;
        var part = new TopicPart(DocumentFolder + document.Guid, file.Length, (to, _) => file.CopyTo(to), () => []);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"SELECT 1 FROM jobs WHERE id = {job} FOR UPDATE", cancel);
        var board = await TopicBoard.LoadAsync(db, job, cancel);
        if (board.Project.Documents.Any(d => d.Guid.Equals(document.Guid, StringComparison.OrdinalIgnoreCase)))
            throw new RefusedException(RefusalKind.Conflict, $"The job has a document {document.Guid} already.");
        await new TopicParts(db).AddAsync(job, part, cancel);
        await TopicBoard.NoteAsync(
            db,
            job,
            board.Project with
            {
                Documents = [.. board.Project.Documents, document],
            },
            board.Settings,
            cancel
        );
        db.Note(by, job, "added a document", document.Filename!);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return document;
    }

    /// <summary>Writes topics as a file.</summary>
    /// <param name="state">The job.</param>
    /// <param name="who">What the person may do; who sees no more of the job than some topics gets no words and files of the
    /// others.</param>
    /// <param name="ids">Which topics.</param>
    /// <param name="version">2.1 or 3.0.</param>
    /// <param name="frame">The frame that views are written in.</param>
    /// <param name="target">Gets the bytes.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>What has no place in that version.</returns>
    public async Task<IReadOnlyList<Finding>> ExportAsync(
        JobState state,
        JobPermissions who,
        IReadOnlyList<Guid> ids,
        TopicVersion version,
        TopicFrame frame,
        Stream target,
        CancellationToken cancel
    )
    {
        var board = await TopicBoard.LoadAsync(db, state.Job, cancel);
        var rows = await db
            .Topics.AsNoTracking()
            .Include(t => t.Parts)
            .Where(t => t.JobId == state.Job && ids.Contains(t.Id))
            .OrderBy(t => t.Number)
            .ToListAsync(cancel);
        var parts = new TopicParts(db);
        var common = await db
            .TopicParts.AsNoTracking()
            .Where(p => p.JobId == state.Job && p.TopicId == null)
            .ToListAsync(cancel);
        var topics = rows.Select(r => frame.Out(state.Model, r, TopicRows.Read(r)) with { Parts = parts.Of(r.Parts) })
            .ToList();
        var referred = topics
            .SelectMany(t => t.Documents)
            .Select(d => d.Document)
            .OfType<string>()
            .ToHashSet(StringComparer.OrdinalIgnoreCase);
        bool Goes(string name) =>
            name.StartsWith(DocumentFolder, StringComparison.Ordinal)
                ? referred.Contains(name[DocumentFolder.Length..].Split('/')[0])
                : who.MaySeeJob;
        // What is kept may be of either version: it is brought into the one that is wished for.
        var archive = TopicConversion.To(
            board.Project with
            {
                Version = version == TopicVersion.V30 ? TopicVersion.V21 : TopicVersion.V30,
                Topics = topics,
                Parts = parts.Of(common.Where(c => Goes(c.Name))),
                Documents = [.. board.Project.Documents.Where(d => referred.Contains(d.Guid))],
                Extensions = who.MaySeeJob ? board.Words : board.Words with { Users = [] },
            },
            version
        );
        var findings = archive.Findings;
        await Task.Run(() => TopicArchiveWriter.Write(archive, target, cancel), cancel);
        return findings;
    }

    private async Task<(
        TopicMergeResult Result,
        TopicBoard Board,
        IReadOnlyDictionary<string, TopicRow> Rows
    )> MergeAsync(
        JobState state,
        TopicArchive theirs,
        TopicFrame frame,
        IReadOnlySet<string> choices,
        CancellationToken cancel
    )
    {
        var board = await TopicBoard.LoadAsync(db, state.Job, cancel);
        string[] guids = [.. theirs.Topics.Select(t => t.Guid.ToLowerInvariant())];
        var rows = await db
            .Topics.AsNoTracking()
            .Include(t => t.Parts)
            .Where(t => t.JobId == state.Job && guids.Contains(t.Guid))
            .ToDictionaryAsync(t => t.Guid, cancel);
        var parts = new TopicParts(db);
        var ours = board.Project with
        {
            Version = TopicVersion.V21,
            Topics =
            [
                .. rows.Values.OrderBy(r => r.Number).Select(r => TopicRows.Read(r) with { Parts = parts.Of(r.Parts) }),
            ],
            Parts = parts.Of(
                await db
                    .TopicParts.AsNoTracking()
                    .Where(p => p.JobId == state.Job && p.TopicId == null)
                    .ToListAsync(cancel)
            ),
        };
        var common = ours with
        {
            Topics = [.. rows.Values.Where(r => r.Common is not null).Select(r => TopicJson.Read(r.Common!))],
            Parts = [],
        };
        var known = ours.Topics.ToDictionary(t => t.Guid, StringComparer.OrdinalIgnoreCase);
        var moved = theirs with
        {
            Topics =
            [
                .. theirs.Topics.Select(t => known.TryGetValue(t.Guid, out var our) ? TopicFrame.SameViews(t, our) : t),
            ],
            // A job has a name of its own.
            ProjectId = ours.ProjectId,
            ProjectName = ours.ProjectName,
        };
        var result = TopicMerge.Merge(ours, moved, common, c => choices.Contains(TopicImportPreview.KeyOf(c)));
        return (result, board, rows);
    }

    private async Task<OpenTopicFile> OpenAsync(TopicImport import, CancellationToken cancel)
    {
        var file = TemporaryFile.Open();
        try
        {
            await db.Blobs.CopyToAsync(import.BlobId, file, cancel);
            file.Position = 0;
            var zip = TopicArchiveReader.Open(file);
            return new OpenTopicFile(zip, TopicArchiveReader.Read(zip, null, cancel));
        }
        catch (DeliveryException e)
        {
            await file.DisposeAsync();
            throw new RefusedException(RefusalKind.Wrong, e.Message);
        }
    }

    private async Task RemoveAsync(TopicImport import, CancellationToken cancel)
    {
        db.TopicImports.Remove(import);
        await db.SaveChangesAsync(cancel);
        await db.Blobs.DeleteAsync(import.BlobId, cancel);
    }

    private static void Allow(JobPermissions who)
    {
        if (!who.MayWriteTopics)
            throw new RefusedException(RefusalKind.Forbidden, "Coordinators and contributors import topics.");
    }

    // The archive stays open as long as its parts are copied.
    private sealed record OpenTopicFile(ZipArchive Zip, TopicArchive Archive) : IAsyncDisposable
    {
        public ValueTask DisposeAsync()
        {
            Zip.Dispose();
            return ValueTask.CompletedTask;
        }
    }
}
