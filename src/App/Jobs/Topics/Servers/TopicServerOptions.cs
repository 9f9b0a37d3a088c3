namespace SteadyLintel.Jobs;

/// <summary>Which other servers may be asked for topics.</summary>
public sealed record TopicServerOptions
{
    /// <summary>Hosts that may be asked though they lie within the own network: <c>bcf.intern</c>. Others are asked only where everybody
    /// can reach them, so that nobody makes this server ask what only it can reach.</summary>
    public IReadOnlyList<string> Allowed { get; init; } = [];

    /// <summary>How long both are left alone after an exchange.</summary>
    public TimeSpan Pause { get; init; } = TimeSpan.FromMinutes(5);

    /// <summary>How long a process that exchanges may be silent before another takes over.</summary>
    public TimeSpan Lease { get; init; } = TimeSpan.FromMinutes(2);

    /// <summary>How long one answer may take.</summary>
    public TimeSpan Wait { get; init; } = TimeSpan.FromSeconds(60);
}
