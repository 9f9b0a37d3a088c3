using System.Text;
using SteadyLintel.Cad;

namespace SteadyLintel.Tests;

/// <summary>The bits of an entity as a file of DWG has them, for kinds the writer does not write.</summary>
internal static class EntityBits
{
    /// <summary>The bits of an entity under a class with the number 500.</summary>
    /// <param name="drawing">The drawing it is to stand in.</param>
    /// <param name="entity">The entity, with a handle of its own.</param>
    /// <param name="version">The version.</param>
    public static OpaqueBits Of(Drawing drawing, Entity entity, CadVersion version)
    {
        var writer = new DwgObjectWriter(
            drawing,
            version,
            new CadText(Encoding.Latin1),
            [new CadClass { Number = 500, DxfName = entity.Type }]
        );
        writer.Entity(entity, drawing.Model.Handle, 2, default, default);
        byte[] written = writer.Output.ToArray()[(int)writer.Places[0].Offset..];
        var head = new BitReader(written);
        int size = head.ModularShort();
        long handles = version >= CadVersion.AC1024 ? (size * 8L) - (long)head.UnsignedModularChar() : 0;
        byte[] body = written.AsSpan((int)(head.Position / 8), size).ToArray();
        if (handles > 0)
            return new OpaqueBits(version, 0, body, handles);
        var data = new BitReader(body);
        data.Short();
        return new OpaqueBits(version, 0, body, (uint)data.RawLong());
    }
}
