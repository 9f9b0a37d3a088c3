using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Drawings as they take part in their jobs, read and prepared once as long as what they rest on is the same: a click on a line
/// need not read the drawing again.</summary>
/// <remarks>What is held is shared by all who ask: nobody changes it.</remarks>
public sealed class PreparedDrawings : IDisposable
{
    // A drawing in memory takes some ten times its file.
    private const int Times = 10;

    private const long MostBytes = 512 << 20;

    private static readonly TimeSpan Unused = TimeSpan.FromMinutes(20);

    private readonly MemoryCache _held = new(new MemoryCacheOptions { SizeLimit = MostBytes });

    /// <inheritdoc/>
    public void Dispose() => _held.Dispose();

    /// <summary>The newest drawing of a source, with what it refers to, its steps run.</summary>
    /// <param name="db">The database.</param>
    /// <param name="state">What the job holds.</param>
    /// <param name="drawing">The source.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="CadFormatException">It cannot be read any more.</exception>
    public async Task<Drawing> OfAsync(LintelDb db, JobState state, SourceState drawing, CancellationToken cancel)
    {
        var key = (drawing.Latest!.Id, state.Model.HashOf(JobPart.Drawings));
        if (_held.TryGetValue(key, out Drawing? known))
            return known!;
        var read = await SheetDesk.ReadPreparedAsync(db, state.Job, drawing, cancel);
        long size =
            Times * await db.Deliveries.Where(d => d.Id == drawing.Latest.Id).Select(d => d.Length).FirstAsync(cancel);
        if (size < MostBytes / 2)
            _held.Set(key, read, new MemoryCacheEntryOptions { Size = size, SlidingExpiration = Unused });
        return read;
    }
}
