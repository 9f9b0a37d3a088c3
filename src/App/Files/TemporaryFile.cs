namespace SteadyLintel.Files;

/// <summary>A file that is gone once it is closed: for what does not fit into memory.</summary>
public static class TemporaryFile
{
    private const int Buffer = 1 << 16;

    /// <summary>Makes one, empty, to be written and read.</summary>
    public static FileStream Open() =>
        new(
            Path.GetTempFileName(),
            FileMode.Open,
            FileAccess.ReadWrite,
            FileShare.None,
            Buffer,
            FileOptions.DeleteOnClose
        );
}
