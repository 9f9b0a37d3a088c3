using System.Globalization;

namespace SteadyLintel.Exchange;

/// <summary>Says where a member's axis lies in its body.</summary>
internal static class AxisPlace
{
    // Nearer than this to an edge or the middle it lies there, metres: what drawing to whole millimetres leaves.
    private const double Near = 0.0015;

    /// <summary>In words, as one looks from start to end: <c>top</c>, <c>centre</c>, <c>bottom left</c>, <c>0.050 m below the top</c>.
    /// </summary>
    public static string Say(Member member)
    {
        string height = Word(member.Above, "bottom", "top", "above", "below"),
            side = Word(member.Aside, "left", "right", "right of", "left of");
        return (height, side) switch
        {
            ("centre", "centre") => "centre",
            (_, "centre") => height,
            ("centre", _) => side,
            _ when height is "top" or "bottom" && side is "left" or "right" => $"{height} {side}",
            _ => $"{height}, {side}",
        };
    }

    private static string Word(Reach reach, string least, string most, string beyond, string before)
    {
        if (Math.Abs(reach.Middle) <= Near)
            return "centre";
        if (Math.Abs(reach.Least) <= Near)
            return least;
        if (Math.Abs(reach.Most) <= Near)
            return most;
        // The axis lies at zero: from the nearer edge to it.
        bool nearMost = Math.Abs(reach.Most) < Math.Abs(reach.Least);
        double from = nearMost ? -reach.Most : -reach.Least;
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{Math.Abs(from):0.000} m {(from > 0 ? beyond : before)} the {(nearMost ? most : least)}"
        );
    }
}
