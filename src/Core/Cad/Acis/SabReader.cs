using System.Buffers.Binary;
using System.Globalization;
using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Reads the plane faces of ACIS data in their binary form, which drawings have from 2013 on: every value behind a byte that says
/// its kind.</summary>
/// <remarks>The kinds as other open readers know them; tests/Outside compares with one.</remarks>
public sealed class SabReader
{
    private const int HeaderNumbers = 4,
        LongestText = 1 << 20;
    private readonly byte[] _bytes;
    private readonly int _wide;
    private int _at;

    private SabReader(byte[] bytes, int start, bool wide) => (_bytes, _at, _wide) = (bytes, start, wide ? 8 : 4);

    /// <summary>What the data begin with; the last is that of data with numbers of 64 bits.</summary>
    internal static IReadOnlyList<byte[]> Signatures { get; } =
    ["ACIS BinaryFile"u8.ToArray(), "ASM BinaryFile4"u8.ToArray(), "ASM BinaryFile8"u8.ToArray()];

    /// <summary>What ends the data, of either maker's name.</summary>
    internal static IReadOnlyList<byte[]> Ends { get; } = [End("ACIS"), End("ASM")];

    /// <summary>Whether data begin like this form.</summary>
    internal static bool Looks(ReadOnlySpan<byte> data)
    {
        foreach (byte[] signature in Signatures)
            if (data.StartsWith(signature))
                return true;
        return false;
    }

    /// <summary>The points and faces of a body; null when a face is not plane, an edge not straight, or the data make no sense.</summary>
    public static (IReadOnlyList<Vec3> Points, IReadOnlyList<PlanarFace> Faces)? Read(byte[] data)
    {
        for (int s = 0; s < Signatures.Count; s++)
        {
            if (!data.AsSpan().StartsWith(Signatures[s]))
                continue;
            try
            {
                return AcisFaces.Of(new SabReader(data, Signatures[s].Length, s == 2).Records());
            }
            catch (CadFormatException)
            {
                return null;
            }
        }

        return null;
    }

    private static byte[] End(string maker) =>
        [
            0x0E,
            3,
            .. "End"u8,
            0x0E,
            2,
            .. "of"u8,
            0x0E,
            (byte)maker.Length,
            .. Encoding.ASCII.GetBytes(maker),
            0x0D,
            4,
            .. "data"u8,
        ];

    private List<AcisRecord> Records()
    {
        long version = Whole();
        for (int i = 1; i < HeaderNumbers; i++)
            Whole();
        // Product, version and date; the size of the unit and two tolerances.
        for (int i = 0; i < 6; i++)
            Value(new Values());
        int skipped = version >= AcisRecord.PatternVersion ? 2 : 1;
        var records = new List<AcisRecord>();
        while (_at < _bytes.Length && records.Count < AcisRecord.Most && Record(skipped) is { } record)
            records.Add(record);
        return records;
    }

    // Null at the end of the data.
    private AcisRecord? Record(int skipped)
    {
        var values = new Values();
        while (Value(values))
            if (values.Kind.StartsWith("End-of", StringComparison.Ordinal))
                return null;
        return new AcisRecord(
            values.Kind,
            [.. values.Links.Skip(skipped)],
            [.. values.Numbers],
            values.Reversed ?? false
        );
    }

    private sealed class Values
    {
        public string Kind { get; set; } = "";

        public bool Named { get; set; }

        public List<int> Links { get; } = [];

        public List<double> Numbers { get; } = [];

        public bool? Reversed { get; set; }
    }

    // False at the end of a record.
    private bool Value(Values into)
    {
        var tag = (SabTag)Take(1)[0];
        switch (tag)
        {
            case SabTag.Record:
                return false;
            case SabTag.Name or SabTag.NamePart:
                string part = Text(Take(1)[0]);
                if (into.Named)
                    break;
                into.Kind += into.Kind.Length > 0 ? "-" + part : part;
                into.Named = tag == SabTag.Name;
                break;
            case SabTag.Link:
                into.Links.Add((int)Math.Clamp(Whole(), int.MinValue, int.MaxValue));
                break;
            case SabTag.True:
                into.Reversed ??= true;
                break;
            case SabTag.False:
                into.Reversed ??= false;
                break;
            case SabTag.Double or SabTag.OtherDouble:
                into.Numbers.Add(Real());
                break;
            case SabTag.Position or SabTag.Direction:
                for (int i = 0; i < 3; i++)
                    into.Numbers.Add(Real());
                break;
            case SabTag.Integer or SabTag.Enumeration:
                Whole();
                break;
            case SabTag.Text:
                Text(Take(1)[0]);
                break;
            case SabTag.LongText:
                // A transform is given in words.
                foreach (string word in Text(BinaryPrimitives.ReadInt32LittleEndian(Take(4))).Split(' '))
                    if (double.TryParse(word, NumberStyles.Float, CultureInfo.InvariantCulture, out double number))
                        into.Numbers.Add(number);
                break;
            case SabTag.SubtypeBegin or SabTag.SubtypeEnd:
                break;
            default:
                throw new CadFormatException("a value of unknown kind");
        }

        return true;
    }

    private long Whole() =>
        _wide == 8 ? BinaryPrimitives.ReadInt64LittleEndian(Take(8)) : BinaryPrimitives.ReadInt32LittleEndian(Take(4));

    private double Real() => BinaryPrimitives.ReadDoubleLittleEndian(Take(8));

    private string Text(int length) =>
        length is >= 0 and <= LongestText
            ? Encoding.Latin1.GetString(Take(length))
            : throw new CadFormatException("a text without end");

    private ReadOnlySpan<byte> Take(int count)
    {
        if (count > _bytes.Length - _at)
            throw new CadFormatException("data that end early");
        _at += count;
        return _bytes.AsSpan(_at - count, count);
    }
}
