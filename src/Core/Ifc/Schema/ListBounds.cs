using System.Globalization;

namespace SteadyLintel.Ifc;

/// <summary>The bounds of an EXPRESS aggregate (ISO 10303-11 8.2).</summary>
/// <param name="Fewest">The fewest members.</param>
/// <param name="Most">The most members; <see cref="int.MaxValue"/> for <c>?</c>.</param>
public readonly record struct ListBounds(int Fewest, int Most)
{
    /// <summary>One member or more.</summary>
    public static ListBounds Some { get; } = new(1, int.MaxValue);

    /// <summary>Whether so many members are allowed.</summary>
    /// <param name="count">How many.</param>
    public bool Allow(int count) => count >= Fewest && count <= Most;

    /// <summary>As a sentence says it: "3", "2 to 3", "3 to any number".</summary>
    public override string ToString() =>
        Fewest == Most
            ? Fewest.ToString(CultureInfo.InvariantCulture)
            : $"{Fewest} to {(Most == int.MaxValue ? "any number" : Most)}";

    internal static ListBounds Parse(string fewest, string most) =>
        new(
            int.Parse(fewest, CultureInfo.InvariantCulture),
            most == "*" ? int.MaxValue : int.Parse(most, CultureInfo.InvariantCulture)
        );
}
