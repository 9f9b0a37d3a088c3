namespace SteadyLintel.Jobs;

/// <summary>What may be received.</summary>
public static class UploadLimits
{
    /// <summary>The longest delivery, and the longest model unpacked from one.</summary>
    public const long MaxBytes = 500L << 20;
}
