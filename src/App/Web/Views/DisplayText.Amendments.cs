using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

// Amendments in words.
public static partial class DisplayText
{
    /// <summary>Where an amendment is, in words.</summary>
    public static string Step(AmendmentStep step) =>
        step switch
        {
            AmendmentStep.Requested => "requested",
            AmendmentStep.Holds => "in force",
            AmendmentStep.Contradicts => "contradicts the newest revision",
            AmendmentStep.Gone => "element is gone",
            AmendmentStep.Refused => "cannot be applied",
            AmendmentStep.Settled => "settled by the sender",
            AmendmentStep.Withdrawn => "withdrawn",
            AmendmentStep.TheirsTaken => "replaced by the sender's value",
            AmendmentStep.Replaced => "replaced by a later amendment",
            _ => "request rejected",
        };

    /// <summary>What an amendment wants, as people read it.</summary>
    public static string Wanted(Amendment a) =>
        a.Kind switch
        {
            AmendmentKind.Move => string.Join(
                ", ",
                new[]
                {
                    a.X is { } x and not 0 ? $"x {Signed(x)} m" : null,
                    a.Y is { } y and not 0 ? $"y {Signed(y)} m" : null,
                    a.Z is { } z and not 0 ? $"z {Signed(z)} m" : null,
                    a.Turn is { } turn and not 0 ? $"rotated {Signed(turn)}°" : null,
                }.OfType<string>()
            ),
            AmendmentKind.Length => string.Join(
                ", ",
                new[]
                {
                    a.Start is { } start and not 0 ? $"start {Signed(start)} m" : null,
                    a.End is { } end and not 0 ? $"end {Signed(end)} m" : null,
                }.OfType<string>()
            ),
            AmendmentKind.RemoveProperty or AmendmentKind.RemoveSet => "removed",
            AmendmentKind.LeaveOut => a.Value == "no" ? "in exchange again" : "left out of exchange",
            AmendmentKind.Classification => a.Name == "-" ? "none" : $"{a.Name} {a.Value}".Trim(),
            _ => a.Value is not { Length: > 0 } value ? "blank"
            : a.Unit is { Length: > 0 } unit
            && double.TryParse(value, System.Globalization.CultureInfo.InvariantCulture, out double _)
                ? $"{value} {unit}"
            : value,
        };

    /// <summary>What the file says, as people read it.</summary>
    public static string Says(FileStatement? file) =>
        file is null ? "not read yet"
        : file.Is == FileStatement.Filled && file.Text.Contains(" / ", StringComparison.Ordinal)
            ? "the place in the file"
        : file.ToString();

    /// <summary>What a property takes, under its name in a grid.</summary>
    public static string Takes(PropertyTemplate p)
    {
        var words = new List<string>
        {
            p.Words.Count > 0 ? $"{(p.Several ? "several" : "one")} of {p.Words.Count}"
            : p.Type == "IfcBoolean" ? "yes or no"
            : p.Unit.Length > 0 ? p.Unit
            : PropertyTypes.Label(p.Type),
        };
        if (p.Required)
            words.Add("required");
        if (p.NotForExchange)
            words.Add("not for exchange");
        return string.Join(", ", words);
    }

    /// <summary>A value of a property as people read it: truths as yes and no.</summary>
    public static string Value(string text) =>
        text switch
        {
            "True" => "yes",
            "False" => "no",
            "Unknown" => "unknown",
            _ => text,
        };

    /// <summary>What a source lets people amend.</summary>
    public static string Reach(string word) =>
        AmendmentKinds.Reaches.FirstOrDefault(r => r.Word == word)?.Label ?? word;

    private static string Signed(double value) => (value > 0 ? "+" : "−") + Real(Math.Abs(value));
}
