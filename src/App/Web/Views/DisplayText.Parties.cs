using Microsoft.AspNetCore.Html;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

// Parties.
public static partial class DisplayText
{
    /// <summary>A party's code plate.</summary>
    public static IHtmlContent Plate(Party party) =>
        new HtmlString($"<b class=\"plate party-{Colour(party)}\">{System.Net.WebUtility.HtmlEncode(party.Code)}</b>");

    /// <summary>What a party's colour is called in the style sheet of its job's pages: <c>0072b2</c>.</summary>
    public static string Colour(Party party) => party.Colour.TrimStart('#').ToLowerInvariant();

    /// <summary>The style sheet of the colours of some parties.</summary>
    public static string Colours(IEnumerable<Party> parties) =>
        string.Concat(
            parties
                .Select(Colour)
                .Distinct()
                .Where(c => c.Length == 6 && c.All(char.IsAsciiHexDigit))
                .Select(c => $".party-{c}{{color:#{c}}}.party-border-{c}{{border-top-color:#{c}}}")
        );
}
