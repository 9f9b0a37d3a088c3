using System.IO.Compression;
using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>Drawings sent together in a ZIP archive: a sheet and what it draws on.</summary>
public static class DrawingPackage
{
    /// <summary>More drawings than this are sent in parts.</summary>
    public const int MostDrawings = 64;

    private static readonly string[] Endings = [".dwg", ".dxf"];

    /// <summary>Unpacks the drawings of an archive; what else it holds stays in it.</summary>
    /// <param name="archive">A seekable stream.</param>
    /// <param name="create">Makes the file of a number, from 0.</param>
    /// <param name="maxBytes">The most that is unpacked, all together.</param>
    /// <param name="cancel">Stops between blocks.</param>
    /// <returns>The names, by number; nothing where a model is in it, or no drawing.</returns>
    /// <exception cref="DeliveryException">A damaged archive, a limit exceeded, or two drawings of one name.</exception>
    public static IReadOnlyList<string> Unpack(
        Stream archive,
        Func<int, Stream> create,
        long maxBytes,
        CancellationToken cancel = default
    )
    {
        try
        {
            using var zip = new ZipArchive(archive, ZipArchiveMode.Read, leaveOpen: true);
            if (zip.Entries.Count > IfcZip.MaxEntries)
                return [];
            if (zip.Entries.Any(e => e.Name.EndsWith(".ifc", StringComparison.OrdinalIgnoreCase)))
                return [];
            var drawings = zip
                .Entries.Where(e =>
                    Endings.Contains(Path.GetExtension(e.Name), StringComparer.OrdinalIgnoreCase)
                    // What one system keeps beside the files of others.
                    && !e.FullName.StartsWith("__MACOSX", StringComparison.Ordinal)
                )
                .ToList();
            if (drawings.Count > MostDrawings)
                throw new DeliveryException(
                    $"The archive holds {drawings.Count} drawings; send {MostDrawings} at a time."
                );
            if (
                drawings.CountBy(d => d.Name, StringComparer.OrdinalIgnoreCase).FirstOrDefault(d => d.Value > 1).Key is
                { } twice
            )
                throw new DeliveryException(
                    $"The archive holds {twice} twice, in two folders; send each set of drawings separately."
                );
            long left = maxBytes;
            for (int i = 0; i < drawings.Count; i++)
            {
                using var target = create(i);
                left -= ZipEntries.Copy(drawings[i], target, left, cancel);
            }

            return [.. drawings.Select(d => d.Name)];
        }
        catch (InvalidDataException)
        {
            throw new DeliveryException("The archive is damaged; ask for it to be sent again.");
        }
    }

    /// <summary>Which drawing is the sheet: one that refers to others and that no other refers to; else the largest.</summary>
    /// <param name="names">Their names.</param>
    /// <param name="read">Reads one; null where it is damaged.</param>
    /// <param name="lengths">Their lengths.</param>
    public static int Sheet(IReadOnlyList<string> names, Func<int, Drawing?> read, IReadOnlyList<long> lengths)
    {
        var known = names.Select(DrawingReferences.NameOf).ToList();
        var refers = Enumerable
            .Range(0, names.Count)
            .Select(i =>
                read(i) is { } d
                    ? DrawingReferences
                        .Of(d)
                        .Select(DrawingReferences.NameOf)
                        .Where(n => n != known[i] && known.Contains(n))
                        .ToHashSet()
                    : []
            )
            .ToList();
        var referred = refers.SelectMany(r => r).ToHashSet();
        return Enumerable
            .Range(0, names.Count)
            .OrderByDescending(i => refers[i].Count > 0 && !referred.Contains(known[i]))
            .ThenByDescending(i => refers[i].Count)
            .ThenByDescending(i => lengths[i])
            .First();
    }
}
