using Microsoft.AspNetCore.Mvc;

namespace SteadyLintel.Web;

/// <summary>Tells an open page when something changes, as server-sent events (HTML Living Standard, 9.2).</summary>
/// <remarks>A first request is answered at once with the state as it is. The browser comes again with that as its last event, and is
/// answered when there is another, or after a minute: no connection is held for good.</remarks>
public static class TopicLive
{
    private static readonly TimeSpan Look = TimeSpan.FromSeconds(2),
        Longest = TimeSpan.FromMinutes(1);

    /// <summary>Writes the events.</summary>
    /// <param name="context">The request.</param>
    /// <param name="stamp">A word that is another once something has changed.</param>
    public static async Task<IActionResult> WriteAsync(HttpContext context, Func<Task<string>> stamp)
    {
        var cancel = context.RequestAborted;
        context.Response.ContentType = "text/event-stream";
        context.Response.Headers.CacheControl = "no-store";
        string last = context.Request.Headers["Last-Event-ID"].ToString(),
            now = await stamp();
        try
        {
            for (var waited = TimeSpan.Zero; now == last && waited < Longest; waited += Look)
            {
                await Task.Delay(Look, cancel);
                now = await stamp();
            }

            await context.Response.WriteAsync($"retry: 3000\nid: {now}\ndata: {now}\n\n", cancel);
        }
        catch (OperationCanceledException)
        {
            // The page was closed.
        }

        return new EmptyResult();
    }
}
