using System.Buffers.Binary;
using System.Text;

namespace SteadyLintel.Cad;

/// <summary>Writes the data store of DWG from 2013 on, in the layout <see cref="DwgStoreReader"/> reads.</summary>
/// <remarks>Another reader finds the segments and the bodies in tests/Outside.</remarks>
internal sealed class DwgStoreWriter
{
    // The first entry of the list of segments leads nowhere.
    private const int Revision = 1,
        SegmentCount = 7;
    private const byte SystemFill = 0x62,
        Fill = 0x70,
        AlignmentFill = 0x55;
    private readonly MemoryStream _out = new();
    private readonly List<(long At, int Size)> _segments = [(0, 0)];

    private DwgStoreWriter() { }

    /// <summary>The section with these records.</summary>
    public static byte[] Write(IReadOnlyList<StoredData> records)
    {
        var writer = new DwgStoreWriter();
        writer.Store(records);
        return writer._out.ToArray();
    }

    private void Store(IReadOnlyList<StoredData> records)
    {
        var schemas = DwgStoreLayout.Schemas.Concat(records.Select(r => r.Schema)).Distinct().ToList();
        _out.Write(new byte[DwgStoreLayout.Head]);
        var listed = Data(records, schemas);
        // The list of segments names itself, and is filled in when all are there.
        int index = Put("segidx", w => w.Write(new byte[12 * SegmentCount]));
        int dataIndex = Put("datidx", w =>
        {
            w.Write(listed.Count);
            w.Write(0);
            foreach (var (segment, local, schema) in listed)
            {
                w.Write(segment);
                w.Write(local);
                w.Write(schema);
            }
        });
        int described = _segments.Count + 1;
        int schemaIndex = Put("schidx", w => SchemaIndex(w, schemas.Count, described));
        Put("schdat", w => Schemas(w, schemas));
        int search = Put("search", w => Search(w, records, schemas));
        Finish(index, dataIndex, schemaIndex, search);
    }

    private List<(int Segment, int Local, int Schema)> Data(IReadOnlyList<StoredData> records, List<string> schemas)
    {
        var listed = new List<(int, int, int)>();
        int number = _segments.Count;
        int heads = Round(DwgStoreLayout.SegmentHead + (DwgStoreLayout.RecordHead * records.Count), 16);
        Put(
            "_data_",
            w =>
            {
                int local = 0;
                for (int i = 0; i < records.Count; i++)
                {
                    listed.Add((number, DwgStoreLayout.RecordHead * i, schemas.IndexOf(records[i].Schema)));
                    w.Write(DwgStoreLayout.RecordHead);
                    w.Write(1);
                    w.Write(records[i].Owner.Value);
                    w.Write(local);
                    local += Round(4 + records[i].Data.Length, 16);
                }

                Pad(w, heads - DwgStoreLayout.SegmentHead, SystemFill);
                foreach (var record in records)
                {
                    long begin = w.BaseStream.Length;
                    w.Write(record.Data.Length);
                    w.Write(record.Data);
                    Pad(w, begin + Round(4 + record.Data.Length, 16), Fill);
                }
            },
            heads / 16
        );
        return listed;
    }

    private static void SchemaIndex(BinaryWriter w, int schemas, int segment)
    {
        // Properties nobody has named: none.
        w.Write(0);
        w.Write(0);
        w.Write(0x0AF10CL);
        w.Write(schemas);
        w.Write(0);
        for (int i = 0; i < schemas; i++)
        {
            w.Write(segment);
            w.Write(4 * i);
            w.Write(i);
        }
    }

    // Schemas without properties of their own: no indexes, no properties; then their names.
    private static void Schemas(BinaryWriter w, List<string> schemas)
    {
        for (int i = 0; i < schemas.Count; i++)
            w.Write(0);
        w.Write(schemas.Count);
        foreach (string name in schemas)
        {
            w.Write(Encoding.ASCII.GetBytes(name));
            w.Write((byte)0);
        }
    }

    // For each schema the handles with their places among the records.
    private static void Search(BinaryWriter w, IReadOnlyList<StoredData> records, List<string> schemas)
    {
        var used = records.Select((r, i) => (r.Owner, r.Schema, Place: i)).GroupBy(r => r.Schema).ToList();
        w.Write(used.Count);
        foreach (var group in used)
        {
            w.Write(schemas.IndexOf(group.Key));
            w.Write((long)group.Count());
            foreach (var (_, _, place) in group)
                w.Write((long)place);
            w.Write(1);
            w.Write(0);
            w.Write(group.Count());
            foreach (var (owner, _, place) in group.OrderBy(r => r.Owner.Value))
            {
                w.Write(owner.Value);
                w.Write(1L);
                w.Write((long)place);
            }
        }
    }

    private int Put(string name, Action<BinaryWriter> content, int objects = 0)
    {
        int number = _segments.Count;
        long at = _out.Length;
        var body = new MemoryStream();
        using (var writer = new BinaryWriter(body, Encoding.Latin1, leaveOpen: true))
            content(writer);
        int size = Round(DwgStoreLayout.SegmentHead + (int)body.Length, DwgStoreLayout.Alignment);
        var head = new BinaryWriter(_out);
        head.Write((ushort)0xD5AC);
        head.Write(Encoding.ASCII.GetBytes(name));
        foreach (int value in (ReadOnlySpan<int>)[number, 0, size, 0, Revision, 0, 0, objects])
            head.Write(value);
        for (int i = 0; i < 8; i++)
            head.Write(AlignmentFill);
        body.WriteTo(_out);
        while (_out.Length < at + size)
            _out.WriteByte(Fill);
        _segments.Add((at, size));
        return number;
    }

    private void Finish(int index, int dataIndex, int schemaIndex, int search)
    {
        _out.Position = _segments[index].At + DwgStoreLayout.SegmentHead;
        var writer = new BinaryWriter(_out);
        foreach (var (at, size) in _segments)
        {
            writer.Write(at);
            writer.Write(size);
        }

        _out.Position = 0;
        writer.Write(DwgStoreLayout.Signature);
        foreach (
            int value in (ReadOnlySpan<int>)
                [
                    DwgStoreLayout.Head,
                    2,
                    2,
                    0,
                    Revision,
                    (int)_segments[index].At,
                    0,
                    _segments.Count,
                    schemaIndex,
                    dataIndex,
                    search,
                    0,
                    (int)_out.Length,
                ]
        )
            writer.Write(value);
    }

    private static void Pad(BinaryWriter writer, long until, byte fill)
    {
        while (writer.BaseStream.Length < until)
            writer.Write(fill);
    }

    private static int Round(int size, int unit) => (size + unit - 1) / unit * unit;
}
