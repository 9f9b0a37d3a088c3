using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>What waits at each stop, in words.</summary>
public static class RouteWords
{
    /// <summary>What waits at the first stop; null where nothing does.</summary>
    public static string? ToReceive(this RouteBar bar) =>
        bar.Held > 0 ? DisplayText.Count(bar.Held, "delivery held", "deliveries held")
        : bar.Underway > 0 ? DisplayText.Count(bar.Underway, "delivery is being read", "deliveries are being read")
        : bar.Findings > 0 ? DisplayText.Count(bar.Findings, "finding", "findings")
        : null;

    /// <summary>What the reader owes an answer, and what waits for a decision; null where nothing does.</summary>
    public static string? ToResolve(this RouteBar bar) =>
        bar.Owed + bar.Waiting == 0
            ? null
            : string.Join(
                ", ",
                new[]
                {
                    bar.Owed > 0 ? $"{bar.Owed} owed by you" : null,
                    bar.Waiting > 0 ? DisplayText.Count(bar.Waiting, "decision", "decisions") : null,
                }.OfType<string>()
            );

    /// <summary>What waits to be set out or placed; null where nothing does.</summary>
    public static string? ToSetOut(this RouteBar bar) =>
        bar.NotSetOut + bar.NotPlaced == 0
            ? null
            : string.Join(
                ", ",
                new[]
                {
                    bar.NotSetOut > 0 ? DisplayText.Count(bar.NotSetOut, "source", "sources") : null,
                    bar.NotPlaced > 0 ? DisplayText.Count(bar.NotPlaced, "drawing", "drawings") : null,
                }.OfType<string>()
            );
}
