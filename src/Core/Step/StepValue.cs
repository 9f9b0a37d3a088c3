using System.Text;

namespace SteadyLintel.Step;

/// <summary>One parameter of an instance, seen in place.</summary>
/// <remarks>Nothing is parsed until asked for; asking for the wrong kind gives the neutral value (null, 0, an empty list), never an
/// exception.</remarks>
/// <param name="raw">The bytes of the parameter without white space around them.</param>
/// <param name="depth">How many parameters this one is inside of.</param>
public readonly ref struct StepValue(ReadOnlySpan<byte> raw, int depth = 0)
{
    /// <summary>How deep parameters may be nested; the schemas of ISO 16739 nest three deep. What is deeper is not looked into, so that
    /// nothing that follows nesting needs a limit of its own.</summary>
    public const int MaxDepth = 64;

    /// <summary>How many parameters this one is inside of: 0 for an attribute.</summary>
    public int Depth { get; } = depth;

    /// <summary>Whether the parameter is a list or typed value that is not looked into: it has no items and no inner value, only its
    /// bytes.</summary>
    public bool IsTooDeep => Depth >= MaxDepth && Kind is (StepKind.List or StepKind.Typed);

    /// <summary>Whether something in the parameter is nested deeper than is looked into.</summary>
    public bool HoldsTooDeep => Kind is StepKind.List or StepKind.Typed && StepScan.IsDeeper(Raw, MaxDepth - Depth);

    /// <summary>The bytes as they are in the file.</summary>
    public ReadOnlySpan<byte> Raw { get; } = raw;

    /// <summary>What the parameter is, distinguished from its first byte.</summary>
    public StepKind Kind => Raw.IsEmpty ? StepKind.Null : Kinds[Raw[0]];

    /// <summary>Whether the parameter is <c>$</c>, or was not there.</summary>
    public bool IsNull => Kind == StepKind.Null;

    /// <summary>The instance name of a reference, or 0.</summary>
    public int Reference => Raw.Length > 1 && Raw[0] == '#' && TryId(Raw[1..], out int id) ? id : 0;

    /// <summary>The number, that of a typed number too; NaN when it is none.</summary>
    public double Real =>
        Kind switch
        {
            StepKind.Number => StepNumber.TryParse(Raw, out double value) ? value : double.NaN,
            StepKind.Typed => Inner.Kind == StepKind.Number ? Inner.Real : double.NaN,
            _ => double.NaN,
        };

    /// <summary>The number as an integer, 0 when it is none or does not fit.</summary>
    public int Integer
    {
        get
        {
            double real = Real;
            return real is >= int.MinValue and <= int.MaxValue ? (int)real : 0;
        }
    }

    /// <summary>The decoded text of a string, that of a typed string too; null when it is none.</summary>
    public string? Text =>
        Kind switch
        {
            StepKind.String => StepText.Decode(Coded),
            StepKind.Typed => Inner.Kind == StepKind.String ? Inner.Text : null,
            _ => null,
        };

    /// <summary>The bytes between the apostrophes, still coded.</summary>
    public ReadOnlySpan<byte> Coded =>
        Raw.Length >= 2 && Raw[^1] == '\'' ? Raw[1..^1]
        : Raw.Length > 0 ? Raw[1..]
        : Raw;

    /// <summary>The word between the full stops, that of a typed enumeration too; null when it is none.</summary>
    public string? Enumeration =>
        Kind switch
        {
            StepKind.Enumeration => Encoding.ASCII.GetString(Raw.Trim((byte)'.')),
            StepKind.Typed => Inner.Kind == StepKind.Enumeration ? Inner.Enumeration : null,
            _ => null,
        };

    /// <summary>Whether the parameter is <c>.T.</c>.</summary>
    public bool IsTrue => Raw.SequenceEqual(".T."u8);

    /// <summary>Whether the parameter is <c>.F.</c>.</summary>
    public bool IsFalse => Raw.SequenceEqual(".F."u8);

    /// <summary>The items of a list; of anything else none.</summary>
    public StepItems Items => new(Kind == StepKind.List && Depth < MaxDepth ? Between(Raw) : default, Depth + 1);

    /// <summary>The keyword of a typed value, in capitals; null when it is none.</summary>
    public string? TypeName =>
        Kind == StepKind.Typed ? Encoding.ASCII.GetString(Raw[..KeywordLength]).ToUpperInvariant() : null;

    /// <summary>The keyword bytes of a typed value.</summary>
    public ReadOnlySpan<byte> TypeBytes => Kind == StepKind.Typed ? Raw[..KeywordLength] : default;

    /// <summary>The value inside a typed value; of anything else the value itself.</summary>
    public StepValue Inner
    {
        get
        {
            if (Kind != StepKind.Typed)
                return this;
            if (Depth >= MaxDepth)
                return default;
            int open = Raw.IndexOf((byte)'(');
            return open < 0 ? default : new StepValue(TrimSpace(Between(Raw[open..])), Depth + 1);
        }
    }

    private static readonly StepKind[] Kinds = [.. Enumerable.Range(0, 256).Select(c => KindOf((byte)c))];

    private static StepKind KindOf(byte first) =>
        first switch
        {
            (byte)'$' => StepKind.Null,
            (byte)'*' => StepKind.Derived,
            (byte)'#' => StepKind.Reference,
            (byte)'\'' => StepKind.String,
            (byte)'"' => StepKind.Binary,
            (byte)'.' => StepKind.Enumeration,
            (byte)'(' => StepKind.List,
            (>= (byte)'0' and <= (byte)'9') or (byte)'-' or (byte)'+' => StepKind.Number,
            (>= (byte)'A' and <= (byte)'Z') or (>= (byte)'a' and <= (byte)'z') or (byte)'!' => StepKind.Typed,
            _ => StepKind.Invalid,
        };

    private int KeywordLength
    {
        get
        {
            int n = 0;
            while (n < Raw.Length && StepScan.IsKeyword(Raw[n]))
                n++;
            return n;
        }
    }

    /// <summary>Adds the references in the list, nested ones too, to <paramref name="ids"/>.</summary>
    public void CollectReferences(List<int> ids)
    {
        if (Kind == StepKind.Reference)
            ids.Add(Reference);
        else if (Kind is StepKind.List or StepKind.Typed)
            StepReferences.Collect(Raw, ids);
    }

    /// <summary>The references of a flat list.</summary>
    public int[] References()
    {
        var ids = new List<int>();
        CollectReferences(ids);
        return [.. ids];
    }

    /// <summary>The numbers of a flat list; at most <paramref name="target"/>'s length is filled.</summary>
    /// <returns>How many were written.</returns>
    public int Reals(Span<double> target)
    {
        int n = 0;
        foreach (var item in Items)
        {
            if (n == target.Length)
                break;
            target[n++] = item.Real;
        }

        return n;
    }

    internal static bool TryId(ReadOnlySpan<byte> digits, out int id)
    {
        long value = 0;
        id = 0;
        if (digits.IsEmpty || digits.Length > 10)
            return false;
        foreach (byte c in digits)
        {
            int d = c - '0';
            if ((uint)d > 9)
                return false;
            value = (value * 10) + d;
        }

        if (value > int.MaxValue)
            return false;
        id = (int)value;
        return true;
    }

    private static ReadOnlySpan<byte> Between(ReadOnlySpan<byte> list) =>
        list.Length >= 2 && list[^1] == ')' ? list[1..^1]
        : list.Length > 0 ? list[1..]
        : list;

    private static ReadOnlySpan<byte> TrimSpace(ReadOnlySpan<byte> bytes)
    {
        int from = StepScan.SkipSpace(bytes, 0);
        int to = StepScan.SkipParameter(bytes, from);
        return bytes[from..StepScan.TrimEnd(bytes, from, to)];
    }
}
