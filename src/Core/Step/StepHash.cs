using System.Buffers.Binary;
using System.Numerics;

namespace SteadyLintel.Step;

/// <summary>A quick hash for short words: keywords, names, values.</summary>
public static class StepHash
{
    /// <summary>The hash of all bytes, eight at a time.</summary>
    /// <param name="word">Any bytes.</param>
    public static uint Of(ReadOnlySpan<byte> word)
    {
        ulong hash = Long(word);
        return (uint)(hash >> 40) ^ (uint)hash;
    }

    /// <summary>The same hash in 64 bits, for telling contents apart.</summary>
    /// <param name="word">Any bytes.</param>
    public static ulong Long(ReadOnlySpan<byte> word)
    {
        ulong hash = (uint)word.Length * 0x9E3779B97F4A7C15;
        if (word.Length >= 8)
        {
            for (int at = 0; at < word.Length - 8; at += 8)
                hash = Mix(hash, BinaryPrimitives.ReadUInt64LittleEndian(word[at..]));
            hash = Mix(hash, BinaryPrimitives.ReadUInt64LittleEndian(word[^8..]));
        }
        else
        {
            foreach (byte c in word)
                hash = (hash ^ c) * 0x100000001B3;
        }

        return hash;
    }

    private static ulong Mix(ulong hash, ulong bytes) =>
        (BitOperations.RotateLeft(hash, 23) ^ bytes) * 0xC2B2AE3D27D4EB4F;
}
