namespace SteadyLintel.Topics;

/// <summary>How much of a stranger's topic file is read.</summary>
/// <param name="MaxEntries">Files in the archive.</param>
/// <param name="MaxXmlBytes">Bytes of one XML file, unpacked.</param>
/// <param name="MaxPartBytes">Bytes of one other file, unpacked.</param>
/// <param name="MaxBytes">Bytes of all files, unpacked.</param>
public sealed record TopicLimits(
    int MaxEntries = 200_000,
    long MaxXmlBytes = 64_000_000,
    long MaxPartBytes = 256_000_000,
    long MaxBytes = 8_000_000_000
);
