using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>The strings under our application name in an entity's extended data, by which a written element is found again.</summary>
internal static class ElementData
{
    /// <summary>The application name (group code 1001).</summary>
    public const string Application = "STEADY_LINTEL";

    // DXF reference: a string of extended data has at most 255 bytes.
    private const int Longest = 255;

    /// <summary>Puts strings on an entity.</summary>
    public static void Put(Drawing drawing, Entity entity, IEnumerable<string> texts) =>
        entity.Extras.Data.Add(new ExtendedData(drawing.AddApplication(Application).Handle,
            [.. texts.Select(t => new CadGroup(1000, Short(t)))]));

    /// <summary>The strings of an entity; none when it has none of ours.</summary>
    public static IReadOnlyList<string> Of(Drawing drawing, Entity entity)
    {
        if (!entity.HasExtras || drawing.Applications[Application] is not { } own) return [];
        return entity.Extras.Data.Find(d => d.Application == own.Handle) is { } data
            ? [.. data.Groups.Where(g => g.Code == 1000).Select(g => g.Text)] : [];
    }

    /// <summary>A text as long as extended data can hold it.</summary>
    public static string Short(string text)
    {
        while (System.Text.Encoding.UTF8.GetByteCount(text) > Longest) text = text[..^1];
        return text;
    }
}
