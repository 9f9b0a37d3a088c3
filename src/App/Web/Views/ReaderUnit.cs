using SteadyLintel.Exchange;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>How lengths are written for whoever reads the page.</summary>
public static class ReaderUnit
{
    private static readonly AsyncLocal<Reader?> Now = new();

    /// <summary>The choices, by the word that is stored.</summary>
    public static IReadOnlyList<(string Word, LengthNotation Notation, string Name)> All { get; } =
    [
        ("m", LengthNotation.Metres, "metres: 4.964 m"),
        ("mm", LengthNotation.Millimetres, "millimetres: 4964 mm"),
        ("ft", LengthNotation.FeetAndInches, "feet and inches: 16'-2 3/4\""),
    ];

    /// <summary>The reader's notation; also what bare numbers mean that are typed.</summary>
    public static LengthNotation Notation => Now.Value?.Notation ?? LengthNotation.Metres;

    /// <summary>The smallest part of an inch that is written, by the job's setting: 16 for sixteenths.</summary>
    public static int InchParts => Now.Value?.InchParts ?? new JobSettings().InchParts;

    /// <summary>The word of the notation, for scripts.</summary>
    public static string Word => All.First(u => u.Notation == Notation).Word;

    /// <summary>What is after a height that is written without its unit; nothing after feet and inches, which carry theirs.</summary>
    public static string After =>
        Notation switch
        {
            LengthNotation.Metres => "m",
            LengthNotation.Millimetres => "mm",
            _ => "",
        };

    /// <summary>A length as it is written for the reader.</summary>
    public static string Write(double metres) => LengthText.Write(metres, Notation, InchParts);

    /// <summary>Sets the notation for the rest of the request; an unknown word means metres.</summary>
    public static void Set(string? word) =>
        Now.Value = new Reader { Notation = All.FirstOrDefault(u => u.Word == word).Notation };

    /// <summary>Sets what the job has set, for the rest of the request.</summary>
    public static void Set(JobSettings settings)
    {
        // The same object for the whole request: what a page sets has to reach the view that is drawn after it.
        if (Now.Value is { } reader)
            reader.InchParts = settings.InchParts;
    }

    private sealed class Reader
    {
        public LengthNotation Notation { get; init; }

        public int InchParts { get; set; } = new JobSettings().InchParts;
    }
}
