using System.Text;
using System.Xml.Linq;

namespace SteadyLintel.Topics;

/// <summary>A topic and its views as a text: two are the same where these are.</summary>
internal static class TopicText
{
    private static readonly MarkupWriter Markup = new(TopicVersion.V30);
    private static readonly ViewInfoWriter Views = new(TopicVersion.V30);

    /// <summary>All of a topic but the content of its parts.</summary>
    public static string Of(Topic topic)
    {
        var text = new StringBuilder(Markup.Write(topic).ToString(SaveOptions.DisableFormatting));
        foreach (var v in topic.Viewpoints)
            text.Append('\n').Append(Of(v));
        foreach (var p in topic.Parts)
            text.Append('\n').Append(p.Name).Append(' ').Append(p.Length);
        return text.ToString();
    }

    /// <summary>What a view shows; null where it has no file.</summary>
    public static string? Of(Viewpoint viewpoint) =>
        viewpoint.Info is { } info ? Views.Write(info, viewpoint.Guid).ToString(SaveOptions.DisableFormatting) : null;
}
