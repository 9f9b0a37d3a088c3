using System.IO.Compression;
using SteadyLintel.Topics;

namespace SteadyLintel.Cli;

/// <summary>A topic file on disk, open as long as its parts are copied.</summary>
internal sealed class TopicFile : IDisposable
{
    private readonly ZipArchive _zip;

    private TopicFile(ZipArchive zip, TopicArchive archive)
    {
        _zip = zip;
        Archive = archive;
    }

    /// <summary>What it holds.</summary>
    public TopicArchive Archive { get; }

    /// <summary>Opens a file.</summary>
    /// <exception cref="Exchange.DeliveryException">It is no BCF file.</exception>
    public static TopicFile Open(string path)
    {
        var stream = File.OpenRead(path);
        ZipArchive? zip = null;
        try
        {
            zip = TopicArchiveReader.Open(stream);
            return new TopicFile(zip, TopicArchiveReader.Read(zip));
        }
        catch
        {
            zip?.Dispose();
            stream.Dispose();
            throw;
        }
    }

    /// <summary>Writes a file whole or not at all.</summary>
    public static void Write(TopicArchive archive, string path)
    {
        string part = path + ".part";
        using (var file = File.Create(part))
            TopicArchiveWriter.Write(archive, file);
        File.Move(part, path, true);
    }

    /// <inheritdoc/>
    public void Dispose() => _zip.Dispose();
}
