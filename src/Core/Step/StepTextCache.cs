namespace SteadyLintel.Step;

/// <summary>Gives short coded texts their decoded string, the same string for the same bytes most of the time. Safe for concurrent use.</summary>
/// <remarks>Property names, measures and many values repeat thousands of times in a model; a direct-mapped table saves decoding and memory, and forgets without harm.</remarks>
public sealed class StepTextCache
{
    private const int Slots = 8192;
    private const int MaxLength = 64;
    private readonly Entry?[] _entries = new Entry?[Slots];

    /// <summary>The text that coded bytes stand for, see <see cref="StepText.Decode"/>.</summary>
    public string Get(ReadOnlySpan<byte> coded)
    {
        if (coded.Length is 0 or > MaxLength) return StepText.Decode(coded);
        var hash = new HashCode();
        hash.AddBytes(coded);
        ref var entry = ref _entries[(uint)hash.ToHashCode() % Slots];
        var found = entry;
        if (found is not null && coded.SequenceEqual(found.Coded)) return found.Text;
        found = new Entry(coded.ToArray(), StepText.Decode(coded));
        entry = found;
        return found.Text;
    }

    private sealed record Entry(byte[] Coded, string Text);
}
