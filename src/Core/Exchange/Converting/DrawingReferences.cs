using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>Binds the references of drawings to files that are at hand.</summary>
public static class DrawingReferences
{
    /// <summary>The files a drawing refers to, by name without folders.</summary>
    public static IEnumerable<string> Of(Drawing drawing) =>
        drawing.Blocks.Where(b => b.IsXref).Select(ReferenceBinder.FileOf);

    /// <summary>What a file is known by: its name without extension, for a drawing may come as DWG where DXF was referred to.</summary>
    public static string NameOf(string file)
    {
        int dot = file.LastIndexOf('.');
        return (dot > 0 ? file[..dot] : file).Trim().ToLowerInvariant();
    }

    /// <summary>Binds what is at hand.</summary>
    /// <param name="drawing">The drawing; changed in place.</param>
    /// <param name="files">Drawings by <see cref="NameOf"/>.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>How many entities came, and which references stay open.</returns>
    public static (int Entities, IReadOnlyList<CadFinding> Findings) Bind(
        Drawing drawing,
        IReadOnlyDictionary<string, byte[]> files,
        CancellationToken cancel = default
    )
    {
        int came = 0;
        var damaged = new List<CadFinding>();
        var findings = ReferenceBinder.Bind(drawing, Read, cancel);
        return (came, [.. findings, .. damaged]);

        Drawing? Read(BlockRecord block)
        {
            if (!files.TryGetValue(NameOf(ReferenceBinder.FileOf(block)), out byte[]? bytes))
                return null;
            try
            {
                var (other, _) = CadFile.Read(bytes, cancel);
                came += other.Blocks.Where(b => !b.IsPaper).Sum(b => b.Entities.Count);
                return other;
            }
            catch (CadFormatException e)
            {
                damaged.Add(
                    new CadFinding(
                        "CAD-XREF-DAMAGED",
                        $"handle {block.Handle}",
                        $"{ReferenceBinder.FileOf(block)}: {e.Message}"
                    )
                );
                return null;
            }
        }
    }
}
