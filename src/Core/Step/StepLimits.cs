namespace SteadyLintel.Step;

/// <summary>Bounds that keep a hostile file from taking the machine.</summary>
/// <param name="MaxBytes">The longest file that is read.</param>
/// <param name="MaxInstances">The most instances that are indexed.</param>
/// <param name="MaxProblems">How many problems are described; the rest are only counted.</param>
public sealed record StepLimits(int MaxBytes = 2_000_000_000, int MaxInstances = 200_000_000, int MaxProblems = 200)
{
    /// <summary>How many threads may index a large file; as many as the machine has cores, eight at most.</summary>
    public int Threads { get; init; } = Math.Clamp(Environment.ProcessorCount, 1, 8);

    /// <summary>Limits for ordinary use.</summary>
    public static StepLimits Default { get; } = new();
}
