namespace SteadyLintel.Exchange;

/// <summary>How far a delivery may fall behind the revision before it without being held; each job has its own.</summary>
public sealed record DeliveryLimits
{
    /// <summary>The limits of a job that has set none.</summary>
    public static readonly DeliveryLimits Default = new();

    /// <summary>The share of elements that may be gone, from 0 to 1; at 1 no share holds a delivery.</summary>
    public double LostShare { get; init; } = 0.3;

    /// <summary>How many elements a class had to have for its absence to hold a delivery; 0 when no class does.</summary>
    public int ClassSize { get; init; } = 5;

    /// <summary>Whether a storey that is gone with all its elements holds a delivery.</summary>
    public bool Storeys { get; init; } = true;

    /// <summary>Whether errors of reading hold a delivery.</summary>
    public bool Errors { get; init; } = true;
}
