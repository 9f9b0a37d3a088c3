namespace SteadyLintel.Exchange;

/// <summary>An order that is to be carried out, with all that it needs.</summary>
/// <param name="Order">The order.</param>
/// <param name="Sources">The models.</param>
/// <param name="Target">Where files go.</param>
public sealed record HandoverRun(HandoverOrder Order, IReadOnlyList<HandoverSource> Sources, IFileSet Target)
{
    /// <summary>The job's code, for names; may be empty.</summary>
    public string Job { get; init; } = "";

    /// <summary>The time to put in headers, ISO 8601.</summary>
    public string TimeStamp { get; init; } = "";

    /// <summary>The day for names, ISO 8601; null for that of the time stamp.</summary>
    public string? Date { get; init; }

    /// <summary>The job's level schedule; null to match the storeys of these sources.</summary>
    public LevelSchedule? Levels { get; init; }

    /// <summary>What is said beside the models' files, by their place in <see cref="Sources"/>; it travels unless the order says
    /// otherwise.</summary>
    public IReadOnlyDictionary<int, IReadOnlyList<Amendment>> Amendments { get; init; } =
        new Dictionary<int, IReadOnlyList<Amendment>>();

    /// <summary>The drawings that go beside the models, where the order has any.</summary>
    public IReadOnlyList<HandoverDrawing> Drawings { get; init; } = [];

    /// <summary>What the transmittal is called, for title blocks; empty for none.</summary>
    public string Transmittal { get; init; } = "";

    /// <summary>Told what is going on: a text and the share done; null for nobody.</summary>
    public Action<string, double>? Progress { get; init; }
}
