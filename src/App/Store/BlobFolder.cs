using System.Globalization;

namespace SteadyLintel.Store;

/// <summary>A folder for large contents, as on storage that several servers share: a folder for each, a file for each piece.</summary>
/// <remarks>A file gets its name only when it is complete, so that neither a process that ends nor two that write the same piece leave
/// half of one.</remarks>
/// <param name="path">The folder.</param>
public sealed class BlobFolder(string path)
{
    private const string Unfinished = ".part";

    /// <summary>The folder's path.</summary>
    public string Path => path;

    /// <summary>Keeps a piece; the same piece again is passed over.</summary>
    public async Task PutAsync(Guid blob, int number, ReadOnlyMemory<byte> bytes, CancellationToken cancel)
    {
        string target = Piece(blob, number);
        if (File.Exists(target))
            return;
        Directory.CreateDirectory(Folder(blob));
        string part = $"{target}.{Guid.NewGuid():N}{Unfinished}";
        try
        {
            await using (var file = new FileStream(part, FileMode.CreateNew))
            {
                await file.WriteAsync(bytes, cancel);
                file.Flush(true);
            }

            File.Move(part, target, true);
        }
        finally
        {
            File.Delete(part);
        }
    }

    /// <summary>How many bytes of a content are here, and how many pieces.</summary>
    public (long Bytes, int Pieces) Held(Guid blob)
    {
        var folder = new DirectoryInfo(Folder(blob));
        if (!folder.Exists)
            return (0, 0);
        var pieces = folder.GetFiles().Where(f => f.Extension != Unfinished).ToList();
        return (pieces.Sum(f => f.Length), pieces.Count);
    }

    /// <summary>A piece's bytes; null when it is not here.</summary>
    public async Task<byte[]?> ReadAsync(Guid blob, int number, CancellationToken cancel) =>
        File.Exists(Piece(blob, number)) ? await File.ReadAllBytesAsync(Piece(blob, number), cancel) : null;

    /// <summary>Lets go of a content.</summary>
    public void Delete(Guid blob)
    {
        if (Directory.Exists(Folder(blob)))
            Directory.Delete(Folder(blob), true);
    }

    /// <summary>When something of a content was last written.</summary>
    public DateTime WrittenAt(Guid blob) => Directory.GetLastWriteTimeUtc(Folder(blob));

    /// <summary>All contents that are here.</summary>
    public IEnumerable<Guid> All() =>
        !Directory.Exists(path)
            ? []
            : Directory
                .EnumerateDirectories(path)
                .SelectMany(Directory.EnumerateDirectories)
                .Select(f => Guid.TryParse(System.IO.Path.GetFileName(f), out var id) ? id : Guid.Empty)
                .Where(id => id != Guid.Empty);

    // Not too many names in one folder.
    private string Folder(Guid blob) => System.IO.Path.Combine(path, blob.ToString("N")[..2], blob.ToString("N"));

    private string Piece(Guid blob, int number) =>
        System.IO.Path.Combine(Folder(blob), number.ToString("D6", CultureInfo.InvariantCulture));
}
