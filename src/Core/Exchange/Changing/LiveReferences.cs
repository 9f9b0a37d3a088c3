using System.Text;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Parameters without references to what is not written.</summary>
internal static class LiveReferences
{
    /// <summary>A parameter of which references that are gone are taken out: from lists, which become unset when nothing is left, and
    /// singly.</summary>
    /// <param name="value">The parameter in the standard's text form.</param>
    /// <param name="isGone">Whether the instance of a name is not written.</param>
    public static string Of(string value, Func<int, bool> isGone)
    {
        if (!value.Contains('#', StringComparison.Ordinal))
            return value;
        var bytes = Encoding.Latin1.GetBytes(value);
        bool any = false;
        for (int at = 0; StepReferences.Next(bytes, ref at, out int id, out _); )
            any |= isGone(id);
        if (!any)
            return value;
        if (value[0] == '#')
            return "$";
        // A select of a list of references: IFCPROPERTYSETDEFINITIONSET((#1,#2)).
        int open = value.IndexOf('(', StringComparison.Ordinal);
        if (open < 0)
            return value;
        var kept = InstanceText.Split(value[(open + 1)..^1]).Select(v => Of(v, isGone)).Where(v => v != "$").ToList();
        return kept.Count == 0 ? "$" : $"{value[..open]}({string.Join(",", kept)})";
    }
}
