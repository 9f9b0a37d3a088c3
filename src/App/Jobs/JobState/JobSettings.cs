using System.Text.Json;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What a job's coordinators have set, as it is kept with the job.</summary>
public sealed record JobSettings
{
    /// <summary>When deliveries are held.</summary>
    public DeliveryLimits Deliveries { get; init; } = DeliveryLimits.Default;

    /// <summary>The smallest part of an inch that lengths are shown in: 16 for sixteenths.</summary>
    public int InchParts { get; init; } = 16;

    /// <summary>The parts of an inch that a job can be set to. Common practice: sixteenths on drawings, finer ones in workshops.</summary>
    public static IReadOnlyList<int> InchPartsOffered { get; } = [2, 4, 8, 16, 32, 64];

    /// <summary>Reads them.</summary>
    /// <param name="json">As kept; null for the usual settings.</param>
    public static JobSettings Read(string? json) =>
        json is null
            ? new JobSettings()
            : JsonSerializer.Deserialize<JobSettings>(json, IntakeStore.Json) ?? new JobSettings();

    /// <summary>As they are kept.</summary>
    public string Write() => JsonSerializer.Serialize(this, IntakeStore.Json);
}
