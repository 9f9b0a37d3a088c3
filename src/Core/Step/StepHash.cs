using System.Buffers.Binary;

namespace SteadyLintel.Step;

/// <summary>A quick hash for short words: keywords, names, values.</summary>
public static class StepHash
{
    /// <summary>The hash. First and last eight bytes and the length tell nearly all keywords of a schema apart.</summary>
    public static uint Of(ReadOnlySpan<byte> word)
    {
        ulong hash = (uint)word.Length * 0x9E3779B97F4A7C15;
        if (word.Length >= 8)
        {
            hash ^= BinaryPrimitives.ReadUInt64LittleEndian(word) * 0xC2B2AE3D27D4EB4F;
            hash ^= BinaryPrimitives.ReadUInt64LittleEndian(word[^8..]) * 0x165667B19E3779F9;
        }
        else
        {
            foreach (byte c in word) hash = (hash ^ c) * 0x100000001B3;
        }

        return (uint)(hash >> 40) ^ (uint)hash;
    }
}
