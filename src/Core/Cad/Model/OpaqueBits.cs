namespace SteadyLintel.Cad;

/// <summary>The data of an object in DWG as it was read: it can be written only to the version it came from.</summary>
/// <param name="Version">The version it came from.</param>
/// <param name="TypeNumber">The number of its type, for kinds the format numbers itself; 0 for those with a class.</param>
/// <param name="Data">The bytes from the type onward.</param>
/// <param name="BitSize">Where its handles begin, in bits from the first byte.</param>
public sealed record OpaqueBits(CadVersion Version, int TypeNumber, byte[] Data, long BitSize)
{
    /// <summary>The bits an object is kept as, or null.</summary>
    internal static OpaqueBits? Of(CadObject item) =>
        item switch
        {
            OpaqueEntity entity => entity.Bits,
            OpaqueObject other => other.Bits,
            Table table => table.Bits,
            AttributeEntity attribute => attribute.Bits,
            _ => null,
        };
}
