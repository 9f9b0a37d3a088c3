using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Gives a received drawing on in another form, accounted for; nothing is kept that could be older than the original.</summary>
/// <param name="db">The database.</param>
public sealed class ConvertDrawing(LintelDb db)
{
    /// <summary>The drawing's original bytes.</summary>
    public async Task<byte[]> BytesAsync(Delivery delivery, CancellationToken cancel)
    {
        using var stream = new MemoryStream();
        await db.Blobs.CopyToAsync(delivery.BlobId, stream, cancel);
        return stream.ToArray();
    }

    /// <summary>Converts it.</summary>
    /// <param name="delivery">The drawing.</param>
    /// <param name="form">The form to write.</param>
    /// <param name="selection">Which entities go; null for all.</param>
    /// <param name="explode">Whether inserts are exploded.</param>
    /// <param name="cancel">Stops it.</param>
    /// <param name="preparation">The steps that prepare it; null for none.</param>
    public async Task<ConversionResult> RunAsync(
        Delivery delivery,
        CadForm form,
        Selection? selection,
        bool explode,
        CancellationToken cancel,
        PreparationDocument? preparation = null
    )
    {
        byte[] bytes = await BytesAsync(delivery, cancel);
        return await Task.Run(
            () => DrawingConverter.Convert(bytes, form, selection, explode, cancel, preparation),
            cancel
        );
    }
}
