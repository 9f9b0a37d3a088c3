using System.Text.RegularExpressions;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

// Elements and members.
public static partial class DisplayText
{
    /// <summary>What tells where a member's axis runs, in words.</summary>
    public static string AxisFrom(AxisEvidence from) =>
        from switch
        {
            AxisEvidence.Drawn => "drawn",
            AxisEvidence.Placed => "as placed",
            AxisEvidence.Extruded => "as extruded",
            _ => "found from the shape",
        };

    /// <summary>What two sources differs of one member, as a sentence.</summary>
    public static string Disagreement(JobDisagreement d, string first, string second)
    {
        Member a = d.First.Member,
            b = d.Second.Member;
        double amount = d.What.Amount;
        return d.What.Code switch
        {
            MemberDisagreements.Height when a.IsUpright =>
                $"Top at {Height(a.Top)} in {first}, at {Height(b.Top)} in {second}: {Length(Math.Abs(amount))} {(amount > 0 ? "higher" : "lower")}.",
            MemberDisagreements.Height =>
                $"Top at {Height(a.TopAtEnds.Least)} in {first}; {second} has it {Length(Math.Abs(amount))} {(amount > 0 ? "higher" : "lower")}. The axis is at {a.AxisAt} in {first}, at {b.AxisAt} in {second}.",
            MemberDisagreements.Aside => $"It is {Length(amount)} aside in {second}.",
            MemberDisagreements.Axis =>
                $"One place, two axes, {Length(amount)} apart: {a.AxisAt} in {first}, {b.AxisAt} in {second}.",
            _ when amount == 180 =>
                $"The section is rotated by 180° in {second}: what is open to one side opens to the other.",
            _ => $"The section is rotated by 90° in {second}.",
        };
    }

    /// <summary>A class without its prefix, as words: <c>IfcDuctSegment</c> → <c>Duct segment</c>.</summary>
    public static string Class(string name)
    {
        string text = name.StartsWith("Ifc", StringComparison.Ordinal) ? name[3..] : name;
        string words = Words().Replace(text, " ").ToLowerInvariant();
        return words.Length == 0 ? name : char.ToUpperInvariant(words[0]) + words[1..];
    }

    /// <summary>A class as several in a sentence: <c>IfcDuctSegment</c> → <c>duct segments</c>, <c>IfcFurniture</c> →
    /// <c>furniture</c>.</summary>
    public static string Classes(string name)
    {
        string word = Class(name).ToLowerInvariant();
        return word.EndsWith('s')
            || word.EndsWith("ture", StringComparison.Ordinal)
            || word.EndsWith("ment", StringComparison.Ordinal) && word.Contains("equip", StringComparison.Ordinal)
                ? word
            : word.EndsWith('y') ? word[..^1] + "ies"
            : word + "s";
    }

    /// <summary>A line of the ledger: classes as words, facts with a capital, entities of drawings as they are spelt.</summary>
    public static string Kind(string kind) =>
        kind.StartsWith("Ifc", StringComparison.Ordinal) ? Class(kind)
        : char.IsLower(kind[0]) ? char.ToUpperInvariant(kind[0]) + kind[1..]
        : kind;

    /// <summary>What is counted beside elements: <c>220 annotations, 58 rooms</c>; empty for none.</summary>
    public static string Beside(int annotations, int rooms) =>
        string.Join(
            ", ",
            new[]
            {
                annotations > 0 ? Count(annotations, "annotation", "annotations") : null,
                rooms > 0 ? Count(rooms, "room", "rooms") : null,
            }.OfType<string>()
        );

    [GeneratedRegex("(?<=[a-z0-9])(?=[A-Z])")]
    private static partial Regex Words();
}
