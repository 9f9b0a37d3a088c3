using SteadyLintel.Exchange;

namespace SteadyLintel.Web;

/// <summary>How lengths are written for whoever reads the page.</summary>
public static class ReaderUnit
{
    private static readonly AsyncLocal<LengthNotation> Chosen = new();

    /// <summary>The choices, by the word that is kept.</summary>
    public static IReadOnlyList<(string Word, LengthNotation Notation, string Name)> All { get; } =
        [("m", LengthNotation.Metres, "metres: 4.964 m"), ("mm", LengthNotation.Millimetres, "millimetres: 4964 mm"), ("ft",
            LengthNotation.FeetAndInches, "feet and inches: 16'-2 3/4\"")];

    /// <summary>The reader's notation; also what bare numbers mean that are typed.</summary>
    public static LengthNotation Notation => Chosen.Value;

    /// <summary>The word of the notation, for scripts.</summary>
    public static string Word => All.First(u => u.Notation == Notation).Word;

    /// <summary>What is after a height that is written without its unit; nothing after feet and inches, which carry theirs.</summary>
    public static string After => Notation switch { LengthNotation.Metres => "m", LengthNotation.Millimetres => "mm", _ => "" };

    /// <summary>Sets it for the rest of the request; an unknown word means metres.</summary>
    public static void Set(string? word) => Chosen.Value = All.FirstOrDefault(u => u.Word == word).Notation;
}
