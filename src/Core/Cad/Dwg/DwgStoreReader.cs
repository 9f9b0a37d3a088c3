using System.Buffers.Binary;
using System.Text;

namespace SteadyLintel.Cad;

/// <summary>Reads the data store of DWG from 2013 on (section AcDb:AcDsPrototype_1b; Open Design specification, chapter 24, from memory):
/// segments, found through a list; one lists the records, others hold them.</summary>
/// <remarks>
/// The layout could not be held against files of other makers here. So bodies are also known by how they begin and end: when the lists do
/// not lead to them they are taken in the order
/// in which they lie, for the objects in theirs.
/// </remarks>
internal sealed class DwgStoreReader
{
    private readonly byte[] _bytes;
    private readonly List<(long At, long Size)> _segments = [];

    private DwgStoreReader(byte[] bytes) => _bytes = bytes;

    /// <summary>The records of a store.</summary>
    /// <param name="bytes">The section.</param>
    /// <param name="bodies">The handles of bodies whose data must be there, in the order of the drawing.</param>
    public static List<StoredData> Read(byte[] bytes, IReadOnlyList<Handle> bodies)
    {
        List<StoredData> records;
        try
        {
            records = new DwgStoreReader(bytes).Records();
        }
        catch (Exception e) when (e is ArgumentOutOfRangeException or OverflowException or CadFormatException)
        {
            records = [];
        }

        var found = records.Where(r => SabReader.Looks(r.Data)).Select(r => r.Owner).ToHashSet();
        return bodies.All(found.Contains)
            ? records
            : [.. Scan(bytes).Zip(bodies, (data, owner) => new StoredData(owner, StoredData.Bodies, data))];
    }

    private List<StoredData> Records()
    {
        if (_bytes.Length < DwgStoreLayout.Head || !_bytes.AsSpan().StartsWith(DwgStoreLayout.Signature))
            return [];
        int index = Int(DwgStoreLayout.IndexAt),
            count = Int(DwgStoreLayout.IndexCountAt);
        for (int i = 0; i < count && index + DwgStoreLayout.SegmentHead + (12 * (i + 1)) <= _bytes.Length; i++)
        {
            int at = index + DwgStoreLayout.SegmentHead + (12 * i);
            _segments.Add((BinaryPrimitives.ReadInt64LittleEndian(_bytes.AsSpan(at)), Int(at + 8)));
        }

        var schemas = Schemas();
        var records = new List<StoredData>();
        long listed = Segment(Int(DwgStoreLayout.DataIndexAt), "datidx"),
            budget = 2L * _bytes.Length;
        for (int i = 0; i < Int(listed); i++)
        {
            long entry = listed + 8 + (12 * i);
            int segment = Int(entry),
                schema = Int(entry + 8);
            // A record taken back leaves an entry without a segment.
            if (segment == 0)
                continue;
            var (owner, data) = Record(segment, Int(entry + 4));
            if ((budget -= data.Length) < 0)
                throw new CadFormatException("its records say they hold more than the store");
            records.Add(new StoredData(owner, schemas.ElementAtOrDefault(schema) ?? StoredData.Bodies, data));
        }

        return records;
    }

    private (Handle Owner, byte[] Data) Record(int segment, int local)
    {
        long content = Segment(segment, "_data_"),
            at = content + local;
        var owner = new Handle((ulong)Long(at + 8));
        long data =
            _segments[segment].At
            + (16L * Int(_segments[segment].At + DwgStoreLayout.ObjectAlignmentAt))
            + Int(at + 16);
        int size = Int(data);
        if (unchecked((uint)size) == DwgStoreLayout.Pages)
            return (owner, Paged(data));
        return (owner, _bytes.AsSpan(checked((int)data + 4), size).ToArray());
    }

    // What is too long for a segment lies in pages, a segment each.
    private byte[] Paged(long at)
    {
        int pages = Int(at + 12);
        var whole = new MemoryStream();
        for (int p = 0; p < pages; p++)
        {
            long entry = at + 36 + (8 * p);
            long page = Segment(Int(entry), "blob01");
            whole.Write(_bytes.AsSpan(checked((int)(page + 32)), Int(entry + 4)));
            if (whole.Length > _bytes.Length)
                throw new CadFormatException("its pages say they hold more than the store");
        }

        return whole.ToArray();
    }

    // Names of the schemas, in the order records name them by; they follow one another at the end of their segment.
    private List<string> Schemas()
    {
        foreach (var (at, size) in _segments)
        {
            if (at <= 0 || Name(at) != "schdat")
                continue;
            string text = Encoding.Latin1.GetString(_bytes.AsSpan((int)at, (int)Math.Min(size, _bytes.Length - at)));
            return
            [
                .. DwgStoreLayout
                    .Schemas.Where(s => text.Contains(s + "\0", StringComparison.Ordinal))
                    .OrderBy(s => text.IndexOf(s + "\0", StringComparison.Ordinal)),
            ];
        }

        return [];
    }

    // Where the content of a segment begins.
    private long Segment(int number, string name)
    {
        if (number <= 0 || number >= _segments.Count)
            throw new CadFormatException("a segment that is not listed");
        long at = _segments[number].At;
        return at > 0 && Name(at) == name
            ? at + DwgStoreLayout.SegmentHead
            : throw new CadFormatException("a segment of another kind");
    }

    private string Name(long at) => Encoding.Latin1.GetString(_bytes.AsSpan(checked((int)at) + 2, 6));

    private int Int(long at) => BinaryPrimitives.ReadInt32LittleEndian(_bytes.AsSpan(checked((int)at)));

    private long Long(long at) => BinaryPrimitives.ReadInt64LittleEndian(_bytes.AsSpan(checked((int)at)));

    private static IEnumerable<byte[]> Scan(byte[] bytes)
    {
        for (int at = 0; First(bytes, at, "BinaryFile"u8, SabReader.Signatures) is { Length: > 0 } begin; )
        {
            var end = First(bytes, begin.At, "\u000e\u0003End"u8, SabReader.Ends);
            if (end.Length == 0)
                yield break;
            at = end.At + end.Length;
            yield return bytes[begin.At..at];
        }
    }

    // The first of some words that share a part: looking for each of them would go over all the rest for those that are not there. Its
    // length is 0 when there is none.
    private static (int At, int Length) First(
        ReadOnlySpan<byte> bytes,
        int from,
        ReadOnlySpan<byte> shared,
        IReadOnlyList<byte[]> words
    )
    {
        for (int at = from; bytes[at..].IndexOf(shared) is >= 0 and var found; at += found + 1)
            foreach (byte[] word in words)
                if (
                    at + found - word.AsSpan().IndexOf(shared) is var begin
                    && begin >= from
                    && bytes[begin..].StartsWith(word)
                )
                    return (begin, word.Length);
        return (0, 0);
    }
}
