using System.Globalization;
using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>Properties as extended data: a text with the property's name, then its value: a real (1040), a text (1000), or a whole number
/// (1070) 1 or 0 for true and false. A text that is longer than a string of extended data is in pieces between braces (1002).</summary>
internal static class DrawnProperties
{
    /// <summary>The application name (group code 1001).</summary>
    public const string Application = "LINTEL_PROPERTIES";

    /// <summary>The reason of the balance for what does not fit.</summary>
    public const string Full = "extended data of an entity hold 16 kB";

    /// <summary>The reason of the balance for names that do not fit.</summary>
    public const string LongName = "the name of the property is longer than the 255 bytes of a string of extended data";

    // DXF reference: 16 kB of extended data an entity, of all applications.
    private const int MaxBytes = 14_000;

    private const int Brace = 1002;
    private const string Open = "{",
        Close = "}";

    /// <summary>Puts properties on an entity.</summary>
    public static void Put(Drawing drawing, Entity entity, IReadOnlyList<OutgoingProperty> properties)
    {
        var groups = Fitting(properties).SelectMany(Groups).ToList();
        if (groups.Count > 0)
            entity.Extras.Data.Add(new ExtendedData(drawing.AddApplication(Application).Handle, groups));
    }

    /// <summary>The properties that an entity holds: those with a name that fits, as long as there is room for each.</summary>
    public static IReadOnlyList<OutgoingProperty> Fitting(IReadOnlyList<OutgoingProperty> properties)
    {
        var fitting = new List<OutgoingProperty>();
        int bytes = 0;
        foreach (var property in properties)
        {
            if (!ElementData.Fits(property.Key))
                continue;
            int size = Groups(property).Sum(Bytes);
            if (bytes + size > MaxBytes)
                continue;
            bytes += size;
            fitting.Add(property);
        }

        return fitting;
    }

    /// <summary>The properties of an entity, as names and values; none when it has none of ours.</summary>
    public static IReadOnlyList<(string Key, object? Value)> Of(Drawing drawing, Entity entity)
    {
        if (!entity.HasExtras || drawing.Applications[Application] is not { } own)
            return [];
        if (entity.Extras.Data.Find(d => d.Application == own.Handle) is not { } data)
            return [];
        var list = new List<(string, object?)>();
        var groups = data.Groups;
        for (int n = 0; n + 1 < groups.Count; n += 2)
        {
            string key = Caret.Decode(groups[n].Text);
            if (groups[n + 1] is not { Code: Brace, Text: Open })
                list.Add((key, ValueOf(groups[n + 1])));
            else
            {
                var whole = new System.Text.StringBuilder();
                int at = n + 2;
                for (; at < groups.Count && groups[at].Code != Brace; at++)
                    whole.Append(groups[at].Text);
                list.Add((key, Caret.Decode(whole.ToString())));
                n = at - 1;
            }
        }

        return list;
    }

    /// <summary>A value as it is read again; an empty text has no value.</summary>
    public static object? Held(object? value) => value is "" ? null : value;

    private static object? ValueOf(CadGroup group) =>
        group.Code switch
        {
            1070 => Convert.ToInt64(group.Value, CultureInfo.InvariantCulture) != 0,
            1040 => group.Value,
            _ => group.Text is { Length: > 0 } text ? Caret.Decode(text) : null,
        };

    private static List<CadGroup> Groups(OutgoingProperty property)
    {
        var groups = new List<CadGroup> { new(1000, Caret.Encode(property.Key)) };
        switch (property.Value)
        {
            case double real:
                groups.Add(new CadGroup(1040, real));
                break;
            case bool truth:
                groups.Add(new CadGroup(1070, truth ? 1L : 0L));
                break;
            case string text when !ElementData.Fits(text):
                groups.Add(new CadGroup(Brace, Open));
                groups.AddRange(ElementData.Pieces(Caret.Encode(text)).Select(p => new CadGroup(1000, p)));
                groups.Add(new CadGroup(Brace, Close));
                break;
            default:
                groups.Add(new CadGroup(1000, property.Value is string word ? Caret.Encode(word) : ""));
                break;
        }

        return groups;
    }

    private static int Bytes(CadGroup group) =>
        group.Code is 1000 or Brace ? 4 + (2 * System.Text.Encoding.UTF8.GetByteCount(group.Text)) : 10;
}
