using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>What two sources differs of one member.</summary>
/// <param name="Code"><c>MEMBER-HEIGHT</c>, <c>MEMBER-ASIDE</c>, <c>MEMBER-AXIS</c> or <c>MEMBER-TURN</c>.</param>
/// <param name="First">The place of the first source's member in its list.</param>
/// <param name="Second">That of the second's.</param>
/// <param name="Amount">How much: metres, degrees for a turn; signed for a height, second minus first.</param>
public sealed record MemberDisagreement(string Code, int First, int Second, double Amount);

/// <summary>Compares members that two sources share.</summary>
public static class MemberDisagreements
{
    /// <summary>The body lies higher or lower.</summary>
    public const string Height = "MEMBER-HEIGHT";

    /// <summary>The body lies beside.</summary>
    public const string Aside = "MEMBER-ASIDE";

    /// <summary>The bodies share their place, their axes do not: one hangs by its top, the other by its middle.</summary>
    public const string Axis = "MEMBER-AXIS";

    /// <summary>The section is turned.</summary>
    public const string Turn = "MEMBER-TURN";

    // What erection forgives, and less than any build-up or flange, metres.
    private const double Near = 0.005;

    /// <summary>Everything that two sources differs.</summary>
    /// <param name="first">In the job's frame.</param>
    /// <param name="second">In the job's frame.</param>
    public static IReadOnlyList<MemberDisagreement> Find(IReadOnlyList<Member> first, IReadOnlyList<Member> second) =>
        [
            .. MemberPairs
                .Find(first, second)
                .SelectMany(p =>
                    Of(first[p.First], second[p.Second])
                        .Select(d => new MemberDisagreement(d.Code, p.First, p.Second, d.Amount))
                ),
        ];

    /// <summary>From the middle line of one body to that of another, square to the first.</summary>
    internal static Vec3 Apart(Member a, Member b)
    {
        var between = b.MiddleStart - a.MiddleStart;
        return between - (a.Along * between.Dot(a.Along));
    }

    private static IEnumerable<(string Code, double Amount)> Of(Member a, Member b)
    {
        double height = a.IsUpright ? b.Top - a.Top : TopOf(b, a) - a.TopAtEnds.Least;
        var apart = Apart(a, b);
        double aside = a.IsUpright ? apart.Length : Math.Abs(apart.Dot(a.Right));
        bool same = Math.Abs(height) <= Near && aside <= Near;
        if (Math.Abs(height) > Near)
            yield return (Height, height);
        if (aside > Near)
            yield return (Aside, aside);
        var axes = b.Start - a.Start;
        double axis = (axes - (a.Along * axes.Dot(a.Along))).Length;
        if (same && axis > Near)
            yield return (Axis, axis);
        if (Turned(a, b) is var degrees and not 0)
            yield return (Turn, degrees);
    }

    // The top of the one above the other's start, as both are seen from above: a brace is compared by plumb line, not square to itself.
    private static double TopOf(Member b, Member a)
    {
        var plan = b.Along.XY;
        double along = (a.Start - b.Start).XY.Dot(plan) / plan.Dot(plan);
        return (b.Start + (b.Along * along) + (b.Up * b.Above.Most)).Z;
    }

    // By quarters: sections are set square to one another.
    private static int Turned(Member a, Member b)
    {
        if (a.IsOneSided && b.IsOneSided)
        {
            double cosine = a.Heavy.Unit().Dot(b.Heavy.Unit());
            return cosine < -Math.Sqrt(0.5) ? 180
                : cosine < Math.Sqrt(0.5) ? 90
                : 0;
        }

        // The same section lying on its side: what is wide in one is deep in the other.
        var wide = a.Right * a.Aside.Size;
        bool across = Math.Abs(a.Right.Dot(b.Up)) > 0.99;
        double width = across ? b.Above.Size : b.Aside.Size,
            depth = across ? b.Aside.Size : b.Above.Size;
        bool swapped = Math.Abs(wide.Length - depth) <= Near && Math.Abs(a.Above.Size - width) <= Near;
        return swapped && Math.Abs(wide.Length - a.Above.Size) > 2 * Near ? 90 : 0;
    }
}
