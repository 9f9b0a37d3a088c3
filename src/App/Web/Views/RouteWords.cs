using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>What waits at each stop, in words.</summary>
public static class RouteWords
{
    /// <summary>What waits at the first stop; null where nothing does.</summary>
    public static string? ToReceive(this RouteBar bar) =>
        bar.Held > 0 ? Say.Count(bar.Held, "delivery held", "deliveries held")
        : bar.Underway > 0 ? Say.Count(bar.Underway, "delivery is being read", "deliveries are being read")
        : bar.Findings > 0 ? Say.Count(bar.Findings, "finding", "findings")
        : null;

    /// <summary>What waits to be set out or placed; null where nothing does.</summary>
    public static string? ToSetOut(this RouteBar bar) =>
        bar.NotSetOut + bar.NotPlaced == 0
            ? null
            : string.Join(
                ", ",
                new[]
                {
                    bar.NotSetOut > 0 ? Say.Count(bar.NotSetOut, "source", "sources") : null,
                    bar.NotPlaced > 0 ? Say.Count(bar.NotPlaced, "drawing", "drawings") : null,
                }.OfType<string>()
            );
}
