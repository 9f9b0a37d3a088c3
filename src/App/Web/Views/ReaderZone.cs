namespace SteadyLintel.Web;

/// <summary>The time zone of whoever reads the page.</summary>
public static class ReaderZone
{
    private static readonly AsyncLocal<TimeZoneInfo?> Zone = new();

    /// <summary>The names that can be chosen, by what they are called on this machine.</summary>
    public static IReadOnlyList<string> Names { get; } =
    [
        .. TimeZoneInfo
            .GetSystemTimeZones()
            .Select(z => z.Id)
            .Where(id => id.Contains('/', StringComparison.Ordinal))
            .Order(StringComparer.Ordinal),
    ];

    /// <summary>Sets the zone for the rest of the request; an unknown name means UTC.</summary>
    public static void Set(string? name) =>
        Zone.Value =
            name is { Length: > 0 } && TimeZoneInfo.TryFindSystemTimeZoneById(name, out var zone) ? zone : null;

    /// <summary>A time of the database as the reader's clock says it.</summary>
    public static DateTime Local(DateTime utc) =>
        Zone.Value is { } zone
            ? TimeZoneInfo.ConvertTimeFromUtc(DateTime.SpecifyKind(utc, DateTimeKind.Utc), zone)
            : utc;
}
