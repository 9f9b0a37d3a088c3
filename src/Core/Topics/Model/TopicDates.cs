using System.Globalization;

namespace SteadyLintel.Topics;

/// <summary>Dates of topic files: xs:dateTime, with or without an offset.</summary>
public static class TopicDates
{
    /// <summary>Reads a date; one without an offset counts as UTC, which is common practice.</summary>
    public static bool TryRead(string? text, out DateTimeOffset date) =>
        DateTimeOffset.TryParse(
            text,
            CultureInfo.InvariantCulture,
            DateTimeStyles.AssumeUniversal | DateTimeStyles.AllowWhiteSpaces,
            out date
        );

    /// <summary>The date; the earliest there is where it cannot be read.</summary>
    public static DateTimeOffset Of(string? text) => TryRead(text, out var date) ? date : DateTimeOffset.MinValue;
}
