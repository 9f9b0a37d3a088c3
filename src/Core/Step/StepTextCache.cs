namespace SteadyLintel.Step;

/// <summary>Gives short coded texts their decoded string, the same string for the same bytes most of the time. Safe for concurrent
/// use.</summary>
/// <remarks>Property names, measures and many values repeat thousands of times in a model; a direct-mapped table saves decoding and memory,
/// and forgets without harm.</remarks>
/// <param name="decode">What turns the bytes into text; <see cref="StepText.Decode"/> when left out.</param>
public sealed class StepTextCache(StepTextCache.Decoder? decode = null)
{
    private readonly Decoder _decode = decode ?? StepText.Decode;
    private const int Slots = 8192;
    private const int MaxLength = 64;
    private readonly Entry?[] _entries = new Entry?[Slots];

    /// <summary>The text that coded bytes mean, see <see cref="StepText.Decode"/>.</summary>
    /// <param name="coded">Without the apostrophes around them.</param>
    public string Get(ReadOnlySpan<byte> coded)
    {
        if (coded.Length is 0 or > MaxLength)
            return _decode(coded);
        ref var entry = ref _entries[StepHash.Of(coded) % Slots];
        var found = entry;
        if (found is not null && coded.SequenceEqual(found.Coded))
            return found.Text;
        found = new Entry(coded.ToArray(), _decode(coded));
        entry = found;
        return found.Text;
    }

    /// <summary>Turns bytes of a file into text.</summary>
    /// <param name="bytes">As they are in the file.</param>
    public delegate string Decoder(ReadOnlySpan<byte> bytes);

    private sealed record Entry(byte[] Coded, string Text);
}
