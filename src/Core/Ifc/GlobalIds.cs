namespace SteadyLintel.Ifc;

/// <summary>GlobalIds: 128 bits in 22 characters of the standard's own base 64 (ISO 16739-1, IfcGloballyUniqueId).</summary>
public static class GlobalIds
{
    private const string Digits = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$";

    /// <summary>Whether a text has the form of a GlobalId. The first character holds two bits only.</summary>
    /// <param name="id">Any text.</param>
    public static bool IsWellFormed(string id) =>
        id.Length == 22 && id[0] is >= '0' and <= '3' && id.All(c => Digits.Contains(c, StringComparison.Ordinal));

    /// <summary>A GlobalId that always comes out the same for an object and a purpose.</summary>
    /// <param name="globalId">The object's, as written.</param>
    /// <param name="purpose">Another one gives another GlobalId.</param>
    public static string Derived(string globalId, string purpose) =>
        FromBytes(
            System
                .Security.Cryptography.SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(globalId + purpose))
                .AsSpan(0, 16)
        );

    /// <summary>The spelling of a GlobalId as a universally unique identifier (RFC 9562).</summary>
    /// <param name="id">As written.</param>
    /// <returns>Null where the text does not have the form of a GlobalId.</returns>
    public static string? Expanded(string id)
    {
        if (!IsWellFormed(id))
            return null;
        var number = System.Numerics.BigInteger.Zero;
        foreach (char c in id)
            number = (number << 6) | Digits.IndexOf(c);
        Span<byte> bytes = stackalloc byte[16];
        bytes.Clear();
        number.TryWriteBytes(bytes[(16 - number.GetByteCount(true))..], out _, true, true);
        return new Guid(bytes, true).ToString();
    }

    /// <summary>The compressed form of 16 bytes, most significant first.</summary>
    /// <param name="bytes">Sixteen.</param>
    public static string FromBytes(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length != 16)
            throw new ArgumentException("A GlobalId has 16 bytes.", nameof(bytes));
        var number = new System.Numerics.BigInteger(bytes, isUnsigned: true, isBigEndian: true);
        Span<char> text = stackalloc char[22];
        for (int i = 21; i >= 0; i--)
        {
            text[i] = Digits[(int)(number & 63)];
            number >>= 6;
        }

        return new string(text);
    }
}
