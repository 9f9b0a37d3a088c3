using System.Buffers.Binary;
using System.Text;

namespace SteadyLintel.Store;

/// <summary>An element on its way into the database, in the binary form of COPY (PostgreSQL documentation, COPY, Binary Format): all
/// columns but its property sets, which are numbered in the order of elements.</summary>
/// <remarks>Made on the threads that shape; only writing it is left for the one that stores.</remarks>
public sealed class PackedElement
{
    /// <summary>The columns in their order; <c>sets</c> is the last.</summary>
    internal const string Columns =
        "revision_id, number, global_id, class, name, storey, layer, layers, type_name, materials, predefined, classifications, groups, "
        + "relations, wholes, left_out, bearing, size, box, place, shape, member, volume, area, facts, sets";

    private const short Count = 26;

    // Object identifiers of types (pg_type.h).
    private const int Text = 25,
        Integer = 23,
        Double = 701;

    private PackedElement(ElementRow row)
    {
        var writer = new Writer();
        writer.Start();
        writer.Put(row.RevisionId);
        writer.Put(row.Number);
        writer.Put(StoredText.Clean(row.GlobalId, StoredText.MaxIndexed));
        (Class, Layer) = (StoredText.Clean(row.Class), StoredText.Clean(row.Layer));
        writer.Put(Class);
        writer.Put(StoredText.Clean(row.Name));
        writer.Put(row.Storey);
        writer.Put(Layer);
        writer.Put(row.Layers);
        writer.Put(StoredText.Clean(row.TypeName));
        writer.Put(row.Materials);
        writer.Put(StoredText.Clean(row.Predefined));
        writer.Put(row.Classifications);
        writer.Put(row.Groups);
        writer.Put(row.Relations);
        writer.Put(row.Wholes);
        writer.Put(row.LeftOut);
        writer.Put(row.Bearing);
        writer.Put(row.Size);
        writer.Put(row.Box);
        writer.Put(row.Place);
        writer.Put(row.Shape);
        if (row.Member is null)
            writer.Null();
        else
            writer.Put(row.Member);
        writer.Put(row.Volume);
        writer.Put(row.Area);
        writer.Put(row.Facts);
        Bytes = writer.ToArray();
        (Storey, IsShaped, IsDrawn, IsPart) = (row.Storey, row.Box is not null, row.Drawn, row.Wholes.Length > 0);
    }

    internal byte[] Bytes { get; }

    internal int Storey { get; }

    internal string Class { get; }

    internal string Layer { get; }

    internal bool IsShaped { get; }

    internal bool IsDrawn { get; }

    internal bool IsPart { get; }

    /// <summary>Packs a row; its <see cref="ElementRow.Sets"/> are not in it.</summary>
    public static PackedElement Of(ElementRow row) => new(row);

    /// <summary>The column of property sets, to be written behind <see cref="Bytes"/>.</summary>
    internal static byte[] PackSets(int[] sets)
    {
        var writer = new Writer();
        writer.Put(sets);
        return writer.ToArray();
    }

    /// <summary>Values in network byte order, each behind its length; -1 for none.</summary>
    private sealed class Writer
    {
        private byte[] _bytes = new byte[512];
        private int _at;

        public byte[] ToArray() => _bytes.AsSpan(0, _at).ToArray();

        public void Start() => BinaryPrimitives.WriteInt16BigEndian(Room(sizeof(short)), Count);

        public void Null() => Raw(-1);

        public void Put(Guid value)
        {
            Raw(16);
            value.TryWriteBytes(Room(16), bigEndian: true, out _);
        }

        public void Put(int value)
        {
            Raw(sizeof(int));
            Raw(value);
        }

        public void Put(bool value)
        {
            Raw(1);
            Room(1)[0] = value ? (byte)1 : (byte)0;
        }

        public void Put(double? value)
        {
            if (value is not { } number)
            {
                Null();
                return;
            }

            Raw(sizeof(double));
            BinaryPrimitives.WriteDoubleBigEndian(Room(sizeof(double)), number);
        }

        public void Put(byte[] value)
        {
            Raw(value.Length);
            value.CopyTo(Room(value.Length));
        }

        public void Put(string value)
        {
            int length = Encoding.UTF8.GetByteCount(value);
            Raw(length);
            Encoding.UTF8.GetBytes(value, Room(length));
        }

        public void Put(string[] values) => List(values.Length, Text, () =>
            {
                foreach (string value in values)
                    Put(StoredText.Clean(value));
            });

        public void Put(int[] values) => List(values.Length, Integer, () =>
            {
                foreach (int value in values)
                    Put(value);
            });

        public void Put(double[]? values)
        {
            if (values is null)
                Null();
            else
                List(values.Length, Double, () =>
                {
                    foreach (double value in values)
                        Put(value);
                });
        }

        // Dimensions, whether there are nulls, the type; of the one dimension its length and where it begins.
        private void List(int count, int type, Action values)
        {
            int length = _at;
            Raw(0);
            Raw(count == 0 ? 0 : 1);
            Raw(0);
            Raw(type);
            if (count > 0)
            {
                Raw(count);
                Raw(1);
                values();
            }

            BinaryPrimitives.WriteInt32BigEndian(_bytes.AsSpan(length), _at - length - sizeof(int));
        }

        private void Raw(int value) => BinaryPrimitives.WriteInt32BigEndian(Room(sizeof(int)), value);

        private Span<byte> Room(int length)
        {
            if (_at + length > _bytes.Length)
                Array.Resize(ref _bytes, Math.Max(2 * _bytes.Length, _at + length));
            _at += length;
            return _bytes.AsSpan(_at - length, length);
        }
    }
}
