using Npgsql;
using NpgsqlTypes;

namespace SteadyLintel.Store;

/// <summary>Copies a revision's elements into the database as they come, and counts them for the facets.</summary>
internal sealed class ElementCopy : IAsyncDisposable
{
    private readonly NpgsqlBinaryImporter _copy;
    private readonly Guid _revision;
    private readonly Dictionary<(int Storey, string Class, string Layer, bool Shaped, bool Drawn), int> _counts = [];

    /// <summary>Begins the copy; the connection can do nothing else until it is disposed.</summary>
    /// <param name="connection">An open connection, within the transaction that stores the revision.</param>
    /// <param name="revision">The revision; its row exists.</param>
    public ElementCopy(NpgsqlConnection connection, Guid revision)
    {
        _revision = revision;
        _copy = connection.BeginBinaryImport(
            "COPY elements (revision_id, number, global_id, class, name, storey, layer, layers, type_name, "
                + "materials, predefined, classifications, groups, relations, wholes, left_out, bearing, size, sets, box, place, shape, member, volume, area, facts) FROM STDIN (FORMAT BINARY)"
        );
        // Elements come as fast as they are shaped; whoever shapes them watches the time.
        _copy.Timeout = Timeout.InfiniteTimeSpan;
    }

    /// <summary>Whether an element so far was part of another.</summary>
    public bool HasParts { get; private set; }

    /// <summary>Copies one element.</summary>
    public void Add(ElementRow e)
    {
        string layer = StoredText.Clean(e.Layer),
            type = StoredText.Clean(e.Class);
        var key = (e.Storey, type, layer, e.Box is not null, e.Drawn);
        _counts[key] = _counts.GetValueOrDefault(key) + 1;
        _copy.StartRow();
        _copy.Write(_revision, NpgsqlDbType.Uuid);
        _copy.Write(e.Number, NpgsqlDbType.Integer);
        _copy.Write(StoredText.Clean(e.GlobalId, StoredText.MaxIndexed), NpgsqlDbType.Text);
        _copy.Write(type, NpgsqlDbType.Text);
        _copy.Write(StoredText.Clean(e.Name), NpgsqlDbType.Text);
        _copy.Write(e.Storey, NpgsqlDbType.Integer);
        _copy.Write(layer, NpgsqlDbType.Text);
        _copy.Write(Array.ConvertAll(e.Layers, t => StoredText.Clean(t)), NpgsqlDbType.Array | NpgsqlDbType.Text);
        _copy.Write(StoredText.Clean(e.TypeName), NpgsqlDbType.Text);
        _copy.Write(Array.ConvertAll(e.Materials, t => StoredText.Clean(t)), NpgsqlDbType.Array | NpgsqlDbType.Text);
        _copy.Write(StoredText.Clean(e.Predefined), NpgsqlDbType.Text);
        _copy.Write(
            Array.ConvertAll(e.Classifications, t => StoredText.Clean(t)),
            NpgsqlDbType.Array | NpgsqlDbType.Text
        );
        _copy.Write(Array.ConvertAll(e.Groups, t => StoredText.Clean(t)), NpgsqlDbType.Array | NpgsqlDbType.Text);
        _copy.Write(Array.ConvertAll(e.Relations, t => StoredText.Clean(t)), NpgsqlDbType.Array | NpgsqlDbType.Text);
        _copy.Write(e.Wholes, NpgsqlDbType.Array | NpgsqlDbType.Integer);
        HasParts |= e.Wholes.Length > 0;
        _copy.Write(e.LeftOut, NpgsqlDbType.Boolean);
        foreach (double? number in (double?[])[e.Bearing, e.Size])
        {
            if (number is { } known)
                _copy.Write(known, NpgsqlDbType.Double);
            else
                _copy.WriteNull();
        }

        _copy.Write(e.Sets, NpgsqlDbType.Array | NpgsqlDbType.Integer);
        foreach (double[]? numbers in (double[]?[])[e.Box, e.Place, e.Shape])
        {
            if (numbers is null)
                _copy.WriteNull();
            else
                _copy.Write(numbers, NpgsqlDbType.Array | NpgsqlDbType.Double);
        }

        if (e.Member is null)
            _copy.WriteNull();
        else
            _copy.Write(e.Member, NpgsqlDbType.Text);
        _copy.Write(e.Volume, NpgsqlDbType.Double);
        _copy.Write(e.Area, NpgsqlDbType.Double);
        _copy.Write(e.Facts, NpgsqlDbType.Bytea);
    }

    /// <summary>Ends the copy.</summary>
    /// <returns>How many elements there are of each storey, class, layer and kind.</returns>
    public async Task<IReadOnlyList<FacetRow>> CompleteAsync(CancellationToken cancel)
    {
        await _copy.CompleteAsync(cancel);
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
    public ValueTask DisposeAsync() => _copy.DisposeAsync();
}
