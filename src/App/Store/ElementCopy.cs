using Npgsql;

namespace SteadyLintel.Store;

/// <summary>Copies a revision's elements into the database as they come, and counts them for the facets.</summary>
internal sealed class ElementCopy : IAsyncDisposable
{
    // What COPY in binary begins with: its signature, no flags, no further header; and what ends it.
    private static readonly byte[] Head = [.. "PGCOPY\n"u8, 0xFF, (byte)'\r', (byte)'\n', 0, 0, 0, 0, 0, 0, 0, 0, 0];
    private static readonly byte[] End = [0xFF, 0xFF];

    private readonly NpgsqlRawCopyStream _raw;
    private readonly BufferedStream _copy;
    private readonly Guid _revision;
    private readonly Dictionary<(int Storey, string Class, string Layer, bool Shaped, bool Drawn), int> _counts = [];
    private bool _isComplete;

    /// <summary>Begins the copy; the connection can do nothing else until it is disposed.</summary>
    /// <param name="connection">An open connection, within the transaction that stores the revision.</param>
    /// <param name="revision">The revision; its row exists.</param>
    public ElementCopy(NpgsqlConnection connection, Guid revision)
    {
        _revision = revision;
        _raw = connection.BeginRawBinaryCopy($"COPY elements ({PackedElement.Columns}) FROM STDIN (FORMAT BINARY)");
        // Elements come as fast as they are shaped; whoever shapes them watches the time.
        _raw.WriteTimeout = Timeout.Infinite;
        _copy = new BufferedStream(_raw, 1 << 18);
        _copy.Write(Head);
    }

    /// <summary>Whether an element so far was part of another.</summary>
    public bool HasParts { get; private set; }

    /// <summary>Copies one element.</summary>
    /// <param name="element">The element.</param>
    /// <param name="sets">The numbers of its property sets.</param>
    public void Add(PackedElement element, int[] sets)
    {
        var key = (element.Storey, element.Class, element.Layer, element.IsShaped, element.IsDrawn);
        System.Runtime.InteropServices.CollectionsMarshal.GetValueRefOrAddDefault(_counts, key, out _)++;
        HasParts |= element.IsPart;
        _copy.Write(element.Bytes);
        _copy.Write(PackedElement.PackSets(sets));
    }

    /// <summary>Ends the copy.</summary>
    /// <returns>How many elements there are of each storey, class, layer and kind.</returns>
    public async Task<IReadOnlyList<FacetRow>> CompleteAsync(CancellationToken cancel)
    {
        _copy.Write(End);
        await _copy.FlushAsync(cancel);
        await _raw.DisposeAsync();
        _isComplete = true;
        return
        [
            .. _counts.Select(
                (f, n) =>
                    new FacetRow
                    {
                        RevisionId = _revision,
                        Number = n,
                        Storey = f.Key.Storey,
                        Class = f.Key.Class,
                        Layer = f.Key.Layer,
                        Shaped = f.Key.Shaped,
                        Drawn = f.Key.Drawn,
                        Count = f.Value,
                    }
            ),
        ];
    }

    /// <inheritdoc/>
    public async ValueTask DisposeAsync()
    {
        // Closing the stream would store what has come so far.
        if (_isComplete)
            return;
        try
        {
            await _raw.CancelAsync();
        }
        catch (Exception e) when (e is NpgsqlException or InvalidOperationException or IOException)
        {
            // The connection is gone, and with it what had come; what ended the copy is on its way to whoever called.
        }
    }
}
