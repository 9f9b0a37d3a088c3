using System.Text.Json;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What came of a run, as it is kept with its transmittal.</summary>
public static class TransmittalResult
{
    /// <summary>Reads it; null while the run has not given anything.</summary>
    public static HandoverResult? Of(Transmittal transmittal) =>
        transmittal.Result is null
            ? null
            : JsonSerializer.Deserialize<HandoverResult>(transmittal.Result, IntakeStore.Json);
}
