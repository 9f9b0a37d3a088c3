using System.Globalization;
using System.Text;

namespace SteadyLintel.Jobs;

/// <summary>Due dates of topics as a calendar (RFC 5545): a day each.</summary>
public static class DueCalendar
{
    // RFC 5545, 3.1: a line has at most 75 octets, what is longer goes on behind a space.
    private const int LongestLine = 75;

    /// <summary>Writes the calendar.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="address">The address of a topic by its number.</param>
    /// <param name="topics">The topics; those without a due date are left out.</param>
    public static string Write(string name, Func<int, string> address, IEnumerable<ShownTopic> topics)
    {
        var text = new StringBuilder();
        void Line(string property, string value) => Fold(text, $"{property}:{value}");
        Line("BEGIN", "VCALENDAR");
        Line("VERSION", "2.0");
        Line("PRODID", "-//Steady Lintel//Topics//EN");
        Line("X-WR-CALNAME", Escape(name));
        foreach (var t in topics)
        {
            if (t.Due is not { } due)
                continue;
            Line("BEGIN", "VEVENT");
            Line("UID", $"{t.Id}@steady-lintel");
            Line("DTSTAMP", t.ModifiedAt.ToString("yyyyMMdd'T'HHmmss'Z'", CultureInfo.InvariantCulture));
            Fold(text, $"DTSTART;VALUE=DATE:{due:yyyyMMdd}");
            Fold(text, $"DTEND;VALUE=DATE:{due.AddDays(1):yyyyMMdd}");
            Line("SUMMARY", Escape($"T-{t.Number} {t.Title}"));
            Line(
                "DESCRIPTION",
                Escape($"{t.Status}{(t.Assigned.Length > 0 ? $", {t.Assigned} owes the next answer" : "")}")
            );
            Line("URL", address(t.Number));
            Line("TRANSP", "TRANSPARENT");
            Line("END", "VEVENT");
        }

        Line("END", "VCALENDAR");
        return text.ToString();
    }

    // RFC 5545, 3.3.11.
    private static string Escape(string text) =>
        text.Replace(@"\", @"\\").Replace(";", @"\;").Replace(",", @"\,").ReplaceLineEndings(@"\n");

    private static void Fold(StringBuilder text, string line)
    {
        int used = 0;
        foreach (var rune in line.EnumerateRunes())
        {
            if (used + rune.Utf8SequenceLength > LongestLine)
            {
                text.Append("\r\n ");
                used = 1;
            }

            text.Append(rune.ToString());
            used += rune.Utf8SequenceLength;
        }

        text.Append("\r\n");
    }
}
