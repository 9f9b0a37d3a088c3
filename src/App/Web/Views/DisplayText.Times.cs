using System.Globalization;

namespace SteadyLintel.Web;

// Times.
public static partial class DisplayText
{
    /// <summary>A time in the reader's zone, short: <c>18 Nov 16:20</c>.</summary>
    public static string Time(DateTime utc) =>
        ReaderZone.Local(utc).ToString("d MMM HH:mm", CultureInfo.InvariantCulture);

    /// <summary>A day: <c>18 Nov 2026</c>.</summary>
    public static string Day(DateTime utc) =>
        ReaderZone.Local(utc).ToString("d MMM yyyy", CultureInfo.InvariantCulture);

    /// <summary>A day.</summary>
    public static string Day(DateOnly day) => day.ToString("d MMM yyyy", CultureInfo.InvariantCulture);
}
