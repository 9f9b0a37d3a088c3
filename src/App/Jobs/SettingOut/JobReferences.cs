using Microsoft.EntityFrameworkCore;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The newest drawings of a job by the names of their files, for others to refer to.</summary>
public sealed class JobReferences
{
    private const int MostFiles = 64;
    private const long MostBytes = 256 << 20;
    private readonly LintelDb _db;
    private readonly ILookup<string, Sent> _sent;

    private JobReferences(LintelDb db, IEnumerable<Sent> sent) =>
        (_db, _sent) = (db, sent.ToLookup(s => DrawingReferences.NameOf(s.File)));

    private sealed record Sent(string File, Guid Blob, long Length, Guid Party, string Label, int Number);

    /// <summary>Loads the names.</summary>
    /// <param name="db">The database.</param>
    /// <param name="job">The job.</param>
    /// <param name="maySee">Whether the files of a party may be seen by who asks; null for all.</param>
    /// <param name="cancel">Stops it.</param>
    public static async Task<JobReferences> LoadAsync(
        LintelDb db,
        Guid job,
        Func<Guid, bool>? maySee,
        CancellationToken cancel
    )
    {
        var rows = await db
            .Revisions.AsNoTracking()
            .Where(r =>
                r.Delivery.Source.JobId == job
                && r.Kind == RevisionKind.Drawing
                && r.Delivery.Source.RetiredAt == null
                && !db.Revisions.Any(o => o.SourceId == r.SourceId && o.Kind == r.Kind && o.Number > r.Number)
            )
            .Select(r => new Sent(
                r.Delivery.FileName,
                r.Delivery.BlobId,
                r.Delivery.Length,
                r.Delivery.Source.PartyId,
                r.Delivery.Source.Party.Code + " " + r.Delivery.Source.Name,
                r.Number
            ))
            .ToListAsync(cancel);
        return new JobReferences(db, rows.Where(r => maySee is null || maySee(r.Party)));
    }

    /// <summary>The names that were asked for since it was loaded, whether the job has such a file or not.</summary>
    public ISet<string> Asked { get; } = new SortedSet<string>(StringComparer.Ordinal);

    /// <summary>What a reference of a party's drawing is resolved to, in words; null for nothing.</summary>
    public string? LabelOf(string path, Guid party) =>
        Find(path[(path.LastIndexOfAny(['/', '\\']) + 1)..], party) is { } sent ? $"{sent.Label} r{sent.Number}" : null;

    /// <summary>The files that a drawing refers to, and those that these refer to.</summary>
    /// <param name="drawing">The drawing.</param>
    /// <param name="party">Its party, whose files come before others of the same name.</param>
    /// <param name="cancel">Stops it.</param>
    public async Task<IReadOnlyDictionary<string, byte[]>> FilesAsync(
        Drawing drawing,
        Guid party,
        CancellationToken cancel
    )
    {
        var files = new Dictionary<string, byte[]>();
        long total = 0;
        var open = new Queue<string>(DrawingReferences.Of(drawing));
        while (open.TryDequeue(out string? file) && files.Count < MostFiles)
        {
            string name = DrawingReferences.NameOf(file);
            Asked.Add(name);
            if (files.ContainsKey(name) || Find(file, party) is not { } sent || (total += sent.Length) > MostBytes)
                continue;
            using var stream = new MemoryStream();
            await _db.Blobs.CopyToAsync(sent.Blob, stream, cancel);
            files[name] = stream.ToArray();
            foreach (string inner in await Task.Run(() => Within(files[name], cancel), cancel))
                open.Enqueue(inner);
        }

        return files;
    }

    /// <summary>Binds a drawing's references to what the job has.</summary>
    /// <returns>Those that stay open.</returns>
    public async Task<IReadOnlyList<CadFinding>> BindAsync(Drawing drawing, Guid party, CancellationToken cancel)
    {
        if (!drawing.Blocks.Any(b => b.IsXref))
            return [];
        var files = await FilesAsync(drawing, party, cancel);
        return await Task.Run(() => DrawingReferences.Bind(drawing, files, cancel).Findings, cancel);
    }

    private static List<string> Within(byte[] bytes, CancellationToken cancel)
    {
        try
        {
            return [.. DrawingReferences.Of(CadFile.Read(bytes, cancel).Drawing)];
        }
        catch (CadFormatException)
        {
            // What cannot be read is reported where it is bound.
            return [];
        }
    }

    private Sent? Find(string file, Guid party) =>
        _sent[DrawingReferences.NameOf(file)]
            .OrderByDescending(s => s.Party == party)
            .ThenByDescending(s => s.File.Equals(file, StringComparison.OrdinalIgnoreCase))
            .ThenBy(s => s.Label, StringComparer.Ordinal)
            .FirstOrDefault();
}
