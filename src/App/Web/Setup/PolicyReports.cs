namespace SteadyLintel.Web;

/// <summary>Browsers report here what the content policy kept them from doing (W3C CSP 3, 5.3), so that an attack, or a mistake of ours,
/// is seen
/// in the log.</summary>
internal static class PolicyReports
{
    /// <summary>The address.</summary>
    public const string Path = "/policy-report";

    // Anybody can post here: little is read, and few lines are written.
    private const int MaxBytes = 4096,
        MaxPerMinute = 20;

    private static long _minute;
    private static int _count;

    /// <summary>Adds the address.</summary>
    public static void Map(WebApplication app) =>
        app.MapPost(Path, async (HttpRequest request, ILogger<Program> log) =>
            {
                long minute = Environment.TickCount64 / 60_000;
                if (Interlocked.Exchange(ref _minute, minute) != minute)
                    _count = 0;
                if (Interlocked.Increment(ref _count) > MaxPerMinute)
                    return Results.StatusCode(StatusCodes.Status429TooManyRequests);
                var buffer = new byte[MaxBytes];
                int read = await request.Body.ReadAtLeastAsync(buffer, buffer.Length, throwOnEndOfStream: false);
                string text = new([
                    .. System.Text.Encoding.UTF8.GetString(buffer, 0, read).Where(c => !char.IsControl(c)),
                ]);
                log.LogWarning("A page tried what its policy forbids: {Report}", text);
                return Results.NoContent();
            })
            .DisableAntiforgery();
}
