using System.IO.Compression;

namespace SteadyLintel.Exchange;

/// <summary>Takes the model out of a ZIP archive, within limits.</summary>
public static class IfcZip
{
    /// <summary>More entries than this are not looked through.</summary>
    public const int MaxEntries = 1000;

    /// <summary>Copies the one .ifc entry of an archive.</summary>
    /// <param name="archive">A seekable stream.</param>
    /// <param name="target">Gets the model's bytes.</param>
    /// <param name="maxBytes">The longest model that is unpacked.</param>
    /// <param name="cancel">Stops between blocks.</param>
    /// <exception cref="DeliveryException">No model or several in it, a damaged archive, or a limit exceeded.</exception>
    public static void Extract(Stream archive, Stream target, long maxBytes, CancellationToken cancel = default)
    {
        try
        {
            using var zip = new ZipArchive(archive, ZipArchiveMode.Read, leaveOpen: true);
            if (zip.Entries.Count > MaxEntries)
                throw new DeliveryException(
                    $"The archive holds more than {MaxEntries} files; ask for one .ifczip a model."
                );
            var models = zip.Entries.Where(e => e.Name.EndsWith(".ifc", StringComparison.OrdinalIgnoreCase)).ToList();
            if (models.Count != 1)
                throw new DeliveryException(
                    models.Count == 0
                        ? "The archive holds no .ifc file; ask for the model as .ifc or .ifczip."
                        : $"The archive holds {models.Count} .ifc files; send each as a delivery of its own."
                );
            ZipEntries.Copy(models[0], target, maxBytes, cancel);
        }
        catch (InvalidDataException)
        {
            throw new DeliveryException("The archive is damaged; ask for it to be sent again.");
        }
    }
}
