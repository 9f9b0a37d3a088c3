namespace SteadyLintel.Web;

/// <summary>A temporary folder for all the processes of one server. It is held by a lock that ends with the server, however that ends, so
/// that the next server can tell whose folders are left over, and remove them.</summary>
internal sealed class WorkFolder : IDisposable
{
    private const string Prefix = "lintel-work-",
        LockName = "lock";

    // Between making a folder and locking it.
    private static readonly TimeSpan Young = TimeSpan.FromMinutes(1);

    private readonly FileStream _lock;

    /// <summary>Removes what ended servers have left, and makes a folder.</summary>
    public WorkFolder()
    {
        foreach (string left in Directory.GetDirectories(System.IO.Path.GetTempPath(), Prefix + "*"))
            Remove(left);
        Path = Directory.CreateTempSubdirectory(Prefix).FullName;
        _lock = new FileStream(
            System.IO.Path.Combine(Path, LockName),
            FileMode.CreateNew,
            FileAccess.ReadWrite,
            FileShare.None
        );
    }

    /// <summary>The folder.</summary>
    public string Path { get; }

    /// <summary>Makes a folder in it.</summary>
    public string New() =>
        Directory.CreateDirectory(System.IO.Path.Combine(Path, Guid.NewGuid().ToString("N"))).FullName;

    /// <inheritdoc/>
    public void Dispose()
    {
        _lock.Dispose();
        if (Directory.Exists(Path))
            Directory.Delete(Path, true);
    }

    private static void Remove(string folder)
    {
        try
        {
            string held = System.IO.Path.Combine(folder, LockName);
            if (!File.Exists(held) && DateTime.UtcNow - Directory.GetCreationTimeUtc(folder) < Young)
                return;
            if (File.Exists(held))
                new FileStream(held, FileMode.Open, FileAccess.ReadWrite, FileShare.None).Dispose();
            Directory.Delete(folder, true);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            // A living server's, or another user's.
        }
    }
}
