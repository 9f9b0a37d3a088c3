namespace SteadyLintel.Cad;

/// <summary>Layer names as DXF allows them (symbol names: none of &lt; &gt; / \ " : ; ? * | = ` , at most 255 characters).</summary>
public static class LayerNames
{
    private const string Forbidden = "<>/\\\":;?*|=`,";

    /// <summary>A name with what is forbidden replaced by a low line; the empty name gives <c>0</c>.</summary>
    public static string Clean(string name)
    {
        string text = string.Concat(
            name.Trim().Select(c => Forbidden.Contains(c, StringComparison.Ordinal) || char.IsControl(c) ? '_' : c)
        );
        return text.Length == 0 ? "0"
            : text.Length > 255 ? text[..255]
            : text;
    }
}
