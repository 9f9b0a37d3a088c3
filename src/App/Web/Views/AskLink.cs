using System.Globalization;
using Microsoft.AspNetCore.Http.Extensions;
using SteadyLintel.Geometry;

namespace SteadyLintel.Web;

/// <summary>Addresses of the form that asks, filled in with what it is asked about.</summary>
public static class AskLink
{
    // An address has an end; so many elements are enough to find the place.
    private const int MostElements = 40,
        LongestText = 600;

    /// <summary>The address of the form.</summary>
    /// <param name="job">The job's code; null for an address as seen from a page right below the job.</param>
    /// <param name="cause">What the topic is made from (<see cref="SteadyLintel.Jobs.TopicCause"/>); null for nothing in particular.</param>
    /// <param name="title">The title.</param>
    /// <param name="text">The question.</param>
    /// <param name="to">Who owes the answer: a party's code.</param>
    /// <param name="elements">GlobalIds of the elements it is about.</param>
    /// <param name="at">The place, metres in the job's frame: <c>x,y,z</c>; null for none.</param>
    public static string To(
        string? job,
        string? cause,
        string title,
        string text,
        string to,
        IEnumerable<string> elements,
        string? at = null
    )
    {
        var query = new QueryBuilder();
        if (cause is not null)
            query.Add("cause", cause);
        query.Add("Form.Title", Short(title, SteadyLintel.Jobs.TopicEditing.LongestTitle));
        if (text.Length > 0)
            query.Add("Form.Description", Short(text, LongestText));
        if (to.Length > 0)
            query.Add("Form.Assigned", to);
        foreach (string element in elements.Where(e => e.Length > 0).Distinct().Take(MostElements))
            query.Add("element", element);
        if (at is not null)
            query.Add("at", at);
        return $"{(job is null ? "" : $"/jobs/{job}/")}ask{query}";
    }

    /// <summary>A place as addresses have it; null where it is none.</summary>
    public static Vec3? PlaceOf(string? text) =>
        (text ?? "").Split(',') is [var x, var y, var z] && Read(x) is { } a && Read(y) is { } b && Read(z) is { } c
            ? new Vec3(a, b, c)
            : null;

    private static double? Read(string text) =>
        double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out double n) && double.IsFinite(n)
            ? n
            : null;

    private static string Short(string text, int longest) =>
        text.Length <= longest ? text : text[..(longest - 1)] + "…";
}
